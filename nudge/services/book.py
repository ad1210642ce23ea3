"""The book of sites and systems. Edits are saved field by field as they are made."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any
from uuid import uuid4

from nudge.core.behaviours.rows import holds_box
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.units import UnitSystem
from nudge.core.language.vocabulary.actions import PLATE_CORRECTED
from nudge.core.physics.chart.chart import chart_kind
from nudge.core.physics.chart.chart_text import read_chart
from nudge.core.physics.circuit.equipment import (
    DEVICE_LABELS,
    MeteringDevice,
    application_named,
    device_named,
    reversing_valve_named,
)
from nudge.core.physics.circuit.plate_fields import (
    PLATE_CHOICES,
    PLATE_NUMBERS,
    check_plate_number,
    plate_choice_named,
)
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.core.visit.record.kept import Kept
from nudge.services.clock import Clock
from nudge.services.errors import NotFound, PlateQuestion
from nudge.services.methods import check_method
from nudge.services.sound import readable
from nudge.store.database import Database
from nudge.store.repositories import book
from nudge.store.repositories import visits as visits_repository
from nudge.store.tables import ChartRow, Event, Site, System, Visit

LONGEST_TEXT = 2_000
_PLATE_NUMBERS = {row.field: row for row in PLATE_NUMBERS}
_NAMES: dict[str, Callable[[str], str]] = {
    "refrigerant": lambda name: refrigerant(name).name,
    "metering_device": lambda name: device_named(name).value,
    "application": lambda name: application_named(name).value,
    "method": check_method,
    "reversing_valve": lambda name: reversing_valve_named(name).value,
    **{row.key: partial(plate_choice_named, row) for row in PLATE_CHOICES},
}
_TEXTS = ("name", "note", "indoor_unit", "blower_tap")


@dataclass(frozen=True, slots=True)
class SystemHistory:
    """A system, its visits, and the last verdict of each that has one."""

    system: System
    visits: Sequence[Visit]
    verdicts: Mapping[str, Kept]
    sister_boxes: tuple[tuple[str, str], ...] = ()
    """Other cold rooms of its site whose design is known: id and name."""


BOX_FIELDS = (
    *(row.field for row in PLATE_NUMBERS if row.about == "cold_room"),
    *(row.key for row in PLATE_CHOICES if row.about != "vehicle"),
    "target_superheat_k",
)
"""What a box's design is, on its plate: the same in every box that was built with it."""


