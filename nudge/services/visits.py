"""What can be done on a visit. Every write is saved before it is answered: there is no Save.

Ids come from the device that wrote, so a line sent twice over a bad network is one line.
"""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date, datetime, timedelta
from typing import Any
from uuid import uuid4

from sqlalchemy.orm import Session

from nudge import __version__
from nudge.core.charging.advise import Nudge
from nudge.core.charging.ways import CONNECTIONS
from nudge.core.circuit.whole import check_holds
from nudge.core.errors import CoreError, UnknownName
from nudge.core.look.estimate import OwnHistory
from nudge.core.record.standing import current, standing
from nudge.core.settling.gates import gate_to_pass
from nudge.core.units import UnitSystem
from nudge.core.vocabulary.observations import observation
from nudge.services.charging import nudge_for
from nudge.services.clock import Clock
from nudge.services.errors import Closed, NotFound, NotUnderstood, Unsettled
from nudge.services.heard import (
    EventKind,
    check_amount,
    hear_for_system,
    nothing_said,
    ready_after,
)
from nudge.services.history import own_history
from nudge.services.live_state import LiveState, live_state
from nudge.services.methods import preferred_methods
from nudge.services.past import ADDITIONS_WITHIN, Known, own_departures, recovered_share
from nudge.services.plates import plate_of
from nudge.services.pocket_slips import readings_of
from nudge.services.snapshot import (
    PRESSURES,
    Snapshot,
    Surroundings,
    live_rows,
    take_snapshot,
)
from nudge.services.stream import Stream
from nudge.store.database import Database
from nudge.store.live_tables import Override, Plant
from nudge.store.repositories import book, live, settings, shelf, whole_visit
from nudge.store.repositories import visits as repository
from nudge.store.tables import (
    Callout,
    Event,
    Observation,
    Reading,
    Slip,
    Verdict,
    Visit,
)

_CLOCK_SKEW = timedelta(minutes=2)


