"""Nitrogen that stands: what it lost beyond what temperature explains, and what that excludes."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import log, sqrt
from typing import Literal

from nudge.core.language.units import KPA_PER_PSI, SEA_LEVEL_KPA, ZERO_C_IN_K, degrees_f
from nudge.core.physics.tightness.leak import throughput
from nudge.core.physics.tightness.nitrogen import amount, pressure_of

Held = Literal["holds", "leaks", "rises", "unsteady", "too_short"]

LEAST_MIN = 10.0
GAUGE_REPEATS_KPA = 0.5 * KPA_PER_PSI
"""How well one gauge shows the same pressure twice, 19 times in 20."""
CLAMP_REPEATS_K = degrees_f(1)
FOLLOWS = (0.35, 1.0)
"""Share of a clamp's change that the gas makes: the rest of its pipe lies elsewhere."""
HIDDEN = 0.35
"""Share of the clamp's whole swing that sun and shade elsewhere may add unseen."""
FEW = 12
EVEN = 0.4
"""A leak's slower half of a stand falls at least so fast beside its faster one."""
CLEARLY, SURELY = 3.0, 1.5
"""Times its ± a loss must be where it did not fall evenly, and where temperature moved."""
UNSEEN = 1.0
"""Share of the swing that may have warmed the gas and hidden a loss: what is excluded counts it."""
TRACED, UNSEEN_RISE = 1.2, 2.0
"""What a trace adds: its readings’ scatter; and its own rises, which sun made where no clamp is."""
UNSTEADY = 4.0
"""Over so many times the gauge's own ± temperature hides what the gauge could show."""


@dataclass(frozen=True, slots=True)
class StandingPressure:
    """What a stand says: `lost` [kPa] over `minutes`, its ± `off`, and leaks by it [mbar·L/s].

    `excludes`: no leak over this is there. None while it is not steady or not long enough.
    """

    held: Held
    lost: float
    off: float
    minutes: float
    expected_kpa: float
    leak: float
    excludes: float | None


def read_stand(
    minutes: Sequence[float],
    kpa_abs: Sequence[float],
    pipe_c: Sequence[float],
    litres: float,
    repeats_kpa: float = GAUGE_REPEATS_KPA,
) -> StandingPressure:
    """Judge a stand from its readings, oldest first: two or a trace of them.

    `kpa_abs`, `pipe_c` [°C] are of the same moments, `litres` the space under test.
    Raises: OutOfRange, for nitrogen off its tables.
    """
    span = minutes[-1] - minutes[0]
    middle_share = sum(FOLLOWS) / 2
    held = amount(kpa_abs[0], pipe_c[0])
    moved = pipe_c[-1] - pipe_c[0]
    expected = pressure_of(held, pipe_c[0] + middle_share * moved)
    lost = expected - kpa_abs[-1]
    a_kelvin = kpa_abs[0] / (pipe_c[0] + ZERO_C_IN_K)
    swing = max(pipe_c) - min(pipe_c)
    follow_off = (FOLLOWS[1] - FOLLOWS[0]) / 2 * abs(moved) * a_kelvin
    steady = sqrt(2 * (repeats_kpa**2 + (CLAMP_REPEATS_K * a_kelvin) ** 2))
    off = sqrt(steady**2 + follow_off**2 + (HIDDEN * swing * a_kelvin) ** 2)
    is_even = True
    trend = _by_trend(minutes, kpa_abs, pipe_c, a_kelvin)
    if trend is not None:
        by_trace, off_trace, is_even = trend
        lost, off = (lost + by_trace) / 2, max(off, abs(lost - by_trace), off_trace)
    leak = _leak(litres, kpa_abs[0], max(lost, 0.0), span)
    unseen = sqrt(off**2 + (UNSEEN * swing * a_kelvin) ** 2)
    if trend is not None:
        unseen = TRACED * unseen + UNSEEN_RISE * _rises(kpa_abs)
    most = _leak(litres, kpa_abs[0], max(lost, 0.0) + unseen, span)
    found = _found(lost, off, steady, span, is_even)
    return StandingPressure(
        found, lost, off, span, expected, leak, most if found == "holds" else None
    )


def _leak(litres: float, first_kpa: float, lost: float, minutes: float) -> float:
    """What a leak passed at the first pressure, that lost so much since [mbar·L/s].

    Laminar: dp/dt = −k (p² − a²), so k t = f(p₀) − f(p₁) with f = ln((p − a)/(p + a))/2a.
    """
    a = SEA_LEVEL_KPA

    def f(kpa: float) -> float:
        return log((kpa - a) / (kpa + a)) / (2 * a)

    last = max(first_kpa - lost, a * 1.02)
    if first_kpa <= last or minutes <= 0:
        return 0.0
    k = (f(first_kpa) - f(last)) / (minutes * 60)
    return throughput(litres, k * (first_kpa**2 - a**2))


def _found(lost: float, off: float, steady: float, span: float, is_even: bool) -> Held:
    if lost > off and (is_even or lost > CLEARLY * off):
        return "leaks" if lost > SURELY * off or off < 2 * steady else "unsteady"
    if lost < -off:
        return "rises"
    if off > UNSTEADY * steady or lost > off:
        return "unsteady"
    return "holds" if span >= LEAST_MIN * 0.98 else "too_short"


def _by_trend(
    minutes: Sequence[float],
    kpa_abs: Sequence[float],
    pipe_c: Sequence[float],
    a_kelvin: float,
) -> tuple[float, float, bool] | None:
    """Loss by the whole trace and its ± [kPa], temperature taken out; whether it fell evenly.

    None for a few points. A leak falls evenly; what sun and shade do comes and goes.
    """
    if len(minutes) < FEW:
        return None
    share = sum(FOLLOWS) / 2
    level = [p - share * a_kelvin * (c - pipe_c[0]) for p, c in zip(kpa_abs, pipe_c, strict=True)]
    slope, scatter = _line(minutes, level)
    span, half = minutes[-1] - minutes[0], len(minutes) // 2
    parts = [-_line(minutes[:half], level[:half])[0], -_line(minutes[half:], level[half:])[0]]
    is_even = min(parts) > EVEN * max(parts) > 0
    return -slope * span, 2 * scatter, is_even


def _rises(kpa_abs: Sequence[float]) -> float:
    """How far it rose again after its lowest [kPa], over three readings: no leak does that."""
    means = [sum(kpa_abs[n : n + 3]) / 3 for n in range(len(kpa_abs) - 2)]
    lowest, most = means[0], 0.0
    for kpa in means:
        lowest = min(lowest, kpa)
        most = max(most, kpa - lowest)
    return most


def _line(minutes: Sequence[float], values: Sequence[float]) -> tuple[float, float]:
    """Slope of a straight line and the scatter about it."""
    n = len(values)
    mt, mp = sum(minutes) / n, sum(values) / n
    spread = sum((t - mt) ** 2 for t in minutes)
    slope = sum((t - mt) * (p - mp) for t, p in zip(minutes, values, strict=True)) / spread
    left = [p - mp - slope * (t - mt) for t, p in zip(minutes, values, strict=True)]
    return slope, sqrt(sum(v * v for v in left) / max(n - 2, 1))


def minutes_to_exclude(wanted: float, litres: float, off_kpa: float) -> float:
    """How long a stand must last to exclude a leak [mbar·L/s], holding to `off_kpa` [min]."""
    return litres * off_kpa * 10 / wanted / 60
