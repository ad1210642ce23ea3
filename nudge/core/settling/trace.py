"""A quantity over time, evenly spaced, and what a straight line makes of it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import sqrt


@dataclass(frozen=True, slots=True)
class Trace:
    """Values [core unit] at times [s], oldest first. Gaps are left out, not filled."""

    seconds: tuple[float, ...]
    values: tuple[float, ...]

    def since(self, start: float) -> "Trace":
        """The part from a moment on."""
        first = next((i for i, t in enumerate(self.seconds) if t >= start), len(self.seconds))
        return Trace(self.seconds[first:], self.values[first:])

    @property
    def span(self) -> float:
        """Time covered [s]."""
        return self.seconds[-1] - self.seconds[0] if len(self.seconds) > 1 else 0.0

    @property
    def mean(self) -> float:
        return sum(self.values) / len(self.values)


@dataclass(frozen=True, slots=True)
class FittedLine:
    """A least-squares line: slope [unit/s] with its standard error, scatter about it."""

    slope: float
    error: float
    scatter: float
    start: float
    middle: float

    def at(self, seconds: float) -> float:
        return self.middle + self.slope * (seconds - self.start)


def fitted(trace: Trace) -> FittedLine:
    """The line through a trace of three values or more (`start` is its middle moment)."""
    n = len(trace.values)
    centre = sum(trace.seconds) / n
    mean = trace.mean
    spread = sum((t - centre) ** 2 for t in trace.seconds)
    slope = (
        sum((t - centre) * (v - mean) for t, v in zip(trace.seconds, trace.values, strict=True))
        / spread
        if spread
        else 0.0
    )
    residuals = [
        v - mean - slope * (t - centre) for t, v in zip(trace.seconds, trace.values, strict=True)
    ]
    scatter = sqrt(sum(r * r for r in residuals) / max(n - 2, 1))
    error = scatter / sqrt(spread) if spread else 0.0
    return FittedLine(slope, error, scatter, centre, mean)


def running_slopes(trace: Trace, window: float) -> Iterator[tuple[int, int, float]]:
    """For each value, the first one within `window` [s] of it and the slope between [unit/s].

    As `fitted` has it, by sums that run along: a trace of n values takes n steps.
    """
    start, base = trace.seconds[:1], trace.values[:1]
    sums = [0.0] * 4
    first = 0
    for last, (at, value) in enumerate(zip(trace.seconds, trace.values, strict=True)):
        _add(sums, at - start[0], value - base[0], 1)
        while at - trace.seconds[first] > window:
            _add(sums, trace.seconds[first] - start[0], trace.values[first] - base[0], -1)
            first += 1
        n, (t, v, tt, tv) = last - first + 1, sums
        spread = n * tt - t * t
        yield first, last, (n * tv - t * v) / spread if spread > 0 else 0.0


def _add(sums: list[float], t: float, v: float, times: int) -> None:
    for i, term in enumerate((t, v, t * t, t * v)):
        sums[i] += times * term


def residuals_of(trace: Trace) -> Sequence[float]:
    """What is left of a trace when its line is taken away."""
    line = fitted(trace)
    return [v - line.at(t) for t, v in zip(trace.seconds, trace.values, strict=True)]
