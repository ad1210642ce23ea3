"""The journal of a visit, and waking whoever follows it.

Every follower reads the journal from the entry it last had, so a dropped connection loses
nothing and repeats nothing, and a slow one only falls behind itself: nothing is queued for it.
"""

import asyncio
from collections import defaultdict
from collections.abc import AsyncIterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from threading import Lock
from typing import Any

from sqlalchemy.orm import Session

from nudge.store.database import Database
from nudge.store.repositories import live

MOST_AT_ONCE = 200
HEARTBEAT_S = 10.0


@dataclass(frozen=True, slots=True)
class JournalEntry:
    """One entry of the journal: its number, what it is, what it says."""

    sequence: int
    visit_id: str
    kind: str
    body: dict[str, Any]


class Stream:
    """Writes entries, and lets followers wait for the next."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._lock = Lock()
        self._waiting: dict[str, set[tuple[asyncio.AbstractEventLoop, asyncio.Event]]] = (
            defaultdict(set)
        )

    def note(
        self,
        session: Session,
        visit_id: str,
        entry_id: str,
        kind: str,
        body: dict[str, Any],
        at: datetime,
    ) -> None:
        """Write an entry in the caller's transaction. `tell` wakes followers after it."""
        row = {"id": entry_id, "visit_id": visit_id, "kind": kind, "body": body, "recorded_at": at}
        live.add_to_journal(session, row)

    def tell(self, visit_id: str) -> None:
        """Wake everybody who follows this visit. Safe from any thread."""
        with self._lock:
            waiting = list(self._waiting.get(visit_id, ()))
        for loop, event in waiting:
            loop.call_soon_threadsafe(event.set)

    def end_of_all(self) -> int:
        """The number of the last entry of any visit."""
        with self._database.reading() as session:
            return live.whole_journal_end(session)

    def after(self, visit_ids: Sequence[str], sequence: int) -> list[JournalEntry]:
        """Entries after one, oldest first, `MOST_AT_ONCE` at a time."""
        with self._database.reading() as session:
            rows = live.journal_after(session, visit_ids, sequence, MOST_AT_ONCE)
            return [JournalEntry(row.sequence, row.visit_id, row.kind, row.body) for row in rows]

    async def follow(
        self, visit_ids: Sequence[str], sequence: int
    ) -> AsyncIterator[Sequence[JournalEntry]]:
        """Entries as they come, in the batches they are read in; an empty one is a heartbeat."""
        loop, event = asyncio.get_running_loop(), asyncio.Event()
        mine = (loop, event)
        with self._lock:
            for visit_id in visit_ids:
                self._waiting[visit_id].add(mine)
        try:
            while True:
                event.clear()
                entries = await asyncio.to_thread(self.after, visit_ids, sequence)
                if entries:
                    sequence = entries[-1].sequence
                    yield entries
                    continue
                try:
                    await asyncio.wait_for(event.wait(), HEARTBEAT_S)
                except TimeoutError:
                    yield []
        finally:
            with self._lock:
                for visit_id in visit_ids:
                    self._waiting[visit_id].discard(mine)
