"""The look without gauges: asked and answered."""

from dataclasses import dataclass

from nudge.contract.opened import OpenedOut, opened
from nudge.contract.request import AssessIn
from nudge.contract.strict import Number, Strict
from nudge.core.behaviours.case import open_case
from nudge.core.gaugeless.decide import Decision, Gaugeless, look
from nudge.core.gaugeless.estimate import OwnHistory
from nudge.core.language.units import Quantity, UnitSystem, to_si
from nudge.core.targets.choose import choose_targets


class OwnHistoryIn(Strict):
    """What the system showed when it was right, as differences in the request's units."""

    evaporator_difference: Number | None = None
    condensing_over_ambient: Number | None = None
    approach: Number | None = None

    def to_core(self, units: UnitSystem) -> OwnHistory:
        def kelvin(value: float | None) -> float | None:
            return None if value is None else to_si(value, Quantity.TEMPERATURE_DIFFERENCE, units)

        return OwnHistory(
            kelvin(self.evaporator_difference),
            kelvin(self.condensing_over_ambient),
            kelvin(self.approach),
        )


class LookIn(AssessIn):
    """`POST /api/look`: as `assess`, with what is known of the system's own past."""

    history: OwnHistoryIn = OwnHistoryIn()


@dataclass(frozen=True, slots=True)
class LookOut:
    """Leave the caps on, or connect. Every number is an estimate and opens to how it was got."""

    units: UnitSystem
    decision: Decision
    headline: str
    reasons: list[str]
    missing: list[str]
    evaporator: list[OpenedOut]
    condenser: list[OpenedOut]
    superheat: OpenedOut | None
    subcooling: OpenedOut | None
    suction: OpenedOut | None
    """What a gauge should show, low side and high side."""
    liquid: OpenedOut | None


def look_request(request: LookIn) -> LookOut:
    """Look at a request. Raises: CoreError, for anything the caller can put right."""
    plate = request.system.to_plate(request.units)
    case = open_case(plate, request.to_readings(), request.context.to_context(request.units))
    targets = choose_targets(case, request.method)
    return look_answer(look(case, targets, request.history.to_core(request.units)), request.units)


def look_answer(found: Gaugeless, units: UnitSystem) -> LookOut:
    """A look as JSON in `units`."""
    estimates = found.estimates
    return LookOut(
        units=units,
        decision=found.decision,
        headline=found.headline,
        reasons=[said.text(units) for said in found.reasons],
        missing=list(found.missing),
        evaporator=[opened(way, units) for way in estimates.evaporator],
        condenser=[opened(way, units) for way in estimates.condenser],
        superheat=opened(estimates.superheat, units) if estimates.superheat else None,
        subcooling=opened(estimates.subcooling, units) if estimates.subcooling else None,
        suction=opened(estimates.suction, units) if estimates.suction else None,
        liquid=opened(estimates.liquid, units) if estimates.liquid else None,
    )
