"""The signs worked out: what a log's columns come to, for the plant and for every room."""

from array import array
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from math import exp, isnan
from statistics import fmean, median

from nudge.core.language.units import SEA_LEVEL_KPA, ZERO_C_IN_K, degrees_f
from nudge.core.multizone.feeding import Feeding, feeding
from nudge.core.multizone.signs import Way, ZoneSigns
from nudge.core.physics.refrigerant.table import SaturationTable, load_table
from nudge.core.physics.zones.log import GAP, ROOM_OFF_S, ROOM_ON_S, ZoneLog, states
from nudge.core.physics.zones.parts import IndoorUnit, Parts
from nudge.core.physics.zones.points import MODES, OUTDOOR

BOTH_WAYS = 0.04
"""A plant serves both where the other mode has at least this share of the room time."""
WET_K, EVEN_BANDS_K, DRY_SHELL_K = degrees_f(1.5), degrees_f(3), degrees_f(5)
AT_END, AT_LEAST = 0.95, 0.10
ISENTROPIC = 0.18
"""Gas gets hotter by the ratio to this power, with the usual losses."""
FASTEST_HZ = 100.0
EVEN_HZ = 60.0
LEAST_HZ = 25.0
"""Under this an approach says little: it is measured above."""
STEEP_K = 2_450.0
"""Slope of ln p over 1/T, of the usual fluids of such plants [K]."""
LEAST_WAY_K = 10.0
OPEN = 0.05
"""A valve over this share of its way is open."""


@dataclass(slots=True)
class _Room:
    """One room's samples while it counts."""

    unit: IndoorUnit
    on: "array[int]" = field(default_factory=lambda: array("l"))
    off: "array[int]" = field(default_factory=lambda: array("l"))
    heats: float = 0.0
    """Share of its time at work that it heats."""
    gaps: list[float] = field(default_factory=list)
    steps: list[float] = field(default_factory=list)
    errors: list[float] = field(default_factory=list)
    coils: list[float] = field(default_factory=list)
    wrong: list[float] = field(default_factory=list)
    airs: list[float] = field(default_factory=list)
    shut: list[float] = field(default_factory=list)
    pipes: list[float] = field(default_factory=list)
    feeding: Feeding | None = None

    @property
    def weight(self) -> float:
        """Its capacity, for as long as it calls."""
        return (self.unit.capacity_w or 1.0) * len(self.on)


def signs_of(zone_log: ZoneLog, parts: Parts) -> ZoneSigns:
    """Every sign a log allows, by its parts."""
    present = set(zone_log.rooms)
    rooms = {unit.key: _room(zone_log, unit) for unit in parts.rooms if unit.key in present}
    on = sum(len(room.on) for room in rooms.values())
    heats = sum(room.heats * len(room.on) for room in rooms.values()) / on if on else 0.0
    way: Way = "mixed"
    if heats < BOTH_WAYS:
        way = "cooling"
    elif heats > 1 - BOTH_WAYS:
        way = "heating"
    both = way == "mixed"
    warm = frozenset(key for key, room in rooms.items() if both and room.heats > 0.5)
    return ZoneSigns(way, _plant(zone_log, parts, rooms), _beside(zone_log, rooms), warm)


def _room(zone_log: ZoneLog, unit: IndoorUnit) -> _Room:
    found = _Room(unit)
    key = unit.key
    calls = zone_log.column(key, "calls")
    if calls is None:
        return found
    lasts = states(calls, zone_log.times_s)
    for i in zone_log.kept:
        if lasts[i] < -ROOM_OFF_S:
            found.off.append(i)
        elif lasts[i] >= ROOM_ON_S:
            found.on.append(i)
    heating = _heating(zone_log, key)
    found.heats = fmean(map(heating, found.on)) if found.on else 0.0
    steps = zone_log.column(key, "valve_steps")
    if steps is not None:
        found.steps = [steps[i] / unit.wide_steps for i in found.on]
    room, outlet = zone_log.column(key, "room_temp"), zone_log.column(key, "coil_outlet")
    inlet, air = zone_log.column(key, "coil_inlet"), zone_log.column(key, "return_air")
    wanted, warm = zone_log.column(key, "set_point"), zone_log.column(OUTDOOR, "condensing_temp")

    def signed(one: Sequence[float] | None, other: Sequence[float] | None) -> list[float]:
        """One − other where it cools, other − one where it heats."""
        if one is None or other is None:
            return []
        return [(-1.0 if heating(i) else 1.0) * (one[i] - other[i]) for i in found.on]

    found.feeding = feeding(zone_log, unit, found.on, heating)
    found.errors, found.coils = signed(room, wanted), signed(room, inlet)
    found.wrong = signed(outlet, room)
    if outlet is not None and inlet is not None:
        found.gaps = [
            (GAP if warm is None else warm[i] - outlet[i]) if heating(i) else outlet[i] - inlet[i]
            for i in found.on
        ]
    if room is not None and air is not None:
        found.airs = [room[i] - air[i] for i in found.on or found.off]
    if room is not None and outlet is not None and inlet is not None and steps is not None:
        resting = [
            i
            for i in found.off
            if not heating(i) and steps[i] <= unit.shut_steps + OPEN * unit.wide_steps
        ]
        found.shut = [(air or room)[i] - outlet[i] for i in resting]
        found.pipes = [outlet[i] - inlet[i] for i in resting]
    return found