class Visits:
    """The use cases of a visit."""

    def __init__(self, database: Database, clock: Clock, stream: Stream | None = None) -> None:
        self._database, self._clock = database, clock
        self._stream = stream or Stream(database)

    def snapshot(self, visit_id: str) -> Snapshot:
        """The visit as it stands. Raises: NotFound."""
        with self._database.reading() as session:
            row = _found(session, visit_id)
            return take_snapshot(row, _surroundings(session, row, self._clock()))

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
                        id=visit_id, system_id=system_id, complaint=complaint,
                        due_on=due_on, opened_at=None if due_on else now, created_at=now,
                    )
                )  # fmt: skip
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

    def set_closed(self, visit_id: str, closed: bool) -> Snapshot:
        """Close a visit, or open it again. Nothing on it changes."""
        with self._database.writing() as session:
            row = _found(session, visit_id)
            row.closed_at = (row.closed_at or self._clock()) if closed else None
            row.opened_at = row.opened_at or self._clock()
        return self.snapshot(visit_id)

    def hear(
        self, visit_id: str, callout_id: str, text: str, units: UnitSystem, heard_at: datetime
    ) -> Snapshot:
        """Take a call-out: every word understood and stored, or nothing stored.

        `fix …` corrects the reading that stands at each point instead of adding a newer one.
        Raises: NotUnderstood, with each word that is not a reading and why.
        """
        with self._on_open_visit(visit_id) as (session, row):
            if session.get(Callout, callout_id) is not None:
                return self.snapshot(visit_id)
            heard = hear_for_system(text, units, row.system)
            if heard.misheard or not heard.spoken:
                raise NotUnderstood(heard.misheard or (nothing_said(text),))
            taken_at = self._on_its_clock(row, heard_at)
            session.add(Callout(id=callout_id, visit_id=visit_id, text=text, heard_at=taken_at))
            session.flush()
            before = current(row.readings)
            for number, spoken in enumerate(heard.spoken):
                old = before.get(spoken.point.key) if heard.corrects else None
                row.readings.append(
                    Reading(
                        id=f"{callout_id}:{number}",
                        callout_id=callout_id,
                        point=spoken.point.key,
                        given_value=spoken.given_value,
                        given_unit=spoken.unit.label,
                        source="typed",
                        quality="as_given",
                        taken_at=old.taken_at if old else taken_at,
                        recorded_at=self._clock(),
                        corrects=old.id if old else None,
                    )
                )
            self._judge(session, row)
        return self.snapshot(visit_id)

    def correct(
        self, visit_id: str, reading_id: str, correction_id: str, text: str, units: UnitSystem
    ) -> Snapshot:
        """Replace one reading by what should have been typed: `119`, or `250kpa`.

        Raises: NotFound; NotUnderstood, when the text is not a value for that point.
        """
        with self._on_open_visit(visit_id) as (session, row):
            old = _reading(row, reading_id)
            if any(r.id == correction_id for r in row.readings):
                return self.snapshot(visit_id)
            heard = hear_for_system(f"{old.point} {text}", units, row.system)
            if heard.misheard or len(heard.spoken) != 1:
                raise NotUnderstood(heard.misheard or (nothing_said(text),))
            spoken = heard.spoken[0]
            row.readings.append(
                Reading(
                    id=correction_id, point=old.point, given_value=spoken.given_value,
                    given_unit=spoken.unit.label, source="typed", quality="as_given",
                    taken_at=old.taken_at, recorded_at=self._clock(), corrects=old.id,
                )
            )  # fmt: skip
            self._judge(session, row)
        return self.snapshot(visit_id)

    def withdraw(self, visit_id: str, reading_id: str, withdrawal_id: str) -> Snapshot:
        """Take one reading back. What stood at its point before stands again."""
        with self._on_open_visit(visit_id) as (session, row):
            self._withdraw(row, [_reading(row, reading_id)], withdrawal_id)
            self._judge(session, row)
        return self.snapshot(visit_id)

    def undo(self, visit_id: str, withdrawal_id: str) -> Snapshot:
        """Take back the last line or correction that still stands."""
        with self._on_open_visit(visit_id) as (session, row):
            rows = standing(row.readings)
            if rows and not any(r.id.startswith(f"{withdrawal_id}:") for r in row.readings):
                last = max(rows, key=lambda r: r.sequence)
                together = [
                    r
                    for r in rows
                    if r is last or (r.callout_id and r.callout_id == last.callout_id)
                ]
                self._withdraw(row, together, withdrawal_id)
                self._judge(session, row)
        return self.snapshot(visit_id)

    def observe(self, visit_id: str, note_id: str, key: str, seen: bool) -> Snapshot:
        """Tick or untick something seen. Raises: UnknownName."""
        observation(key)
        with self._on_open_visit(visit_id) as (session, row):
            if not any(o.id == note_id for o in row.observations):
                row.observations.append(
                    Observation(id=note_id, key=key, seen=seen, noted_at=self._clock())
                )
                self._judge(session, row)
        return self.snapshot(visit_id)

    def happened(
        self,
        visit_id: str,
        event_id: str,
        kind: EventKind,
        happened_at: datetime,
        amount_kg: float | None = None,
        also: Callable[[Session, Visit], None] | None = None,
    ) -> Snapshot:
        """Note that the system was started, stopped, or what was done to it.

        `also` writes what belongs to it in the same transaction.
        Raises: CoreError, for an amount where none belongs, or out of reason.
        """
        check_amount(kind, amount_kg)
        with self._on_open_visit(visit_id) as (session, row):
            if not any(e.id == event_id for e in row.events):
                check_holds(plate_of(row.system), amount_kg or 0.0, "amount")
                if also is not None:
                    also(session, row)
                moment = self._on_its_clock(row, happened_at)
                if amount_kg is not None:
                    self._keep_live(row, event_id, live_state(session, row, self._clock()), moment)
                row.events.append(
                    Event(id=event_id, kind=kind, happened_at=moment, amount_kg=amount_kg,
                          ready_at=ready_after(row, kind, moment))
                )  # fmt: skip
                self._judge(session, row)
        return self.snapshot(visit_id)

    def nudge(self, visit_id: str, connection: str) -> tuple[Snapshot, Nudge | None]:
        """What the visit's decision comes to as a card; None while nothing can be assessed.

        Raises: CoreError, for a connection nothing can be charged through.
        """
        snapshot = self.snapshot(visit_id)
        chosen = connection or snapshot.visit.connection
        if not connection and not (chosen in CONNECTIONS and CONNECTIONS[chosen].can_charge):
            chosen = "hose_manifold"  # gauges that only read: a hose comes before any dose
        return snapshot, nudge_for(snapshot, chosen)

    def amend(self, visit_id: str, writes: Callable[[Session, Visit], None]) -> Snapshot:
        """Write something else on an open visit, and judge it again, in one transaction."""
        with self._on_open_visit(visit_id) as (session, row):
            writes(session, row)
            session.flush()
            self._judge(session, row)
        return self.snapshot(visit_id)

    def judge_again(self, visit_id: str) -> None:
        """Judge a visit anew: what it is judged by was changed elsewhere."""
        self.amend(visit_id, lambda _, __: None)

    def pass_gate(self, visit_id: str, entry_id: str, gate: str, reason: str) -> Snapshot:
        """Judge past a gate that blocks, with a reason that is printed; "" takes it back.

        Raises: UnknownName, for a gate that blocks nothing or must not be passed.
        """
        gate_to_pass(gate)
        with self._on_open_visit(visit_id) as (session, row):
            if not any(kept.id == entry_id for kept in live.overrides(session, visit_id)):
                session.add(
                    Override(id=entry_id, visit_id=visit_id, gate=gate,
                             reason=reason.strip(), given_at=self._clock())
                )  # fmt: skip
                session.flush()
                self._judge(session, row)
        return self.snapshot(visit_id)

    def keep(self, visit_id: str, entry_id: str, reason: str) -> Snapshot:
        """Keep what the instruments say now as readings, and judge them.

        While it has not settled, `reason` says why it is judged early, and is kept.
        Raises: CoreError, without live values, or unsettled without a reason.
        """
        with self._on_open_visit(visit_id) as (session, row):
            if any(r.id.startswith(f"{entry_id}:") for r in row.readings):
                return self.snapshot(visit_id)
            now = self._clock()
            state = live_state(session, row, now)
            if state is None or not live_rows(state):
                raise CoreError("readings", "No instrument sends anything now. Type the readings.")
            unsettled = state.unsettled
            if unsettled is not None:
                if not reason.strip():
                    raise Unsettled(unsettled)
                session.add(
                    Override(id=entry_id, visit_id=visit_id, gate="not_settled",
                             reason=reason.strip(), given_at=now)
                )  # fmt: skip
            self._keep_live(row, entry_id, state, now)
            self._judge(session, row)
        return self.snapshot(visit_id)

    def keep_slip(
        self, visit_id: str, slip_id: str, slip: str, entries: dict[str, Any], units: UnitSystem
    ) -> Snapshot:
        """Send a slip of the Pocket into a visit: its entries, and the readings among them.

        A blank that is a reading becomes one, typed; a number the slip came to that is a
        reading (airflow by strips) becomes one, estimated. Raises: UnknownName; CoreError, when
        a blank of the slip is refused or the slip comes to nothing.
        """
        with self._on_open_visit(visit_id) as (session, row):
            if any(kept.id == slip_id for kept in row.slips):
                return self.snapshot(visit_id)
            now = self._clock()
            for number, sent in enumerate(readings_of(slip, entries, units)):
                row.readings.append(
                    Reading(
                        id=f"{slip_id}:{number}", point=sent.point, given_value=sent.value,
                        given_unit=sent.unit, source=sent.source, quality="as_given",
                        taken_at=now, recorded_at=now,
                    )
                )  # fmt: skip
            row.slips.append(Slip(id=slip_id, slip=slip, entries=entries, units=units, sent_at=now))
            self._judge(session, row)
        return self.snapshot(visit_id)

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
                        id=f"{withdrawal_id}:{number}", point=old.point,
                        given_value=old.given_value, given_unit=old.given_unit,
                        source=old.source, quality=old.quality, taken_at=old.taken_at,
                        recorded_at=self._clock(), withdraws=old.id,
                    )
                )  # fmt: skip

    def _judge(self, session: Session, row: Visit) -> None:
        """Keep the verdict as it is given now, if it is not the one already given."""
        session.flush()
        snapshot = take_snapshot(row, _surroundings(session, row, self._clock()))
        given = snapshot.answer("ip")
        if given is None:
            return
        answer = given.to_dict()
        last = repository.latest_verdict(session, row.id)
        if last is not None and last.answer == answer:
            return
        request = {
            "readings": {key: [r.given_value, r.given_unit] for key, r in snapshot.current.items()},
            "minutes_running": snapshot.context.minutes_running,
            "minutes_since_change": snapshot.context.minutes_since_change,
            "observations": sorted(snapshot.observations),
        }
        session.add(
            Verdict(
                visit_id=row.id, given_at=self._clock(), version=__version__,
                request=request, answer=answer,
            )
        )  # fmt: skip

    def _on_its_clock(self, row: Visit, moment: datetime) -> datetime:
        """A moment on the visit's own clock, which never runs backwards.

        A device whose clock runs ahead does not write into the future. Where this machine's clock
        was set back, what is written now still comes after what was written before.
        """
        now = self._clock()
        written = [r.recorded_at for r in row.readings] + [e.happened_at for e in row.events]
        last = max(written, default=now)
        if last > now + _CLOCK_SKEW:
            return last + (moment - now if moment > now else timedelta())
        return now if moment > now + _CLOCK_SKEW else moment

    @contextmanager
    def _on_open_visit(self, visit_id: str) -> Iterator[tuple[Session, Visit]]:
        with self._database.writing() as session:
            row = _found(session, visit_id)
            if row.closed_at is not None:
                raise Closed
            if row.opened_at is None:
                row.opened_at = self._clock()
            yield session, row
            self._stream.note(session, visit_id, uuid4().hex, "visit", {}, self._clock())
        self._stream.tell(visit_id)


def _surroundings(session: Session, row: Visit, now: datetime) -> Surroundings:
    """What a visit is judged by besides itself."""
    chosen = settings.all_settings(session)
    preferred = preferred_methods(row.system, chosen)
    state = live_state(session, row, now)
    passed = live.overrides(session, row.id)
    simulated = session.get(Plant, row.id) is not None
    earlier = repository.earlier_verdicts(session, row)
    ticks = {t.step: t.state for t in whole_visit.ticks(session, row.id).values()}
    known = Known(
        repository.additions_before(session, row, now - ADDITIONS_WITHIN), recovered_share(row),
        ticks.get("weighed_in") == "done", ticks.get("pressure_test") == "done",
    )  # fmt: skip
    points = current(row.readings).keys() | (state.values.keys() if state else set())
    gauges_on = not points.isdisjoint(PRESSURES)
    own = OwnHistory() if gauges_on else own_history(earlier)  # the look is without gauges
    moved = [entry.cylinder_id for entry in shelf.of_visit(session, row.id)]
    used = list(dict.fromkeys(reversed(moved)))[::-1]  # the one used last stands last
    return Surroundings(
        preferred, own, state, simulated, passed, own_departures(earlier), tuple(used), known
    )


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
