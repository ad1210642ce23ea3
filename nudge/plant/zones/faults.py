"""What goes wrong with a multi-zone plant, each once, with what it takes hold of."""

from dataclasses import dataclass
from typing import Literal


@dataclass(frozen=True, slots=True)
class ZoneFault:
    """A fault; `of` a room's own part, or the plant's. `low` and `high`: how bad it is met."""

    key: str
    of: Literal["room", "plant"]
    low: float
    high: float
    serves: tuple[str, ...] = ("cooling", "heating", "mixed")


_ROWS = (
    ZoneFault("low_charge", "plant", 0.22, 0.40),
    ZoneFault("overcharge", "plant", 0.30, 0.55),
    ZoneFault("hot_gas_bypass", "plant", 0.10, 0.25),
    ZoneFault("accumulator_full", "plant", 0.88, 1.0),
    ZoneFault("reversing_valve_stuck", "plant", 1.0, 1.0, ("cooling", "heating")),
    ZoneFault("reversing_valve_leaking", "plant", 0.10, 0.25),
    ZoneFault("compressor_not_pumping", "plant", 0.40, 0.60),
    ZoneFault("outdoor_coil", "plant", 0.45, 0.70),
    ZoneFault("oil_return", "plant", 0.6, 1.0),
    ZoneFault("capacity_short", "plant", 0.35, 0.6, ("cooling", "heating")),
    ZoneFault("changeover_confusion", "plant", 1.0, 1.0, ("mixed",)),
    ZoneFault("valve_leaking", "room", 0.10, 0.25, ("cooling",)),
    ZoneFault("valve_stuck_open", "room", 0.60, 0.95),
    ZoneFault("valve_stuck_shut", "room", 0.0, 0.015),
    ZoneFault("valve_lost_steps", "room", 0.30, 0.55),
    ZoneFault("indoor_coil_dirty", "room", 0.45, 0.70),
    ZoneFault("strainer_clogged", "room", 0.70, 0.88),
    ZoneFault("wrong_port", "room", 1.0, 1.0),
    ZoneFault("coil_sensor_off", "room", 4.0, 7.0),
    ZoneFault("room_thermostat", "room", 2.5, 4.5),
)
ZONE_FAULTS: dict[str, ZoneFault] = {row.key: row for row in _ROWS}


@dataclass(frozen=True, slots=True)
class Wrong:
    """A fault present: how badly, and in which unit (by number; −1 of the plant)."""

    key: str
    amount: float
    unit: int = -1
