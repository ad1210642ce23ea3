"""What a standing vacuum proves: dry, wet, leaking, or nothing yet."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from typing import Literal

from nudge.core.language.units import PA_PER_MICRON
from nudge.core.physics.tightness.decay import Fitted, Risen, fit_rise, late_rate
from nudge.core.physics.tightness.water import TRIPLE_PA, water_pressure

Found = Literal["dry", "wet", "gives_off", "leaking", "cannot_tell"]

QUIET_PA_MIN = 6.0 * PA_PER_MICRON
"""Dry wants the last minutes to rise slower than this at the most they can, all sources."""
LATE_MIN = 10.0
"""Minutes at the end that say how fast it rises now."""
LEAST_MIN, FEWEST = 10.0, 4
"""A stand shorter than this says nothing."""
USED_PA, NEW_PA = 1_000 * PA_PER_MICRON, 500 * PA_PER_MICRON
"""Where a dry system may stand: with old oil in it, and new."""
OIL_PA = 1_000 * PA_PER_MICRON
"""Old oil gives off no more than this: what comes from within beyond it is water."""
FROM_OUTSIDE = 0.5
"""A leak is named when at least this share of the rise has to come from outside."""
LEAST_LEAK_PA_MIN = 2.0 * PA_PER_MICRON
"""A leak under this is not named from a decay: it is lost in what pipes give off."""
FROM_WITHIN = 0.4
"""Wet is said when at least this share of the rise has to come from within."""
STRAIGHT_MIN = 55.0
"""A straight rise convicts nobody before it stood so long, or was warmed."""
MISFIT = 2.0
"""Where the laws fit worse than this, a leak is not named by them."""
WARMED_K = 6.0
OVER_ICE = 1.15
"""How far over what water can hold it must stand, gauge and cold spots allowed for."""


@dataclass(frozen=True, slots=True)
class Stand:
    """What a standing vacuum says.

    `rise` and `rise_off`: the last minutes [Pa/min] and their ±, the gauge's scale error in it.
    `leak_low`, `leak_high`: what may come from outside [Pa/min]. `held`: the most that water
    could hold at the coldest pipe [Pa].
    """

    found: Found
    rise: float
    rise_off: float
    leak_low: float
    leak_high: float
    held: float
    fit: Fitted | None
    passes_water: bool = False
    is_warmed: bool = False
    minutes: float = 0.0


def read_standing(
    stretches: Sequence[Risen],
    noise: float,
    scale_error: float,
    limit_pa: float = USED_PA,
) -> Stand:
    """Judge one circuit's stretches of standing vacuum, oldest first.

    `noise` is one reading's scatter [Pa], `scale_error` the share its gauge may be off by.
    """
    last = stretches[-1]
    coldest = min(min(one.pipe_c) for one in stretches)
    held = max(water_pressure(coldest), TRIPLE_PA)
    stood = max(one.span for one in stretches)
    if last.span < LEAST_MIN * 0.98 or len(last.minutes) < FEWEST:
        return Stand("cannot_tell", 0.0, 0.0, 0.0, 0.0, held, None, minutes=stood)
    rise, off = late_rate(last, noise, max(LATE_MIN, last.span / 3))
    off = sqrt(off**2 + (scale_error * rise) ** 2)
    fit = fit_rise(stretches, noise)
    most = max(max(one.pascals) for one in stretches)
    means = [sum(one.pipe_c) / len(one.pipe_c) for one in stretches]
    warmed = max(means) - means[0] >= WARMED_K
    over = most * (1 - scale_error) > OVER_ICE * held
    low, high = fit.leak_low * (1 - scale_error), fit.leak_high * (1 + scale_error)
    if over:  # what water and oil together cannot hold came from outside
        held_back = held + OIL_PA + min(last.pascals)
        low = max(low, (last.pascals[-1] * (1 - scale_error) - held_back) / last.span)
    found = _found(last, rise, off, low, high, fit, over, warmed, stood, limit_pa, scale_error)
    return Stand(found, rise, off, low, high, held, fit, over, warmed, stood)


def _found(
    last: Risen,
    rise: float,
    off: float,
    low: float,
    high: float,
    fit: Fitted,
    over: bool,
    warmed: bool,
    stood: float,
    limit_pa: float,
    scale_error: float,
) -> Found:
    end = last.pascals[-1] * (1 + scale_error)
    if rise + off < QUIET_PA_MIN and end < limit_pa:
        return "dry"
    whole = (last.pascals[-1] - last.pascals[0]) / max(last.span, 1e-9)
    if over and low > LEAST_LEAK_PA_MIN and low >= fit.leak_low:
        return "leaking"
    may_convict = over or warmed or stood >= STRAIGHT_MIN or last.pascals[-1] > TRIPLE_PA * 1.3
    if (
        may_convict
        and fit.misfit < MISFIT
        and low > max(LEAST_LEAK_PA_MIN, FROM_OUTSIDE * max(whole, rise))
    ):
        return "leaking"
    within = (whole - high) * last.span
    if within > FROM_WITHIN * whole * last.span:
        is_water = within > OIL_PA * (1 + scale_error)
        return "wet" if is_water else "gives_off"
    return "cannot_tell"
