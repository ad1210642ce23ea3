"""Whether a running system has settled: by slope and scatter of its slow quantities.

Everything that settles here settles like an exponential: how far a quantity still has to go
is its slope at the end of the window times its time constant. The constant comes from how
fast the slope itself falls, within limits. When that distance, with the slope's own error, is
under the limit for every quantity, the system is settled; else the same numbers say when.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import exp, log
from typing import Literal

from nudge.core.language.units import KPA_PER_PSI, Quantity, degrees_f
from nudge.core.settling.hunting import Hunting, hunts
from nudge.core.settling.trace import Trace, fitted

WINDOW_S = 240.0
SHORTEST_S = 150.0
STALE_S = 20.0
LEAST_ROWS = 12
SHORT_TAU_S, USUAL_TAU_S, LONG_TAU_S = 120.0, 150.0, 240.0
STEADY_RATIO = 0.8
"""Half-window slopes closer than this do not decay: a drift, not a settling."""
CAUTION = 1.5
"""A quick and a slow part together go further than the slow slope alone says."""
HOLDS, HELD_S = 1.7, 30.0
"""Settled stays settled up to this many times the limit: noise must not flicker the verdict."""
LONGEST_FORECAST_S = 1800.0

State = Literal["settled", "settling", "hunting", "unknown"]


@dataclass(frozen=True, slots=True)
class Slow:
    """One quantity that must be steady: how near its end it must be, and why."""

    key: str
    label: str
    quantity: Quantity
    within: float
    reason: str


_P, _T = 1.0 * KPA_PER_PSI, degrees_f(0.5)
SLOW: tuple[Slow, ...] = (
    Slow("suction_pressure", "Suction pressure", Quantity.PRESSURE, _P,
         "settles in seconds, then follows the house; within 1 psi of its end"),
    Slow("liquid_pressure", "Liquid pressure", Quantity.PRESSURE, _P,
         "follows the metal of the condenser; within 1 psi"),
    Slow("suction_line_temp", "Suction line", Quantity.TEMPERATURE, _T,
         "a valve and its bulb take minutes; within 0.5 °F"),
    Slow("liquid_line_temp", "Liquid line", Quantity.TEMPERATURE, _T,
         "the slowest: metal and liquid warm through; within 0.5 °F"),
    Slow("superheat", "Superheat", Quantity.TEMPERATURE_DIFFERENCE, _T,
         "what is judged; within 0.5 °F"),
    Slow("subcooling", "Subcooling", Quantity.TEMPERATURE_DIFFERENCE, _T,
         "what is judged; within 0.5 °F"),
)  # fmt: skip
SWINGS = ("superheat", "suction_line_temp", "evaporator_outlet_temp")


@dataclass(frozen=True, slots=True)
class LoadRow:
    """One quantity of the load, and how fast it must move before its drift is worth a word."""

    key: str
    per_minute: float
    reason: str


FROSTING: tuple[LoadRow, ...] = (
    LoadRow("suction_pressure", 0.5 * KPA_PER_PSI, "frost grows all the while it heats"),
    LoadRow("liquid_pressure", 0.8 * KPA_PER_PSI, "heat falls with frost, and so does the head"),
    LoadRow("liquid_line_temp", degrees_f(0.4), "the liquid follows the head"),
    LoadRow("superheat", degrees_f(0.2), "the valve follows"),
    LoadRow("subcooling", degrees_f(0.4), "the head moves, the liquid later"),
)
"""How fast each may move on, in heating, without being unsettled: it is the weather's drift."""
LOAD: tuple[LoadRow, ...] = (
    LoadRow("return_air_temp", degrees_f(0.1), "a house loses up to a degree in ten minutes"),
    LoadRow("return_air_wet_bulb", degrees_f(0.1), "a coil dries the house as it cools it"),
    LoadRow("outdoor_air_temp", degrees_f(0.15), "sun, cloud and afternoon"),
)


@dataclass(frozen=True, slots=True)
class Steadiness:
    """One quantity over the window: where it is, how it moves, how far it still has to go."""

    row: Slow
    value: float
    per_minute: float
    scatter: float
    to_go: float
    seconds: float
    """Until it is near enough: 0 when it is."""
    drifts: bool
    """It moves, but at an even pace: with the load, or something leaks or ices."""

    @property
    def is_steady(self) -> bool:
        return self.seconds == 0


@dataclass(frozen=True, slots=True)
class Settling:
    """Whether the system has settled, or when it will have."""

    state: State
    seconds: float | None
    """About this much longer; None when it cannot be said."""
    quantities: tuple[Steadiness, ...]
    hunting: Hunting | None
    load_per_minute: Mapping[str, float]
    """The load's quantities that move enough to matter [core unit per minute]."""
    missing: tuple[str, ...] = ()

    @property
    def is_settled(self) -> bool:
        return self.state == "settled"

    @property
    def slowest(self) -> Steadiness | None:
        return max(self.quantities, key=lambda q: q.seconds, default=None)


