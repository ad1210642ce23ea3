"""The Loop: the refrigerant's way round the system, unrolled, as temperatures.

This module says what stands where and at what temperature; the screen only draws it. A
station nobody measured has no temperature: the drawing shows the gap, never a guess.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

from nudge.core.behaviours.behaviour import Side
from nudge.core.behaviours.case import Case


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
    heats: bool = False
    """The house is its warm side."""
    rungs: Mapping[str, float] = field(default_factory=dict)
    """By side, the level that a cold room's design asks for today [°C]."""


_AIR = (
    "outdoor_air_temp",
    "return_air_temp",
    "supply_air_temp",
    "condenser_leaving_air_temp",
    "box_air_temp",
)


def draw_loop(case: Case) -> Loop:
    """Stations, levels, gaps and air temperatures of a case [°C]."""
    read, derived, roles = case.readings.get, case.derived, case.behaviour.roles
    stations = tuple(
        Station(row.key, row.label, row.side, read(row.point) if row.point else None, row.is_part)
        for row in case.behaviour.stations
    )
    levels: list[Level] = []
    gaps: list[Gap] = []
    bubble, glide = derived.condenser_saturation, derived.condenser_glide
    if bubble is not None and glide is not None:
        levels.append(Level("high", "Condenser saturation", bubble + glide, bubble))
        gaps += _gap("subcooling", roles.subcool_line[0], bubble, case)
    dew, glide = derived.evaporator_saturation, derived.evaporator_glide
    if dew is not None and glide is not None:
        levels.append(Level("low", "Evaporator saturation", dew - 0.8 * glide, dew))
        gaps += _gap("superheat", roles.superheat_line[0], dew, case)
    air = {key: value for key in _AIR if (value := read(key)) is not None}
    return Loop(stations, tuple(levels), tuple(gaps), air, roles.heats, _rungs(case))


def _rungs(case: Case) -> dict[str, float]:
    """What a cold room's design asks of both levels, at the box as it is."""
    rung = case.room.at_box if case.room else None
    if rung is None:
        return {}
    low = {"low": rung.evaporating_c}
    return low if rung.condensing_c is None else {"high": rung.condensing_c, **low}


def _gap(key: str, point: str, level_c: float, case: Case) -> list[Gap]:
    """The gap between a level and the line it is counted on, at the station read there."""
    line = case.readings.get(point)
    station = next((row.key for row in case.behaviour.stations if row.point == point), None)
    return [] if line is None or station is None else [Gap(key, station, level_c, line)]
