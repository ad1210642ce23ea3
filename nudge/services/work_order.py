"""The order of work on a visit: steps ticked or skipped, checks filled in, notes, closing."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime

from sqlalchemy.orm import Session

from nudge.core.checks.form import Form
from nudge.core.checks.form_findings import Entries, FormFinding
from nudge.core.checks.forms import FORMS, SUBSYSTEMS, judge_form
from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Said
from nudge.core.language.units import unit_label
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.settling.gate import CLOCKS
from nudge.core.visit.calls import call_named
from nudge.core.visit.facts import Facts
from nudge.core.visit.order import Order, check_tick, order_of
from nudge.services.baselines import drift_noted
from nudge.services.carried_over import left_open, reads_gas, superheats_open
from nudge.services.clock import Clock
from nudge.services.plates import plate_of
from nudge.services.snapshot import Snapshot
from nudge.services.visits import Ending, Visits
from nudge.services.zone_reading import drift_of_log
from nudge.store.database import Database
from nudge.store.repositories import whole_visit
from nudge.store.tables import Event, ObservationRow, Reading, Visit
from nudge.store.visit_tables import CheckRow, Deferred, Note, Tick

LONGEST_NOTE = 4_000
NEVER = datetime.min.replace(tzinfo=UTC)


class OpenAtTheEnd(Impossible):
    """A visit that may not be closed without saying why: what is dangerous is still open."""


@dataclass(frozen=True, slots=True)
class Checked:
    """A check with what was entered on this visit and what it means, or what to begin from."""

    check: Form
    entries: Entries
    finding: FormFinding | None
    remembered: Entries
    """What was entered the last time on this system, where nothing is entered now."""


@dataclass(frozen=True, slots=True)
class WorkOrder:
    """A visit's order with its checks and notes."""

    order: Order
    checks: tuple[Checked, ...]
    notes: tuple[Note, ...]


