"""Readings that cannot be true together: a probe in the wrong place, or a wrong number.

A row a check. Any hit means the numbers are not judged until the probe is put right.
"""

from collections.abc import Callable
from dataclasses import dataclass

from nudge.core.behaviours.case import Case
from nudge.core.language.errors import Impossible
from nudge.core.language.said import Said, difference, say, temperature
from nudge.core.language.units import KPA_PER_PSI, degrees_f
from nudge.core.physics.air.moist_air import moist_air

LIQUID_UNDER_AMBIENT_K = degrees_f(2)
SATURATION_ERROR_K = degrees_f(2)
ABSURD_SUBCOOLING_K = degrees_f(25)
AIR_ERROR_K = degrees_f(1)
ALWAYS_POSSIBLE_K = 5.0
"""Bone-dry air has at least this wet-bulb depression, even in a freezer."""
NEARLY_EMPTY_SUPERHEAT_K, NEARLY_EMPTY_APPROACH_K = degrees_f(20), degrees_f(15)
EQUAL_PRESSURES_KPA = 15 * KPA_PER_PSI


@dataclass(frozen=True, slots=True)
class TrustCheck:
    """One impossibility. `finds` answers the sentence that names the probe, or None."""

    key: str
    points: tuple[str, ...]
    reason: str
    finds: Callable[[Case], Said | None]


def _clamps_exchanged(case: Case) -> Said | None:
    suction, liquid = (case.readings.get(p) for p in ("suction_line_temp", "liquid_line_temp"))
    low, high = case.derived.evaporator_saturation, case.derived.condenser_saturation
    if suction is None or liquid is None or low is None or high is None:
        return None
    absurd = high - liquid > ABSURD_SUBCOOLING_K
    right_when_swapped = liquid - low > -SATURATION_ERROR_K and high - suction > 0
    if suction > liquid + SATURATION_ERROR_K and absurd and right_when_swapped:
        return say(
            "The two line clamps look exchanged: suction line {s} is warmer than liquid line "
            "{ll}. Swap them and read again.",
            s=temperature(suction),
            ll=temperature(liquid),
        )
    return None


def _pressures_exchanged(case: Case) -> Said | None:
    drop = case.derived.valve_pressure_difference
    if drop is not None and drop < -EQUAL_PRESSURES_KPA:
        return say("Suction pressure is over liquid pressure. The hoses or numbers are exchanged.")
    return None


def _liquid_under_ambient(case: Case) -> Said | None:
    approach, roles = case.derived.approach, case.behaviour.roles
    air = roles.read(roles.warm_air, case.readings)
    if approach is None or air is None or approach >= -LIQUID_UNDER_AMBIENT_K:
        return None
    which, other = ("return air", "return") if roles.heats else ("outdoor air", "outdoor")
    return say(
        f"Liquid line {{ll}} is under {which} {{air}}: air cannot cool it that far. Clean and "
        f"insulate the liquid clamp, and shade the {other} probe.",
        ll=temperature(case.readings["liquid_line_temp"]),
        air=temperature(air),
    )


def passes_vapour(case: Case) -> bool:
    """Nearly empty or shut, a system passes vapour down the liquid line, near the air's warmth."""
    superheat = case.derived.superheat
    starved = case.lowest_c is not None or (
        superheat is not None and superheat > NEARLY_EMPTY_SUPERHEAT_K
    )
    return starved and (case.derived.approach or 0.0) <= NEARLY_EMPTY_APPROACH_K


def _liquid_over_saturation(case: Case) -> Said | None:
    subcooling = case.derived.subcooling
    if passes_vapour(case):
        return None
    if subcooling is not None and subcooling < -SATURATION_ERROR_K:
        return say(
            "Liquid line is {over} over its saturation: liquid cannot be. Check the liquid clamp, "
            "the liquid pressure and the refrigerant on the plate.",
            over=difference(-subcooling),
        )
    return None


def _suction_under_saturation(case: Case) -> Said | None:
    values = (case.derived.superheat, case.derived.evaporator_superheat)
    worst = min((v for v in values if v is not None), default=0.0)
    if worst < -SATURATION_ERROR_K:
        return say(
            "Suction line is {under} under its saturation: beyond clamp error. Check the clamp, "
            "the suction pressure and the refrigerant on the plate.",
            under=difference(-worst),
        )
    return None


