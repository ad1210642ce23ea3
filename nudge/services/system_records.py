"""What a system's book keeps beyond its plate: baseline and drift, changes made on purpose, what
is left for another season, the charge written for the next one who comes.
"""

import json
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime

from nudge import __version__
from nudge.core.behaviours.case import Case, open_case
from nudge.core.drift.drift import UNLIKE, Drift, drift, intended_named, signs_kept
from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity
from nudge.core.visit.record.kept import Kept
from nudge.core.visit.seasons import season_named
from nudge.services.clock import Clock
from nudge.services.errors import NotFound
from nudge.services.modes import was_heated
from nudge.services.plates import plate_of
from nudge.services.snapshot import Snapshot
from nudge.services.sound import readable
from nudge.services.visits import Visits
from nudge.store.database import Database
from nudge.store.repositories import book, shelf, whole_visit
from nudge.store.repositories import visits as visits_repository
from nudge.store.tables import System, Verdict
from nudge.store.visit_tables import Baseline, Deferred, IntendedChange

CONDITIONS = ("outdoor_air_temp", "return_air_temp", "return_air_wet_bulb")
SHOWN = (
    "superheat",
    "subcooling",
    "condensing_over_ambient",
    "evaporator_difference",
    "temperature_split",
)
LARGEST_CHARGE_KG = 200.0
LONGEST_TEXT = 500


@dataclass(frozen=True, slots=True)
class Snap:
    """One settled moment of a past visit: when, under what, and what it showed [core units]."""

    visit_id: str
    at: datetime
    outdoor_c: float | None
    values: dict[str, float]
    advice: str


@dataclass(frozen=True, slots=True)
class Against:
    """A visit laid beside the baseline that held when it began."""

    baseline: Baseline
    drift: Drift
    intended: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Records:
    """Everything a system's page shows besides its plate and visits."""

    system: System
    baseline: Baseline | None
    against: Against | None
    """The last visit that can be compared."""
    compared_visit: str
    intended: Sequence[IntendedChange]
    deferred: Sequence[Deferred]
    snaps: Sequence[Snap]
    added_kg: float
    removed_kg: float