class Work:
    """The use cases of working through a visit."""

    def __init__(self, database: Database, clock: Clock, visits: Visits) -> None:
        self._database, self._clock, self._visits = database, clock, visits

    def order(self, visit_id: str) -> WorkOrder:
        """Where the visit stands. Raises: NotFound."""
        return order_now(self._visits.snapshot(visit_id))

    def set_kind(self, visit_id: str, kind: str) -> Snapshot:
        """Choose the kind of call. Raises: UnknownName."""
        call_named(kind)

        def write(_: Session, visit: Visit) -> None:
            visit.kind = kind

        return self._visits.amend(visit_id, write)

    def tick(self, visit_id: str, entry_id: str, step: str, state: str, reason: str) -> Snapshot:
        """Say that a step is done, skipped (with a reason where it blocks), or open again.

        Raises: UnknownName, CoreError, NotFound, Closed.
        """
        return self.tick_all(visit_id, {entry_id: step}, state, reason)

    def tick_all(
        self, visit_id: str, steps: Mapping[str, str], state: str, reason: str = ""
    ) -> Snapshot:
        """The same for several steps at once, by the id of each entry. Raises: as `tick`."""
        for step in steps.values():
            check_tick(step, state, reason)

        def write(session: Session, visit: Visit) -> None:
            for entry_id, step in steps.items():
                if not whole_visit.is_written(session, Tick, entry_id):
                    session.add(self._ticked(visit, entry_id, step, state, reason))

        return self._visits.amend(visit_id, write, next(iter(steps), ""))

    def _ticked(self, visit: Visit, entry_id: str, step: str, state: str, reason: str) -> Tick:
        return Tick(
            id=entry_id,
            visit_id=visit.id,
            step=step,
            state=state,
            reason=reason.strip(),
            ticked_at=self._clock(),
        )

    def check(self, visit_id: str, entry_id: str, key: str, entries: Entries) -> Snapshot:
        """Fill in a check (core units): kept, and what it shows goes onto the visit.

        Raises: UnknownName; CoreError, for what is missing or no instrument shows.
        """
        now = self._clock()

        def write(session: Session, visit: Visit) -> None:
            finding = judge_form(key, plate_of(visit.system), entries)
            if whole_visit.is_written(session, CheckRow, entry_id):
                return
            session.add(
                CheckRow(
                    id=entry_id, visit_id=visit.id, key=key, entries=dict(entries), checked_at=now
                )
            )
            for place, seen in enumerate(finding.observations):
                visit.observations.append(
                    ObservationRow(id=f"{entry_id}:{place}", key=seen, seen=True, noted_at=now)
                )
            for point, value in finding.readings.items():
                visit.readings.append(_reading(f"{entry_id}:{point}", point, value, now))
            done = {event.kind for event in visit.standing_events}
            for kind in finding.events:
                if kind not in done:
                    visit.events.append(Event(id=f"{entry_id}:{kind}", kind=kind, happened_at=now))

        return self._visits.amend(visit_id, write, entry_id)

    def note(
        self, visit_id: str, entry_id: str, subsystem: str, text: str, corrects: str | None = None
    ) -> Snapshot:
        """Write a note on a part of the system; one that corrects stands in another's place.

        An empty correction takes it back. Raises: CoreError, NotFound, Closed.
        """
        if subsystem not in SUBSYSTEMS:
            raise CoreError("subsystem", f"Notes belong to one of: {', '.join(SUBSYSTEMS)}.")
        if len(text) > LONGEST_NOTE:
            raise CoreError("note", f"A note has at most {LONGEST_NOTE:,} letters. Make it two.")
        if not text.strip() and corrects is None:
            raise CoreError("note", "There is nothing in that note.")

        def write(session: Session, visit: Visit) -> None:
            if not whole_visit.is_written(session, Note, entry_id):
                session.add(self._noted(visit, entry_id, subsystem, text, corrects))

        return self._visits.amend(visit_id, write, entry_id)

    def _noted(
        self, visit: Visit, entry_id: str, subsystem: str, text: str, corrects: str | None = None
    ) -> Note:
        return Note(
            id=entry_id,
            visit_id=visit.id,
            subsystem=subsystem,
            text=text.strip(),
            written_from="here",
            corrects=corrects,
            written_at=self._clock(),
        )

    def close(self, visit_id: str, reason: str = "") -> Snapshot:
        """Close a visit, and keep with it what had drifted and why anything was left open.

        With something dangerous open it takes a reason, which is printed. A superheat that read
        none stays open in the system's book until a later visit reads one.
        Raises: OpenAtTheEnd, naming what is open.
        """

        def ends(snapshot: Snapshot) -> Ending:
            order, why = order_now(snapshot).order, reason.strip()
            if order.dangers and not why:
                raise _open_at_the_end(order.dangers)
            rows = self._why(snapshot.visit, order, why) if order.dangers else []
            moved = drift_noted(snapshot) or drift_of_log(self._database, snapshot)
            return Ending(moved, (*rows, *left_open(snapshot, self._clock())))

        closed = self._visits.close(visit_id, ends)
        if reads_gas(closed):
            with self._database.writing() as session:
                for row in superheats_open(closed):
                    found = session.get(Deferred, row.id)
                    if found is not None:
                        found.done_at = self._clock()
        return closed

    def _why(self, visit: Visit, order: Order, reason: str) -> list[Tick | Note]:
        """With every open step, and in a note, why the visit is closed all the same."""
        stamp = f"{visit.id}:closed:{self._clock().timestamp():.0f}"
        open_steps = [
            step.row.key
            for stage in order.stages
            for step in stage.steps
            if step.row.blocks == "closing" and step.state == "open"
        ]
        still = " ".join(danger.text("ip") for danger in order.dangers)
        words = f"Closed all the same, because: {reason}. Open: {still}"
        ticked = [
            self._ticked(visit, f"{stamp}:{key}", key, "skipped", reason) for key in open_steps
        ]
        return [*ticked, self._noted(visit, stamp, "site", words[:LONGEST_NOTE])]


