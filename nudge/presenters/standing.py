"""A visit with everything its screen needs: what every write answers, so nothing is asked twice."""

from nudge.contract.advice import AdviceOut, advice_out
from nudge.core.judgement.decision.opened import OPEN_HEADLINE
from nudge.core.language.units import UnitSystem
from nudge.presenters.circuit import CircuitOut, circuit_out
from nudge.presenters.visit_order import TEST_OF_STEP, OrderOut, order_out
from nudge.presenters.visits import VisitOut, visit_out
from nudge.services.charging import nudge_for
from nudge.services.snapshot import Snapshot


class StandingOut(VisitOut):
    """The visit as it stands, its order of work, and what to do with its charge."""

    order: OrderOut
    nudge: AdviceOut | None
    """None while nothing can be assessed."""
    circuit: CircuitOut | None
    """The opened circuit, while it is open or this kind of call opens it."""
    tests: int
    """How many tests with time it has; none is asked for where there are none."""
    tests_running: int
    circuit_is_open: bool
    """No refrigerant is in it: it must not be started."""
    circuit_said: list[str]
    """Then the headline and why, for a visit on which nothing is read; else nothing."""


def standing_out(snapshot: Snapshot, units: UnitSystem) -> StandingOut:
    found, answered = nudge_for(snapshot), snapshot.answer(units)
    advice = None
    if found is not None and answered is not None:
        advice = advice_out(found, units, snapshot.ready_at, answered)
    opened = snapshot.context.open_circuit
    ahead = advice if snapshot.visit.closed_at is None else None
    return StandingOut(
        **dict(visit_out(snapshot, units, ahead, answered)),
        order=order_out(snapshot, units),
        nudge=advice,
        circuit=circuit_out(snapshot, units, TEST_OF_STEP),
        tests=snapshot.folder.tests.count,
        circuit_is_open=opened is not None,
        circuit_said=[] if opened is None else [OPEN_HEADLINE, opened.text(units)],
        tests_running=snapshot.folder.tests.running,
    )
