"""A quantity over time, evenly spaced, and what a straight line makes of it."""

from collections.abc import Sequence
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


def residuals_of(trace: Trace) -> Sequence[float]:
    """What is left of a trace when its line is taken away."""
    line = fitted(trace)
    return [v - line.at(t) for t, v in zip(trace.seconds, trace.values, strict=True)]
