"""The use cases of multi-zone plants: a log looked at and read into a visit, the drawing of parts.

A log waits in the data folder until it is said what its columns are. Read, it stands packed beside
the visit; a second file of the same visit is laid over the first.
"""

import json
from collections.abc import AsyncIterator, Callable, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from hashlib import sha256
from pathlib import Path
from typing import Any

from sqlalchemy.orm import Session

from nudge.core.language.errors import CoreError
from nudge.core.multizone.headings import ZoneColumn
from nudge.core.multizone.measuring import signs_of
from nudge.core.multizone.reading import ZoneReading
from nudge.core.physics.circuit.weigh_in import WeighIn, weigh_in
from nudge.core.physics.zones.log import ZoneLog
from nudge.core.physics.zones.parts import IndoorUnit, Parts, parts_of
from nudge.core.physics.zones.points import OUTDOOR
from nudge.instruments.text_table import TableForm
from nudge.instruments.zone_files import (
    MOST_ROWS,
    ZoneLook,
    ZoneMapping,
    laid_over,
    look_at_zones,
    read_zone_log,
)
from nudge.services.clock import Clock
from nudge.services.errors import Closed, NotFound
from nudge.services.imports import take_in
from nudge.services.plates import plate_of
from nudge.services.zone_packing import (
    packed,
    parts_data,
    parts_from,
    signs_data,
    unpacked,
)
from nudge.services.zone_progress import LogInReading, LogsInReading
from nudge.services.zone_reading import ZonesEarlier, moved_since, reading_of
from nudge.store.database import Database
from nudge.store.live_tables import ColumnMapping
from nudge.store.repositories import visits as repository
from nudge.store.repositories import zones as zone_repository
from nudge.store.tables import System, Visit, ZoneDrawing
from nudge.store.zone_tables import ZoneLogRow


@dataclass(frozen=True, slots=True)
class ZonesLookedAt:
    """A log that waits to be read, whether its heading was met before, and its plant's parts."""

    log_id: str
    look: ZoneLook
    remembered: bool
    parts: Parts
    unfit: tuple[str, ...]
    """What of the drawing the log does not tell of, and the other way round, in words."""


@dataclass(frozen=True, slots=True)
class ZonesOfVisit:
    """A visit's log with its plant's drawing, what it was read as and what was remarked."""

    log: ZoneLog
    parts: Parts
    reading: ZoneReading
    remarks: tuple[str, ...]
    files: tuple[str, ...]
    sheet: WeighIn
    """What belongs in it, by its plate and the pipes it was drawn with."""
    earlier: ZonesEarlier | None = None
    """The plant's baseline: the last visit before at which nothing stood out."""


