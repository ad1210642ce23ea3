"""A swing that repeats: its period and size. Found in the trace, not averaged away."""

from collections.abc import Sequence
from dataclasses import dataclass

from nudge.core.language.units import degrees_f
from nudge.core.settling.trace import Trace, residuals_of

LEAST_SWING_K = degrees_f(3)
LEAST_LIKENESS = 0.45
SHORTEST_S, LONGEST_S = 16.0, 200.0
LEAST_ROWS = 24


@dataclass(frozen=True, slots=True)
class Hunting:
    """A steady swing: period [s], from trough to crest in the quantity's unit."""

    period_s: float
    swing: float


def hunts(trace: Trace, least_swing: float = LEAST_SWING_K) -> Hunting | None:
    """Whether a trace swings with a steady period.

    Autocorrelation of what is left after its line: the first crest after it has crossed zero
    must be as high as `LEAST_LIKENESS`, and the window must hold two periods.
    """
    if len(trace.values) < LEAST_ROWS:
        return None
    left = residuals_of(trace)
    ordered = sorted(left)
    cut = len(ordered) // 20
    swing = ordered[-1 - cut] - ordered[cut]
    if swing < least_swing:
        return None
    step = trace.span / (len(trace.values) - 1)
    lag = _first_crest(left, int(SHORTEST_S / step), int(min(LONGEST_S, trace.span / 2) / step))
    return None if lag is None else Hunting(lag * step, swing)


def _first_crest(left: Sequence[float], shortest: int, longest: int) -> int | None:
    power = sum(v * v for v in left)
    if power == 0:
        return None
    n = len(left)
    likeness = [
        sum(left[i] * left[i + lag] for i in range(n - lag)) / power * n / (n - lag)
        for lag in range(longest + 2)
    ]
    crossed = next((lag for lag, r in enumerate(likeness) if r < 0), None)
    if crossed is None:
        return None
    for lag in range(max(crossed, shortest), longest + 1):
        is_crest = likeness[lag] >= likeness[lag - 1] and likeness[lag] >= likeness[lag + 1]
        if is_crest and likeness[lag] > LEAST_LIKENESS:
            return lag
    return None
