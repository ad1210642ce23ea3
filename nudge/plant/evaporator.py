"""The evaporator by zones: boiling under a wet or dry surface, then superheating.

A wet surface is driven by the air's enthalpy, a dry one by its temperature; the surface is
whichever takes more. Water leaves the air only through a wet one.
"""

from math import exp
from typing import NamedTuple

from nudge.plant.condenser import (
    LEAST_DIFFERENCE_K,
    air_conductance,
    conductance,
    two_phase_ua,
)
from nudge.plant.fluid import Fluid, Saturated
from nudge.plant.inventory import two_phase_rho
from nudge.plant.machine import Coil
from nudge.plant.wet_air import WetAir, saturated_enthalpy, surface_of

SLOPE_SPAN_K = 8.0


class Evaporated(NamedTuple):
    """What leaves the evaporator, what is in it and what it did to the air."""

    enthalpy: float
    heat: float
    sensible: float
    mass: float
    air_out: WetAir
    boiling: float
    """Share of the face that boils; the rest superheats."""
    surface_c: float


def _flux(
    coil: Coil, boiling_ua: float, boil_c: float, air: WetAir, air_kg_s: float
) -> tuple[float, float, float]:
    """What the whole face would take while it boils [kW], its sensible part, and how cold it is."""
    capacity = air_kg_s * air.cp
    over = max(air.temp_c - boil_c, LEAST_DIFFERENCE_K)
    dry_ua = conductance(coil, boiling_ua, air_kg_s)
    dry = capacity * (1 - exp(-dry_ua / capacity)) * over
    outside = air_conductance(coil, air_kg_s)
    at_boiling = saturated_enthalpy(boil_c, air.kpa)
    slope = (saturated_enthalpy(boil_c + SLOPE_SPAN_K, air.kpa) - at_boiling) / SLOPE_SPAN_K
    transfer = 1 / (slope / boiling_ua + air.cp / outside)
    driven = max(air.enthalpy - at_boiling, 0.0)
    wet = air_kg_s * (1 - exp(-transfer / air_kg_s)) * driven
    flux = max(dry, wet)
    contact = 1 - exp(-outside / capacity)
    if wet > dry:
        surface_c = surface_of(air.enthalpy - wet / (air_kg_s * contact), air.kpa)
        sensible_flux = min(capacity * contact * (air.temp_c - surface_c), wet)
    else:
        surface_c = air.temp_c - dry / (capacity * contact)
        sensible_flux = dry
    return flux, sensible_flux, surface_c


def evaporate(
    coil: Coil,
    fluid: Fluid,
    kpa: float,
    saturated: Saturated,
    flow: float,
    enthalpy: float,
    air: WetAir,
    air_kg_s: float,
) -> Evaporated:
    """Boil `flow` [kg/s] of refrigerant at `enthalpy` against air (dry air [kg/s]).

    Source: wet-coil enthalpy potential, ASHRAE Systems and Equipment, air-cooling coils
    (Threlkeld); leaving air by the effective surface temperature.
    """
    quality_in = min(max(saturated.quality(enthalpy), 0.0), 1.0)
    fed_c = saturated.temp_at(quality_in)
    boil_c = (fed_c + saturated.dew_c) / 2
    flux, sensible_flux, surface_c = _flux(coil, two_phase_ua(coil, flow), boil_c, air, air_kg_s)
    capacity, face = air_kg_s * air.cp, coil.open_face
    needed = flow * max(saturated.vapour_h - enthalpy, 1e-6) / flux
    boiling = min(needed, face)
    heat, sensible = boiling * flux, boiling * sensible_flux
    left_h = enthalpy + heat / flow
    quality_out = min(saturated.quality(left_h), 1.0)
    mass = boiling * two_phase_rho(saturated, quality_in, quality_out, coil.slip_exponent)
    rest = face - boiling
    if rest > 0:
        vapour_ua = conductance(coil, coil.ua_vapour, air_kg_s)
        taken = capacity * (1 - exp(-vapour_ua / capacity))
        over_dew = max(air.temp_c - saturated.dew_c, 0.0)
        rise = over_dew * (1 - exp(-rest * taken / (flow * saturated.vapour_cp)))
        gas = fluid.vapour(kpa, saturated.dew_c + rise, saturated)
        superheat_heat = flow * (gas.enthalpy - saturated.vapour_h)
        left_h, heat, sensible = gas.enthalpy, heat + superheat_heat, sensible + superheat_heat
        mass += rest * (gas.rho + saturated.vapour_rho) / 2
    mass += (1 - face) * saturated.vapour_rho
    out_c = air.temp_c - sensible / capacity
    out_ratio = air.ratio - max(heat - sensible, 0.0) / (air_kg_s * 2480.0)
    return Evaporated(
        left_h,
        heat,
        sensible,
        mass * coil.volume_m3,
        WetAir(out_c, max(out_ratio, 1e-5), air.kpa),
        boiling,
        surface_c,
    )