class Book:
    """The use cases of sites and systems."""

    def __init__(
        self, database: Database, clock: Clock, judge_again: Callable[[str], None] | None = None
    ) -> None:
        """`judge_again` judges a visit whose system's plate was changed under way."""
        self._database, self._clock, self._judge_again = database, clock, judge_again

    def sites(self) -> Sequence[Site]:
        """Every site with its systems, by name."""
        with self._database.reading() as session:
            return book.all_sites(session)

    def add_site(self, site_id: str, name: str) -> Site:
        """A new site. The same id again is the same site."""
        with self._database.writing() as session:
            row = book.site(session, site_id)
            if row is None:
                row = Site(id=site_id, name=_named("site", name), note="", created_at=self._clock())
                session.add(row)
            return row

    def change_site(self, site_id: str, changes: Mapping[str, Any]) -> Site:
        """Raises: NotFound, CoreError for an empty name."""
        with self._database.writing() as session:
            row = book.site(session, site_id)
            if row is None:
                raise NotFound("site", site_id)
            for field, value in changes.items():
                setattr(row, field, _text("site", field, value))
            return row

    def system(self, system_id: str) -> SystemHistory:
        """A system and every visit to it, latest first. Raises: NotFound."""
        with self._database.reading() as session:
            row = book.system(session, system_id)
            if row is None:
                raise NotFound("system", system_id)
            visits = visits_repository.of_system(session, system_id)
            verdicts = visits_repository.latest_verdicts(session, [v.id for v in visits])
            return SystemHistory(row, visits, readable(verdicts), _sister_boxes(row))

    def add_system(self, system_id: str, site_id: str, fields: Mapping[str, Any]) -> System:
        """A new system with at least a refrigerant and a metering device (core units)."""
        with self._database.writing() as session:
            row = book.system(session, system_id)
            if row is None:
                if book.site(session, site_id) is None:
                    raise NotFound("site", site_id)
                now = self._clock()
                row = System(
                    id=system_id,
                    site_id=site_id,
                    note="",
                    elevation_m=0.0,
                    indoor_unit="",
                    blower_tap="",
                    reversing_valve="",
                    method="",
                    application="comfort_cooling",
                    created_at=now,
                    updated_at=now,
                )
                for field, value in fields.items():
                    setattr(row, field, _checked(field, value))
                session.add(row)
                session.flush()
        return self.system(system_id).system

    def set_chart(
        self, system_id: str, chart_id: str, kind: str, text: str, units: UnitSystem
    ) -> System:
        """Keep a maker's chart with a system; an empty text takes it away.

        Raises: NotFound, UnknownName, UnreadableChart with every problem. Nothing is changed then.
        """
        chart_kind(kind)
        if text.strip():
            read_chart(kind, text, units)
        with self._database.writing() as session:
            row = book.system(session, system_id)
            if row is None:
                raise NotFound("system", system_id)
            if not any(chart.id == chart_id for chart in row.charts):
                row.charts.append(
                    ChartRow(
                        id=chart_id,
                        kind=kind,
                        text=text.strip(),
                        units=units,
                        recorded_at=self._clock(),
                    )
                )
        return self.system(system_id).system

    def change_system(
        self, system_id: str, changes: Mapping[str, Any], was_wrong: bool | None = None
    ) -> System:
        """Change any fields of a plate (core units): all of them, or none if one is refused.

        Where a visit with readings is under way, another refrigerant or metering device is
        written on it as an event: `was_wrong` says whether the plate was wrong until now (its
        readings are judged again) or the system itself was changed.

        Raises: NotFound, UnknownName, OutOfRange, CoreError; PlateQuestion, where nobody said.
        """
        touched: list[str] = []
        with self._database.writing() as session:
            row = book.system(session, system_id)
            if row is None:
                raise NotFound("system", system_id)
            before = _fed_with(row)
            for field, value in changes.items():
                setattr(row, field, _checked(field, value))
            row.updated_at = self._clock()
            visits = [v for v in row.visits if v.opened_at and not v.closed_at and v.readings]
            if _fed_with(row) != before and visits:
                if was_wrong is None:
                    raise PlateQuestion(before, _fed_with(row))
                touched = [visit.id for visit in visits]
                for visit in visits:
                    visit.events.append(self._plate_event(before, _fed_with(row), was_wrong))
        for visit_id in touched:
            if self._judge_again is not None:
                self._judge_again(visit_id)
        return self.system(system_id).system

    def take_over_box(self, system_id: str, from_system: str) -> System:
        """Take over the design of a sister box: set point, classes, receiver, head, defrost.

        Raises: NotFound; CoreError, where either is no cold room or its design is not known.
        """
        row, sister = self.system(system_id).system, self.system(from_system).system
        for one in (row, sister):
            if not holds_box(one.application):
                raise CoreError("system", f"“{one.name}” is no cold room: it has no box.")
        if sister.box_set_point_c is None:
            raise CoreError("system", f"No set point is on the plate of “{sister.name}”.")
        design = {field: getattr(sister, field) for field in BOX_FIELDS}
        return self.change_system(system_id, design)

    def _plate_event(self, before: str, now: str, was_wrong: bool) -> Event:
        note = (
            f"Judged again as {now}: it was written as {before} until now."
            if was_wrong
            else f"Changed to {now} on this visit: what was read before is of another system."
        )
        kind = PLATE_CORRECTED if was_wrong else "plate_changed"
        return Event(id=uuid4().hex, kind=kind, happened_at=self._clock(), note=note)


def _sister_boxes(row: System) -> tuple[tuple[str, str], ...]:
    if not holds_box(row.application):
        return ()
    others = (s for s in row.site.systems if s.id != row.id and holds_box(s.application))
    return tuple((one.id, one.name) for one in others if one.box_set_point_c is not None)


def _fed_with(row: System) -> str:
    """What decides how readings are read: refrigerant and metering device, in words."""
    return f"{row.refrigerant}, {DEVICE_LABELS[MeteringDevice(row.metering_device)].lower()}"


def _checked(field: str, value: Any) -> Any:
    """A plate field as it will be stored."""
    if field in _TEXTS:
        return _text("system", field, value)
    if field in _NAMES:
        return _NAMES[field](value)
    number = _PLATE_NUMBERS.get(field)
    if number is None:
        raise UnknownName("field", field, [*_TEXTS, *_NAMES, *_PLATE_NUMBERS])
    if value is None:
        return 0.0 if field == "elevation_m" else None
    check_plate_number(number, value)
    return value


def _text(what: str, field: str, value: str) -> str:
    return _named(what, value) if field == "name" else _short(field, value)


def _named(what: str, name: str) -> str:
    if not name.strip():
        raise CoreError("name", f"A {what} needs a name. The old one is kept.")
    return _short("name", name.strip())


def _short(field: str, value: str) -> str:
    if len(value) > LONGEST_TEXT:
        raise CoreError(
            field, f"That {field} has {len(value):,} characters; {LONGEST_TEXT:,} is the most."
        )
    return value
