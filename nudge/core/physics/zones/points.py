"""What a multi-zone plant's log holds: one row a point, of the outdoor unit or of each indoor unit.

A reading's address is its part and its point. Values in core units; steps, hertz and codes as they
are.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from nudge.core.language.errors import UnknownName
from nudge.core.language.units import Quantity

Of = Literal["outdoor", "room"]
Address = tuple[str, str]
"""Part and point."""
OUTDOOR = "outdoor"
"""The part of the outdoor unit."""
MODES: Mapping[str, int] = MappingProxyType(
    {"off": 0, "cooling": 1, "heating": 2, "oil_return": 3, "defrost": 4}
)
"""A mode's code."""


@dataclass(frozen=True, slots=True)
class ZonePoint:
    """One point: its key, its label, whose it is, what it is measured in."""

    key: str
    label: str
    of: Of
    quantity: Quantity | None
    """None for hertz, steps and codes."""
    low: float
    high: float
    """What a working sensor shows [core unit]."""
    codes: bool = False
    """Words or codes instead of numbers."""
    is_seldom: bool = False
    """Many logs have none, and nothing is judged by it: not asked for."""


_T, _P = Quantity.TEMPERATURE, Quantity.PRESSURE
_ROWS = (
    ZonePoint("compressor_hz", "Compressor frequency", "outdoor", None, 0, 200),
    ZonePoint("evaporating_target", "Evaporating target", "outdoor", _T, -30, 30),
    ZonePoint("evaporating_temp", "Evaporating temperature", "outdoor", _T, -60, 50),
    ZonePoint("condensing_target", "Condensing target", "outdoor", _T, 10, 70),
    ZonePoint("condensing_temp", "Condensing temperature", "outdoor", _T, -20, 80),
    ZonePoint("low_pressure", "Low pressure", "outdoor", _P, -101, 3000),
    ZonePoint("high_pressure", "High pressure", "outdoor", _P, -101, 5000),
    ZonePoint("discharge_temp", "Discharge", "outdoor", _T, -30, 160),
    ZonePoint("shell_temp", "Compressor shell", "outdoor", _T, -30, 130),
    ZonePoint("accumulator_inlet_temp", "Accumulator inlet", "outdoor", _T, -40, 120),
    ZonePoint("accumulator_top_temp", "Accumulator, upper band", "outdoor", _T, -40, 120),
    ZonePoint("accumulator_middle_temp", "Accumulator, middle band", "outdoor", _T, -40, 120),
    ZonePoint("accumulator_bottom_temp", "Accumulator, lower band", "outdoor", _T, -40, 120),
    ZonePoint("liquid_temp", "Liquid after the subcoolers", "outdoor", _T, -40, 80),
    ZonePoint(
        "liquid_between_temp",
        "Liquid between the subcoolers",
        "outdoor",
        _T,
        -40,
        80,
        is_seldom=True,
    ),
    ZonePoint(
        "subcooler_return_temp",
        "Vapour back from the subcoolers",
        "outdoor",
        _T,
        -60,
        80,
        is_seldom=True,
    ),
    ZonePoint("bypass_temp", "Hot-gas bypass pipe", "outdoor", _T, -40, 150),
    ZonePoint("outdoor_air", "Outdoor air", "outdoor", _T, -45, 60),
    ZonePoint("fan", "Outdoor fan", "outdoor", None, 0, 100),
    ZonePoint("mode", "Mode", "outdoor", None, 0, 4, codes=True),
    ZonePoint("room_temp", "Room", "room", _T, -10, 60),
    ZonePoint("set_point", "Set point", "room", _T, 5, 40),
    ZonePoint("return_air", "Return air", "room", _T, -10, 60),
    ZonePoint("coil_inlet", "Coil inlet", "room", _T, -40, 120),
    ZonePoint("coil_outlet", "Coil outlet", "room", _T, -40, 120),
    ZonePoint("valve_steps", "Valve steps", "room", None, 0, 4000),
    ZonePoint("calls", "Calls", "room", None, 0, 1, codes=True),
    ZonePoint("room_mode", "Mode of the room", "room", None, 0, 4, codes=True),
)
ZONE_POINTS: Mapping[str, ZonePoint] = MappingProxyType({row.key: row for row in _ROWS})


def zone_point(key: str) -> ZonePoint:
    """The row of a point. Raises: UnknownName, with the nearest."""
    if key not in ZONE_POINTS:
        raise UnknownName("point of a multi-zone plant", key, ZONE_POINTS)
    return ZONE_POINTS[key]
