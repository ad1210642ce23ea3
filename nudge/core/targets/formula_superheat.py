"""Superheat by formula: the school of the fixed orifice."""

from nudge.core.behaviours.case import Case
from nudge.core.language.said import say
from nudge.core.language.units import Quantity, degrees_f, fahrenheit, from_si
from nudge.core.physics.circuit.equipment import MeteringDevice
from nudge.core.targets.at_device import SUCTION_GAIN_K
from nudge.core.targets.school import School, Target, window

KEY = "formula_superheat"
TOLERANCE_K = degrees_f(5)
LEAST_TARGET_K = degrees_f(5)
WET_BULB_RANGE_C = (fahrenheit(50), fahrenheit(76))
OUTDOOR_RANGE_C = (fahrenheit(55), fahrenheit(115))


def formula_superheat(return_wet_bulb_c: float, outdoor_c: float) -> float:
    """Target superheat of a fixed orifice [K] from return wet bulb and outdoor dry bulb [°C].

    (3 x wet bulb − 80 − outdoor) / 2, all in °F. Stated for wet bulb 50 to 76 °F and outdoor
    55 to 115 °F; outside that, and below 5 °F, the gates refuse to judge by it.
    Source: trade rule, a straight-line fit to the makers' charging charts.
    """
    wet_f = from_si(return_wet_bulb_c, Quantity.TEMPERATURE, "ip")
    outdoor_f = from_si(outdoor_c, Quantity.TEMPERATURE, "ip")
    return degrees_f((3 * wet_f - 80 - outdoor_f) / 2)


def _target(case: Case) -> Target | None:
    wet_bulb = case.readings.get("return_air_wet_bulb")
    outdoor = case.readings.get("outdoor_air_temp")
    if case.plate.metering_device is not MeteringDevice.FIXED_ORIFICE:
        return None
    if wet_bulb is None or outdoor is None:
        return None
    wet_f, outdoor_f = (from_si(c, Quantity.TEMPERATURE, "ip") for c in (wet_bulb, outdoor))
    today = say(f"(3 × {wet_f:.1f} − 80 − {outdoor_f:.1f}) / 2 in °F = {{target}}")
    value = formula_superheat(wet_bulb, outdoor)
    if case.derived.superheat_at_coil:
        return window(value - SUCTION_GAIN_K, TOLERANCE_K, KEY, "formula, read at the coil", today)
    return window(value, TOLERANCE_K, KEY, "formula", today)


SCHOOL = School(
    KEY,
    "Formula superheat",
    "superheat",
    decides_charge=True,
    reason="A fixed orifice feeds more with load, so its right superheat moves with return wet "
    "bulb and outdoor air: (3 × wet bulb − 80 − outdoor) / 2 in °F, ±{d5}.",
    target=_target,
    formula="(3 × return wet bulb − 80 − outdoor air) / 2, in °F",
    uses=("return_air_wet_bulb", "outdoor_air_temp"),
    reference="Trade rule, a straight-line fit to makers' charging charts; wet bulb {t50} to "
    "{t76}, outdoors {t55} to {t115}.",
)
