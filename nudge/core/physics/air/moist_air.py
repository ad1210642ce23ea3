"""Moist air at local pressure.

PsychroLib keeps its unit system in a process-wide switch; it is set to SI once, here, and
nothing else in Nudge imports PsychroLib, so no request can see another's units.
"""

from dataclasses import dataclass
from functools import lru_cache
from math import isfinite

import psychrolib

from nudge.core.language.errors import CoreError, Impossible, OutOfRange
from nudge.core.language.said import say, temperature
from nudge.core.language.units import Quantity, atmospheric_kpa, degrees_f, to_si

psychrolib.SetUnitSystem(psychrolib.SI)

DRY_BULB_F = (-80.0, 250.0)
DRIEST = 1e-6
PROBE_ERROR_K = degrees_f(1)
"""A wet bulb this little over its dry bulb is probe error in saturated air."""


@dataclass(frozen=True, slots=True)
class MoistAir:
    """Air by dry bulb [°C], humidity ratio [kg/kg dry air] and pressure [Pa].

    Source of every property: ASHRAE Fundamentals 2017, chapter 1, through PsychroLib.
    """

    dry_bulb_c: float
    humidity_ratio: float
    pressure_pa: float

    @property
    def enthalpy_j_per_kg(self) -> float:
        """Per kilogram of dry air (equation 30)."""
        return float(psychrolib.GetMoistAirEnthalpy(self.dry_bulb_c, self.humidity_ratio))

    @property
    def volume_m3_per_kg(self) -> float:
        """Per kilogram of dry air (equation 26)."""
        return float(
            psychrolib.GetMoistAirVolume(self.dry_bulb_c, self.humidity_ratio, self.pressure_pa)
        )

    @property
    def density_kg_per_m3(self) -> float:
        """Of the mixture, water and all (equation 27)."""
        return (1 + self.humidity_ratio) / self.volume_m3_per_kg

    @property
    def wet_bulb_c(self) -> float:
        """Thermodynamic wet bulb (equation 33)."""
        return float(
            psychrolib.GetTWetBulbFromHumRatio(
                self.dry_bulb_c, self.humidity_ratio, self.pressure_pa
            )
        )

    @property
    def dew_point_c(self) -> float:
        """Where its water begins to condense (equation 37)."""
        return float(
            psychrolib.GetTDewPointFromHumRatio(
                self.dry_bulb_c, self.humidity_ratio, self.pressure_pa
            )
        )

    @property
    def relative_humidity(self) -> float:
        """In percent (equation 12)."""
        share = psychrolib.GetRelHumFromHumRatio(
            self.dry_bulb_c, self.humidity_ratio, self.pressure_pa
        )
        return float(share) * 100


def moist_air(
    dry_bulb_c: float,
    elevation_m: float,
    wet_bulb_c: float | None = None,
    relative_humidity: float | None = None,
) -> MoistAir:
    """Air at a site elevation [m], from dry bulb and wet bulb [°C] or relative humidity [%].

    The wet bulb is taken where both are given. Raises: OutOfRange, for a dry bulb or humidity
    off the formulas; Impossible, when the wet bulb is over the dry bulb by more than probe
    error or under what bone-dry air has; CoreError, when neither is given.
    """
    return air_at(dry_bulb_c, atmospheric_kpa(elevation_m) * 1000, wet_bulb_c, relative_humidity)


@lru_cache(maxsize=1024)  # one visit asks for the same few airs again and again
def air_at(
    dry_bulb_c: float,
    pressure_pa: float,
    wet_bulb_c: float | None = None,
    relative_humidity: float | None = None,
) -> MoistAir:
    """`moist_air` at a pressure [Pa]."""
    low, high = (to_si(f, Quantity.TEMPERATURE, "ip") for f in DRY_BULB_F)
    if not low <= dry_bulb_c <= high:
        raise OutOfRange("dry bulb", dry_bulb_c, low, high, Quantity.TEMPERATURE)
    if wet_bulb_c is not None:
        if not isfinite(wet_bulb_c) or wet_bulb_c > dry_bulb_c + PROBE_ERROR_K:
            raise Impossible(
                "wet_bulb",
                say(
                    "Wet bulb {wet} is over dry bulb {dry}, which air cannot be. Check which "
                    "probe is which, and wet the wick.",
                    wet=temperature(wet_bulb_c),
                    dry=temperature(dry_bulb_c),
                ),
            )
        wet = min(wet_bulb_c, dry_bulb_c)
        ratio = psychrolib.GetHumRatioFromTWetBulb(dry_bulb_c, wet, pressure_pa)
        if ratio < DRIEST:
            raise Impossible(
                "wet_bulb",
                say(
                    "Wet bulb {wet} is lower than bone-dry air at {dry} has. Wet the wick, and "
                    "check both probes.",
                    wet=temperature(wet_bulb_c),
                    dry=temperature(dry_bulb_c),
                ),
            )
    elif relative_humidity is not None:
        if not 0 <= relative_humidity <= 100:
            raise OutOfRange("humidity", relative_humidity, 0, 100, Quantity.HUMIDITY)
        ratio = psychrolib.GetHumRatioFromRelHum(dry_bulb_c, relative_humidity / 100, pressure_pa)
    else:
        raise CoreError("wet_bulb", "Give a wet bulb or a relative humidity.")
    return MoistAir(dry_bulb_c, float(ratio), pressure_pa)


def saturated_air(temp_c: float, pressure_pa: float) -> MoistAir:
    """Air that holds all the water it can, at a temperature [°C] and pressure [Pa]."""
    return MoistAir(temp_c, float(psychrolib.GetSatHumRatio(temp_c, pressure_pa)), pressure_pa)
