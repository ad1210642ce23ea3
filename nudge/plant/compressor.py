"""The compressor: swept volume, clearance, slip, and the work of an imperfect stroke."""

from typing import NamedTuple

from nudge.plant.fluid import Fluid, Saturated
from nudge.plant.machine import Compressor

POLYTROPIC = 1.12


class CompressorStroke(NamedTuple):
    """What comes out of it: [kg/s] into the line, enthalpies [kJ/kg], power [kW]."""

    flow: float
    suction_h: float
    discharge_h: float
    power: float
    suction_quality: float


def compress(
    compressor: Compressor,
    fluid: Fluid,
    low: tuple[float, Saturated],
    high: tuple[float, Saturated],
    suction_h: float,
    speed: float,
    recirculated: float = 0.0,
) -> CompressorStroke:
    """Compress from one pressure to another; `recirculated` leaks back across a reversing valve.

    Volumetric efficiency falls with the gas re-expanding out of the clearance; isentropic
    efficiency has its best at one pressure ratio. Source: ASHRAE Systems and Equipment,
    compressors; clearance-volume form of Stoecker and Jones.
    """
    (low_kpa, suction), (high_kpa, _) = low, high
    ratio = max(high_kpa / low_kpa, 1.0)
    swept = compressor.volumetric - compressor.clearance * (ratio ** (1 / POLYTROPIC) - 1)
    swept = max(swept, 0.05) * (1 - compressor.leak)
    efficiency = compressor.isentropic * _efficiency(compressor, ratio / compressor.best_ratio)
    again = 1 + compressor.leak_again * compressor.leak / (1 - compressor.leak)
    mixed_h, per_kg, warmed = suction_h, 0.0, 0.0
    for _ in range(2 if recirculated or compressor.suction_heat else 1):
        per_kg = _ideal_work(fluid, low, high, mixed_h + warmed) / efficiency * again
        mixed_h = suction_h + recirculated / (1 - recirculated) * per_kg
        warmed = compressor.suction_heat * per_kg
    rho, quality = _inlet(fluid, low_kpa, suction, mixed_h + warmed)
    flow = compressor.displacement_m3_s * speed * swept * rho
    return CompressorStroke(
        flow * (1 - recirculated),
        mixed_h,
        mixed_h + per_kg * (1 - compressor.shell_loss),
        flow * per_kg,
        quality,
    )


def _efficiency(compressor: Compressor, relative_ratio: float) -> float:
    """Share of the best efficiency kept, away from the best pressure ratio."""
    off = relative_ratio - 1
    return max(1 - (compressor.over_best if off > 0 else compressor.under_best) * off * off, 0.35)


def _inlet(fluid: Fluid, kpa: float, saturated: Saturated, enthalpy: float) -> tuple[float, float]:
    """Density and quality of what is drawn in; over 1 is superheated."""
    quality = saturated.quality(enthalpy)
    if quality >= 1:
        return fluid.vapour_by_enthalpy(kpa, enthalpy, saturated).rho, quality
    wet = max(quality, 0.05)
    return 1 / (wet / saturated.vapour_rho + (1 - wet) / saturated.liquid_rho), quality


def _ideal_work(
    fluid: Fluid, low: tuple[float, Saturated], high: tuple[float, Saturated], enthalpy: float
) -> float:
    """Isentropic rise of enthalpy [kJ/kg]; a wet start ends wet or dry as its entropy says."""
    (low_kpa, suction), (high_kpa, discharge) = low, high
    short = suction.vapour_h - enthalpy
    if short <= 0:
        entropy = fluid.vapour_by_enthalpy(low_kpa, enthalpy, suction).entropy
    else:
        entropy = suction.vapour_s - short / (suction.dew_c + 273.15)
    if entropy >= discharge.vapour_s:
        end = fluid.vapour_by_entropy(high_kpa, entropy, discharge).enthalpy
    else:
        end = discharge.vapour_h - (discharge.dew_c + 273.15) * (discharge.vapour_s - entropy)
    return max(end - enthalpy, 0.1)
