"""What can hurt the machine now, raised beside any verdict. One row a hazard."""

from collections.abc import Callable
from dataclasses import dataclass

from nudge.core.circuit.case import Case
from nudge.core.said import Said, degrees_f, difference, fahrenheit, say, temperature
from nudge.core.settling.breaches import is_standing
from nudge.core.vocabulary.equipment import Application

LIQUID_RETURN_K = degrees_f(3)
ICING_C = fahrenheit(32)
OVERHEATING_C = fahrenheit(225)


@dataclass(frozen=True, slots=True)
class Hazard:
    """A danger with its reason; `raised` answers the warning, or None."""

    key: str
    reason: str
    raised: Callable[[Case], Said | None]


def _liquid_return(case: Case) -> Said | None:
    values = (case.derived.superheat, case.derived.evaporator_superheat)
    least = min((v for v in values if v is not None), default=None)
    if least is None or least >= LIQUID_RETURN_K or is_standing(case):
        return None
    return say(
        "Superheat {sh} is under {limit}: liquid may be reaching the compressor. Add nothing.",
        sh=difference(least),
        limit=difference(LIQUID_RETURN_K),
    )


def _icing(case: Case) -> Said | None:
    saturation = case.derived.evaporator_saturation
    if saturation is None or saturation >= ICING_C or is_standing(case):
        return None
    if case.plate.application is not Application.COMFORT_COOLING:
        return None
    return say(
        "Evaporator saturation {sat} is under freezing: the coil will ice.",
        sat=temperature(saturation),
    )


def _overheating(case: Case) -> Said | None:
    line = case.readings.get("discharge_line_temp")
    if line is None or line <= OVERHEATING_C:
        return None
    return say(
        "Discharge line {line} is over {limit}: oil and valves are failing. Do not run it on.",
        line=temperature(line),
        limit=temperature(OVERHEATING_C),
    )


HAZARDS: tuple[Hazard, ...] = (
    Hazard(
        "liquid_return",
        "Total superheat under 3 °F leaves nothing between the coil and the compressor.",
        _liquid_return,
    ),
    Hazard(
        "icing",
        "In comfort cooling an evaporator under 32 °F freezes the water it takes from the air.",
        _icing,
    ),
    Hazard(
        "overheating",
        "Over 225 °F on the discharge line 6 in. from the compressor, oil breaks down.",
        _overheating,
    ),
)


def raise_hazards(case: Case) -> list[tuple[Hazard, Said]]:
    """The hazards these readings show."""
    found = ((hazard, hazard.raised(case)) for hazard in HAZARDS)
    return [(hazard, said) for hazard, said in found if said is not None]