def settling(
    traces: Mapping[str, Trace], now: float, quiet_since: float, frosts: bool = False
) -> Settling:
    """Judge the traces at `now` [s]; nothing before `quiet_since` (start or last change) counts;
    where it `frosts`, an even slow drift is the weather's.

    Traces hold core units under the keys of `SLOW` and `LOAD`, a value every few seconds. A
    quantity not measured is not asked for; none at all is unknown. One whose last value is
    older than `STALE_S` is missing.
    """
    start = max(now - WINDOW_S, quiet_since)
    windows = {key: trace.since(start) for key, trace in traces.items()}
    measured = [row for row in SLOW if traces.get(row.key) and traces[row.key].values]
    stale = tuple(row.key for row in measured if now - traces[row.key].seconds[-1] > STALE_S)
    load = _load(windows)
    if not measured or stale:
        return Settling("unknown", None, (), None, load, stale)
    short = [row for row in measured if not _long_enough(windows[row.key])]
    if short:
        left = max(SHORTEST_S - (now - start), 1.0) + USUAL_TAU_S
        return Settling("settling", left, (), None, load)
    found = tuple(_steadiness(row, windows[row.key]) for row in measured)
    if frosts:
        found = tuple(replace(q, seconds=0.0) if _is_frost(q) else q for q in found)
    if any(q.seconds > 0 and q.to_go < HOLDS * q.row.within for q in found):
        found = _held(found, traces, now - HELD_S, quiet_since)
    swing = _swing(windows)
    if swing is not None:
        return Settling("hunting", None, found, swing, load)
    longest = max(q.seconds for q in found)
    state: State = "settled" if longest == 0 else "settling"
    return Settling(state, min(longest, LONGEST_FORECAST_S), found, None, load)


def _is_frost(now: Steadiness) -> bool:
    """Whether it moves no faster than a coil that frosts."""
    slowly = {row.key: row.per_minute for row in FROSTING}
    return now.drifts and abs(now.per_minute) <= slowly.get(now.row.key, 0.0)


def _held(
    found: tuple[Steadiness, ...], traces: Mapping[str, Trace], before: float, quiet_since: float
) -> tuple[Steadiness, ...]:
    """What was steady half a minute ago stays so while it is only just over its limit."""
    kept = []
    for now in found:
        trace = _until(traces[now.row.key].since(max(before - WINDOW_S, quiet_since)), before)
        was_steady = _long_enough(trace) and _steadiness(now.row, trace).is_steady
        near = now.to_go < HOLDS * now.row.within
        kept.append(replace(now, seconds=0.0) if was_steady and near else now)
    return tuple(kept)


def _until(trace: Trace, end: float) -> Trace:
    last = next((i for i, t in enumerate(trace.seconds) if t > end), len(trace.seconds))
    return Trace(trace.seconds[:last], trace.values[:last])


def _long_enough(trace: Trace) -> bool:
    return trace.span >= SHORTEST_S and len(trace.values) >= LEAST_ROWS


def _steadiness(row: Slow, trace: Trace) -> Steadiness:
    half = trace.span / 2
    early, late = _halves(trace, half)
    first, last = fitted(early), fitted(late)
    tau, drifts = _tau(first.slope, last.slope, half)
    # The line through the later half is right at its middle; the slope falls on from there.
    at_end = last.slope * exp(-half / 2 / tau)
    to_go = CAUTION * (abs(at_end) + last.error) * tau
    seconds = 0.0
    if to_go > row.within:
        seconds = max(tau * log(to_go / row.within), 5.0)
    end = late.seconds[-1]
    return Steadiness(row, last.at(end), at_end * 60, last.scatter, to_go, seconds, drifts)


def _halves(trace: Trace, half: float) -> tuple[Trace, Trace]:
    middle = trace.seconds[0] + half
    cut = next(i for i, t in enumerate(trace.seconds) if t >= middle)
    return (
        Trace(trace.seconds[:cut], trace.values[:cut]),
        Trace(trace.seconds[cut:], trace.values[cut:]),
    )


def _tau(first: float, last: float, apart: float) -> tuple[float, bool]:
    """Time constant from two slopes half a window apart; and whether they do not decay."""
    if first * last <= 0 or abs(first) < 1e-12:
        return USUAL_TAU_S, False
    ratio = last / first
    if ratio >= STEADY_RATIO:
        return LONG_TAU_S, True
    return min(max(apart / log(1 / ratio), SHORT_TAU_S), LONG_TAU_S), False


def _load(windows: Mapping[str, Trace]) -> dict[str, float]:
    moving = {}
    for row in LOAD:
        trace = windows.get(row.key)
        if trace is not None and _long_enough(trace):
            line = fitted(trace)
            if abs(line.slope) * 60 > row.per_minute and abs(line.slope) > 3 * line.error:
                moving[row.key] = line.slope * 60
    return moving


def _swing(windows: Mapping[str, Trace]) -> Hunting | None:
    for key in SWINGS:
        trace = windows.get(key)
        if trace is not None and _long_enough(trace):
            found = hunts(trace)
            if found is not None:
                return found
    return None


def with_differences(
    traces: Mapping[str, Trace], saturation: Sequence[tuple[str, str, str, int]]
) -> dict[str, Trace]:
    """Traces with superheat and subcooling beside them.

    Each row of `saturation`: the new key, the saturation trace, the line trace, and +1 where
    the line's temperature counts up from saturation (superheat) or -1 (subcooling). Values are
    paired where both were read in the same moment.
    """
    more = dict(traces)
    for key, level_key, line_key, sign in saturation:
        level, line = traces.get(level_key), traces.get(line_key)
        if level is None or line is None:
            continue
        at = dict(zip(level.seconds, level.values, strict=True))
        rows = [
            (t, sign * (v - at[t]))
            for t, v in zip(line.seconds, line.values, strict=True)
            if t in at
        ]
        if rows:
            more[key] = Trace(tuple(t for t, _ in rows), tuple(v for _, v in rows))
    return more
