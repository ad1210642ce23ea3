"""The Loop's lines: stations along the way, temperature upwards, in a frame's units."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

from nudge.presenters.drawing.frames import Frame
from nudge.presenters.drawing.shapes import Line, Side
from nudge.presenters.loops import LevelOut, LoopOut

PLACE: Mapping[str, float] = MappingProxyType(
    {
        "compressor_out": 0.015,
        "discharge_line": 0.06,
        "condenser": 0.18,
        "liquid_line": 0.33,
        "drier_in": 0.395,
        "drier_out": 0.435,
        "liquid_line_indoor": 0.485,
        "metering_device": 0.54,
        "evaporator": 0.64,
        "evaporator_outlet": 0.745,
        "suction_line": 0.80,
        "compressor_in": 0.985,
    }
)
"""Where each station stands, as a share of the width."""
IN_HEATING: Mapping[str, float] = MappingProxyType(
    {
        **PLACE,
        "liquid_line_indoor": 0.33,
        "liquid_line": 0.395,
        "drier_in": 0.44,
        "drier_out": 0.485,
    }
)
"""The same where the liquid comes from the house."""
CONDENSER, METERING, EVAPORATOR = (0.10, 0.26), (0.525, 0.555), (0.57, 0.72)
"""From where to where each part reaches."""
ALONG = {
    "outdoor_air_temp": CONDENSER,
    "condenser_leaving_air_temp": CONDENSER,
    "return_air_temp": EVAPORATOR,
    "supply_air_temp": EVAPORATOR,
    "box_air_temp": EVAPORATOR,
}
TURNED_ALONG = {
    "outdoor_air_temp": EVAPORATOR,
    "condenser_leaving_air_temp": EVAPORATOR,
    "return_air_temp": CONDENSER,
    "supply_air_temp": CONDENSER,
}
AIR_NAMES = {
    "outdoor_air_temp": "Outdoor air",
    "condenser_leaving_air_temp": "Leaving air",
    "return_air_temp": "Return air",
    "supply_air_temp": "Supply air",
    "box_air_temp": "Box",
}
RUNG_FOOT = 6.0
"""How far a rung's ends stand up and down."""
LIQUID = ("liquid_line", "drier_in", "drier_out", "liquid_line_indoor")
VAPOUR = ("evaporator_outlet", "suction_line", "compressor_in")
LEAST_SPAN = 10.0
"""A drawing never shows less than this many degrees."""
SPARE = 0.04
"""LabelRoom over the hottest and under the coldest, as a share of the span."""
BRACKET_OFF, BRACKET_FOOT = 18.0, 7.0


@dataclass(frozen=True, slots=True)
class Scale:
    """Shares of the way and temperatures as places in the frame."""

    frame: Frame
    coldest: float
    hottest: float
    heats: bool = False

    def place(self, station: str) -> float:
        """Where a station stands, as a share of the width."""
        return places_of(self.heats)[station]

    @property
    def along(self) -> Mapping[str, tuple[float, float]]:
        """From where to where each air reaches: along the coil that it meets."""
        return TURNED_ALONG if self.heats else ALONG

    def x(self, share: float) -> float:
        return round(share * self.frame.width, 1)

    def y(self, value: float) -> float:
        top, bottom = self.frame.head, self.frame.height - self.frame.foot - self.frame.under
        share = (self.hottest - value) / (self.hottest - self.coldest)
        return round(top + share * (bottom - top), 1)

    def at(self, share: float, value: float) -> tuple[float, float]:
        return self.x(share), self.y(value)


def places_of(heats: bool) -> Mapping[str, float]:
    """Where each station stands."""
    return IN_HEATING if heats else PLACE


def scale_of(loop: LoopOut, windows: Mapping[str, tuple[float, float]], frame: Frame) -> Scale:
    """Fit everything but the discharge line, which is far hotter than all else: it alone is shown
    where nothing else is read.
    """
    shown = [t for level in loop.levels for t in _span(level)]
    shown += [value for _, value in _measured(loop, (*LIQUID, *VAPOUR))]
    shown += [*loop.air.values(), *loop.rungs.values()]
    for gap in loop.gaps:
        shown += bracket_of(gap.key, gap.level, windows) or ()
    shown = shown or [t for one in loop.stations if (t := one.temperature) is not None] or [0.0]
    low, high = min(shown), max(shown)
    if high - low < LEAST_SPAN:
        middle = (high + low) / 2
        low, high = middle - LEAST_SPAN / 2, middle + LEAST_SPAN / 2
    spare = (high - low) * SPARE
    return Scale(frame, low - spare, high + spare, loop.heats)


def _span(level: LevelOut) -> tuple[float, float, float, float]:
    return level.enters, level.leaves, level.leaves - level.give, level.leaves + level.give


def bracket_of(
    key: str, level: float, windows: Mapping[str, tuple[float, float]]
) -> tuple[float, float] | None:
    """A window as temperatures: over the level for superheat, under it for subcooling."""
    if key not in windows:
        return None
    low, high = windows[key]
    sign = 1 if key == "superheat" else -1
    return level + sign * low, level + sign * high