def _suction_over_all_air(case: Case) -> Said | None:
    """Gas from a running coil is no warmer than the warmest air it has met."""
    suction = case.readings.get("suction_line_temp")
    airs = [case.readings.get(p) for p in ("outdoor_air_temp", "return_air_temp")]
    known = [air for air in airs if air is not None]
    if suction is None or len(known) < len(airs) or suction <= max(known) + SATURATION_ERROR_K:
        return None
    if not case.behaviour.suction_under_air:
        return None
    return say(
        "Suction line {s} is warmer than all the air it has met: the clamp is on another pipe, or "
        "touches something hot. Move it to the vapour line and read again.",
        s=temperature(suction),
    )


def _wet_bulb_too_low(case: Case) -> Said | None:
    for where in ("return", "supply"):
        dry = case.readings.get(f"{where}_air_temp")
        wet = case.readings.get(f"{where}_air_wet_bulb")
        if dry is not None and wet is not None and dry - wet > ALWAYS_POSSIBLE_K:
            try:
                moist_air(dry, case.plate.elevation_m, wet)
            except Impossible as too_low:
                return too_low.said
    return None


def _wet_bulb_over_dry(case: Case) -> Said | None:
    for where in ("return", "supply"):
        dry = case.readings.get(f"{where}_air_temp")
        wet = case.readings.get(f"{where}_air_wet_bulb")
        if dry is not None and wet is not None and wet > dry + AIR_ERROR_K:
            return say(
                f"{where.title()} wet bulb {{wet}} is over dry bulb {{dry}}, which air cannot be. "
                "Check which probe is which.",
                wet=temperature(wet),
                dry=temperature(dry),
            )
    return None


TRUST_CHECKS: tuple[TrustCheck, ...] = (
    TrustCheck(
        "pressures_exchanged",
        ("suction_pressure", "liquid_pressure"),
        "The low side is never over the high side by more than standing error (15 psi).",
        _pressures_exchanged,
    ),
    TrustCheck(
        "clamps_exchanged",
        ("suction_line_temp", "liquid_line_temp"),
        "A suction line warmer than the liquid line, with an absurd subcooling that turns "
        "ordinary when the two are swapped.",
        _clamps_exchanged,
    ),
    TrustCheck(
        "liquid_under_ambient",
        ("liquid_line_temp", "outdoor_air_temp"),
        "A condenser cannot cool liquid below its own air; 2 °F is clamp and air-probe error.",
        _liquid_under_ambient,
    ),
    TrustCheck(
        "liquid_over_saturation",
        ("liquid_line_temp", "liquid_pressure"),
        "Liquid above saturation is vapour; up to 2 °F is instrument error at zero subcooling. Not "
        "asked when superheat is over 20 °F: then the liquid line really may carry vapour.",
        _liquid_over_saturation,
    ),
    TrustCheck(
        "suction_under_saturation",
        ("suction_line_temp", "suction_pressure"),
        "A pipe is not colder than what boils in it; up to 2 °F is instrument error when wet.",
        _suction_under_saturation,
    ),
    TrustCheck(
        "suction_over_all_air",
        ("suction_line_temp",),
        "In cooling, suction gas is never warmer than both return and outdoor air; 2 °F is clamp "
        "and probe error.",
        _suction_over_all_air,
    ),
    TrustCheck(
        "wet_bulb_over_dry",
        ("return_air_wet_bulb", "return_air_temp"),
        "Evaporation only cools: wet bulb is at most dry bulb; 1 °F is probe error.",
        _wet_bulb_over_dry,
    ),
    TrustCheck(
        "wet_bulb_too_low",
        ("return_air_wet_bulb", "return_air_temp"),
        "Even bone-dry air has a wet bulb: one below it is a probe in the wrong place.",
        _wet_bulb_too_low,
    ),
)


PROBE_LIES = TrustCheck(
    "probe_lies",
    (),
    "A probe that the live cross-checks have caught; the sentence names it.",
    lambda case: case.context.lies[0] if case.context.lies else None,
)


def distrust(case: Case) -> list[tuple[TrustCheck, Said]]:
    """The checks that fail on these readings, each with the sentence that names the probe."""
    found = ((check, check.finds(case)) for check in TRUST_CHECKS)
    doubts = [(check, said) for check, said in found if said is not None]
    return [(PROBE_LIES, said) for said in case.context.lies] + doubts
