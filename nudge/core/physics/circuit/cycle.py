"""The running cycle on pressure and enthalpy, and the chart it is drawn on."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from math import exp, log

from nudge.core.language.errors import OutOfRange
from nudge.core.language.units import atmospheric_kpa
from nudge.core.physics.refrigerant.states import State, StateTable, load_states

ASSUMED_COMPRESSION = 0.70
CURVE_POINTS = 48
ISOTHERM_STEP_C = 20
QUALITIES = (0.2, 0.4, 0.6, 0.8)
ISENTROPE_STEP = 0.05

Point = tuple[float, float]
"""(enthalpy [kJ/kg], pressure [kPa abs])"""


@dataclass(frozen=True, slots=True)
class Corner:
    """A place on the cycle. `estimated` where an efficiency was assumed, not measured."""

    key: str
    label: str
    enthalpy: float
    kpa_abs: float
    temp_c: float
    estimated: bool = False


@dataclass(frozen=True, slots=True)
class Cycle:
    """The corners there are readings for, in the order of flow, and what they come to."""

    corners: tuple[Corner, ...]
    effect_kj_kg: float | None
    work_kj_kg: float | None
    compression: float | None
    """Isentropic efficiency, where discharge temperature was measured."""


@dataclass(frozen=True, slots=True)
class PressureEnthalpyChart:
    """Dome and isolines of one fluid; every line is a row of (enthalpy, pressure) points."""

    fluid: str
    bubble: tuple[Point, ...]
    dew: tuple[Point, ...]
    isotherms: Mapping[float, tuple[Point, ...]]
    qualities: Mapping[float, tuple[Point, ...]]
    isentropes: Mapping[float, tuple[Point, ...]]
    saturation: tuple[tuple[float, float, float], ...]
    """(pressure [kPa abs], bubble [°C], dew [°C]) along the dome."""


def run_cycle(fluid: str, readings: Mapping[str, float], elevation_m: float = 0) -> Cycle:
    """The cycle from readings (core units). Corners off the table are left out.

    Suction gas, discharge gas, liquid leaving the condenser, mixture entering the evaporator.
    """
    states, atmosphere = load_states(fluid), atmospheric_kpa(elevation_m)
    low, high = readings.get("suction_pressure"), readings.get("liquid_pressure")
    low = None if low is None else low + atmosphere
    high = None if high is None else high + atmosphere
    discharge = readings.get("discharge_pressure")
    top = high if discharge is None else discharge + atmosphere
    suction = _vapour(
        states, low, readings.get("true_suction_temp", readings.get("suction_line_temp"))
    )
    ideal = _ideal(states, top, suction)
    hot = _vapour(states, top, readings.get("discharge_line_temp"))
    liquid = _liquid(states, high, readings.get("liquid_line_temp"))
    corners = []
    if suction:
        corners.append(_corner("suction", "Suction", suction))
    if hot:
        corners.append(_corner("discharge", "Discharge", hot))
    elif suction and ideal and top:
        enthalpy = suction.enthalpy + (ideal.enthalpy - suction.enthalpy) / ASSUMED_COMPRESSION
        at = _at_enthalpy(states, top, enthalpy)
        if at is not None:
            corners.append(Corner("discharge", "Discharge", enthalpy, top, at, estimated=True))
    if liquid:
        corners.append(_corner("liquid", "Liquid", liquid))
        if low is not None and states.saturation.low_kpa <= low <= states.saturation.high_kpa:
            fed = states.saturation.bubble.temperature(low)
            corners.append(Corner("fed", "Coil inlet", liquid.enthalpy, low, fed))
    work_done = (
        corners[1].enthalpy - suction.enthalpy
        if suction and len(corners) > 1 and corners[1].key == "discharge"
        else None
    )
    return Cycle(
        tuple(corners),
        suction.enthalpy - liquid.enthalpy if suction and liquid else None,
        work_done,
        (ideal.enthalpy - suction.enthalpy) / (hot.enthalpy - suction.enthalpy)
        if suction and hot and ideal and hot.enthalpy > suction.enthalpy + 1
        else None,
    )


@lru_cache(maxsize=32)
def chart_of(fluid: str) -> PressureEnthalpyChart:
    """The chart of a fluid from its packaged tables: dome, isotherms, qualities, isentropes."""
    states = load_states(fluid)
    table = states.saturation
    low, high = log(max(table.low_kpa * 1.0005, 60.0)), log(table.high_kpa * 0.9995)
    pressures = [exp(low + (high - low) * i / (CURVE_POINTS - 1)) for i in range(CURVE_POINTS)]
    ends = [
        (states.liquid(table.bubble.temperature(p), p).enthalpy, states.vapour(p).enthalpy, p)
        for p in pressures
    ]
    return PressureEnthalpyChart(
        table.name,
        tuple((liquid, p) for liquid, _, p in ends),
        tuple((vapour, p) for _, vapour, p in ends),
        {t: line for t in _temperatures(states) if (line := _isotherm(states, t, pressures))},
        {x: tuple((a + x * (b - a), p) for a, b, p in ends) for x in QUALITIES},
        {s: line for s in _entropies(states) if len(line := _isentrope(states, s, pressures)) > 3},
        tuple((p, table.bubble.temperature(p), table.dew.temperature(p)) for p in pressures),
    )


def _temperatures(states: StateTable) -> list[float]:
    first = int(states.saturation.dew.low_c // ISOTHERM_STEP_C + 1) * ISOTHERM_STEP_C
    return [float(t) for t in range(first, 161, ISOTHERM_STEP_C)]


def _entropies(states: StateTable) -> list[float]:
    at = states.vapour(states.saturation.dew.pressure(0.0)).entropy
    first = round(at / ISENTROPE_STEP) * ISENTROPE_STEP - ISENTROPE_STEP
    return [round(first + ISENTROPE_STEP * i, 3) for i in range(7)]


def _isotherm(states: StateTable, temp_c: float, pressures: list[float]) -> tuple[Point, ...]:
    """From the liquid side down to the vapour side, through the dome where it crosses it."""
    points: list[Point] = []
    table = states.saturation
    for p in reversed(pressures):
        dew_c, bubble_c = table.dew.temperature(p), table.bubble.temperature(p)
        if bubble_c >= temp_c >= bubble_c - 25:
            points.append((states.liquid_grid.at(p, temp_c).enthalpy, p))
        elif dew_c <= temp_c <= states.vapour_grid.reach(p)[1]:
            points.append((states.vapour(p, temp_c).enthalpy, p))
    return tuple(points) if len(points) > 1 else ()


def _isentrope(states: StateTable, entropy: float, pressures: list[float]) -> tuple[Point, ...]:
    points = []
    for p in pressures:
        try:
            points.append((states.vapour_at_entropy(p, entropy).enthalpy, p))
        except OutOfRange:
            continue
    return tuple(points)


def _vapour(states: StateTable, kpa: float | None, temp_c: float | None) -> State | None:
    if kpa is None or temp_c is None:
        return None
    try:
        return states.vapour(kpa, temp_c)
    except OutOfRange:
        return None


def _liquid(states: StateTable, kpa: float | None, temp_c: float | None) -> State | None:
    if kpa is None or temp_c is None:
        return None
    try:
        return states.liquid_grid.at(kpa, temp_c)
    except OutOfRange:
        return None


def _ideal(states: StateTable, kpa: float | None, suction: State | None) -> State | None:
    if kpa is None or suction is None:
        return None
    try:
        return states.vapour_at_entropy(kpa, suction.entropy)
    except OutOfRange:
        return None


def _at_enthalpy(states: StateTable, kpa: float, enthalpy: float) -> float | None:
    """Temperature of vapour with an enthalpy [°C]; None off the table."""
    low, high = states.vapour_grid.reach(kpa)
    if not states.vapour(kpa, low).enthalpy <= enthalpy <= states.vapour(kpa, high).enthalpy:
        return None
    for _ in range(40):
        middle = (low + high) / 2
        if states.vapour(kpa, middle).enthalpy < enthalpy:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def _corner(key: str, label: str, state: State) -> Corner:
    return Corner(key, label, state.enthalpy, state.kpa_abs, state.temp_c)
