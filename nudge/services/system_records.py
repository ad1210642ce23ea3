"""What a system's book keeps beyond its plate: baseline and drift, changes made on purpose, what
is left for another season, the charge written for the next one who comes.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime

from nudge import __version__
from nudge.core.behaviours.behaviour import Mode
from nudge.core.drift.drift import (
    intended_named,
    signs_kept,
)
from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity
from nudge.core.visit.record.kept import Kept
from nudge.core.visit.seasons import season_named
from nudge.services.baselines import UNREAD, Against, against, bare, unfit
from nudge.services.clock import Clock
from nudge.services.errors import NotFound
from nudge.services.modes import mode_of, mode_read
from nudge.services.snapshot import Snapshot
from nudge.services.sound import readable
from nudge.services.visits import Visits
from nudge.store.database import Database
from nudge.store.repositories import book, shelf, whole_visit
from nudge.store.repositories import visits as visits_repository
from nudge.store.tables import System, Verdict
from nudge.store.visit_tables import Baseline, Deferred, IntendedChange

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
    mode: Mode
    """Its years are drawn each mode for itself."""


@dataclass(frozen=True, slots=True)
class InMode:
    """A system against its baseline of one mode."""

    mode: Mode
    baseline: Baseline
    against: Against | None = None
    """The last visit in that mode, where it can be compared."""
    compared_visit: str = ""


@dataclass(frozen=True, slots=True)
class Records:
    """Everything a system's page shows besides its plate and visits."""

    system: System
    standings: Sequence[InMode]
    """One a mode that has a baseline, the newest first."""
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
            kept = whole_visit.baselines(session, system_id)
            moved = shelf.of_system(session, system_id)
            found = readable(verdicts)
            modes = {key: mode_read(one.readings) for key, one in found.items()}
            snaps = [_snap(verdicts[v.id], found[v.id]) for v in visits if v.id in found]
            intended = whole_visit.intended(session, system_id)
            deferred = whole_visit.deferred(session, system_id)
        standings = [
            self._standing(mode, row, [v.id for v in visits if modes.get(v.id) == mode])
            for mode, row in reversed(kept.items())
        ]
        added = sum(mg for kind, mg in moved if kind == "charged") / 1e6
        removed = sum(mg for kind, mg in moved if kind == "recovered") / 1e6
        return Records(system, standings, intended, deferred, snaps, added, removed)

    def _standing(self, mode: str, kept: Baseline, visit_ids: Sequence[str]) -> InMode:
        """Its last visit in a mode laid beside that mode's baseline."""
        later = next((id for id in visit_ids if id != kept.visit_id), "")
        laid = against(self._visits.snapshot(later)) if later else None
        return InMode("heating" if mode == "heating" else "cooling", kept, laid, later)

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
        why, assessed = unfit(snapshot), snapshot.assessment
        if why is not None or assessed is None:
            raise Impossible("baseline", why or UNREAD)
        case = bare(assessed.case)
        derived = {key: value for key in SHOWN if (value := case.derived.get(key)) is not None}
        kept = {
            "signs": signs_kept(case),
            "readings": dict(case.readings),
            "derived": derived,
            "version": __version__,
            "mode": case.behaviour.mode,
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

    def end_baseline(self, system_id: str, entry_id: str, mode: str = "") -> None:
        """The baseline of a mode no longer holds, or the newest one; later visits are compared
        with the next.
        """
        with self._database.writing() as session:
            held = whole_visit.baselines(session, system_id)
            now = held.get(mode) if mode else next(reversed(held.values()), None)
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
        with self._database.writing() as session:
            visit = visits_repository.head(session, visit_id)
            if visit is None:
                raise NotFound("visit", visit_id)
            system_id, left = visit.system_id, session.get(Deferred, f"{corrects}:baseline")
            if left is not None and left.done_at is None:
                left.done_at = self._clock()  # taken back, or said anew below
            if not whole_visit.is_written(session, IntendedChange, entry_id):
                if key and mode_of(visit) == "heating":
                    session.add(self._new_baseline(system_id, visit_id, entry_id, key))
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

    def _new_baseline(self, system_id: str, visit_id: str, entry_id: str, key: str) -> Deferred:
        """What a change on purpose leaves for the season in which charge is judged."""
        return Deferred(
            id=f"{entry_id}:baseline",
            system_id=system_id,
            visit_id=visit_id,
            text=f"Keep a new baseline: {intended_named(key).label.lower()} on purpose",
            season="cooling",
            due_on=None,
            created_at=self._clock(),
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


def _check_text(what: str, text: str) -> None:
    if len(text) > LONGEST_TEXT:
        raise CoreError(
            what, f"Keep it under {LONGEST_TEXT} letters; a note on the visit takes more."
        )


def _snap(row: Verdict, kept: Kept) -> Snap:
    shown = {key: kept.derived[key] for key in SHOWN if key in kept.derived}
    return Snap(
        row.visit_id,
        row.given_at,
        kept.readings.get("outdoor_air_temp"),
        shown,
        kept.advice,
        mode_read(kept.readings),
    )