def order_now(snapshot: Snapshot) -> WorkOrder:
    """A visit's order of work as it stands, with its checks and notes."""
    folder, checks = snapshot.folder, []
    for key, check in FORMS.items():
        now = dict(folder.checks[key].entries) if key in folder.checks else {}
        before = folder.checks_before.get(key)
        remembered = dict(before.entries) if before is not None and not now else {}
        checks.append(Checked(check, now, snapshot.findings.get(key), _lasting(remembered)))
    order = order_of(call_named(snapshot.visit.kind), _facts(snapshot))
    return WorkOrder(order, tuple(checks), tuple(folder.notes))


def _open_at_the_end(dangers: tuple[Said, ...]) -> OpenAtTheEnd:
    measures = tuple(
        (f"m{number}{name}", measure)
        for number, said in enumerate(dangers)
        for name, measure in said.measures
    )
    words = []
    for number, said in enumerate(dangers):
        text = said.template
        for name, _ in said.measures:
            text = text.replace(f"{{{name}}}", f"{{m{number}{name}}}")
        words.append(text + said.tail)
    head = "Not closed yet. Still open, and it can hurt somebody: "
    return OpenAtTheEnd(
        "closing", Said(head + " ".join(words) + " Do it, or say why it is left.", measures)
    )


def _facts(snapshot: Snapshot) -> Facts:
    """The first facts, and all that the judgement adds to them."""
    visit, assessed, folder = snapshot.visit, snapshot.assessment, snapshot.folder
    acted = [e for e in visit.standing_events if e.kind in ACTIONS]
    charged = [e for e in acted if ACTIONS[e.kind].moves_charge]
    last_dose = charged[-1].happened_at if charged else None
    first = replace(
        snapshot.first,
        is_running=snapshot.running_since is not None,
        unsettled=snapshot.context.unsettled,
        has_acted=bool(acted),
        has_moved_charge=bool(charged),
        unweighed=tuple(
            name
            for cylinder_id, name in folder.cylinders.items()
            if last_dose is not None and folder.weighed_at.get(cylinder_id, NEVER) <= last_dose
        ),
        look=snapshot.look.decision if snapshot.look else "",
    )
    if assessed is None:
        return first
    decision = assessed.decision
    blocking = {b.gate.key: b.message for b in assessed.breaches if b.effect == "blocks"}
    last_act = max((e.happened_at for e in acted), default=None)
    latest = max((row.taken_at for row in snapshot.current.values()), default=None)
    clocks = not CLOCKS.isdisjoint(blocking)
    return replace(
        first,
        shut={key: said for key, said in blocking.items() if key not in CLOCKS},
        doubts=frozenset(b.gate.key for b in assessed.breaches),
        minutes_unsettled=clocks,
        is_judged=not snapshot.look,
        advice=decision.advice,
        decision=decision.key,
        reason=decision.reason,
        stage=decision.stage,
        leader=assessed.suspects[0].suspect.key if assessed.suspects else "",
        read_after_last_change=bool(last_act and latest and latest > last_act and not clocks),
        hazards=tuple(said for _, said in assessed.hazards),
    )


def _lasting(entries: Mapping[str, float | str]) -> Entries:
    """What stays true from visit to visit: labels and plates, not what was measured."""
    stays = {"rated", "tolerance", "motor", "strip_kw", "strips"}
    return {key: value for key, value in entries.items() if key in stays}


def _reading(reading_id: str, point: str, value: float, now: datetime) -> Reading:
    return Reading(
        id=reading_id,
        point=point,
        given_value=value,
        given_unit=unit_label(POINTS[point].quantity, "si"),
        source="typed",
        quality="as_given",
        taken_at=now,
        recorded_at=now,
    )
