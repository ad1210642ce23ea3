"""Leading a circuit from one state to the next: guards met, or skipped with a reason in writing."""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy.orm import Session

from nudge.core.language.errors import CoreError
from nudge.core.opening.moves import MOVES, check_move
from nudge.core.opening.states import STATES
from nudge.core.physics.circuit.whole import check_holds
from nudge.core.visit.order import Order, StepState
from nudge.services.circuit_way import PREFIX, brought_in_kg
from nudge.services.clock import Clock
from nudge.services.facts import repairs_of
from nudge.services.snapshot import Snapshot
from nudge.services.visits import Visits
from nudge.services.work_order import order_now
from nudge.services.yard import Yard
from nudge.store.tables import Event, Visit
from nudge.store.visit_tables import Tick

LONGEST_REASON = 300


class Circuit:
    """The use case of an opened circuit."""

    def __init__(self, clock: Clock, visits: Visits, yard: Yard) -> None:
        self._clock, self._visits, self._yard = clock, visits, yard

    def move(self, visit_id: str, entry_id: str, to: str, reason: str = "") -> Snapshot:
        """Say that the circuit of a visit is in another state now.

        What guards the move and is not done is refused by name, unless a reason is given: then it
        is skipped with it, on the record. Raises: UnknownName, CoreError, NotFound, Closed.
        """
        before, why = self._visits.snapshot(visit_id), reason.strip()
        if any(event.id == entry_id for event in before.visit.events):
            return before
        if len(why) > LONGEST_REASON:
            raise CoreError("reason", f"Keep the reason under {LONGEST_REASON} letters.")
        way = before.around.known.way
        passed = check_move(way.state, to, why)
        guards = guards_of(order_now(before).order, to)
        check_guards(guards, to, why)
        now = self._clock()

        def write(session: Session, visit: Visit) -> None:
            note = why if passed else None
            visit.events.append(Event(id=entry_id, kind=PREFIX + to, happened_at=now, note=note))
            if to == "trimmed" and way.in_kg > 0:
                visit.system.written_charge_kg = way.in_kg
                visit.system.written_charge_at = now
            for step in guards:
                kept = _kept(step, why)
                if kept is not None:
                    session.add(_tick(entry_id, visit_id, step, *kept, now))

        snapshot = self._visits.amend(visit_id, write, entry_id)
        visit, parts = before.visit, repairs_of(before.visit, before.folder)
        self._yard.bring_to(visit_id, to, parts, brought_in_kg(visit))
        return snapshot


def check_guards(guards: Sequence[StepState], to: str, why: str) -> None:
    """Raises: CoreError, naming what guards a move and is open, where no reason is given."""
    still = [step for step in guards if step.state == "open"]
    if still and not why:
        names = ", ".join(step.row.label[0].lower() + step.row.label[1:] for step in still)
        raise CoreError(
            "state",
            f"Before “{STATES[to].label.lower()}”: {names}. Do it, or say why it is skipped: the "
            "reason is printed.",
        )


def check_may_fill(snapshot: Snapshot) -> None:
    """Whether refrigerant may come into the circuit now.

    Raises: CoreError, where it is empty and stands before something: never in silence.
    """
    way = snapshot.around.known.way
    if not way.is_empty or way.state == "recovered":
        return
    check_move(way.state, "broken", "")
    check_guards(guards_of(order_now(snapshot).order, "broken"), "broken", "")


def check_came_out(snapshot: Snapshot, kg: float) -> None:
    """Whether so much more can have come out. Raises: Impossible, for more than could be in it."""
    out_kg = snapshot.around.known.way.out_kg
    check_holds(snapshot.plate, out_kg + kg, "amount")


def guards_of(order: Order, to: str) -> list[StepState]:
    """The steps that guard a move on this visit, as they stand, those that apply to it."""
    wanted = MOVES[to].guards
    return [step for stage in order.stages for step in stage.steps if step.row.key in wanted]


def _kept(step: StepState, why: str) -> tuple[str, str] | None:
    """What is written of a guard: that it was done by then, or why it was skipped."""
    if step.state == "open":
        return "skipped", why
    if step.state == "done" and not step.by_hand and not step.row.proven_by:
        return "done", ""
    return None


def _tick(
    entry_id: str, visit_id: str, step: StepState, state: str, reason: str, now: datetime
) -> Tick:
    return Tick(
        id=f"{entry_id}:{step.row.key}",
        visit_id=visit_id,
        step=step.row.key,
        state=state,
        reason=reason,
        ticked_at=now,
    )
