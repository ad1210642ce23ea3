"""The book of sites and systems. Edits are saved field by field as they are made."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from nudge.core.chart.chart import chart_kind
from nudge.core.chart.chart_text import read_chart
from nudge.core.errors import CoreError, UnknownName
from nudge.core.refrigerant.catalogue import refrigerant
from nudge.core.units import UnitSystem
from nudge.core.vocabulary.equipment import (
    PLATE_NUMBERS,
    application_named,
    check_plate_number,
    device_named,
    reversing_valve_named,
)
from nudge.services.clock import Clock
from nudge.services.errors import NotFound
from nudge.services.methods import check_method
from nudge.store.database import Database
from nudge.store.repositories import book
from nudge.store.repositories import visits as visits_repository
from nudge.store.tables import Chart, Site, System, Verdict, Visit

LONGEST_TEXT = 2_000
_PLATE_NUMBERS = {row.field: row for row in PLATE_NUMBERS}
_NAMES: dict[str, Callable[[str], str]] = {
    "refrigerant": lambda name: refrigerant(name).name,
    "metering_device": lambda name: device_named(name).value,
    "application": lambda name: application_named(name).value,
    "method": check_method,
    "reversing_valve": lambda name: reversing_valve_named(name).value,
}
_TEXTS = ("name", "note", "indoor_unit", "blower_tap")


@dataclass(frozen=True, slots=True)
class SystemHistory:
    """A system, its visits, and the last verdict of each that has one."""

    system: System
    visits: Sequence[Visit]
    verdicts: Mapping[str, Verdict]


class Book:
    """The use cases of sites and systems."""

    def __init__(self, database: Database, clock: Clock) -> None:
        self._database, self._clock = database, clock

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
            return SystemHistory(row, visits, verdicts)

    def add_system(self, system_id: str, site_id: str, fields: Mapping[str, Any]) -> System:
        """A new system with at least a refrigerant and a metering device (core units)."""
        with self._database.writing() as session:
            row = book.system(session, system_id)
            if row is None:
                if book.site(session, site_id) is None:
                    raise NotFound("site", site_id)
                now = self._clock()
                row = System(
                    id=system_id, site_id=site_id, note="", elevation_m=0.0,
                    indoor_unit="", blower_tap="", reversing_valve="",
                    method="", application="comfort_cooling", created_at=now, updated_at=now,
                )  # fmt: skip
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
                    Chart(
                        id=chart_id, kind=kind, text=text.strip(), units=units,
                        recorded_at=self._clock(),
                    )
                )  # fmt: skip
        return self.system(system_id).system

    def change_system(self, system_id: str, changes: Mapping[str, Any]) -> System:
        """Change any fields of a plate (core units): all of them, or none if one is refused.

        Raises: NotFound, UnknownName, OutOfRange, CoreError.
        """
        with self._database.writing() as session:
            row = book.system(session, system_id)
            if row is None:
                raise NotFound("system", system_id)
            for field, value in changes.items():
                setattr(row, field, _checked(field, value))
            row.updated_at = self._clock()
        return self.system(system_id).system


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
