"""What a heat pump should deliver and draw at an outdoor temperature, through its plate's points.

Between 17 and 45 °F frost takes its share: the line dips to a point at 35 °F. Source: the rating
standard's way from 17 and 47 °F to 35 (0.90 of heat, 0.985 of power); trade for silent plates.
"""

from dataclasses import dataclass, replace

from nudge.core.language.errors import OutOfRange
from nudge.core.language.said import Measure
from nudge.core.language.units import W_PER_BTU_H, Quantity, fahrenheit
from nudge.core.language.working import Formula, Input, Working, with_own_error, work

COLD_C, FROST_C, CLEAR_C, MILD_C = (fahrenheit(f) for f in (17, 35, 45, 47))
FROSTED_HEAT, FROSTED_POWER = 0.90, 0.985
COLDEST_C, WARMEST_C = fahrenheit(-25), fahrenheit(75)
PLATE_ERROR = 0.05
"""How far an ordinary machine is from its plate's figures (±, share)."""
LINE_OFF = 0.05
"""How far a right machine's power is from its plate's line in an ordinary house, with another
return air and flow than it was rated at (±, share); trade. Heat has `PLATE_ERROR` and its flow."""
SIZE_OFF = 0.12
"""How far heat at the mild point is from the cooling size (±, share); trade."""
CLASS_SHARE, CLASS_SHARE_OFF = 0.60, 0.12
"""Heat at 17 °F of that at 47 °F where the plate gives one point; trade."""
MILD_OVER_COLD = 1.15
"""Power at 47 °F over that at 17 °F where the plate gives one point; trade."""
CLASS_COP, CLASS_COP_OFF = 2.5, 0.5
"""COP at 17 °F where nothing is known of power; trade."""

_FORMULA = "straight through the plate's points at {t17} and {t47}; by way of {t35} while it frosts"
HEAT = Formula(
    "expected_heat",
    "Heat expected",
    Quantity.CAPACITY,
    "What it should deliver at this outdoor temperature, defrosts counted in.",
    _FORMULA,
    "from {heat_17} and {heat_47}, at {outdoor}: {result}",
    ("heat_17", "heat_47", "outdoor"),
    "The plate's rating points; rating standard for the frosted stretch.",
)
POWER = Formula(
    "expected_power",
    "Power expected",
    Quantity.POWER,
    "What it should draw at this outdoor temperature, fans counted in.",
    _FORMULA,
    "from {power_17} and {power_47}, at {outdoor}: {result}",
    ("power_17", "power_47", "outdoor"),
    "The plate's rating points; rating standard for the frosted stretch.",
)


@dataclass(frozen=True, slots=True)
class HeatingPlate:
    """Heat and power at the two rating points [W]; None where the plate is silent."""

    heat_47_w: float
    heat_17_w: float | None = None
    power_47_w: float | None = None
    power_17_w: float | None = None
    mild_is_guessed: bool = False
    """The mild point is the machine's cooling size: near it in most (trade)."""

    @property
    def is_guessed(self) -> bool:
        """One of its points of heat is the class's, not the plate's."""
        return self.mild_is_guessed or self.heat_17_w is None


def expected_heat(plate: HeatingPlate, outdoor_c: float, frosted: float = 0.0) -> Working:
    """Heat it should deliver [W]; `frosted` is how far one moment is from the mean of its defrosts
    (±, share). Raises: OutOfRange, beyond what a rating reaches.
    """
    cold = plate.heat_17_w
    guessed = CLASS_SHARE * plate.heat_47_w
    inputs = {
        "heat_47": _guess("heat_47", "Heat, mild point, by its cooling size", plate.heat_47_w,
                          SIZE_OFF * plate.heat_47_w, Quantity.CAPACITY)
        if plate.mild_is_guessed
        else _point("heat_47", "Heat, mild point", plate.heat_47_w, Quantity.CAPACITY),
        "heat_17": _point("heat_17", "Heat, cold point", cold, Quantity.CAPACITY)
        if cold is not None
        else _guess("heat_17", "Heat, cold point, by its class", guessed, CLASS_SHARE_OFF
                    / CLASS_SHARE * guessed, Quantity.CAPACITY),
        "outdoor": _outdoor(outdoor_c),
    }  # fmt: skip
    found = work(
        HEAT, lambda v: _along(v["heat_17"], v["heat_47"], v["outdoor"], FROSTED_HEAT), inputs
    )
    return replace(found, uncertainty=with_own_error(found.uncertainty, frosted * abs(found.value)))


