"""A visit that is written on: found, open, on its own clock, judged once after the write."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from uuid import uuid4

from sqlalchemy.orm import Session

from nudge.services.clock import Clock
from nudge.services.errors import Closed, NotFound
from nudge.services.live_state import LiveState, live_state
from nudge.services.snapshot import (
    Snapshot,
    live_rows,
)
from nudge.services.stream import Stream
from nudge.services.surroundings import snapshot_of
from nudge.services.verdicts import keep, new_verdict
from nudge.store.database import Database
from nudge.store.entries import is_known
from nudge.store.repositories import live
from nudge.store.repositories import visits as repository
from nudge.store.tables import (
    Visit,
)

_CLOCK_SKEW = timedelta(minutes=2)


class OpenVisits:
    """What every write on a visit stands on."""

    def __init__(self, database: Database, clock: Clock, stream: Stream | None = None) -> None:
        self._database, self._clock = database, clock
        self._stream = stream or Stream(database)

    def snapshot(self, visit_id: str) -> Snapshot:
        """The visit as it stands. Raises: NotFound."""
        with self._database.reading() as session:
            row = found_visit(session, visit_id)
            return snapshot_of(session, row, self._clock())

    def known(self, visit_id: str) -> None:
        """Nothing, where there is such a visit. Raises: NotFound."""
        with self._database.reading() as session:
            if repository.head(session, visit_id) is None:
                raise NotFound("visit", visit_id)

    def amend(
        self, visit_id: str, writes: Callable[[Session, Visit], None], by: str = ""
    ) -> Snapshot:
        """Write something else on an open visit, and judge it again; `by` is the writer's entry."""
        with self._on_open_visit(visit_id, by) as (session, row):
            writes(session, row)
        return self._judged(visit_id)

    def judge_again(self, visit_id: str) -> None:
        """Judge a visit anew: what it is judged by was changed elsewhere."""
        self.amend(visit_id, lambda _, __: None)

    def _live_now(self, visit_id: str) -> LiveState | None:
        """What the instruments say now, worked out before a write takes the lock."""
        with self._database.reading() as session:
            return live_state(session, found_visit(session, visit_id), self._clock())

    def _keep_live(
        self, row: Visit, entry_id: str, state: LiveState | None, until: datetime
    ) -> None:
        """What the instruments say becomes readings: a dose is given to what they said then."""
        for number, reading in enumerate(live_rows(state).values()):
            reading.id, reading.recorded_at = f"{entry_id}:{number}", self._clock()
            reading.taken_at = min(reading.taken_at, until)
            reading.quality = "settled" if state and state.unsettled is None else "early"
            row.readings.append(reading)

    def _judged(self, visit_id: str) -> Snapshot:
        """The visit as it stands after a write, judged once, holding no write lock.

        What was written is safe before this begins. The verdict is kept if it is a new one.
        """
        with self._database.reading() as session:
            written = live.last_written(session, visit_id)
            snapshot = snapshot_of(session, found_visit(session, visit_id), self._clock())
            verdict = new_verdict(session, snapshot, self._clock())
        if verdict is not None:
            keep(self._database, verdict, written)
        return snapshot

    def _on_its_clock(self, session: Session, row: Visit, moment: datetime) -> datetime:
        """A moment on the visit's own clock, which never runs backwards.

        A device whose clock runs ahead does not write into the future. Where this machine's clock
        was set back, what is written now still comes after what was written before.
        """
        now = self._clock()
        last = repository.last_moment(session, row.id) or now
        if last > now + _CLOCK_SKEW:
            return last + (moment - now if moment > now else timedelta())
        return now if moment > now + _CLOCK_SKEW else moment

    @contextmanager
    def _on_open_visit(self, visit_id: str, by: str = "") -> Iterator[tuple[Session, Visit]]:
        """A write on a visit that is not closed. Followers are told by which entry (`by`)."""
        with self._database.writing() as session:
            row = repository.to_write_on(session, visit_id)
            if row is None:
                raise NotFound("visit", visit_id)
            if row.closed_at is not None and not is_known(session):
                raise Closed
            if row.opened_at is None:
                row.opened_at = self._clock()
            yield session, row
            body = {"by": by}
            self._stream.note(session, visit_id, uuid4().hex, "visit", body, self._clock())
        self._stream.tell(visit_id)


def found_visit(session: Session, visit_id: str) -> Visit:
    row = repository.visit(session, visit_id)
    if row is None:
        raise NotFound("visit", visit_id)
    return row
