"""What the house loses, and the outdoor temperature below which the heat pump alone falls short."""

from nudge.core.language.errors import OutOfRange
from nudge.core.language.units import Quantity, fahrenheit
from nudge.core.physics.heating.expected import (
    COLDEST_C,
    WARMEST_C,
    HeatingPlate,
    expected_heat,
)

STEP_K = 0.05


def loss_per_kelvin(heat_w: float, indoor_c: float, outdoor_c: float) -> float:
    """What a house loses for each kelvin [W/K], where its plant just holds it with this heat.

    Raises: OutOfRange, where it is hardly colder outside than in.
    """
    apart = indoor_c - outdoor_c
    if apart < 2.0:
        raise OutOfRange("indoors over outdoors", apart, 2.0, 80.0, Quantity.TEMPERATURE_DIFFERENCE)
    return heat_w / apart


def loss_from_duty(
    plate: HeatingPlate, outdoor_c: float, indoor_c: float, run_share: float, strips_w: float = 0.0
) -> float:
    """The same from how much of an hour it ran (0 to 1), with the strips' mean heat [W]."""
    heat = expected_heat(plate, outdoor_c).value * run_share + strips_w
    return loss_per_kelvin(heat, indoor_c, outdoor_c)


def balance_point(plate: HeatingPlate, loss_w_k: float, indoor_c: float) -> float | None:
    """Outdoor temperature [°C] at which heat and loss are equal; None where they nowhere are.

    Below it the strips help; above it they only cost.
    """
    outdoor = COLDEST_C
    before = _over(plate, loss_w_k, indoor_c, outdoor)
    while outdoor + STEP_K <= min(WARMEST_C, indoor_c):
        outdoor += STEP_K
        now = _over(plate, loss_w_k, indoor_c, outdoor)
        if before < 0 <= now:
            return outdoor - STEP_K * now / (now - before)
        before = now
    return None


def _over(plate: HeatingPlate, loss_w_k: float, indoor_c: float, outdoor_c: float) -> float:
    return expected_heat(plate, outdoor_c).value - loss_w_k * (indoor_c - outdoor_c)


STRIPS_OFF_OVER_C, COMPRESSOR_OFF_UNDER_C = fahrenheit(40), fahrenheit(20)
"""Usual lockouts; by region and the machine's rated minimum, a cold-climate pump has none."""
