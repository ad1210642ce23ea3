"""A box on its way to its set point: the curve it follows, and when it will be near.

A box that is pulled down falls towards where load and machine are even, each minute by a share of
what is left: T = T∞ + (T₀ − T∞)·e^(−t/τ). T∞ is not known beforehand: the fit tries what lies under
the lowest reading. Every end that the readings allow counts, from the least squares up to twice a
reading's own error more: early in a fall they allow many, and the forecast says so. Source: heat
balance of one store.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log

from nudge.core.language.units import degrees_f

NEAR_K = degrees_f(5)
"""Within this of its set point a room is judged. Trade rule."""
LEAST_MINUTES, LEAST_FALL_K = 6.0, 0.4
"""A fit needs so long, and so much of a fall, to say anything."""
READ_K, ALLOWED = 0.12, 4.0
"""A box reading's own wander (1 σ), and how many squares of it a curve may stand off the best."""
UNDER_K = (0.3, 0.7, 1.5, 3.0, 5.0, 8.0, 12.0, 18.0, 26.0)
"""How far under the lowest reading the end of the curve is looked for."""


@dataclass(frozen=True, slots=True)
class PullDown:
    """The likeliest curve: where it ends [°C], its time constant, and when it is near [min]."""

    ends_c: float
    tau_min: float
    near_in_min: float | None
    """Minutes from the last reading until it is near its set point at the earliest; None where no
    curve that fits ever is."""
    latest_in_min: float | None = None
    """At the latest; None where some curve that fits never is."""


def pull_down(moments: Sequence[tuple[float, float]], set_point_c: float) -> PullDown | None:
    """Fit box temperatures [min, °C], oldest first; None where they show no fall.

    The forecast is where the curve crosses `NEAR_K` over the set point.
    """
    if len(moments) < 3 or moments[-1][0] - moments[0][0] < LEAST_MINUTES:
        return None
    start, lowest = moments[0][0], min(temp for _, temp in moments)
    if moments[0][1] - moments[-1][1] < LEAST_FALL_K:
        return None
    fits = [fit for under in UNDER_K if (fit := _fit(moments, start, lowest - under)) is not None]
    if not fits:
        return None
    best, ends_c, _, tau = min(fits)
    now = moments[-1][0] - start
    allowed = [fit for fit in fits if fit[0] <= best + ALLOWED * READ_K**2]
    when = [_near_in(set_point_c + NEAR_K, now, fit) for fit in allowed]
    comes = [minutes for minutes in when if minutes is not None]
    latest = max(comes) if len(comes) == len(when) else None
    return PullDown(ends_c, tau, min(comes, default=None), latest)


def _near_in(near_c: float, now: float, fit: tuple[float, float, float, float]) -> float | None:
    """Minutes until a fitted curve crosses a temperature; None where it ends over it."""
    _, ends_c, over_k, tau = fit
    wanted, left = near_c - ends_c, over_k * exp(-now / tau)
    if left <= wanted:
        return 0.0
    return None if wanted <= 0 else tau * log(left / wanted)


def _fit(
    moments: Sequence[tuple[float, float]], start: float, ends_c: float
) -> tuple[float, float, float, float] | None:
    """Squares left, the end, how far over it it began, its time constant; by a line through logs,
    each weighted by how far it still is from the end.
    """
    rows = [(minute - start, temp - ends_c) for minute, temp in moments]
    weights = [over * over for _, over in rows]
    whole = sum(weights)
    mean_t = sum(w * t for w, (t, _) in zip(weights, rows, strict=True)) / whole
    mean_l = sum(w * log(o) for w, (_, o) in zip(weights, rows, strict=True)) / whole
    spread = sum(w * (t - mean_t) ** 2 for w, (t, _) in zip(weights, rows, strict=True))
    if spread <= 0:
        return None
    slope = sum(
        w * (t - mean_t) * (log(o) - mean_l) for w, (t, o) in zip(weights, rows, strict=True)
    )
    slope /= spread
    if slope >= 0:
        return None
    over_k, tau = exp(mean_l - slope * mean_t), -1 / slope
    squares = sum((over_k * exp(-t / tau) - o) ** 2 for t, o in rows)
    return squares, ends_c, over_k, tau
