"""Water in a vacuum: at which temperature it boils, and what pressure it can hold."""

from math import exp, log

TRIPLE_PA = 611.2
"""Under this water boils only as ice. 4,600 micron."""
_LIQUID, _ICE = (17.62, 243.12), (22.46, 272.62)


def water_pressure(celsius: float) -> float:
    """Vapour pressure of water [Pa abs] at a temperature [°C]: over ice under 0 °C.

    Within 0.5 % from −60 to 60 °C. Source: WMO No. 8, 2008, annex 4.B (Magnus form).
    """
    a, b = _ICE if celsius < 0 else _LIQUID
    return TRIPLE_PA * exp(a * celsius / (b + celsius))


def boils_at(pa_abs: float) -> float:
    """Temperature [°C] at which water boils at an absolute pressure [Pa]; −90 near nothing.

    Source: `water_pressure`, turned round.
    """
    if pa_abs <= 0.02:
        return -90.0
    a, b = _ICE if pa_abs < TRIPLE_PA else _LIQUID
    x = log(pa_abs / TRIPLE_PA)
    return b * x / (a - x)
