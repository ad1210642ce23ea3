"""How far over its air a condenser works: by rated efficiency, where nothing better is known."""

from itertools import pairwise

from nudge.core.said import degrees_f

CLASS_OWN_ERROR_K = degrees_f(5)
DEFAULT_SEER = 14.0
CONDENSING_BY_SEER: tuple[tuple[float, float], ...] = (
    (17, degrees_f(15)),
    (13, degrees_f(20)),
    (10, degrees_f(25)),
    (0, degrees_f(30)),
)
"""(SEER at least, expected condensing over ambient [K]): bigger coils condense closer to air."""


def condensing_over_ambient_of(rated_seer: float | None) -> float:
    """Condensing over ambient of an efficiency class [K]; 14 is assumed where nothing is rated.

    Source: trade rule, 30 °F for SEER 6-9, 25 for 10-12, 20 for 13-16, 15 for 17 and over.
    """
    seer = DEFAULT_SEER if rated_seer is None else rated_seer
    return next(k for least, k in CONDENSING_BY_SEER if seer >= least)


_MIDDLES: tuple[tuple[float, float], ...] = (
    (8.0, degrees_f(30)),
    (11.5, degrees_f(25)),
    (15.0, degrees_f(20)),
    (18.5, degrees_f(15)),
)
"""The middle of each class with its figure: between them the judge takes a part of each."""


def condensing_over_ambient_near(rated_seer: float | None) -> float:
    """The class rule without its steps [K], for weighing: held at its first and last class."""
    seer = DEFAULT_SEER if rated_seer is None else rated_seer
    for (low, over), (high, under) in pairwise(_MIDDLES):
        if seer <= high:
            return over + (under - over) * max(seer - low, 0.0) / (high - low)
    return _MIDDLES[-1][1]
