"""What can be done on a visit. Every write is saved before it is answered: there is no Save.

Ids come from the device that wrote, so a line sent twice over a bad network is one line.
"""

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any
from uuid import uuid4

from sqlalchemy.orm import Session

from nudge.core.charging.ways import CONNECTIONS
from nudge.core.checks.observations import observation
from nudge.core.language.callout.parser import Spoken
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.units import UnitSystem
from nudge.core.physics.circuit.whole import check_holds
from nudge.core.settling.gates import gate_to_pass
from nudge.core.visit.record.standing import current, standing
from nudge.services.clock import Clock
from nudge.services.errors import Closed, NotFound, NotUnderstood, Unsettled
from nudge.services.heard import (
    check_amount,
    event_kind,
    hear_for_system,
    nothing_said,
    ready_after,
)
from nudge.services.live_state import LiveState, live_state
from nudge.services.plates import plate_of
from nudge.services.pocket_slips import readings_of
from nudge.services.snapshot import (
    Snapshot,
    live_rows,
    take_snapshot,
)
from nudge.services.stream import Stream
from nudge.services.surroundings import snapshot_of
from nudge.services.verdicts import keep, new_verdict
from nudge.store.database import Database
from nudge.store.live_tables import Override
from nudge.store.repositories import book, live, whole_visit
from nudge.store.repositories import visits as repository
from nudge.store.tables import (
    Callout,
    Event,
    ObservationRow,
    Reading,
    SlipRow,
    Visit,
)
from nudge.store.visit_tables import Note, Tick

_CLOCK_SKEW = timedelta(minutes=2)


@dataclass(frozen=True, slots=True)
class Ending:
    """What is written with a visit as it is closed: what had drifted, and other rows."""

    drift: str = ""
    rows: Sequence[Tick | Note] = ()


