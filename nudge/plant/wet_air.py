"""Moist air in a handful of arithmetic, for a plant stepped many times a second.

Nudge's own numbers use PsychroLib; the plant has to be independent of them and quick.
Tested against ASHRAE's tables to 0.3 % (tests/plant/test_fluid_and_air.py).
"""

from math import exp
from typing import NamedTuple

CP_DRY, CP_STEAM, LATENT_0C = 1.006, 1.86, 2501.0
STANDARD_KPA = 101.325


class WetAir(NamedTuple):
    """Air: dry bulb [°C], humidity ratio [kg/kg], pressure [kPa]."""

    temp_c: float
    ratio: float
    kpa: float

    @property
    def enthalpy(self) -> float:
        """[kJ/kg dry air], from 0 °C."""
        return enthalpy(self.temp_c, self.ratio)

    @property
    def cp(self) -> float:
        return CP_DRY + CP_STEAM * self.ratio

    @property
    def volume(self) -> float:
        """[m³/kg dry air]."""
        return 0.287042 * (self.temp_c + 273.15) * (1 + 1.607858 * self.ratio) / self.kpa

    @property
    def relative_humidity(self) -> float:
        """[%], at most 100."""
        pressure = self.kpa * self.ratio / (0.621945 + self.ratio)
        return min(100 * pressure / vapour_kpa(self.temp_c), 100.0)

    @property
    def wet_bulb_c(self) -> float:
        """Thermodynamic wet bulb, by bisection on its own definition."""
        low, high = self.temp_c - 40, self.temp_c
        for _ in range(34):
            middle = (low + high) / 2
            wet = saturated_ratio(middle, self.kpa)
            latent = LATENT_0C - 2.326 * middle
            held = (latent * wet - CP_DRY * (self.temp_c - middle)) / (
                LATENT_0C + CP_STEAM * self.temp_c - 4.186 * middle
            )
            low, high = (middle, high) if held < self.ratio else (low, middle)
        return (low + high) / 2


def enthalpy(temp_c: float, ratio: float) -> float:
    return CP_DRY * temp_c + ratio * (LATENT_0C + CP_STEAM * temp_c)


def vapour_kpa(temp_c: float) -> float:
    """Saturation pressure of water [kPa] over water or ice (Buck 1996)."""
    if temp_c >= 0:
        return 0.61121 * exp((18.678 - temp_c / 234.5) * temp_c / (257.14 + temp_c))
    return 0.61115 * exp((23.036 - temp_c / 333.7) * temp_c / (279.82 + temp_c))


def saturated_ratio(temp_c: float, kpa: float) -> float:
    pressure = vapour_kpa(temp_c)
    return 0.621945 * pressure / (kpa - pressure)


def saturated_enthalpy(temp_c: float, kpa: float) -> float:
    return enthalpy(temp_c, saturated_ratio(temp_c, kpa))


def air_of(temp_c: float, relative_humidity: float, kpa: float = STANDARD_KPA) -> WetAir:
    """Air by dry bulb [°C] and relative humidity [%]."""
    pressure = vapour_kpa(temp_c) * relative_humidity / 100
    return WetAir(temp_c, 0.621945 * pressure / (kpa - pressure), kpa)


def surface_of(enthalpy_kj: float, kpa: float) -> float:
    """Temperature of saturated air with an enthalpy [kJ/kg] → [°C], by Newton steps."""
    temp_c = 12.0 + (enthalpy_kj - 34.0) / 3.2
    for _ in range(12):
        miss = saturated_enthalpy(temp_c, kpa) - enthalpy_kj
        slope = (saturated_enthalpy(temp_c + 0.05, kpa) - enthalpy_kj - miss) / 0.05
        step = miss / slope
        temp_c -= max(-15.0, min(15.0, step))
        if abs(step) < 1e-5:
            break
    return temp_c
