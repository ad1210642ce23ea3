"""An opened circuit over the wire: where it stands, how it came there, what leads on."""

from datetime import UTC, datetime
from typing import Literal

from pydantic import BaseModel

from nudge.contract.request import Name
from nudge.contract.strict import Strict
from nudge.core.charging.ways import way_for
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity, UnitSystem, from_si, unit_label
from nudge.core.opening.first_fill import FILL_SCHOOLS, phase_for
from nudge.core.opening.followed import StateEntered, Way
from nudge.core.opening.moves import next_moves
from nudge.core.opening.states import STATES
from nudge.core.physics.circuit.equipment import MeteringDevice
from nudge.core.visit.order import StepState
from nudge.core.visit.steps_opening import OPENED
from nudge.presenters.book import Id
from nudge.presenters.drawing.way_layout import DrawnWay, StateStands, draw_way, stands_of
from nudge.presenters.notes import Short
from nudge.services.circuit import guards_of
from nudge.services.recovered import fate_now
from nudge.services.snapshot import Snapshot
from nudge.services.work_order import order_now


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
    stands: StateStands
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


class LiveSumOut(BaseModel):
    """The sum on the scale: down to the sheet, then to the plate's subcooling."""

    in_it: float
    sheet: float
    left: float
    unit: str
    share: float
    """Of the sheet that is in."""
    in_text: str
    left_text: str
    subcooling: float | None
    target: float | None
    slot: float
    """How far either side of the target is right."""
    degrees: str


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
    drawn: DrawnWay
    moves: list[CircuitMoveOut]
    fill: FillOut | None
    charge_mode: str
    """What an inverter's charge mode is; "" on a system without one."""
    live_sum: LiveSumOut | None
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
    fate, order = fate_now(snapshot), order_now(snapshot).order
    return CircuitOut(
        state=row.key,
        label=row.label,
        said=row.said,
        caution=row.caution,
        is_empty=row.is_empty,
        taken_up=way.begun_on_another(visit.id),
        way=_way(way, visit.id),
        drawn=draw_way(way),
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
            for guards in [guards_of(order, move.to)]
        ],
        fill=_fill(snapshot, units),
        charge_mode=snapshot.context.charge_mode,
        live_sum=_live_sum(snapshot, units),
        recovered=_text(way.out_kg, units) if way.out_kg else "",
        weighed_in=weighed,
        sum=f"{visit.system.refrigerant}: {weighed}"
        if weighed and way.state in ("weighed", "trimmed")
        else "",
        fate=FateOut(key=fate.key, label=fate.label, said=fate.said) if fate else None,
    )


def _way(way: Way, visit_id: str) -> list[WayStateOut]:
    last: dict[str, StateEntered] = {one.state: one for one in way.entered}
    found = []
    for key, stands in stands_of(way).items():
        entry = last.get(key)
        found.append(
            WayStateOut(
                key=key,
                label=STATES[key].label,
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


def _live_sum(snapshot: Snapshot, units: UnitSystem) -> LiveSumOut | None:
    known = snapshot.around.known
    if known.fill is None or known.way.state not in ("isolated", "broken", "weighed"):
        return None
    sheet, in_kg = known.fill.kg, known.way.in_kg
    found = snapshot.assessment
    read, target = None, snapshot.plate.target_subcooling_k
    if found is not None and known.way.state == "weighed":
        read = found.case.derived.subcooling
    return LiveSumOut(
        in_it=_oz(in_kg, units),
        sheet=_oz(sheet, units),
        left=_oz(max(sheet - in_kg, 0.0), units),
        unit=unit_label(Quantity.SMALL_MASS, units),
        share=round(min(in_kg / sheet, 1.2), 4) if sheet > 0 else 0.0,
        in_text=_text(in_kg, units),
        left_text=_text(max(sheet - in_kg, 0.0), units),
        subcooling=_degrees(read, units),
        target=_degrees(target, units),
        slot=round(
            from_si(
                way_for(_device(snapshot), "subcooling", False).near_k,
                Quantity.TEMPERATURE_DIFFERENCE,
                units,
            ),
            1,
        ),
        degrees=unit_label(Quantity.TEMPERATURE_DIFFERENCE, units),
    )


def _device(snapshot: Snapshot) -> MeteringDevice:
    return snapshot.plate.metering_device


def _oz(kg: float, units: UnitSystem) -> float:
    return round(from_si(kg * 1000, Quantity.SMALL_MASS, units), 1)


def _degrees(kelvin: float | None, units: UnitSystem) -> float | None:
    if kelvin is None:
        return None
    return round(from_si(kelvin, Quantity.TEMPERATURE_DIFFERENCE, units), 1)


def _text(kg: float, units: UnitSystem) -> str:
    return say("{kg}", kg=Measure(kg, Quantity.CHARGE)).text(units)
