"""A vacuum on its way down: when it will be there, or that water holds it up."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from math import exp, log, sqrt
from typing import Literal

from nudge.core.physics.tightness.hoses import Hookup
from nudge.core.physics.tightness.water import water_pressure

State = Literal["reached", "coming", "stalled_on_water", "at_its_end", "cannot_tell"]

LITRES_TRIED = (1.0, 80.0)
PUMPS_TRIED = (0.25, 0.4, 0.6, 0.8, 1.0, 1.25)
"""Shares of the pump's name that its real speed may be: it wears."""
GIVEN_OFF = (0.0, 2.0, 6.0, 15.0, 35.0)
"""Pa that gas out of old oil holds it over the pump's own end."""
FAR_MIN = 240.0
"""A forecast farther off than this is none."""
LAGS = 0.35
"""Water boils where a vacuum falls slower than this share of what a dry one would."""
LAGS_FOR_MIN = 0.6
USUAL_LITRES, SURELY = 12.0, 2.0
"""A split system's inside, where its curve has not told it, and how much larger it may well be."""
STANDS_MIN, STILL = 5.0, 0.05
"""It comes no further where ln p fell by less than this in so many minutes. The slowest that comes,
80 L behind 3 m of quarter-inch hose, falls by 0.08 where a pipe of -20 °C lets no water boil."""
OVER_WATER = 1.4
"""Over so many times the pressure of water at the pipe's temperature none boils."""
STEPS = 60


@dataclass(frozen=True, slots=True)
class Evacuation:
    """How it stands: `left_min` until the target and its ± (a share), by the curve so far.

    `litres` is the volume that the curve's beginning fits, with the pump as named.
    """

    state: State
    left_min: float | None = None
    off: float | None = None
    litres: float | None = None


@dataclass(frozen=True, slots=True)
class _Law:
    litres: float
    hookup: Hookup
    given_off: float
    error: float = 0.0

    def rate(self, pa: float) -> float:
        """How fast ln p falls [1/min]."""
        speed = self.hookup.speed(pa)
        return speed * 60 / self.litres * max(1 - self.given_off / pa, 1e-4)


def read_evacuation(
    minutes: Sequence[float],
    pascals: Sequence[float],
    target_pa: float,
    hookup: Hookup,
    pipe_c: float,
    litres: float | None = None,
) -> Evacuation:
    """Judge an evacuation by its curve so far, from where the pump was opened to it.

    `pascals` [abs], `pipe_c` the coldest pipe [°C], `litres` its volume where somebody knows it.
    """
    if len(minutes) < 4:
        return Evacuation("cannot_tell")
    now = pascals[-1]
    if now <= target_pa:
        return Evacuation("reached", 0.0, 0.0)
    wet_pa = water_pressure(pipe_c) * OVER_WATER
    early = [(t, p) for t, p in zip(minutes, pascals, strict=True) if p > wet_pa]
    law = _fitted(early, hookup, (0.0,)) if len(early) >= 3 else None
    if law is None:
        law = _Law(max(litres or 0.0, USUAL_LITRES) * SURELY, hookup, 0.0)
    if now < wet_pa and _lags(minutes, pascals, law, wet_pa):
        return Evacuation("stalled_on_water", litres=law.litres)
    if _stands(minutes, pascals):
        return Evacuation("at_its_end", litres=law.litres)
    whole = _fitted(list(zip(minutes, pascals, strict=True)), hookup, GIVEN_OFF)
    left = _minutes_to(whole, now, target_pa)
    if left is None:
        return Evacuation("at_its_end", litres=whole.litres)
    return Evacuation("coming", left, 0.1 + min(2 * whole.error, 0.4), whole.litres)


def _stands(minutes: Sequence[float], pascals: Sequence[float]) -> bool:
    """Whether it has come no further for minutes, where water does not say why."""
    since = minutes[-1] - STANDS_MIN
    if minutes[0] > since:
        return False
    before = next(p for t, p in zip(minutes, pascals, strict=True) if t >= since)
    return log(max(before / pascals[-1], 1e-9)) < STILL


def _lags(minutes: Sequence[float], pascals: Sequence[float], law: _Law, wet_pa: float) -> bool:
    """Whether its last minutes fall far slower than a dry system's would at that pressure."""
    end = minutes[-1]
    rows = [
        (t, p)
        for t, p in zip(minutes, pascals, strict=True)
        if t >= end - 2 * LAGS_FOR_MIN and p < wet_pa
    ]
    if len(rows) < 3 or rows[-1][0] - rows[0][0] < LAGS_FOR_MIN * 0.9:
        return False
    fell = log(max(rows[0][1] / rows[-1][1], 1e-9)) / (rows[-1][0] - rows[0][0])
    middle = sqrt(rows[0][1] * rows[-1][1])
    worn = replace(law, hookup=law.hookup, given_off=GIVEN_OFF[-1])
    return fell < LAGS * min(law.rate(middle), worn.rate(middle))


def _fitted(
    rows: Sequence[tuple[float, float]], hookup: Hookup, given_off: Sequence[float]
) -> _Law:
    """The volume, pump and oil that the curve fits best, its end counting most."""
    rows = _thinned(rows)
    best: _Law | None = None
    for share in PUMPS_TRIED:
        pump = replace(hookup, pump_l_s=hookup.pump_l_s * share)
        for given in given_off:
            found = _best_volume(rows, pump, given)
            if best is None or found.error < best.error:
                best = found
    assert best is not None
    return best


def _best_volume(rows: Sequence[tuple[float, float]], pump: Hookup, given: float) -> _Law:
    """One volume in closed form: time passes in proportion to it, at any pressure."""
    unit = _Law(1.0, pump, given)
    clock = [0.0]
    for (_, before), (_, after) in pairwise(rows):
        clock.append(clock[-1] + _time(unit, before, after))
    weights = [1 + 3 * n / len(rows) for n in range(len(rows))]
    passed = [t - rows[0][0] for t, _ in rows]
    top = sum(w * a * b for w, a, b in zip(weights, clock, passed, strict=True))
    under = sum(w * a * a for w, a in zip(weights, clock, strict=True))
    litres = min(max(top / under if under > 0 else 10.0, LITRES_TRIED[0]), LITRES_TRIED[1])
    span = max(passed[-1], 1e-9)
    left = [(litres * a - b) / span for a, b in zip(clock, passed, strict=True)]
    error = sqrt(sum(w * v * v for w, v in zip(weights, left, strict=True)) / sum(weights))
    return _Law(litres, pump, given, error)


def _time(law: _Law, before: float, after: float) -> float:
    """Minutes between two pressures by a law; none upwards."""
    if after >= before:
        return 0.0
    middle = sqrt(before * after)
    return log(before / after) / max(law.rate(middle), 1e-6)


def _minutes_to(law: _Law, now: float, target: float) -> float | None:
    total, pa = 0.0, now
    ratio = exp(log(target / now) / STEPS)
    for _ in range(STEPS):
        total += _time(law, pa, pa * ratio)
        pa *= ratio
        if total > FAR_MIN:
            return None
    return total


def _thinned(rows: Sequence[tuple[float, float]], most: int = 40) -> list[tuple[float, float]]:
    """Rows evenly over ln p, falling: what a noisy gauge adds is left out."""
    floor = max(rows[-1][1], 0.5)
    step = log(max(rows[0][1] / floor, 1.001)) / most
    kept = [rows[0]]
    for row in rows[1:]:
        if row[1] < kept[-1][1] * exp(-step):
            kept.append(row)
    if kept[-1] != rows[-1]:
        kept.append(rows[-1])
    return kept