def strokes_of(loop: LoopOut, at: Scale, windows: Mapping[str, tuple[float, float]]) -> list[Line]:
    """Every line of the Loop, those behind first."""
    found = [*_ticks(at), *_foot(loop, at), *_air(loop, at)]
    by_side = {level.side: level for level in loop.levels}
    for level in loop.levels:
        found += _level(level, at)
    found += _rungs(loop, at)
    found += _high(loop, by_side.get("high"), at)
    found += _low(loop, by_side.get("high"), by_side.get("low"), at)
    for gap in loop.gaps:
        x, top, line = at.x(at.place(gap.station)), at.y(gap.level), at.y(gap.line)
        found.append(Line(role="gap", key=gap.key, points=[(x, top), (x, line)]))
        window = bracket_of(gap.key, gap.level, windows)
        if window is not None:
            one, other = at.y(window[0]), at.y(window[1])
            side = 1 if x + BRACKET_OFF < at.frame.width else -1  # inside the frame
            inner, outer = x + side * (BRACKET_OFF - BRACKET_FOOT), x + side * BRACKET_OFF
            points = [(inner, one), (outer, one), (outer, other), (inner, other)]
            found.append(Line(role="bracket", key=gap.key, points=points))
    return found


def _ticks(at: Scale) -> Iterator[Line]:
    for value in ticks(at.coldest, at.hottest):
        y = at.y(value)
        yield Line(role="tick", key=f"{value:g}", points=[(0.0, y), (at.frame.width, y)])


def ticks(low: float, high: float, most: int = 5) -> list[float]:
    """Round values between two, at most so many."""
    step = next(s for s in (1, 2, 5, 10, 20, 50, 100, 200, 500) if (high - low) / s <= most)
    first = int(low // step) + 1
    return [float(n * step) for n in range(first, int(high // step) + 1)]


def _foot(loop: LoopOut, at: Scale) -> Iterator[Line]:
    base = at.frame.height - at.frame.foot + 4
    yield Line(role="base", points=[(0.0, base), (at.frame.width, base)])
    for station in loop.stations:
        if station.is_part or station.key in ("liquid_line", "suction_line"):
            x = at.x(at.place(station.key))
            yield Line(role="part", key=station.key, points=[(x, base - 5), (x, base + 5)])


def _air(loop: LoopOut, at: Scale) -> Iterator[Line]:
    for key, value in loop.air.items():
        if key in at.along:
            from_share, to_share = at.along[key]
            points = [at.at(from_share, value), at.at(to_share, value)]
            yield Line(role="air", key=key, points=points)


def _rungs(loop: LoopOut, at: Scale) -> Iterator[Line]:
    """What a cold room's design asks for, at its height along its coil."""
    for key, value in loop.rungs.items():
        side: Side = "high" if key == "high" else "low"
        left, right = (at.x(share) for share in (CONDENSER if side == "high" else EVAPORATOR))
        y = at.y(value)
        up, down = y - RUNG_FOOT, y + RUNG_FOOT
        points = [(left, up), (left, down), (left, y), (right, y), (right, up), (right, down)]
        yield Line(role="rung", side=side, key=f"rung:{key}", points=points)


def _level(level: LevelOut, at: Scale) -> list[Line]:
    side: Side = "high" if level.side == "high" else "low"
    ends = (0.0, METERING[0]) if side == "high" else (METERING[1], 1.0)
    line = [at.at(share, level.leaves) for share in ends]
    if level.give == 0:
        return [Line(role="level", side=side, points=line)]
    over, under = level.leaves + level.give, level.leaves - level.give
    band = [
        at.at(ends[0], over),
        at.at(ends[1], over),
        at.at(ends[1], under),
        at.at(ends[0], under),
    ]
    return [
        Line(role="band", side=side, points=band),
        Line(role="estimate", side=side, points=line),
    ]


def _measured(loop: LoopOut, keys: Sequence[str]) -> list[tuple[float, float]]:
    values = {station.key: station.temperature for station in loop.stations}
    places = places_of(loop.heats)
    found = [(places[key], value) for key in keys if (value := values.get(key)) is not None]
    return sorted(found)


def _high(loop: LoopOut, level: LevelOut | None, at: Scale) -> Iterator[Line]:
    liquid = [at.at(*one) for one in _measured(loop, LIQUID)]
    if level is None:
        if len(liquid) > 1:
            yield Line(role="sure", side="high", points=liquid)
        return
    condenser = [at.at(CONDENSER[0], level.enters), at.at(CONDENSER[1], level.leaves)]
    if not at.frame.is_short:
        falls = (at.x(0.03), max(condenser[0][1] - 0.5 * at.frame.head, 2.0))
        yield Line(role="guess", side="high", points=[falls, condenser[0]])
    is_sure = level.give == 0
    yield Line(
        role="sure" if is_sure else "estimate", side="high", points=[*condenser, *liquid[:1]]
    )
    if len(liquid) > 1:
        yield Line(role="sure", side="high", points=liquid)
    last = liquid[-1] if liquid else condenser[-1]
    yield Line(role="guess", side="high", points=[last, (at.x(METERING[0]), last[1])])


def _low(loop: LoopOut, high: LevelOut | None, level: LevelOut | None, at: Scale) -> Iterator[Line]:
    vapour = [at.at(*one) for one in _measured(loop, VAPOUR)]
    if level is None:
        if len(vapour) > 1:
            yield Line(role="sure", side="low", points=vapour)
        return
    liquid = _measured(loop, LIQUID)
    before = liquid[-1][1] if liquid else high.leaves if high else None
    start = at.at(METERING[1], level.enters)
    is_sure = level.give == 0
    if before is not None:
        drop = [at.at(METERING[0], before), start]
        yield Line(
            role="sure" if is_sure and high is not None else "guess", side="low", points=drop
        )
    coil = [start, at.at(EVAPORATOR[0], level.enters), at.at(EVAPORATOR[1], level.leaves)]
    yield Line(role="sure" if is_sure else "estimate", side="low", points=[*coil, *vapour[:1]])
    if len(vapour) > 1:
        yield Line(role="sure", side="low", points=vapour)
    if vapour and vapour[-1][0] < at.x(0.98):
        end = (at.frame.width, vapour[-1][1])
        yield Line(role="guess", side="low", points=[vapour[-1], end])