class SystemRecords:
    """The use cases of a system's book."""

    def __init__(self, database: Database, clock: Clock, visits: Visits) -> None:
        self._database, self._clock, self._visits = database, clock, visits

    def of(self, system_id: str) -> Records:
        """Raises: NotFound."""
        with self._database.reading() as session:
            system = book.system(session, system_id)
            if system is None:
                raise NotFound("system", system_id)
            visits = visits_repository.of_system(session, system_id)
            verdicts = visits_repository.latest_verdicts(session, [v.id for v in visits])
            kept = whole_visit.baseline(session, system_id)
            moved = shelf.of_system(session, system_id)
            found = readable(verdicts)
            cooled = {key: one for key, one in found.items() if not was_heated(one.readings)}
            readings = cooled or found  # its years are those of one mode
            snaps = [_snap(verdicts[v.id], readings[v.id]) for v in visits if v.id in readings]
            intended = whole_visit.intended(session, system_id)
            deferred = whole_visit.deferred(session, system_id)
        laid, compared = None, ""
        for visit in visits:
            if kept is not None and visit.id in readings and visit.id != kept.visit_id:
                laid = against(self._visits.snapshot(visit.id))
                compared = visit.id
                break
        added = sum(mg for kind, mg in moved if kind == "charged") / 1e6
        removed = sum(mg for kind, mg in moved if kind == "recovered") / 1e6
        return Records(system, kept, laid, compared, intended, deferred, snaps, added, removed)

    def two_of(self, system_id: str, one: str, other: str) -> tuple[Snapshot, Snapshot]:
        """Two visits of a system. Raises: NotFound, for a visit that is not of it."""
        found = self._visits.snapshot(one), self._visits.snapshot(other)
        for snapshot in found:
            if snapshot.visit.system_id != system_id:
                raise NotFound("visit", snapshot.visit.id)
        return found

    def deferred_of(self, system_id: str) -> Sequence[Deferred]:
        with self._database.reading() as session:
            return whole_visit.deferred(session, system_id)

    def keep_baseline(self, visit_id: str, entry_id: str) -> None:
        """Keep a visit's settled, accepted result as its system's baseline.

        Raises: Impossible, where it is not judged right, a gate is shut, or it is dangerous.
        """
        snapshot = self._visits.snapshot(visit_id)
        assessed = snapshot.assessment
        if assessed is None or snapshot.look is not None:
            raise Impossible("baseline", say("Nothing is judged yet: connect, settle and read."))
        blocking = [b for b in assessed.breaches if b.effect == "blocks"]
        if blocking:
            raise Impossible("baseline", blocking[0].message)
        if assessed.decision.advice != "leave" or assessed.hazards:
            not_right = (
                "A baseline is a system that is right. This one is not: act first, then read."
            )
            raise Impossible("baseline", say(not_right))
        case = bare(assessed.case)
        derived = {key: value for key in SHOWN if (value := case.derived.get(key)) is not None}
        kept = {
            "signs": signs_kept(case),
            "readings": dict(case.readings),
            "derived": derived,
            "version": __version__,
        }
        with self._database.writing() as session:
            if not whole_visit.is_written(session, Baseline, entry_id):
                session.add(
                    Baseline(
                        id=entry_id,
                        system_id=snapshot.visit.system_id,
                        visit_id=visit_id,
                        kept=kept,
                        set_at=self._clock(),
                    )
                )

    def end_baseline(self, system_id: str, entry_id: str) -> None:
        """The baseline no longer holds; later visits are compared with the next one."""
        with self._database.writing() as session:
            now = whole_visit.baseline(session, system_id)
            if now is not None:
                session.add(
                    Baseline(
                        id=entry_id,
                        system_id=system_id,
                        visit_id=now.visit_id,
                        kept=None,
                        set_at=self._clock(),
                    )
                )

    def intend(
        self, visit_id: str, entry_id: str, key: str, note: str, corrects: str | None = None
    ) -> None:
        """Record something changed on purpose; a correction with no key takes a row back.

        Raises: UnknownName, CoreError, NotFound.
        """
        if key or corrects is None:
            intended_named(key)
        _check_text("note", note)
        system_id = self._system_of(visit_id)
        with self._database.writing() as session:
            if not whole_visit.is_written(session, IntendedChange, entry_id):
                session.add(
                    IntendedChange(
                        id=entry_id,
                        system_id=system_id,
                        visit_id=visit_id,
                        key=key,
                        note=note.strip(),
                        corrects=corrects,
                        happened_at=self._clock(),
                    )
                )

    def defer(
        self, visit_id: str, entry_id: str, text: str, season: str, due_on: date | None
    ) -> None:
        """Leave something for another day or season. Raises: CoreError, UnknownName."""
        season_named(season)
        _check_text("what is left", text)
        if not text.strip():
            raise CoreError("text", "Say what is left to do.")
        system_id = self._system_of(visit_id)
        with self._database.writing() as session:
            if session.get(Deferred, entry_id) is None:
                session.add(
                    Deferred(
                        id=entry_id,
                        system_id=system_id,
                        visit_id=visit_id,
                        text=text.strip(),
                        season=season,
                        due_on=due_on,
                        created_at=self._clock(),
                    )
                )

    def _system_of(self, visit_id: str) -> str:
        with self._database.reading() as session:
            row = visits_repository.head(session, visit_id)
        if row is None:
            raise NotFound("visit", visit_id)
        return row.system_id

    def settle_deferred(self, deferred_id: str, is_done: bool) -> str:
        """Tick something off, or open it again; answers its system. Raises: NotFound."""
        with self._database.writing() as session:
            row = session.get(Deferred, deferred_id)
            if row is None:
                raise NotFound("open item", deferred_id)
            row.done_at = self._clock() if is_done else None
            return row.system_id

    def write_charge(self, system_id: str, kg: float | None) -> None:
        """The whole charge, written once for the next one who comes. Raises: CoreError."""
        if kg is not None and not 0 < kg <= LARGEST_CHARGE_KG:
            raise Impossible(
                "charge",
                say(
                    "A whole charge is over zero and at most {most}.",
                    most=Measure(LARGEST_CHARGE_KG, Quantity.CHARGE),
                ),
            )
        with self._database.writing() as session:
            row = book.system(session, system_id)
            if row is None:
                raise NotFound("system", system_id)
            row.written_charge_kg = kg
            row.written_charge_at = None if kg is None else self._clock()


def against(snapshot: Snapshot) -> Against | None:
    """A visit against its system's baseline at like conditions; None where there is none."""
    kept, visit = snapshot.folder.baseline, snapshot.visit
    if snapshot.assessment is None or kept is None or kept.kept is None:
        return None
    unlike = any(b.gate.key in UNLIKE for b in snapshot.assessment.breaches)
    if kept.visit_id == visit.id or unlike:
        return None
    since = tuple(row.key for row in snapshot.folder.intended if row.happened_at >= kept.set_at)
    case = bare(snapshot.assessment.case)
    found = drift(
        plate_of(visit.system).metering_device.feed, kept.kept["signs"], signs_kept(case), since
    )
    return Against(kept, found, since)


def drift_noted(snapshot: Snapshot) -> str:
    """What had drifted by now, in both units, as a closed visit keeps it; "" where nothing had."""
    found = against(snapshot)
    if found is None or not found.drift.is_flagged:
        return ""
    said = found.drift.said
    return json.dumps({"ip": said.text("ip"), "si": said.text("si")})


def bare(case: Case) -> Case:
    """The case without the system's own past: departures from its class alone."""
    return open_case(case.plate, case.readings, replace(case.context, own={}), case.behaviour)


def _check_text(what: str, text: str) -> None:
    if len(text) > LONGEST_TEXT:
        raise CoreError(
            what, f"Keep it under {LONGEST_TEXT} letters; a note on the visit takes more."
        )


def _snap(row: Verdict, kept: Kept) -> Snap:
    shown = {key: kept.derived[key] for key in SHOWN if key in kept.derived}
    return Snap(
        row.visit_id, row.given_at, kept.readings.get("outdoor_air_temp"), shown, kept.advice
    )
