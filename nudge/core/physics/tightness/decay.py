"""An isolated vacuum that rises: what of it may come from outside, and what from within.

Three things lift it: a leak, at one rate for as long as the vacuum is deep; water that boils as
fast as heat reaches it, so slower as its own pressure warms its boiling point towards the
pipe's; and damp walls and old oil, which give up a store by a clock. Each is a column of a least
squares fit; the leak is moved over its whole range and the rest fitted round it, so that the
interval of the leak holds whatever the others could explain.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, inf, sqrt

from nudge.core.language.units import ZERO_C_IN_K
from nudge.core.physics.tightness.least_squares import dot, non_negative
from nudge.core.physics.tightness.water import boils_at

CLOCKS_MIN = (2.0, 5.0, 12.0, 30.0, 90.0)
"""Clocks of the stores that are fitted together, at 20 °C: damp walls and old oil have several."""
AGAIN_MIN = (4.0, 15.0)
"""Clocks of what old oil gives off again after each pumping, for its store is not emptied by it."""
DOUBLES_K = 10.0
"""Warmer by this, damp walls and oil give up twice as fast."""
DRY_SHARES = (0.0, 0.5, 0.9)
"""Shares of the first pressure that may be dry gas already."""
STORED_MIN = 400.0
"""Minutes of its own heat that water may hold at most: part of what reaches it only warms it."""
SETTLES_MIN = 2.0
LEAKS_TRIED = 22
MOST_POINTS = 40
"""A trace is averaged down to about this many, evenly: the fit is tried a thousand times."""
SURE = 3.84
"""Chi-square of one free number, 19 times in 20."""
LAW_SHARE = 0.004
"""How far the laws themselves may be off, as a share of the rise."""


@dataclass(frozen=True, slots=True)
class Risen:
    """One stretch of a standing vacuum: minutes from its start, pressures [Pa], pipe [°C]."""

    minutes: tuple[float, ...]
    pascals: tuple[float, ...]
    pipe_c: tuple[float, ...]

    @property
    def span(self) -> float:
        return self.minutes[-1] - self.minutes[0]


Column = Sequence[Sequence[float]]
"""One column of the fit: a list a stretch."""
Point = tuple[float, float, float, float]
"""Minute, pressure from outside, from within, and what stood there at the start [Pa]."""


@dataclass(frozen=True, slots=True)
class Fitted:
    """How a rise splits at its likeliest, and between which leaks it may [Pa/min].

    `water` and `store` are what boiling water and stores have given [Pa]; `curves` a stretch each.
    """

    leak: float
    leak_low: float
    leak_high: float
    water: float
    store: float
    scatter: float
    misfit: float
    """Scatter over what instruments and laws explain: over about two the laws do not hold here."""
    curves: tuple[tuple[Point, ...], ...]


@dataclass(frozen=True, slots=True)
class _Stores:
    """The columns that no leak changes, about their means, with their products."""

    columns: tuple[Column, ...]
    means: tuple[tuple[float, ...], ...]
    flat: tuple[tuple[float, ...], ...]
    gram: tuple[tuple[float, ...], ...]

    @classmethod
    def of(cls, columns: Sequence[Column]) -> "_Stores":
        both = [_about_mean(column) for column in columns]
        flat = tuple(tuple(one) for one, _ in both)
        gram = tuple(tuple(dot(p, q) for q in flat) for p in flat)
        return cls(tuple(columns), tuple(tuple(means) for _, means in both), flat, gram)


@dataclass(frozen=True, slots=True)
class _Round:
    chi: float
    bases: tuple[float, ...]
    given: tuple[float, ...]
    """What each column is multiplied by: water, light and heavy, then the stores."""
    columns: tuple[Column, ...]


def fit_rise(stretches: Sequence[Risen], noise: float) -> Fitted:
    """Split a rise between outside and within; `noise` is one reading's own scatter [Pa].

    Stretches belong to one circuit: between them it was swept, pumped or warmed. One leak, one
    body of water and its stores are fitted over all of them.
    """
    first_k = stretches[0].pipe_c[0] + ZERO_C_IN_K
    thin = [_level(_thinned(_settled(one)), first_k) for one in stretches]
    rise = max(max(one.pascals) - min(one.pascals) for one in thin)
    spread = sqrt(noise**2 / max(_per_point(stretches, thin), 1.0) + (LAW_SHARE * rise) ** 2)
    spread = max(spread, 1e-6)
    fastest = max(_steepest(one) for one in thin)
    tried = [fastest * 1.25 * (n / LEAKS_TRIED) ** 1.5 for n in range(LEAKS_TRIED + 1)]
    stores = [_store_column(thin, clock) for clock in CLOCKS_MIN]
    if len(thin) > 1:
        stores += [
            _again_column(thin, clock, place)
            for clock in AGAIN_MIN
            for place in range(1, len(thin))
        ]
    centred = _Stores.of(stores)
    rounds = [_best(thin, leak, centred, spread) for leak in tried]
    best = min(range(len(rounds)), key=lambda n: rounds[n].chi)
    floor = rounds[best].chi
    free = max(sum(len(one.minutes) for one in thin) - len(thin) - 4, 1)
    limit = floor + SURE * max(floor / free, 1.0)  # where the laws fit badly it widens
    inside = [n for n, one in enumerate(rounds) if one.chi <= limit]
    low = _edge(tried, rounds, inside[0], -1, limit)
    high = _edge(tried, rounds, inside[-1], 1, limit)
    found = rounds[best]
    ends = [
        g * (column[-1][-1] - column[0][0])
        for g, column in zip(found.given, found.columns, strict=True)
    ]
    return Fitted(
        tried[best],
        low,
        high,
        sum(ends[:2]),
        sum(ends[2:]),
        sqrt(floor / free) * spread,
        sqrt(floor / free),
        _curves(thin, tried[best], found),
    )


def _edge(
    tried: Sequence[float], rounds: Sequence[_Round], at: int, way: int, limit: float
) -> float:
    """Where chi-square passes its limit, between two leaks tried."""
    beyond = at + way
    if not 0 <= beyond < len(tried):
        return tried[at]
    here, there = rounds[at].chi, rounds[beyond].chi
    share = min(max((limit - here) / max(there - here, 1e-12), 0.0), 1.0)
    return tried[at] + (tried[beyond] - tried[at]) * share


def _best(stretches: Sequence[Risen], leak: float, stores: _Stores, spread: float) -> _Round:
    """The best fit of everything else round one leak."""
    without = [
        [p - leak * (t - one.minutes[0]) for t, p in zip(one.minutes, one.pascals, strict=True)]
        for one in stretches
    ]
    y, means = _about_mean(without)
    pulls = [dot(column, y) for column in stores.flat]
    rounds = [
        _fit(y, means, pulls, _water_columns(stretches, without, share), stores, spread)
        for share in DRY_SHARES
    ]
    return min(rounds, key=lambda one: one.chi)


def _water_columns(
    stretches: Sequence[Risen], without: Column, dry_share: float
) -> tuple[Column, Column]:
    """Heat that boils water, summed: ∫ (pipe − boiling point) dt, less what warms it [K·min].

    With none of its own heat and with the most: any mixture of both lies between.
    """
    light, heavy = [], []
    for one, left in zip(stretches, without, strict=True):
        dry = dry_share * one.pascals[0]
        boils = [boils_at(p - dry) for p in left]
        pulls = [max(pipe - at, 0.0) for pipe, at in zip(one.pipe_c, boils, strict=True)]
        summed = _summed(one.minutes, pulls)
        light.append(summed)
        heavy.append(
            [s - STORED_MIN * (at - boils[0]) for s, at in zip(summed, boils, strict=True)]
        )
    return light, heavy


def _store_column(stretches: Sequence[Risen], clock: float) -> Column:
    """The share of a store given up since the first stretch began, pauses included."""
    gone, columns, before = 0.0, [], None
    for one in stretches:
        if before is not None:
            gone += (one.minutes[0] - before) / clock * 2 ** ((one.pipe_c[0] - 20) / DOUBLES_K)
        speeds = [2 ** ((c - 20) / DOUBLES_K) / clock for c in one.pipe_c]
        summed = _summed(one.minutes, speeds)
        columns.append([1 - exp(-(gone + s)) for s in summed])
        gone += summed[-1]
        before = one.minutes[-1]
    return columns


def _again_column(stretches: Sequence[Risen], clock: float, place: int) -> Column:
    """What one stretch gives off anew, by a clock of its own."""
    return [
        [1 - exp(-(t - one.minutes[0]) / clock) if n == place else 0.0 for t in one.minutes]
        for n, one in enumerate(stretches)
    ]


def _fit(
    y: Sequence[float],
    means: Sequence[float],
    pulls: Sequence[float],
    water: tuple[Column, Column],
    stores: _Stores,
    spread: float,
) -> _Round:
    """Non-negative least squares, each stretch with a base of its own."""
    (x, x_means), (z, z_means) = _about_mean(water[0]), _about_mean(water[1])
    across = [[dot(one, column) for column in stores.flat] for one in (x, z)]
    xz = dot(x, z)
    gram = [[dot(x, x), xz, *across[0]], [xz, dot(z, z), *across[1]]]
    gram += [[a, b, *row] for a, b, row in zip(*across, stores.gram, strict=True)]
    aims = [dot(x, y), dot(z, y), *pulls]
    given = non_negative(gram, aims)
    left = dot(y, y) - 2 * dot(given, aims)
    left += sum(g * dot(given, row) for g, row in zip(given, gram, strict=True) if g)
    columns_means = [x_means, z_means, *stores.means]
    bases = tuple(
        mean - sum(g * each[n] for g, each in zip(given, columns_means, strict=True))
        for n, mean in enumerate(means)
    )
    return _Round(max(left, 0.0) / spread**2, bases, tuple(given), (*water, *stores.columns))


def _about_mean(column: Column) -> tuple[list[float], list[float]]:
    """A column in one piece, each stretch about its own mean, and those means."""
    means = [sum(part) / len(part) for part in column]
    return [v - mean for part, mean in zip(column, means, strict=True) for v in part], means


def _curves(
    stretches: Sequence[Risen], leak: float, found: _Round
) -> tuple[tuple[Point, ...], ...]:
    rows = []
    for place, one in enumerate(stretches):
        inside = [
            sum(g * column[place][n] for g, column in zip(found.given, found.columns, strict=True))
            for n in range(len(one.minutes))
        ]
        rows.append(
            tuple(
                (t, leak * (t - one.minutes[0]), within - inside[0], found.bases[place] + inside[0])
                for t, within in zip(one.minutes, inside, strict=True)
            )
        )
    return tuple(rows)


def _level(one: Risen, kelvin: float) -> Risen:
    """The same at one temperature: gas in a pipe that warms rises by itself, a leak does not."""
    level = tuple(
        p * kelvin / (c + ZERO_C_IN_K) for p, c in zip(one.pascals, one.pipe_c, strict=True)
    )
    return Risen(one.minutes, level, one.pipe_c)


def _summed(minutes: Sequence[float], speeds: Sequence[float]) -> list[float]:
    total, sums = 0.0, [0.0]
    for n in range(1, len(minutes)):
        total += (speeds[n] + speeds[n - 1]) / 2 * (minutes[n] - minutes[n - 1])
        sums.append(total)
    return sums


def _settled(one: Risen) -> Risen:
    """A stretch without its first minutes, in which vapour and gauge come to rest."""
    begins = one.minutes[0] + SETTLES_MIN
    first = next((n for n, t in enumerate(one.minutes) if t >= begins), 0)
    if len(one.minutes) - first < 4:
        return one
    return Risen(one.minutes[first:], one.pascals[first:], one.pipe_c[first:])


def _thinned(one: Risen) -> Risen:
    each = -(-len(one.minutes) // MOST_POINTS)
    if each <= 1:
        return one
    cut = range(0, len(one.minutes), each)

    def mean(values: tuple[float, ...]) -> tuple[float, ...]:
        return tuple(sum(values[n : n + each]) / len(values[n : n + each]) for n in cut)

    return Risen(mean(one.minutes), mean(one.pascals), mean(one.pipe_c))


def _per_point(stretches: Sequence[Risen], thin: Sequence[Risen]) -> float:
    return sum(len(s.minutes) for s in stretches) / sum(len(s.minutes) for s in thin)


def _steepest(one: Risen) -> float:
    """The fastest mean rise over a third of a stretch [Pa/min]: no leak is faster."""
    n, best = len(one.minutes), 0.0
    third = max(n // 3, 1)
    for first in range(0, n - third, max(third // 2, 1)):
        last = first + third
        minutes = one.minutes[last] - one.minutes[first]
        if minutes > 0:
            best = max(best, (one.pascals[last] - one.pascals[first]) / minutes)
    return best


def late_rate(one: Risen, noise: float, over_min: float) -> tuple[float, float]:
    """Rise over the last minutes of a stretch and its ± [Pa/min], by a straight line.

    Infinite ± where there is too little of it.
    """
    start = one.minutes[-1] - over_min
    rows = [(t, p) for t, p in zip(one.minutes, one.pascals, strict=True) if t >= start]
    if len(rows) < 3:  # a few typed points: the last three
        rows = list(zip(one.minutes, one.pascals, strict=True))[-3:]
    if len(rows) < 3:
        return 0.0, inf
    n = len(rows)
    mt, mp = sum(t for t, _ in rows) / n, sum(p for _, p in rows) / n
    spread = sum((t - mt) ** 2 for t, _ in rows)
    if spread <= 0:
        return 0.0, inf
    slope = sum((t - mt) * (p - mp) for t, p in rows) / spread
    left = sum((p - mp - slope * (t - mt)) ** 2 for t, p in rows) / max(n - 2, 1)
    return slope, 2 * sqrt(max(left, noise**2) / spread)
