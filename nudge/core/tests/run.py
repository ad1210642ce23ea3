"""One test under way or over: what it was begun with, what was read, what was noted, and when."""

from bisect import bisect_left, bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from nudge.core.language.said import Measure, Said, minutes, say
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.tightness.decay import Point
from nudge.core.settling.trace import Trace

HOLE_S = 90.0
"""A channel silent for longer leaves a hole: nothing is judged across it."""
OUTDOORS = ("suction_line_temp", "liquid_line_temp", "outdoor_air_temp")
"""Where the temperature of a still circuit is read, the likeliest first."""
EVERY_PIPE = (*OUTDOORS, "evaporator_outlet_temp", "return_air_temp")

State = Literal["running", "passed", "failed", "cannot_tell", "aborted"]
Settings = Mapping[str, float | str]


@dataclass(frozen=True, slots=True)
class TestMark:
    """Something noted while a test ran, at a moment [s]."""

    kind: str
    at_s: float
    place: str = ""
    """A joint of the drawing, by its key, or in words."""


@dataclass(frozen=True, slots=True)
class Run:
    """A test on a visit. Moments in seconds since 1970; traces by point in core units.

    `settings` in core units; `ended_s` None while it runs. Traces hold what instruments sent and
    what was typed, oldest first.
    """

    key: str
    plate: Plate
    began_s: float
    now_s: float
    settings: Settings = field(default_factory=dict)
    traces: Mapping[str, Trace] = field(default_factory=dict)
    typed: Mapping[str, Trace] = field(default_factory=dict)
    """What was typed of the same points: beside a live channel it is a second gauge."""
    marks: tuple[TestMark, ...] = ()
    ended_s: float | None = None
    aborted: str = ""
    started_s: tuple[float, ...] = ()
    """When the system was started while the test ran."""

    @property
    def until_s(self) -> float:
        return self.now_s if self.ended_s is None else self.ended_s

    @property
    def minutes(self) -> float:
        return (self.until_s - self.began_s) / 60

    def number(self, key: str) -> float | None:
        """A setting that is a number."""
        value = self.settings.get(key)
        return float(value) if isinstance(value, int | float) else None

    def choice(self, key: str, usual: str = "") -> str:
        """A setting that is one of several words."""
        value = self.settings.get(key, usual)
        return value if isinstance(value, str) else usual

    def trace(self, point: str) -> Trace:
        return self.traces.get(point, Trace((), ()))

    def marked(self, *kinds: str) -> tuple[TestMark, ...]:
        return tuple(mark for mark in self.marks if mark.kind in kinds)

    def last_of(self, point: str) -> float | None:
        trace = self.trace(point)
        return trace.values[-1] if trace.values else None

    def pipes(self, points: Sequence[str] = EVERY_PIPE) -> dict[str, Trace]:
        """What was read of pipe and air temperatures."""
        return {point: self.traces[point] for point in points if point in self.traces}


@dataclass(frozen=True, slots=True)
class Number:
    """A number of an outcome, with its ± and how it came about in words."""

    key: str
    label: str
    measure: Measure
    off: float | None = None
    how: str = ""


@dataclass(frozen=True, slots=True)
class Advice:
    """A test that would tell, and what it would show."""

    key: str
    words: str


@dataclass(frozen=True, slots=True)
class TestOutcome:
    """What a test says now. It proves only once it is ended.

    `key` tells the finding, `curves` what was fitted: minute, from outside, from within, base.
    """

    state: State
    key: str
    headline: Said
    says: tuple[Said, ...] = ()
    numbers: tuple[Number, ...] = ()
    proves: tuple[str, ...] = ()
    """Facts of the visit it proves: `tight`, `dry`, `valve_shut`, …"""
    observations: tuple[str, ...] = ()
    """What it settles of the things one can see, as in the table of observations."""
    then: tuple[Advice, ...] = ()
    ready_in: float | None = None
    """Minutes until it is worth reading again; None where nobody knows."""
    hazards: tuple[Said, ...] = ()
    warnings: tuple[Said, ...] = ()
    schools: tuple[Said, ...] = ()
    """What the customs of the trade would say of the same curve."""
    curves: tuple[tuple[Point, ...], ...] = ()
    starts_s: tuple[float, ...] = ()
    """When each stretch of the curves began."""
    hidden: Number | None = None
    """The smallest leak that could still hide."""


def holes(trace: Trace, longest_s: float = HOLE_S) -> list[tuple[float, float]]:
    """Spans without a value, longer than a channel may be silent."""
    pairs = zip(trace.seconds, trace.seconds[1:], strict=False)
    return [(a, b) for a, b in pairs if b - a > longest_s]


def at(trace: Trace, second: float) -> float | None:
    """A trace at a moment, straight between its values, held at its ends; None where empty."""
    if not trace.seconds:
        return None
    n = bisect_left(trace.seconds, second)
    if n in (0, len(trace.seconds)):
        return trace.values[min(n, len(trace.values) - 1)]
    (a, b), (low, high) = trace.seconds[n - 1 : n + 1], trace.values[n - 1 : n + 1]
    return low + (second - a) / (b - a) * (high - low)


def merged(first: Trace, second: Trace) -> Trace:
    """Two traces of one point in order of time; of the same moment the first counts."""
    rows = dict(zip(second.seconds, second.values, strict=True))
    rows.update(zip(first.seconds, first.values, strict=True))
    seconds = tuple(sorted(rows))
    return Trace(seconds, tuple(rows[s] for s in seconds))


def between(trace: Trace, since_s: float, until_s: float) -> Trace:
    """The part of a trace from one moment to another, both in it."""
    part = slice(bisect_left(trace.seconds, since_s), bisect_right(trace.seconds, until_s))
    return Trace(trace.seconds[part], trace.values[part])


def silences(run: Run, point: str) -> list[tuple[float, float]]:
    """Holes in what an instrument sends of a point; a trace that was typed has none."""
    return [] if point in run.typed else holes(run.trace(point))


def silent_said(gaps: Sequence[tuple[float, float]], what: str) -> Said:
    """That nothing is judged across the longest of some holes."""
    longest = max(b - a for a, b in gaps) / 60
    return say(
        f"{what} was silent for {{silent}}. Nothing is judged across that hole.",
        silent=minutes(longest),
    )
