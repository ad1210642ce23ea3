"""Tests with time on a visit: begun, read, marked, ended or broken off; judged from the record.

A test lives in the record alone: what instruments sent, what was typed, what was noted. So it goes
on through a closed page, a sleeping phone and a server that was killed, and two run at once.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy.orm import Session

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.vocabulary.points import POINTS, check_believable
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.settling.trace import Trace
from nudge.core.tests.row import TimedTest, check_mark, check_settings
from nudge.core.tests.run import Run, TestMark, TestOutcome, merged
from nudge.core.tests.table import judged, test_named
from nudge.services.clock import Clock
from nudge.services.errors import NotFound
from nudge.services.open_visit import found_visit
from nudge.services.plates import plate_of
from nudge.services.snapshot import Snapshot
from nudge.services.visits import Visits
from nudge.store.database import Database
from nudge.store.repositories import live, timed
from nudge.store.tables import ObservationRow, Visit
from nudge.store.visit_tables import TestEntry, TestRun

FINEST_MS, COLUMNS = 2_000, 900
BEFORE_MS = 120_000
"""What was read just before a test began belongs to it: what it changed from."""
ALSO = ("compressor_amps",)
MOST_RUNNING = 4
"""Tests under way at once on one visit: more is a forgotten one."""
LONGEST_REASON = 300


class OverAlready(CoreError):
    """A test that is ended or broken off takes nothing more."""

    def __init__(self) -> None:
        super().__init__("test", "This test is over. Begin a new one; nothing of it is lost.")


@dataclass(frozen=True, slots=True)
class Tested:
    """A test as it stands: its row in the table, its run and what it shows."""

    id: str
    row: TimedTest
    run: Run
    outcome: TestOutcome
    began_at: datetime
    ended_at: datetime | None
    places: tuple[tuple[str, str], ...] = ()
    """Joints that were named, with what was noted of each, in order."""

    @property
    def is_over(self) -> bool:
        return self.ended_at is not None


class TimedTests:
    """The use cases of tests with time."""

    def __init__(self, database: Database, clock: Clock, visits: Visits) -> None:
        self._database, self._clock, self._visits = database, clock, visits

    def begin(
        self, visit_id: str, run_id: str, key: str, settings: Mapping[str, float | str]
    ) -> Snapshot:
        """Begin a test (settings in core units).

        Raises: UnknownName; CoreError, for what could hurt, is missing, or runs already.
        """
        row = test_named(key)

        def write(session: Session, visit: Visit) -> None:
            if timed.run(session, visit_id, run_id) is not None:
                return
            given = check_settings(row, plate_of(visit.system), settings)
            self._check_free(session, visit, key)
            session.add(
                TestRun(
                    id=run_id,
                    visit_id=visit_id,
                    key=key,
                    settings=given,
                    began_at=self._clock(),
                )
            )

        return self._visits.amend(visit_id, write, run_id)

    def _check_free(self, session: Session, visit: Visit, key: str) -> None:
        over = {e.run_id for e in timed.entries(session, visit.id) if e.kind in _ENDS}
        under_way = [row for row in timed.runs(session, visit.id) if row.id not in over]
        if any(row.key == key for row in under_way):
            label = test_named(key).label
            raise CoreError("test", f"“{label}” runs already. End it, or break it off, first.")
        if len(under_way) >= MOST_RUNNING:
            raise CoreError("test", f"{MOST_RUNNING} tests run already. End one first.")

    def type_in(
        self, visit_id: str, run_id: str, entry_id: str, point: str, value: float
    ) -> Snapshot:
        """A reading of a test, typed (core units). Raises: UnknownName; CoreError."""
        if point not in POINTS:
            raise UnknownName("point", point, POINTS)

        def write(session: Session, visit: Visit) -> None:
            row = self._under_way(session, visit, run_id, entry_id)
            if row is None:
                return
            wanted = (*test_named(row.key).points, *ALSO)
            if point not in wanted:
                raise UnknownName("point", point, wanted)
            check_believable(POINTS[point], value)
            session.add(self._entry(visit, run_id, entry_id, "typed", point=point, value=value))

        return self._visits.amend(visit_id, write, entry_id)

    def mark(
        self, visit_id: str, run_id: str, entry_id: str, kind: str, place: str = ""
    ) -> Snapshot:
        """Note something in a test: a joint that bubbles, pipes warmed. Raises: UnknownName."""

        def write(session: Session, visit: Visit) -> None:
            row = self._under_way(session, visit, run_id, entry_id)
            if row is None:
                return
            check_mark(test_named(row.key), kind)
            session.add(
                self._entry(visit, run_id, entry_id, "mark", note=kind, place=place.strip())
            )

        return self._visits.amend(visit_id, write, entry_id)

    def end(self, visit_id: str, run_id: str, entry_id: str) -> Snapshot:
        """End a test: what it shows now is what it proved. Raises: NotFound, OverAlready."""

        def write(session: Session, visit: Visit) -> None:
            row = self._under_way(session, visit, run_id, entry_id)
            if row is None:
                return
            now = self._clock()
            found = _Record.of(session, visit, now).tested(row)
            outcome = found.outcome
            proved = {
                "state": outcome.state,
                "key": outcome.key,
                "facts": list(outcome.proves),
            }
            session.add(self._entry(visit, run_id, entry_id, "ended", proved=proved))
            for number, seen in enumerate(outcome.observations):
                visit.observations.append(
                    ObservationRow(id=f"{entry_id}:{number}", key=seen, seen=True, noted_at=now)
                )

        return self._visits.amend(visit_id, write, entry_id)

    def abort(self, visit_id: str, run_id: str, entry_id: str, reason: str) -> Snapshot:
        """Break a test off, saying why. Raises: CoreError, without a reason."""
        why = reason.strip()[:LONGEST_REASON]
        if not why:
            raise CoreError("reason", "Say why it is broken off: the reason is printed.")

        def write(session: Session, visit: Visit) -> None:
            if self._under_way(session, visit, run_id, entry_id) is not None:
                session.add(self._entry(visit, run_id, entry_id, "aborted", note=why))

        return self._visits.amend(visit_id, write, entry_id)

    def of_visit(self, visit_id: str) -> list[Tested]:
        """Every test of a visit, judged, the newest first. Raises: NotFound."""
        with self._database.reading() as session:
            visit = found_visit(session, visit_id)
            record = _Record.of(session, visit, self._clock())
            found = [record.tested(row) for row in timed.runs(session, visit_id)]
        return found[::-1]

    def one(self, visit_id: str, run_id: str) -> Tested:
        """One test, judged. Raises: NotFound."""
        with self._database.reading() as session:
            visit = found_visit(session, visit_id)
            row = timed.run(session, visit_id, run_id)
            if row is None:
                raise NotFound("test", run_id)
            return _Record.of(session, visit, self._clock()).tested(row)

    def _under_way(
        self, session: Session, visit: Visit, run_id: str, entry_id: str
    ) -> TestRun | None:
        """The run an entry belongs to; None where it is written already.

        Raises: NotFound, OverAlready.
        """
        row = timed.run(session, visit.id, run_id)
        if row is None:
            raise NotFound("test", run_id)
        if timed.is_entered(session, entry_id):
            return None
        if any(e.run_id == run_id and e.kind in _ENDS for e in timed.entries(session, visit.id)):
            raise OverAlready
        return row

    def _entry(
        self,
        visit: Visit,
        run_id: str,
        entry_id: str,
        kind: str,
        *,
        point: str = "",
        value: float | None = None,
        note: str = "",
        place: str = "",
        proved: Mapping[str, object] | None = None,
    ) -> TestEntry:
        return TestEntry(
            id=entry_id,
            visit_id=visit.id,
            run_id=run_id,
            kind=kind,
            point=point,
            value=value,
            note=note,
            place=place[:80],
            proved=dict(proved or {}),
            happened_at=self._clock(),
        )


_ENDS = ("ended", "aborted")


@dataclass(frozen=True, slots=True)
class _Record:
    """What a visit holds of its tests, read once for all of them."""

    session: Session
    visit: Visit
    plate: Plate
    entries: Sequence[TestEntry]
    placed: Sequence[live.Placed]
    """Channels that send, and where each stands."""
    started: Sequence[datetime]
    now: datetime

    @staticmethod
    def of(session: Session, visit: Visit, now: datetime) -> "_Record":
        return _Record(
            session,
            visit,
            plate_of(visit.system),
            timed.entries(session, visit.id),
            [p for p in live.channels(session, visit.id) if p.channel.source != "imported"],
            [e.happened_at for e in visit.standing_events if e.kind == "system_started"],
            now,
        )

    def tested(self, row: TestRun) -> Tested:
        """A run put together from the record and judged."""
        kind = test_named(row.key)
        entries = [one for one in self.entries if one.run_id == row.id]
        end = next((one for one in entries if one.kind in _ENDS), None)
        ended_at = None if end is None else end.happened_at
        until = ended_at or self.now
        typed = _typed(entries)
        sent = _sent(self.session, self.placed, (*kind.points, *ALSO), row.began_at, until)
        traces = {
            point: merged(sent.get(point, Trace((), ())), typed.get(point, Trace((), ())))
            for point in {*sent, *typed}
        }
        run = Run(
            key=row.key,
            plate=self.plate,
            began_s=_s(row.began_at),
            now_s=_s(self.now),
            settings=row.settings or {},
            traces=traces,
            typed=typed,
            marks=tuple(
                TestMark(one.note, _s(one.happened_at), one.place)
                for one in entries
                if one.kind == "mark"
            ),
            ended_s=None if ended_at is None else _s(ended_at),
            aborted=end.note if end is not None and end.kind == "aborted" else "",
            started_s=tuple(_s(at) for at in self.started if row.began_at <= at <= until),
        )
        named = tuple((e.place, e.note) for e in entries if e.kind == "mark" and e.place)
        return Tested(row.id, kind, run, judged(run), row.began_at, ended_at, named)


def _typed(entries: Sequence[TestEntry]) -> dict[str, Trace]:
    rows: dict[str, list[tuple[float, float]]] = {}
    for one in entries:
        if one.kind == "typed" and one.value is not None:
            rows.setdefault(one.point, []).append((_s(one.happened_at), one.value))
    return {
        point: Trace(tuple(s for s, _ in found), tuple(v for _, v in found))
        for point, found in rows.items()
    }


def _sent(
    session: Session,
    placed: Sequence[live.Placed],
    points: Sequence[str],
    since: datetime,
    until: datetime,
) -> dict[str, Trace]:
    """What instruments sent of some points, in means of a few seconds, after their zero."""
    wanted = [p for p in placed if any(row.point in points for row in p.placements)]
    if not wanted:
        return {}
    since_ms, until_ms = round(_s(since) * 1000) - BEFORE_MS, round(_s(until) * 1000)
    bucket = max((until_ms - since_ms) // COLUMNS, FINEST_MS)
    by_id = {p.channel.id: p for p in wanted}
    rows: dict[str, dict[float, float]] = {}
    for channel_id, number, mean, _, _, _ in live.bucketed(
        session, list(by_id), since_ms, until_ms, bucket
    ):
        at_ms = number * bucket + bucket // 2
        holds = by_id[channel_id].at(at_ms)
        if holds is not None and holds.counts and holds.point in points:
            rows.setdefault(holds.point, {})[at_ms / 1000] = mean + holds.offset
    return {
        point: Trace(tuple(sorted(at)), tuple(at[s] for s in sorted(at)))
        for point, at in rows.items()
    }


def _s(moment: datetime) -> float:
    return moment.astimezone(UTC).timestamp()