def expected_power(plate: HeatingPlate, outdoor_c: float) -> Working:
    """Power it should draw [W]. Raises: OutOfRange, beyond what a rating reaches."""
    heat_17 = CLASS_SHARE * plate.heat_47_w if plate.heat_17_w is None else plate.heat_17_w
    by_class, off = heat_17 / CLASS_COP, CLASS_COP_OFF / CLASS_COP
    cold, mild = plate.power_17_w, plate.power_47_w
    warmer = MILD_OVER_COLD * (cold or by_class)
    inputs = {
        "power_17": _point("power_17", "Power, cold point", cold, Quantity.POWER)
        if cold is not None
        else _guess("power_17", "Power, cold point, by its class", by_class, off * by_class,
                    Quantity.POWER),
        "power_47": _point("power_47", "Power, mild point", mild, Quantity.POWER)
        if mild is not None
        else _guess("power_47", "Power, mild point, by its class", warmer, off * warmer,
                    Quantity.POWER),
        "outdoor": _outdoor(outdoor_c),
    }  # fmt: skip
    found = work(
        POWER, lambda v: _along(v["power_17"], v["power_47"], v["outdoor"], FROSTED_POWER), inputs
    )
    return replace(found, uncertainty=with_own_error(found.uncertainty, LINE_OFF * found.value))


def clear_power(plate: HeatingPlate, outdoor_c: float) -> float:
    """Power with the coil clear of frost [W]: straight through the points that are expected."""
    cold, mild = (expected_power(plate, at).value for at in (COLD_C, MILD_C))
    return _along(cold, mild, outdoor_c, 1.0)


def clear_heat(plate: HeatingPlate, outdoor_c: float) -> float:
    """Heat with the coil clear of frost [W]: straight through the plate's points."""
    cold = CLASS_SHARE * plate.heat_47_w if plate.heat_17_w is None else plate.heat_17_w
    return _along(cold, plate.heat_47_w, outdoor_c, 1.0)


def _along(cold: float, mild: float, outdoor_c: float, frosted: float) -> float:
    straight = cold + (mild - cold) * (outdoor_c - COLD_C) / (MILD_C - COLD_C)
    if not COLD_C < outdoor_c < CLEAR_C:
        return straight
    at_35 = frosted * (cold + (mild - cold) * (FROST_C - COLD_C) / (MILD_C - COLD_C))
    return cold + (at_35 - cold) * (outdoor_c - COLD_C) / (FROST_C - COLD_C)


def _point(key: str, label: str, value: float, quantity: Quantity) -> Input:
    return Input(key, label, Measure(value, quantity), "plate", PLATE_ERROR * value)


def _guess(key: str, label: str, value: float, off: float, quantity: Quantity) -> Input:
    return Input(key, label, Measure(value, quantity), "assumed", off)


def _outdoor(outdoor_c: float) -> Input:
    if not COLDEST_C <= outdoor_c <= WARMEST_C:
        raise OutOfRange("outdoor air", outdoor_c, COLDEST_C, WARMEST_C, Quantity.TEMPERATURE)
    return Input("outdoor", "Outdoor air", Measure(outdoor_c, Quantity.TEMPERATURE), "typed", 0.6)


def cop(heat_w: float, power_w: float) -> float:
    """Heat for each watt drawn, both in watts. Raises: OutOfRange, for no power at all."""
    if power_w <= 0:
        raise OutOfRange("power", power_w, 1.0, 100_000.0, Quantity.POWER)
    return heat_w / power_w


def btu_h(watts: float) -> float:
    return watts / W_PER_BTU_H
