"""What can be done on a visit. Every write is saved before it is answered: there is no Save.

Ids come from the device that wrote, so a line sent twice over a bad network is one line.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from uuid import uuid4

from sqlalchemy.orm import Session

from nudge.core.charging.ways import CONNECTIONS
from nudge.core.checks.observations import observation
from nudge.core.language.errors import UnknownName
from nudge.core.physics.circuit.whole import check_holds
from nudge.core.settling.gates import gate_to_pass
from nudge.services.circuit_way import CIRCUIT_EVENTS
from nudge.services.errors import Closed, NotFound
from nudge.services.heard import (
    check_amount,
    event_kind,
    ready_after,
)
from nudge.services.open_visit import found_visit
from nudge.services.plates import plate_of
from nudge.services.readings import ReadingsTaken
from nudge.services.snapshot import (
    Snapshot,
    take_snapshot,
)
from nudge.store.live_tables import Override
from nudge.store.repositories import book, live, whole_visit
from nudge.store.repositories import visits as repository
from nudge.store.tables import (
    Event,
    ObservationRow,
    Visit,
)
from nudge.store.visit_tables import Deferred, Note, Tick


@dataclass(frozen=True, slots=True)
class Ending:
    """What is written with a visit as it is closed: what had drifted, and other rows."""

    drift: str = ""
    rows: Sequence[Tick | Note | Deferred] = ()


class Visits(ReadingsTaken):
    """The use cases of a visit."""

    def open(
        self, visit_id: str, system_id: str, complaint: str, due_on: date | None = None
    ) -> Snapshot:
        """Start a visit to a system now, or plan one for `due_on`. Same id, same visit."""
        with self._database.writing() as session:
            row = repository.visit(session, visit_id)
            if row is None:
                if book.system(session, system_id) is None:
                    raise NotFound("system", system_id)
                now = self._clock()
                session.add(
                    Visit(
                        id=visit_id,
                        system_id=system_id,
                        complaint=complaint,
                        due_on=due_on,
                        opened_at=None if due_on else now,
                        created_at=now,
                    )
                )
                session.flush()
        return self.snapshot(visit_id)

    def start(self, visit_id: str) -> Snapshot:
        """Open a visit that was due."""
        with self._database.writing() as session:
            row = found_visit(session, visit_id)
            row.opened_at = row.opened_at or self._clock()
        return self.snapshot(visit_id)

    def connect(self, visit_id: str, connection: str) -> Snapshot:
        """Say how the system is connected. Raises: CoreError, for a way that is none."""
        if connection not in CONNECTIONS:
            raise UnknownName("connection", connection, CONNECTIONS)
        with self._on_open_visit(visit_id) as (_, row):
            row.connection = connection
        return self.snapshot(visit_id)

    def set_complaint(self, visit_id: str, complaint: str) -> Snapshot:
        with self._on_open_visit(visit_id) as (_, row):
            row.complaint = complaint
        return self.snapshot(visit_id)

    def close(
        self, visit_id: str, ends: Callable[[Snapshot], Ending] = lambda _: Ending()
    ) -> Snapshot:
        """Close a visit, with what is written as it is closed. Its verdict stays.

        Raises: NotFound; what `ends` raises, and then nothing is written.
        """
        before = self.snapshot(visit_id)
        if before.visit.closed_at is not None:
            return before
        ending = ends(before)
        with self._database.writing() as session:
            if repository.is_closed(session, visit_id):
                raise Closed
            row = before.visit
            session.add(row)  # the rows just read, taken up again
            whole_visit.add_all(session, ending.rows)
            row.drift, row.closed_at = ending.drift, self._clock()
            row.opened_at = row.opened_at or row.closed_at
            self._stream.note(session, visit_id, uuid4().hex, "visit", {}, self._clock())
            session.flush()
            folder = replace(
                before.folder,
                ticks=whole_visit.ticks(session, visit_id),
                notes=whole_visit.notes(session, visit_id),
            )
        self._stream.tell(visit_id)
        return take_snapshot(row, replace(before.around, live=None, folder=folder))

    def reopen(self, visit_id: str) -> Snapshot:
        """Open a closed visit again. Nothing on it changes."""
        with self._database.writing() as session:
            row = found_visit(session, visit_id)
            row.closed_at, row.opened_at = None, row.opened_at or self._clock()
        return self.snapshot(visit_id)

    def observe(self, visit_id: str, note_id: str, key: str, seen: bool) -> Snapshot:
        """Tick or untick something seen. Raises: UnknownName."""
        observation(key)
        with self._on_open_visit(visit_id, note_id) as (_, row):
            if not any(o.id == note_id for o in row.observations):
                row.observations.append(
                    ObservationRow(id=note_id, key=key, seen=seen, noted_at=self._clock())
                )
        return self._judged(visit_id)

    def take_back(self, visit_id: str, entry_id: str, of: str) -> Snapshot:
        """Take back one entry, whatever it was: a line, a correction, a tick, an event.

        Nothing is struck out: what stands against it is written beside it. Raises: NotFound.
        """
        with self._on_open_visit(visit_id, entry_id) as (session, row):
            readings = [
                r for r in row.readings if of in (r.id, r.callout_id) or r.id.startswith(f"{of}:")
            ]
            tick = next((o for o in row.observations if o.id == of), None)
            event = next((e for e in row.events if e.id == of), None)
            if tick is None and event is None and not readings:
                raise NotFound("entry", of)
            self._withdraw(row, [r for r in readings if r.withdraws is None], entry_id)
            if tick is not None and all(o.id != entry_id for o in row.observations):
                row.observations.append(
                    ObservationRow(
                        id=entry_id, key=tick.key, seen=not tick.seen, noted_at=self._clock()
                    )
                )
            for along in whole_visit.ticks_with(session, visit_id, of):
                opened_again = f"{entry_id}:{along.step}"
                if not whole_visit.is_written(session, Tick, opened_again):
                    session.add(
                        Tick(
                            id=opened_again,
                            visit_id=visit_id,
                            step=along.step,
                            state="",
                            reason="",
                            ticked_at=self._clock(),
                        )
                    )
            if event is not None and all(e.corrects != of for e in row.events):
                row.events.append(
                    Event(id=entry_id, kind=event.kind, happened_at=event.happened_at, corrects=of)
                )
        return self._judged(visit_id)

    def happened(
        self,
        visit_id: str,
        event_id: str,
        kind: str,
        happened_at: datetime,
        amount_kg: float | None = None,
        also: Callable[[Session, Visit], None] | None = None,
        note: str = "",
    ) -> Snapshot:
        """Note that the system was started, stopped, or what was done to it.

        `also` writes what belongs to it in the same transaction.
        Raises: CoreError, for an amount where none belongs, or out of reason.
        """
        if kind not in CIRCUIT_EVENTS:
            check_amount(event_kind(kind), amount_kg)
        state = self._live_now(visit_id) if amount_kg is not None else None
        with self._on_open_visit(visit_id, event_id) as (session, row):
            if not any(e.id == event_id for e in row.events):
                check_holds(plate_of(row.system), amount_kg or 0.0, "amount")
                if also is not None:
                    also(session, row)
                moment = self._on_its_clock(session, row, happened_at)
                if amount_kg is not None:
                    self._keep_live(row, event_id, state, moment)
                row.events.append(
                    Event(
                        id=event_id,
                        kind=kind,
                        happened_at=moment,
                        amount_kg=amount_kg,
                        ready_at=ready_after(row, kind, moment),
                        note=note or None,
                    )
                )
        return self._judged(visit_id)

    def pass_gate(self, visit_id: str, entry_id: str, gate: str, reason: str) -> Snapshot:
        """Judge past a gate that blocks, with a reason that is printed; "" takes it back.

        Raises: UnknownName, for a gate that blocks nothing or must not be passed.
        """
        gate_to_pass(gate)
        with self._on_open_visit(visit_id, entry_id) as (session, _):
            if not any(kept.id == entry_id for kept in live.overrides(session, visit_id)):
                session.add(
                    Override(
                        id=entry_id,
                        visit_id=visit_id,
                        gate=gate,
                        reason=reason.strip(),
                        given_at=self._clock(),
                    )
                )
        return self._judged(visit_id)
