"""How fast each quantity of the plant follows a change."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType


@dataclass(frozen=True, slots=True)
class Lag:
    """How one point follows: its quick share and both time constants [s]."""

    quick_share: float
    quick_s: float
    slow_s: float


LAGS: Mapping[str, Lag] = MappingProxyType(
    {
        "suction_pressure": Lag(0.85, 6, 90),
        "liquid_pressure": Lag(0.75, 9, 140),
        "discharge_pressure": Lag(0.75, 9, 140),
        "suction_line_temp": Lag(0.65, 15, 100),
        "true_suction_temp": Lag(0.65, 15, 100),
        "evaporator_outlet_temp": Lag(0.7, 12, 80),
        "metering_outlet_temp": Lag(0.85, 8, 90),
        "liquid_line_temp": Lag(0.35, 30, 150),
        "drier_inlet_temp": Lag(0.35, 32, 150),
        "drier_outlet_temp": Lag(0.35, 36, 155),
        "liquid_line_temp_indoor": Lag(0.3, 45, 170),
        "discharge_line_temp": Lag(0.25, 40, 280),
        "supply_air_temp": Lag(0.6, 20, 110),
        "supply_air_wet_bulb": Lag(0.6, 20, 110),
        "supply_air_rh": Lag(0.6, 20, 110),
        "condenser_leaving_air_temp": Lag(0.7, 15, 140),
        "compressor_amps": Lag(0.9, 2, 140),
        "outdoor_unit_watts": Lag(0.9, 2, 140),
    }
)


PROMPT = Lag(1.0, 3, 3)


STANDING = Lag(0.6, 45, 420)
"""Stopped: pressures equalise through the device, then everything drifts to its air."""

TURNED = Lag(0.7, 10, 45)
"""In a defrost: much refrigerant through small pipes, and metal that follows it."""
AT_ONCE = ("condenser_fan_amps", "outdoor_air_temp", "return_air_temp")
"""What does not wait for metal then."""