class Zones:
    """The use cases of multi-zone plants."""

    def __init__(self, database: Database, clock: Clock) -> None:
        self._database, self._clock = database, clock
        self._folder = database.path.parent / "imports"
        self._in_reading = LogsInReading()

    async def receive(
        self,
        visit_id: str,
        log_id: str,
        declared: int | None,
        body: AsyncIterator[bytes],
        zone_minutes: int,
    ) -> ZonesLookedAt:
        """Take a log in and look at it.

        Raises: NotFound, Closed; CoreError, for one too large or no log of such a plant.
        """
        with self._database.reading() as session:
            _open_visit(session, visit_id)
        path = self._path(log_id)
        await take_in(path, declared, body)
        try:
            look = look_at_zones(path, zone_minutes)
        except CoreError:
            path.unlink(missing_ok=True)
            raise
        if look.mapping.time_form == "elapsed":
            now_ms = round(self._clock().timestamp() * 1000)
            look = replace(look, mapping=replace(look.mapping, starts_ms=now_ms))
        with self._database.reading() as session:
            visit = _open_visit(session, visit_id)
            kept = session.get(ColumnMapping, _heading_key(look))
            drawn = _drawing(visit.system)
        if kept is not None:
            again = zone_mapping_of(kept.mapping)
            look = replace(
                look,
                mapping=replace(again, starts_ms=look.mapping.starts_ms),
                questions=(),
                unknown=_still_unknown(look.unknown, again),
            )
        told = dict.fromkeys(c.part for c in look.mapping.columns if c.part and c.part != OUTDOOR)
        parts = drawn or _guessed(visit.system, list(told))
        return ZonesLookedAt(log_id, look, kept is not None, parts, _unfit(parts, look.mapping))

    def read(self, visit_id: str, log_id: str, mapping: ZoneMapping, parts: Parts) -> None:
        """Read a log that waits into its visit.

        Raises: NotFound, Closed; CoreError, also where it was stopped: nothing of it is kept then.
        """
        path = self._path(log_id)
        if not path.exists():
            raise NotFound("log", log_id)
        with self._database.reading() as session:
            visit = _open_visit(session, visit_id)
            before = zone_repository.log_of(session, visit_id)
            system_id = visit.system_id
        with self._in_reading.begun(log_id, path) as here:
            found = read_zone_log(path, mapping, here.told)
            if not len(found.log.times_s):
                raise CoreError("file", "No line of it could be read. Are time and columns right?")
            log = found.log if before is None else laid_over(unpacked(before.data), found.log)
            files = [*(before.files["files"] if before else ()), self._clock().isoformat()]
            self._keep(visit_id, system_id, log, parts, files, list(found.remarks), here.check)
        with self._database.writing() as session:
            session.merge(
                ColumnMapping(
                    heading=_heading_key(look_at_zones(path)),
                    mapping=asdict(mapping),
                    updated_at=self._clock(),
                )
            )
        path.unlink(missing_ok=True)

    def reading(self, log_id: str) -> LogInReading | None:
        """How far the reading of a log is; None where it is not being read."""
        return self._in_reading.of(log_id)

    def hear(self, visit_id: str, log: ZoneLog) -> None:
        """Lines that a plant sends while it runs, laid over what the visit has.

        Raises: NotFound, Closed; CoreError, for none, or rooms the drawing has not room for.
        """
        if not len(log.times_s) or not log.rooms:
            raise CoreError("lines", "No value of it could be kept: none is a known room’s.")
        with self._database.reading() as session:
            visit = _open_visit(session, visit_id)
            before = zone_repository.log_of(session, visit_id)
            drawn, system = _drawing(visit.system), visit.system
        whole = log if before is None else laid_over(unpacked(before.data), log)
        if len(whole.times_s) > MOST_ROWS:
            raise CoreError(
                "lines", f"A visit’s log holds {MOST_ROWS:,} lines. Open another visit."
            )
        parts = drawn or _guessed(system, whole.rooms)
        files = list(before.files["files"]) if before else [self._clock().isoformat()]
        remarks = list(before.remarks["remarks"]) if before else []
        self._keep(visit_id, system.id, whole, parts, files, remarks)

    def keep_file(self, visit_id: str, path: Path, parts: Parts, ends_s: float) -> None:
        """A log that lies at hand, moved in time so that it ends at a moment. Raises: NotFound."""
        with self._database.reading() as session:
            system_id = _open_visit(session, visit_id).system_id
        log = read_zone_log(path, look_at_zones(path).mapping).log
        later = ends_s - log.times_s[-1]
        moved = replace(log, times_s=[at + later for at in log.times_s])
        self._keep(visit_id, system_id, moved, parts, [self._clock().isoformat()], [])

    def _keep(
        self,
        visit_id: str,
        system_id: str,
        log: ZoneLog,
        parts: Parts,
        files: list[str],
        remarks: list[str],
        check: Callable[[], None] = lambda: None,
    ) -> None:
        """`check` raises where it is to be stopped after all, before anything is written."""
        signs, data = signs_of(log, parts), packed(log)
        check()
        with self._database.writing() as session:
            session.merge(
                ZoneLogRow(
                    visit_id=visit_id,
                    files={"files": files},
                    parts=parts_data(parts),
                    signs=signs_data(signs, log.kept_s),
                    remarks={"remarks": remarks},
                    data=data,
                    taken_at=self._clock(),
                )
            )
            session.merge(
                ZoneDrawing(system_id=system_id, parts=parts_data(parts), updated_at=self._clock())
            )

    def draw(self, system_id: str, parts: Parts) -> None:
        """Keep a plant's drawing, and read its open visits' logs by it again. Raises: NotFound."""
        with self._database.reading() as session:
            if session.get(System, system_id) is None:
                raise NotFound("system", system_id)
            rows = zone_repository.open_logs(session, system_id)
        again = {row.visit_id: unpacked(row.data) for row in rows}
        with self._database.writing() as session:
            session.merge(
                ZoneDrawing(system_id=system_id, parts=parts_data(parts), updated_at=self._clock())
            )
            for visit_id, log in again.items():
                kept = session.get_one(ZoneLogRow, visit_id)
                kept.parts = parts_data(parts)
                kept.signs = signs_data(signs_of(log, parts), log.kept_s)

    def drawing(self, system_id: str) -> Parts:
        """A plant as it is drawn, or with one room to begin from. Raises: NotFound."""
        with self._database.reading() as session:
            system = session.get(System, system_id)
            if system is None:
                raise NotFound("system", system_id)
            return _drawing(system) or _guessed(system, ["1"])

    def of_visit(self, visit_id: str) -> ZonesOfVisit | None:
        """A visit's log with everything; None where it has none. Raises: NotFound."""
        with self._database.reading() as session:
            visit = repository.head(session, visit_id)
            if visit is None:
                raise NotFound("visit", visit_id)
            row = zone_repository.log_of(session, visit_id)
            if row is None:
                return None
            reading = reading_of(row)
            earlier = moved_since(session, visit, reading.signs)
            plate, parts = plate_of(visit.system), parts_from(row.parts)
        return ZonesOfVisit(
            unpacked(row.data),
            parts,
            reading,
            tuple(row.remarks["remarks"]),
            tuple(row.files["files"]),
            weigh_in(replace(plate, liquid_pipes=parts.pipes)),
            earlier,
        )

    def _path(self, log_id: str) -> Path:
        return self._folder / f"{sha256(f'zones {log_id}'.encode()).hexdigest()[:32]}.part"


