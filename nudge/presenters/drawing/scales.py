"""Straight scales and round figures along them, for every drawing with axes."""

from dataclasses import dataclass
from math import ceil, floor, log10

ROUND = (1, 2, 5, 10)
"""What a step between figures may be, times a power of ten."""


@dataclass(frozen=True, slots=True)
class LinearScale:
    """A straight line from a range of values to a range of a frame's units."""

    low: float
    high: float
    start: float
    end: float

    def __call__(self, value: float) -> float:
        share = 0.5 if self.high == self.low else (value - self.low) / (self.high - self.low)
        return self.start + share * (self.end - self.start)


def ticks(low: float, high: float, count: int) -> list[float]:
    """Round figures within a range, about `count` of them."""
    rough = (high - low) / max(count, 1)
    if rough <= 0:
        return [low]
    power = 10.0 ** floor(log10(rough))
    step = next((n * power for n in ROUND if n * power >= rough * (1 - 1e-9)), rough)
    first, last = ceil(low / step - 1e-9), floor(high / step + 1e-9)
    return [round(n * step, 10) for n in range(first, last + 1)]
