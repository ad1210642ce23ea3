"""The Loop: the refrigerant's way round the system, unrolled, as temperatures.

This module says what stands where and at what temperature; the screen only draws it. A
station nobody measured has no temperature: the drawing shows the gap, never a guess.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from nudge.core.physics.circuit.case import Case

Side = Literal["high", "low"]


@dataclass(frozen=True, slots=True)
class Station:
    """One place on the way round. `temp_c` is None where nothing was measured."""

    key: str
    label: str
    side: Side
    temp_c: float | None
    is_part: bool = False


@dataclass(frozen=True, slots=True)
class Level:
    """A saturation level lying across one side: the end it boils from, and to [°C]."""

    side: Side
    label: str
    enters_c: float
    leaves_c: float


@dataclass(frozen=True, slots=True)
class Gap:
    """A visible gap between a level and a line reading, with the window it should fall in."""

    key: str
    station: str
    level_c: float
    line_c: float


@dataclass(frozen=True, slots=True)
class Loop:
    """What the Loop drawing shows."""

    stations: tuple[Station, ...]
    levels: tuple[Level, ...]
    gaps: tuple[Gap, ...]
    air: Mapping[str, float]


_WAY_ROUND: tuple[tuple[str, str, Side, str | None], ...] = (
    ("compressor_out", "Compressor", "high", None),
    ("discharge_line", "Discharge line", "high", "discharge_line_temp"),
    ("condenser", "Condenser", "high", None),
    ("liquid_line", "Liquid line", "high", "liquid_line_temp"),
    ("drier_in", "Drier in", "high", "drier_inlet_temp"),
    ("drier_out", "Drier out", "high", "drier_outlet_temp"),
    ("liquid_line_indoor", "Liquid indoors", "high", "liquid_line_temp_indoor"),
    ("metering_device", "Metering device", "low", "metering_outlet_temp"),
    ("evaporator", "Evaporator", "low", None),
    ("evaporator_outlet", "Coil outlet", "low", "evaporator_outlet_temp"),
    ("suction_line", "Suction line", "low", "suction_line_temp"),
    ("compressor_in", "Compressor", "low", "true_suction_temp"),
)
_PARTS = frozenset(
    {"compressor_out", "condenser", "metering_device", "evaporator", "compressor_in"}
)
_AIR = ("outdoor_air_temp", "return_air_temp", "supply_air_temp", "condenser_leaving_air_temp")


def draw_loop(case: Case) -> Loop:
    """Stations, levels, gaps and air temperatures of a case [°C]."""
    read, derived = case.readings.get, case.derived
    stations = tuple(
        Station(key, label, side, read(point) if point else None, key in _PARTS)
        for key, label, side, point in _WAY_ROUND
    )
    levels, gaps = [], []
    bubble, glide = derived.condenser_saturation, derived.condenser_glide
    if bubble is not None and glide is not None:
        levels.append(Level("high", "Condenser saturation", bubble + glide, bubble))
        if (line := read("liquid_line_temp")) is not None:
            gaps.append(Gap("subcooling", "liquid_line", bubble, line))
    dew, glide = derived.evaporator_saturation, derived.evaporator_glide
    if dew is not None and glide is not None:
        levels.append(Level("low", "Evaporator saturation", dew - 0.8 * glide, dew))
        if (line := read("suction_line_temp")) is not None:
            gaps.append(Gap("superheat", "suction_line", dew, line))
    air = {key: value for key in _AIR if (value := read(key)) is not None}
    return Loop(stations, tuple(levels), tuple(gaps), air)