def _heating(zone_log: ZoneLog, key: str) -> Callable[[int], bool]:
    """Whether a room heats, at a sample: by its own mode, else the plant's."""
    mode = zone_log.column(key, "room_mode") or zone_log.column(OUTDOOR, "mode")
    heating = float(MODES["heating"])
    if mode is None:
        return lambda _: False
    return lambda i: mode[i] == heating


def _beside(zone_log: ZoneLog, rooms: Mapping[str, _Room]) -> dict[str, dict[str, float]]:
    """Every room's signs, beside those of the others that go the same way."""
    own: dict[str, dict[str, float | None]] = {}
    whole = len(zone_log.kept) or 1
    for key, room in rooms.items():
        own[key] = {
            "steps": _mean(room.steps),
            "at_end": _share(room.steps, lambda v: v >= AT_END),
            "at_least": _share(room.steps, lambda v: v <= AT_LEAST),
            "gap": _mean(room.gaps),
            "wet": _share(room.gaps, lambda v: v < WET_K),
            "error": _mean(room.errors),
            "shut": _mean(room.shut),
            "airs": _size(room.airs),
            "pipes": _size(room.pipes),
            "coil": _mean(room.coils),
            "calls": len(room.on) / whole,
            "fill": None if room.feeding is None else room.feeding.fill,
            "fed": None if room.feeding is None else room.feeding.fed,
        }
        own[key]["fed_beside"] = own[key]["fed"]
    found: dict[str, dict[str, float]] = {}
    for key, mine in own.items():
        alike = [
            other
            for name, other in own.items()
            if name != key and (rooms[name].heats > 0.5) == (rooms[key].heats > 0.5)
        ]
        signs = {name: value for name, value in mine.items() if value is not None}
        for name in ("steps", "gap", "error", "fed_beside"):
            others = [v for other in alike if (v := other[name]) is not None]
            if name in signs and others:
                signs[name] -= median(others)
            elif name != "error":
                signs.pop(name, None)
        behind = [v for name, o in own.items() if name != key and (v := o["shut"]) is not None]
        if behind:
            signs["others_shut"] = max(behind)
        found[key] = signs
    return found


def _plant(zone_log: ZoneLog, parts: Parts, rooms: Mapping[str, _Room]) -> dict[str, float]:
    """The plant's own signs."""
    kept = zone_log.kept
    seen = _Outdoor(zone_log, load_table(parts.refrigerant))
    found: dict[str, float | None] = {
        "hz": _mean(seen.of("compressor_hz", kept)),
        "fast": _share(seen.of("compressor_hz", kept), lambda v: v >= FASTEST_HZ),
        "off_target": _mean(map(seen.off_target, kept)),
        "liquid_gap": _mean(seen.less("condensing_temp", "liquid_temp", kept)),
        "inlet_gap": _mean(seen.less("accumulator_inlet_temp", "evaporating_temp", kept)),
        "bypass_gap": _mean(seen.less("bypass_temp", "outdoor_air", kept)),
        "outdoor_gap": _mean(map(seen.outdoor_gap, kept)),
        "fan": _mean(map(seen.fan, kept)),
        "gas_gap": _mean(map(seen.gas_gap, kept)),
        "bypass_share": _mean(map(seen.bypass_share, kept)),
        "band_top": _mean(seen.less("accumulator_top_temp", "evaporating_temp", kept)),
        "outdoor_lift": _mean(seen.of("outdoor_air", kept)),
        "oil": _oil(zone_log),
        "combination": parts.combination,
        "against": _against(zone_log, rooms),
    }
    shell = seen.less("shell_temp", "evaporating_temp", kept)
    found["shell_gap"] = _mean(shell)
    found["shell_low"] = _share(shell, lambda v: v < DRY_SHELL_K)
    bands = list(map(seen.bands, kept))
    found["bands"] = _mean(bands)
    found["bands_even"] = _share(bands, lambda v: v < EVEN_BANDS_K)
    for name, of in (
        ("room_error", "errors"),
        ("steps", "steps"),
        ("coil_gap", "gaps"),
        ("wrong_way", "wrong"),
    ):
        found[name] = _weighed(rooms.values(), of)
    ends = [v for room in rooms.values() for v in room.steps]
    found["at_end"] = _share(ends, lambda v: v >= AT_END)
    return {key: value for key, value in found.items() if value is not None}