class Visits:
    """The use cases of a visit."""

    def __init__(self, database: Database, clock: Clock, stream: Stream | None = None) -> None:
        self._database, self._clock = database, clock
        self._stream = stream or Stream(database)

    def snapshot(self, visit_id: str) -> Snapshot:
        """The visit as it stands. Raises: NotFound."""
        with self._database.reading() as session:
            row = _found(session, visit_id)
            return snapshot_of(session, row, self._clock())

    def known(self, visit_id: str) -> None:
        """Nothing, where there is such a visit. Raises: NotFound."""
        with self._database.reading() as session:
            if repository.head(session, visit_id) is None:
                raise NotFound("visit", visit_id)

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
            row = _found(session, visit_id)
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
            row = _found(session, visit_id)
            row.closed_at, row.opened_at = None, row.opened_at or self._clock()
        return self.snapshot(visit_id)

    def hear(
        self, visit_id: str, callout_id: str, text: str, units: UnitSystem, heard_at: datetime
    ) -> Snapshot:
        """Take a call-out: every word understood and stored, or nothing stored.

        `fix …` corrects the reading that stands at each point instead of adding a newer one.
        Raises: NotUnderstood, with each word that is not a reading and why.
        """
        with self._on_open_visit(visit_id, callout_id) as (session, row):
            if session.get(Callout, callout_id) is None:
                heard = hear_for_system(text, units, row.system)
                if heard.misheard or not heard.spoken:
                    raise NotUnderstood(heard.misheard or (nothing_said(text),))
                taken_at = self._on_its_clock(session, row, heard_at)
                session.add(Callout(id=callout_id, visit_id=visit_id, text=text, heard_at=taken_at))
                session.flush()
                before = current(row.readings) if heard.corrects else {}
                for number, spoken in enumerate(heard.spoken):
                    old = before.get(spoken.point.key)
                    reading = f"{callout_id}:{number}"
                    session.add(self._typed(row, reading, spoken, old, taken_at, callout_id))
        return self._judged(visit_id)

    def correct(
        self, visit_id: str, reading_id: str, correction_id: str, text: str, units: UnitSystem
    ) -> Snapshot:
        """Replace one reading by what should have been typed: `119`, or `250kpa`.

        Raises: NotFound; NotUnderstood, when the text is not a value for that point.
        """
        with self._on_open_visit(visit_id, correction_id) as (session, row):
            old = _reading(row, reading_id)
            if not any(r.id == correction_id for r in row.readings):
                heard = hear_for_system(f"{old.point} {text}", units, row.system)
                if heard.misheard or len(heard.spoken) != 1:
                    raise NotUnderstood(heard.misheard or (nothing_said(text),))
                session.add(self._typed(row, correction_id, heard.spoken[0], old, old.taken_at))
        return self._judged(visit_id)

    def withdraw(self, visit_id: str, reading_id: str, withdrawal_id: str) -> Snapshot:
        """Take one reading back. What stood at its point before stands again."""
        with self._on_open_visit(visit_id, withdrawal_id) as (_, row):
            self._withdraw(row, [_reading(row, reading_id)], withdrawal_id)
        return self._judged(visit_id)

    def undo(self, visit_id: str, withdrawal_id: str) -> Snapshot:
        """Take back the last line or correction that still stands."""
        with self._on_open_visit(visit_id, withdrawal_id) as (_, row):
            rows = standing(row.readings)
            if rows and not any(r.id.startswith(f"{withdrawal_id}:") for r in row.readings):
                last = max(rows, key=lambda r: r.sequence)
                together = [
                    r
                    for r in rows
                    if r is last or (r.callout_id and r.callout_id == last.callout_id)
                ]
                self._withdraw(row, together, withdrawal_id)
        return self._judged(visit_id)

    def observe(self, visit_id: str, note_id: str, key: str, seen: bool) -> Snapshot:
        """Tick or untick something seen. Raises: UnknownName."""
        observation(key)
        with self._on_open_visit(visit_id, note_id) as (_, row):
            if not any(o.id == note_id for o in row.observations):
                row.observations.append(
                    ObservationRow(id=note_id, key=key, seen=seen, noted_at=self._clock())
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
    ) -> Snapshot:
        """Note that the system was started, stopped, or what was done to it.

        `also` writes what belongs to it in the same transaction.
        Raises: CoreError, for an amount where none belongs, or out of reason.
        """
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
                    )
                )
        return self._judged(visit_id)

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

    def keep(self, visit_id: str, entry_id: str, reason: str) -> Snapshot:
        """Keep what the instruments say now as readings, and judge them.

        While it has not settled, `reason` says why it is judged early, and is kept.
        Raises: CoreError, without live values, or unsettled without a reason.
        """
        now, state = self._clock(), self._live_now(visit_id)
        with self._on_open_visit(visit_id, entry_id) as (session, row):
            if not any(r.id.startswith(f"{entry_id}:") for r in row.readings):
                if state is None or not live_rows(state):
                    raise CoreError("readings", "No instrument sends anything. Type the readings.")
                if state.unsettled is not None:
                    if not reason.strip():
                        raise Unsettled(state.unsettled)
                    session.add(
                        Override(
                            id=entry_id,
                            visit_id=visit_id,
                            gate="not_settled",
                            reason=reason.strip(),
                            given_at=now,
                        )
                    )
                self._keep_live(row, entry_id, state, now)
        return self._judged(visit_id)

    def keep_slip(
        self, visit_id: str, slip_id: str, slip: str, entries: dict[str, Any], units: UnitSystem
    ) -> Snapshot:
        """Send a slip of the Pocket into a visit: its entries, and the readings among them.

        A blank that is a reading becomes one, typed; a number the slip came to that is a
        reading (airflow by strips) becomes one, estimated. Raises: UnknownName; CoreError, when
        a blank of the slip is refused or the slip comes to nothing.
        """
        with self._on_open_visit(visit_id, slip_id) as (_, row):
            if not any(kept.id == slip_id for kept in row.slips):
                now = self._clock()
                row.readings += [
                    Reading(
                        id=f"{slip_id}:{number}",
                        point=sent.point,
                        given_value=sent.value,
                        given_unit=sent.unit,
                        source=sent.source,
                        quality="as_given",
                        taken_at=now,
                        recorded_at=now,
                    )
                    for number, sent in enumerate(readings_of(slip, entries, units))
                ]
                row.slips.append(
                    SlipRow(id=slip_id, slip=slip, entries=entries, units=units, sent_at=now)
                )
        return self._judged(visit_id)

    def _typed(
        self,
        visit: Visit,
        reading_id: str,
        spoken: Spoken,
        old: Reading | None,
        taken_at: datetime,
        callout_id: str | None = None,
    ) -> Reading:
        """A typed number as a row; with `old` in its place and at its moment."""
        return Reading(
            id=reading_id,
            visit_id=visit.id,
            callout_id=callout_id,
            point=spoken.point.key,
            given_value=spoken.given_value,
            given_unit=spoken.unit.label,
            source="typed",
            quality="as_given",
            taken_at=old.taken_at if old else taken_at,
            recorded_at=self._clock(),
            corrects=old.id if old else None,
            part=old.part if old else None,
        )

    def _live_now(self, visit_id: str) -> LiveState | None:
        """What the instruments say now, worked out before a write takes the lock."""
        with self._database.reading() as session:
            return live_state(session, _found(session, visit_id), self._clock())

    def _keep_live(
        self, row: Visit, entry_id: str, state: LiveState | None, until: datetime
    ) -> None:
        """What the instruments say becomes readings: a dose is given to what they said then."""
        for number, reading in enumerate(live_rows(state).values()):
            reading.id, reading.recorded_at = f"{entry_id}:{number}", self._clock()
            reading.taken_at = min(reading.taken_at, until)
            reading.quality = "settled" if state and state.unsettled is None else "early"
            row.readings.append(reading)

    def _withdraw(self, row: Visit, readings: list[Reading], withdrawal_id: str) -> None:
        already = {r.withdraws for r in row.readings}
        for number, old in enumerate(readings):
            if old.id not in already:
                row.readings.append(
                    Reading(
                        id=f"{withdrawal_id}:{number}",
                        point=old.point,
                        given_value=old.given_value,
                        given_unit=old.given_unit,
                        source=old.source,
                        quality=old.quality,
                        taken_at=old.taken_at,
                        recorded_at=self._clock(),
                        withdraws=old.id,
                        part=old.part,
                    )
                )

    def _judged(self, visit_id: str) -> Snapshot:
        """The visit as it stands after a write, judged once, holding no write lock.

        What was written is safe before this begins. The verdict is kept if it is a new one.
        """
        with self._database.reading() as session:
            written = live.last_written(session, visit_id)
            snapshot = snapshot_of(session, _found(session, visit_id), self._clock())
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
            if row.closed_at is not None:
                raise Closed
            if row.opened_at is None:
                row.opened_at = self._clock()
            yield session, row
            body = {"by": by}
            self._stream.note(session, visit_id, uuid4().hex, "visit", body, self._clock())
        self._stream.tell(visit_id)


def _found(session: Session, visit_id: str) -> Visit:
    row = repository.visit(session, visit_id)
    if row is None:
        raise NotFound("visit", visit_id)
    return row


def _reading(row: Visit, reading_id: str) -> Reading:
    for reading in row.readings:
        if reading.id == reading_id:
            return reading
    raise NotFound("reading", reading_id)
