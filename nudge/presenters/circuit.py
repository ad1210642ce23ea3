"""An opened circuit over the wire: where it stands, how it came there, what leads on."""

from datetime import UTC, datetime
from typing import Literal

from pydantic import BaseModel

from nudge.contract.request import Name
from nudge.contract.strict import Strict
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity, UnitSystem
from nudge.core.opening.first_fill import FILL_SCHOOLS, phase_for
from nudge.core.opening.followed import StateEntered, Way
from nudge.core.opening.moves import next_moves
from nudge.core.opening.states import STATES
from nudge.core.visit.order import StepState
from nudge.core.visit.steps_opening import OPENED
from nudge.presenters.book import Id
from nudge.presenters.notes import Short
from nudge.services.circuit import guards_of
from nudge.services.recovered import fate_now
from nudge.services.snapshot import Snapshot


class NewCircuitState(Strict):
    """The circuit is in another state now; `reason` says why something was passed over."""

    id: Id
    to: Name
    reason: Short = ""


class GuardOut(BaseModel):
    """A step that guards a move."""

    step: str
    label: str
    caution: str
    state: Literal["done", "open", "skipped"]
    reason: str
    check: str
    test: str
    by_hand: bool


class CircuitMoveOut(BaseModel):
    """A move that leads on from here."""

    to: str
    label: str
    caution: str
    reason: str
    guards: list[GuardOut]
    is_free: bool
    """Nothing that guards it is open."""


class WayStateOut(BaseModel):
    """One state of the way: behind, here, or ahead."""

    key: str
    label: str
    stands: Literal["behind", "passed_over", "here", "ahead"]
    at: datetime | None
    elsewhere: bool
    """On another visit than this one."""
    reason: str
    """Why states before it were passed over."""


class FillOut(BaseModel):
    """What is weighed in before it runs, by which school; and how the vacuum is broken."""

    said: str
    school: str
    when: str
    others: list[str]
    phase: str
    phase_how: str
    phase_reason: str


class FateOut(BaseModel):
    """What may become of what was recovered."""

    key: str
    label: str
    said: str


class CircuitOut(BaseModel):
    """The opened circuit of a visit."""

    state: str
    label: str
    said: str
    caution: str
    is_empty: bool
    taken_up: bool
    """It was opened on a visit before this one."""
    way: list[WayStateOut]
    moves: list[CircuitMoveOut]
    fill: FillOut | None
    recovered: str
    weighed_in: str
    """What is in it by the scale; "" nothing."""
    sum: str
    """What to write inside the door; "" while it is not weighed in."""
    fate: FateOut | None


def circuit_out(snapshot: Snapshot, units: UnitSystem, tests: dict[str, str]) -> CircuitOut | None:
    """The circuit of a visit; None where it is whole and nothing opens it. `tests` by step."""
    known, visit = snapshot.around.known, snapshot.visit
    way, row = known.way, STATES[known.way.state]
    if not way.is_open and not way.entered and visit.kind not in OPENED:
        return None
    weighed = _text(way.in_kg, units) if way.in_kg else ""
    fate = fate_now(snapshot)
    return CircuitOut(
        state=row.key,
        label=row.label,
        said=row.said,
        caution=row.caution,
        is_empty=row.is_empty,
        taken_up=way.begun_on_another(visit.id),
        way=_way(way, visit.id),
        moves=[
            CircuitMoveOut(
                to=move.to,
                label=move.label,
                caution=move.caution,
                reason=move.reason,
                guards=[_guard(step, tests) for step in guards],
                is_free=all(step.state != "open" for step in guards),
            )
            for move in next_moves(way.state)
            for guards in [guards_of(snapshot, move.to)]
        ],
        fill=_fill(snapshot, units),
        recovered=_text(way.out_kg, units) if way.out_kg else "",
        weighed_in=weighed,
        sum=f"{visit.system.refrigerant}: {weighed}"
        if weighed and way.state in ("weighed", "trimmed")
        else "",
        fate=FateOut(key=fate.key, label=fate.label, said=fate.said) if fate else None,
    )


def _way(way: Way, visit_id: str) -> list[WayStateOut]:
    last: dict[str, StateEntered] = {one.state: one for one in way.entered}
    passed = {key for one in way.entered for key in one.skipped} - last.keys()
    order = list(STATES)
    here = order.index(way.state)
    found = []
    for number, (key, row) in enumerate(STATES.items()):
        entry = last.get(key)
        stands: Literal["behind", "passed_over", "here", "ahead"] = "ahead"
        if number == here:
            stands = "here"
        elif number < here:
            stands = "passed_over" if key in passed else "behind"
        found.append(
            WayStateOut(
                key=key,
                label=row.label,
                stands=stands,
                at=None if entry is None else datetime.fromtimestamp(entry.at, UTC),
                elsewhere=entry is not None and entry.visit != visit_id,
                reason="" if entry is None else entry.reason,
            )
        )
    return found


def _guard(step: StepState, tests: dict[str, str]) -> GuardOut:
    return GuardOut(
        step=step.row.key,
        label=step.row.label,
        caution=step.row.caution,
        state=step.state,
        reason=step.reason,
        check=step.row.check,
        test=tests.get(step.row.key, ""),
        by_hand=step.by_hand,
    )


def _fill(snapshot: Snapshot, units: UnitSystem) -> FillOut | None:
    fill = snapshot.around.known.fill
    if fill is None:
        return None
    phase = phase_for(snapshot.visit.system.refrigerant)
    return FillOut(
        said=fill.said.text(units),
        school=fill.school.label,
        when=fill.school.when,
        others=[f"{row.label}: {row.when}" for row in FILL_SCHOOLS.values() if row != fill.school],
        phase=phase.label,
        phase_how=phase.how,
        phase_reason=phase.reason,
    )


def _text(kg: float, units: UnitSystem) -> str:
    return say("{kg}", kg=Measure(kg, Quantity.CHARGE)).text(units)