class _Outdoor:
    """The outdoor unit's columns, pressures turned into what boils and condenses at them."""

    def __init__(self, zone_log: ZoneLog, table: SaturationTable) -> None:
        self._log = zone_log
        self._columns = {
            point: column for (part, point), column in zone_log.columns.items() if part == OUTDOOR
        }
        for point, pressure, curve in (
            ("evaporating_temp", "low_pressure", table.dew),
            ("condensing_temp", "high_pressure", table.bubble),
        ):
            if point not in self._columns and pressure in self._columns:
                self._columns[point] = array(
                    "d",
                    (
                        GAP if isnan(kpa) else curve.temperature(kpa + SEA_LEVEL_KPA)
                        for kpa in self._columns[pressure]
                    ),
                )
        mode = self._columns.get("mode")
        heating = float(MODES["heating"])
        self._heats = (lambda i: mode[i] == heating) if mode is not None else (lambda _: False)

    def of(self, point: str, kept: Sequence[int]) -> list[float]:
        column = self._columns.get(point)
        return [] if column is None else [column[i] for i in kept]

    def less(self, one: str, other: str, kept: Sequence[int]) -> list[float]:
        first, second = self._columns.get(one), self._columns.get(other)
        if first is None or second is None:
            return []
        return [first[i] - second[i] for i in kept]

    def at(self, point: str, i: int) -> float:
        column = self._columns.get(point)
        return GAP if column is None else column[i]

    def off_target(self, i: int) -> float:
        if self._heats(i):
            return self.at("condensing_target", i) - self.at("condensing_temp", i)
        return self.at("evaporating_temp", i) - self.at("evaporating_target", i)

    def outdoor_gap(self, i: int) -> float:
        hz = self.at("compressor_hz", i)
        if not hz >= LEAST_HZ:
            return GAP
        air = self.at("outdoor_air", i)
        if self._heats(i):
            return (air - self.at("evaporating_temp", i)) * EVEN_HZ / hz
        return (self.at("condensing_temp", i) - air) * EVEN_HZ / hz

    def fan(self, i: int) -> float:
        hz = self.at("compressor_hz", i)
        return self.at("fan", i) * EVEN_HZ / hz if hz >= LEAST_HZ else GAP

    def gas_gap(self, i: int) -> float:
        """Discharge over what its ratio makes of the gas that comes."""
        boils, warm = self.at("evaporating_temp", i), self.at("condensing_temp", i)
        comes, gas = self.at("accumulator_inlet_temp", i), self.at("discharge_temp", i)
        ratio = _ratio(boils, warm)
        if isnan(ratio):
            return GAP
        expected = (comes + ZERO_C_IN_K) * float(ratio**ISENTROPIC)
        return gas + ZERO_C_IN_K - expected

    def bypass_share(self, i: int) -> float:
        """How far the bypass pipe stands from the air outdoors to the discharge, 0 to 1."""
        air, gas = self.at("outdoor_air", i), self.at("discharge_temp", i)
        way = gas - air
        return (self.at("bypass_temp", i) - air) / way if way > LEAST_WAY_K else GAP

    def bands(self, i: int) -> float:
        three = [self.at(f"accumulator_{band}_temp", i) for band in ("top", "middle", "bottom")]
        return GAP if any(map(isnan, three)) else max(three) - min(three)


def _ratio(boils_c: float, warm_c: float) -> float:
    """Ratio of the pressures, by Clausius and Clapeyron with a usual heat of vaporisation."""
    if isnan(boils_c) or isnan(warm_c):
        return GAP
    return exp(STEEP_K * (1 / (boils_c + ZERO_C_IN_K) - 1 / (warm_c + ZERO_C_IN_K)))


def _oil(zone_log: ZoneLog) -> float | None:
    """Share of the running time that oil is fetched."""
    mode = zone_log.column(OUTDOOR, "mode")
    if mode is None:
        return None
    runs = [value for value in mode if value > 0]
    return runs.count(float(MODES["oil_return"])) / len(runs) if runs else None


def _against(zone_log: ZoneLog, rooms: Mapping[str, _Room]) -> float | None:
    """How far the warmest set point that heats lies over the coldest that cools, both calling."""
    warm = [_wanted(zone_log, room) for room in rooms.values() if room.on and room.heats > 0.5]
    cold = [_wanted(zone_log, room) for room in rooms.values() if room.on and room.heats <= 0.5]
    warm, cold = ([v for v in some if not isnan(v)] for some in (warm, cold))
    return max(warm) - min(cold) if warm and cold else None


def _wanted(zone_log: ZoneLog, room: _Room) -> float:
    column = zone_log.column(room.unit.key, "set_point")
    return GAP if column is None else median([column[i] for i in room.on])


def _weighed(rooms: Iterable[_Room], of: str) -> float | None:
    """A mean over the rooms, each by its capacity and the time it calls."""
    told = [(room.weight, mean) for room in rooms if (mean := _mean(getattr(room, of))) is not None]
    whole = sum(weight for weight, _ in told)
    return sum(weight * mean for weight, mean in told) / whole if whole else None


def _mean(values: Iterable[float]) -> float | None:
    kept = [v for v in values if not isnan(v)]
    return fmean(kept) if kept else None


def _size(values: Iterable[float]) -> float | None:
    """How large a mean difference is, whichever way."""
    mean = _mean(values)
    return None if mean is None else abs(mean)


def _share(values: Sequence[float], holds: Callable[[float], bool]) -> float | None:
    kept = [v for v in values if not isnan(v)]
    return sum(map(holds, kept)) / len(kept) if kept else None
