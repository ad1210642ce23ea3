"""The condenser by zones: desuperheating, condensing, subcooling, each by effectiveness-NTU.

The zones share the face; each takes the air that passes its share. Air in cross flow meets a
refrigerant that condenses at one temperature (mean of its glide) or cools along its path.
"""

from math import exp, log
from typing import NamedTuple

from nudge.plant.fluid import Fluid, Saturated
from nudge.plant.inventory import two_phase_rho
from nudge.plant.machine import Coil

LEAST_DIFFERENCE_K = 0.05
BLOCKED_QUALITY = 0.9


class Condensed(NamedTuple):
    """What leaves the condenser, and what is in it."""

    enthalpy: float
    heat: float
    mass: float
    air_out_c: float
    zones: tuple[float, float, float]
    """Shares of the face that desuperheat, condense and subcool."""


def conductance(coil: Coil, refrigerant_ua: float, air_kg_s: float) -> float:
    """Overall conductance [kW/K] of the whole face, at this much air."""
    return float(1 / (1 / air_conductance(coil, air_kg_s) + 1 / refrigerant_ua))


def air_conductance(coil: Coil, air_kg_s: float) -> float:
    """The air side's own conductance [kW/K], at this much air."""
    share = (air_kg_s / coil.rated_air_kg_s) ** coil.air_exponent
    return float(coil.ua_air * coil.conductance * share)


def two_phase_ua(coil: Coil, flow: float) -> float:
    """The boiling or condensing side's conductance [kW/K], at this flow."""
    if not coil.flow_exponent or flow <= 0:
        return coil.ua_two_phase
    return float(coil.ua_two_phase * (flow / coil.rated_flow) ** coil.flow_exponent)


def condense(
    coil: Coil,
    fluid: Fluid,
    kpa: float,
    saturated: Saturated,
    flow: float,
    enthalpy: float,
    air_c: float,
    air_kg_s: float,
    air_cp: float,
) -> Condensed:
    """Condense `flow` [kg/s] of gas at `enthalpy` into air; `kpa` is the refrigerant's own part.

    Source: effectiveness-NTU method, ASHRAE Fundamentals, heat transfer; moving boundaries.
    """
    if not coil.uneven:
        return _circuit(coil, fluid, kpa, saturated, flow, enthalpy, air_c, air_kg_s, air_cp)
    more, less = (
        _circuit(
            coil,
            fluid,
            kpa,
            saturated,
            flow * (1 + side * coil.uneven),
            enthalpy,
            air_c,
            air_kg_s,
            air_cp,
        )
        for side in (1, -1)
    )
    share = (1 + coil.uneven) / 2
    left_h = share * more.enthalpy + (1 - share) * less.enthalpy
    return Condensed(
        left_h,
        flow * (enthalpy - left_h),
        (more.mass + less.mass) / 2,
        air_c + flow * (enthalpy - left_h) / (air_kg_s * air_cp),
        tuple((a + b) / 2 for a, b in zip(more.zones, less.zones, strict=True)),  # type: ignore[arg-type]
    )


def _circuit(
    coil: Coil,
    fluid: Fluid,
    kpa: float,
    saturated: Saturated,
    flow: float,
    enthalpy: float,
    air_c: float,
    air_kg_s: float,
    air_cp: float,
) -> Condensed:
    """The whole face as one path."""
    air = air_kg_s * air_cp
    taken = [
        air * (1 - exp(-conductance(coil, ua, air_kg_s) / air))
        for ua in (coil.ua_vapour, two_phase_ua(coil, flow), coil.ua_liquid)
    ]
    open_face = coil.open_face * (1 - coil.flooded)
    hot, mass, desuperheat = enthalpy, 0.0, 0.0
    if enthalpy > saturated.vapour_h:
        gas = fluid.vapour_by_enthalpy(kpa, enthalpy, saturated)
        cp = (enthalpy - saturated.vapour_h) / max(gas.temp_c - saturated.dew_c, 1e-6)
        over_in = max(gas.temp_c - air_c, LEAST_DIFFERENCE_K)
        over_dew = max(saturated.dew_c - air_c, LEAST_DIFFERENCE_K)
        needed = flow * cp / taken[0] * log(max(over_in / over_dew, 1.0))
        desuperheat = min(needed, open_face)
        mass += desuperheat * (gas.rho + saturated.vapour_rho) / 2
        if needed > open_face:
            left = air_c + over_in * exp(-open_face * taken[0] / (flow * cp))
            hot = saturated.vapour_h + cp * (left - saturated.dew_c)
        else:
            hot = saturated.vapour_h
    latent = hot - saturated.liquid_h
    flux = taken[1] * max(saturated.middle_c - air_c, LEAST_DIFFERENCE_K)
    needed = flow * latent / flux
    condensing = min(needed, open_face - desuperheat)
    quality_in = min(saturated.quality(hot), 1.0)
    quality_out = quality_in * (1 - condensing / needed) if needed > 0 else quality_in
    mass += condensing * two_phase_rho(saturated, quality_in, quality_out, coil.slip_exponent)
    left_h = saturated.liquid_h + (latent * (1 - condensing / needed) if needed > 0 else 0.0)
    subcooling = max(open_face - desuperheat - condensing, 0.0)
    if subcooling > 0:
        over = max(saturated.bubble_c - air_c, LEAST_DIFFERENCE_K)
        fall = over * (1 - exp(-subcooling * taken[2] / (flow * saturated.liquid_cp)))
        left_h -= fall * saturated.liquid_cp
        mass += subcooling * saturated.liquid_rho
    blocked = 1 - coil.open_face
    mass += coil.open_face * coil.flooded * saturated.liquid_rho
    # Covered circuits see little pressure to drain them: they hold much of their liquid.
    mass += blocked * two_phase_rho(saturated, 0.0, BLOCKED_QUALITY, coil.slip_exponent)
    passed = saturated.liquid_h + 0.6 * saturated.latent
    left_h += coil.bypass * (passed - left_h)
    heat = flow * (enthalpy - left_h)
    return Condensed(
        left_h,
        heat,
        mass * coil.volume_m3,
        air_c + heat / air,
        (desuperheat, condensing, subcooling),
    )
