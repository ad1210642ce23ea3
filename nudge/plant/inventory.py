"""How much refrigerant is where: void fraction by Zivi, zone by zone."""

from math import log

from nudge.plant.fluid import Saturated


def two_phase_rho(
    saturated: Saturated, inlet_quality: float, outlet_quality: float, exponent: float = 2 / 3
) -> float:
    """Mean density [kg/m³] of a zone boiling or condensing evenly between two qualities.

    Void fraction 1 / (1 + (1 - x)/x (rho_v/rho_l)^exponent), integrated in closed form.
    Source: Zivi 1964, minimum entropy production, 2/3; 1 is homogeneous flow, at one speed.
    """
    low, high = sorted((min(max(inlet_quality, 0.0), 1.0), min(max(outlet_quality, 0.0), 1.0)))
    slip: float = (saturated.vapour_rho / saturated.liquid_rho) ** exponent
    if high - low < 1e-6:
        void = low / (slip + (1 - slip) * low)
    else:
        void = (_integral(high, slip) - _integral(low, slip)) / (high - low)
    return saturated.liquid_rho - void * (saturated.liquid_rho - saturated.vapour_rho)


def mixture_rho(saturated: Saturated, quality: float) -> float:
    """Density [kg/m³] of liquid with a little flash gas in it, both at one speed."""
    if quality <= 0:
        return saturated.liquid_rho
    x = min(quality, 1.0)
    return 1 / (x / saturated.vapour_rho + (1 - x) / saturated.liquid_rho)


def _integral(quality: float, slip: float) -> float:
    rest = 1 - slip
    return quality / rest - slip / (rest * rest) * log(slip + rest * quality)
