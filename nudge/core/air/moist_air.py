"""Moist air at local pressure, and the heat a coil takes from it.

PsychroLib keeps its unit system in a process-wide switch; it is set to SI once, here, and
nothing else in Nudge imports PsychroLib, so no request can see another's units.
"""

from dataclasses import dataclass
from math import isfinite

import psychrolib

from nudge.core.errors import CoreError
from nudge.core.units import atmospheric_kpa

psychrolib.SetUnitSystem(psychrolib.SI)


@dataclass(frozen=True, slots=True)
class MoistAir:
    """Air by dry bulb [°C], humidity ratio [kg/kg dry air] and pressure [Pa]."""

    dry_bulb_c: float
    humidity_ratio: float
    pressure_pa: float

    @property
    def enthalpy_j_per_kg(self) -> float:
        """Per kilogram of dry air. Source: ASHRAE Fundamentals 2017, chapter 1, equation 30."""
        return float(psychrolib.GetMoistAirEnthalpy(self.dry_bulb_c, self.humidity_ratio))

    @property
    def volume_m3_per_kg(self) -> float:
        """Per kilogram of dry air. Source: ASHRAE Fundamentals 2017, chapter 1, equation 26."""
        return float(
            psychrolib.GetMoistAirVolume(self.dry_bulb_c, self.humidity_ratio, self.pressure_pa)
        )


def moist_air(
    dry_bulb_c: float,
    elevation_m: float,
    wet_bulb_c: float | None = None,
    relative_humidity: float | None = None,
) -> MoistAir:
    """Air from dry bulb and wet bulb [°C], or relative humidity [%] where no wet bulb is known.

    Raises: CoreError, when the wet bulb is over the dry bulb or neither is given.
    Source: ASHRAE Fundamentals 2017, chapter 1, through PsychroLib.
    """
    pressure_pa = atmospheric_kpa(elevation_m) * 1000
    if wet_bulb_c is not None:
        if not isfinite(wet_bulb_c) or wet_bulb_c > dry_bulb_c:
            raise CoreError(
                "return_air_wet_bulb",
                f"Wet bulb {wet_bulb_c:.1f} °C is over dry bulb {dry_bulb_c:.1f} °C, "
                "which air cannot be. Check which probe is which.",
            )
        ratio = psychrolib.GetHumRatioFromTWetBulb(dry_bulb_c, wet_bulb_c, pressure_pa)
    elif relative_humidity is not None:
        ratio = psychrolib.GetHumRatioFromRelHum(dry_bulb_c, relative_humidity / 100, pressure_pa)
    else:
        raise CoreError("return_air_wet_bulb", "Give a wet bulb or a relative humidity.")
    return MoistAir(dry_bulb_c, float(ratio), pressure_pa)


def total_capacity(entering: MoistAir, leaving: MoistAir, supply_lps: float) -> float:
    """Total heat taken from an airstream [W]; `supply_lps` is actual flow leaving the coil.

    Source: ASHRAE Fundamentals 2017, chapter 1: q = m_dry (h1 - h2). At standard air this is
    the field's 4.5 x CFM x Δh.
    """
    dry_kg_per_s = supply_lps / 1000 / leaving.volume_m3_per_kg
    return dry_kg_per_s * (entering.enthalpy_j_per_kg - leaving.enthalpy_j_per_kg)
