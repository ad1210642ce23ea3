"""Saturation at a gauge pressure, as the field reads it: bubble, dew, glide."""

from dataclasses import dataclass
from functools import lru_cache

from nudge.core.language.errors import OutOfRange
from nudge.core.language.units import Quantity, atmospheric_kpa
from nudge.core.physics.refrigerant.table import SaturationTable


@dataclass(frozen=True, slots=True)
class Saturation:
    """Both ends of boiling at one pressure [°C]. Equal for a pure fluid."""

    bubble_c: float
    valve_outlet_c: float | None
    dew_c: float

    @property
    def glide_k(self) -> float:
        return self.dew_c - self.bubble_c

    @property
    def evaporator_mean_c(self) -> float | None:
        """Mean coil temperature of an evaporator: fed at quality 0.2, leaves at dew.

        None above the pressures evaporators work at.
        """
        return None if self.valve_outlet_c is None else (self.valve_outlet_c + self.dew_c) / 2

    @property
    def condenser_mean_c(self) -> float:
        return (self.bubble_c + self.dew_c) / 2


def glide_at(table: SaturationTable, dew_c: float) -> float:
    """Dew over bubble at the pressure where dew is at a temperature [°C] [K]."""
    return dew_c - table.bubble.temperature(table.dew.pressure(dew_c))


@lru_cache(maxsize=512)
def saturation_at(table: SaturationTable, kpa_gauge: float, elevation_m: float = 0) -> Saturation:
    """Saturation temperatures at a gauge pressure [kPa] and site elevation [m].

    Within 0.03 K of the source over the table. Raises: OutOfRange, with gauge limits.
    """
    atmosphere = atmospheric_kpa(elevation_m)
    kpa_abs = kpa_gauge + atmosphere
    low, high = table.low_kpa, table.high_kpa
    if not low <= kpa_abs <= high:
        raise OutOfRange(
            f"{table.name} pressure",
            kpa_gauge,
            low - atmosphere,
            high - atmosphere,
            Quantity.PRESSURE,
        )
    feeds_a_coil = table.valve_outlet.low_kpa <= kpa_abs <= table.valve_outlet.high_kpa
    return Saturation(
        table.bubble.temperature(kpa_abs),
        table.valve_outlet.temperature(kpa_abs) if feeds_a_coil else None,
        table.dew.temperature(kpa_abs),
    )


def is_in_vacuum(table: SaturationTable, kpa_gauge: float, elevation_m: float = 0) -> bool:
    """Whether a gauge pressure [kPa] is below everything the table holds, and under the
    atmosphere: then it has no saturation, and is no error.
    """
    return kpa_gauge + atmospheric_kpa(elevation_m) < table.low_kpa


def pressures_at(
    table: SaturationTable, temp_c: float, elevation_m: float = 0
) -> tuple[float, float]:
    """Bubble and dew pressure at a temperature [°C], both gauge [kPa].

    Raises: OutOfRange, with the fluid's temperature limits.
    """
    low = max(table.bubble.low_c, table.dew.low_c)
    high = min(table.bubble.high_c, table.dew.high_c)
    if not low <= temp_c <= high:
        raise OutOfRange(f"{table.name} temperature", temp_c, low, high, Quantity.TEMPERATURE)
    atmosphere = atmospheric_kpa(elevation_m)
    return table.bubble.pressure(temp_c) - atmosphere, table.dew.pressure(temp_c) - atmosphere