def zone_mapping_of(data: dict[str, Any]) -> ZoneMapping:
    """A mapping back from its data."""
    return ZoneMapping(
        **{
            **data,
            "columns": tuple(ZoneColumn(**c) for c in data["columns"]),
            "written": TableForm(**data["written"]),
        }
    )


def _still_unknown(
    unknown: Mapping[str, tuple[str, ...]], told: ZoneMapping
) -> dict[str, tuple[str, ...]]:
    """Words of a log whose meaning was not said when one like it was read."""
    left = {
        point: tuple(word for word in words if word.lower() not in _lower(told.codes.get(point)))
        for point, words in unknown.items()
    }
    return {point: words for point, words in left.items() if words}


def _lower(codes: Mapping[str, float] | None) -> frozenset[str]:
    return frozenset(word.lower() for word in codes or ())


def _drawing(system: System) -> Parts | None:
    """As it was last confirmed."""
    return None if system.drawing is None else parts_from(system.drawing.parts)


def _guessed(system: System, keys: Sequence[str]) -> Parts:
    """A drawing with the rooms a log tells of, by their storeys where their names say them."""
    rooms = [IndoorUnit(key, f"Room {key}", storey=_storey(key)) for key in keys]
    return parts_of(
        system.refrigerant,
        rooms,
        capacity_w=system.nominal_capacity_w,
    )


def _storey(key: str) -> int:
    head = key.partition(".")[0]
    return int(head) if "." in key and head.isdigit() else 1


def _unfit(parts: Parts, mapping: ZoneMapping) -> tuple[str, ...]:
    told = {c.part for c in mapping.columns if c.part and c.part != OUTDOOR}
    drawn = {room.key for room in parts.rooms}
    words = []
    if missing := sorted(drawn - told):
        words.append(f"The log does not tell of {', '.join(missing)}.")
    if more := sorted(told - drawn):
        words.append(f"The drawing has no {', '.join(more)}: left out until it is drawn.")
    return tuple(words)


def _heading_key(look: ZoneLook) -> str:
    return sha256(json.dumps(["zones", *look.heading]).encode()).hexdigest()


def _open_visit(session: Session, visit_id: str) -> Visit:
    visit = repository.head(session, visit_id)
    if visit is None:
        raise NotFound("visit", visit_id)
    if visit.closed_at is not None:
        raise Closed
    return visit
