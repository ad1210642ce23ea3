"""What a live scale says has gone, and when it is not to be believed."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import median

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.settling.trace import Trace, fitted

KNOCK_KG_S = 0.06
"""No hose pours 2 oz in a second: a step this steep is a knock, or another cylinder."""
WRONG_WAY_KG = 0.02
CREEP_KG_MIN = (0.004, 0.03)
"""Slower than any pour and faster than a good scale wanders."""
CREEP_S = 45.0
STEADY_ROWS = 3


@dataclass(frozen=True, slots=True)
class Poured:
    """What has left (or, removing, entered) the cylinder since the zero [kg]."""

    gone_kg: float
    gross_kg: float
    doubt: Said | None


def poured(weights: Trace, removes: bool = False) -> Poured | None:
    """Read a scale from its zero on; None before it has shown anything.

    `weights` are gross [kg]. The doubt names a knock, a cylinder that changes the wrong way, or
    a scale that creeps.
    """
    if not weights.values:
        return None
    first = median(weights.values[:STEADY_ROWS])
    now = median(weights.values[-STEADY_ROWS:])
    gone = now - first if removes else first - now
    return Poured(gone, now, _doubt(weights, gone))


def _doubt(weights: Trace, gone_kg: float) -> Said | None:
    knock = max((abs(later - earlier) for earlier, later in _each_second(weights)), default=0.0)
    if knock > KNOCK_KG_S:
        return say(
            "The scale jumped by {step}: knocked, a hose moved, or another cylinder. Set it "
            "free and still, and zero it again.",
            step=_small(knock),
        )
    if gone_kg < -WRONG_WAY_KG:
        return say(
            "The scale went the wrong way by {by}. Look at the hose and the valves, and "
            "zero it again.",
            by=_small(-gone_kg),
        )
    late = weights.since(weights.seconds[-1] - CREEP_S)
    if late.span > 0.8 * CREEP_S:
        line = fitted(late)
        rate = abs(line.slope) * 60
        if CREEP_KG_MIN[0] < rate < CREEP_KG_MIN[1] and abs(line.slope) > 6 * line.error:
            return say(
                "The scale creeps by {rate} a minute: it drifts, or the valve is not shut.",
                rate=_small(rate),
            )
    return None


def _each_second(weights: Trace) -> Sequence[tuple[float, float]]:
    """Neighbouring values not more than two seconds apart."""
    rows = list(zip(weights.seconds, weights.values, strict=True))
    return [(a[1], b[1]) for a, b in pairwise(rows) if b[0] - a[0] <= 2.0]


def _small(kg: float) -> Measure:
    return Measure(kg * 1000, Quantity.SMALL_MASS)
