"""How much is missing (or too much), learned from every dose and the settled reading after it.

Bayes over the book of responses: each hypothesis is one system of the book, how far it was from
its right charge at the first reading, and how large its whole charge is. What every dose then
did weighs them. A flat start near zero subcooling and the steepening near target are in the
curves, so they are in the forecast.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache, reduce

import numpy as np
from numpy.typing import NDArray

from nudge.core.charging.responses import LEAST, STEP, STEPS, Array, ResponseBook, Watched, book_of
from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import Feed

READ_K, BESIDE_K = degrees_f(0.9), degrees_f(6)
"""How far a settled reading may be off its curve (1 σ): of what is charged by (instruments, and
the load that drifts), and of the other, whose place at the right charge is known only by class."""
OUTLIER, BESIDE_OUTLIER = 16.0, 4.0
"""A reading counts no more than this against a hypothesis (z²): one bad one must not decide, and
a valve that was set high must not look like a system half empty."""
SCALES = (-1.6, -0.8, 0.0, 0.8, 1.6)
FIRST_STRIDE = 2
"""Where it started is tried in whole percents."""
NEGLIGIBLE = 1e-4
"""A hypothesis this much weaker than the best is dropped: every reading against it."""
EDGE = 0.025
"""The belief left out at either end of a forecast."""
UNLIKELY = 0.03
"""An answer that had less belief than this before it came counts as none."""


@dataclass(frozen=True, slots=True)
class Settled:
    """One settled reading: what went in before it [kg, minus for out], how far off target [K]."""

    added_kg: float
    subcooling_off_k: float | None
    superheat_off_k: float | None


@dataclass(frozen=True, slots=True, eq=False)
class Guesses:
    """Every hypothesis that is still alive, one an entry: its weight (all sum to one), its system
    as a row of the book, its charge over right now (share), its whole charge [kg].
    """

    weight: Array
    system: NDArray[np.intp]
    share: Array
    whole_kg: Array

    def at(self, more: Array | float) -> NDArray[np.intp]:
        """The step of the book each stands on with this share of its charge more."""
        return _steps((self.share + more - LEAST) / STEP)


@dataclass(frozen=True, slots=True)
class Forecast:
    """Where a quantity lands [K off target], by share of belief below: 2.5, 10, 50, 90, 97.5 %."""

    least: float
    low: float
    middle: float
    high: float
    most: float

    def moved(self, by: float) -> "Forecast":
        """The same, counted from another zero."""
        marks = (self.least, self.low, self.middle, self.high, self.most)
        return Forecast(*(mark + by for mark in marks))


@dataclass(frozen=True, slots=True)
class Shortfall:
    """What is believed of the charge now."""

    watched: Watched
    guesses: Guesses
    book: ResponseBook
    surprise: float
    """How likely the last reading was to come out as weak as it did, by the doses before it."""
    surprise_in_all: float
    """The same for everything given since the first reading, by that reading alone."""

    def missing_kg(self) -> Forecast:
        """What has to go in to be right [kg]; minus is too much."""
        return _spread(self.guesses.weight, -self.guesses.share * self.guesses.whole_kg)

    def after(self, dose_kg: float, of: Watched | None = None) -> Forecast:
        """Where the watched quantity (or another) settles after a dose [K off target]."""
        return _spread(self.guesses.weight, self._off(of or self.watched, dose_kg))

    def whole_kg(self) -> float:
        """What the system holds when right, by what is believed now [kg]."""
        return float(self.guesses.weight @ self.guesses.whole_kg)

    def share_under(self, dose_kg: float, off_k: float) -> float:
        """The belief that the watched quantity settles under a mark after a dose [K off target]."""
        return float(self.guesses.weight[self._off(self.watched, dose_kg) < off_k].sum())

    def per_kg(self) -> tuple[float, float]:
        """This system's response at its place, over the next 3 % of charge [K/kg]: middle, ±."""
        doses = 0.03 * self.guesses.whole_kg
        system, curve = self.guesses.system, self.book.curve(self.watched)
        rise = curve[system, self.guesses.at(0.03)] - curve[system, self.guesses.at(0.0)]
        found = _spread(self.guesses.weight, rise / doses)
        return found.middle, (found.high - found.low) / 2

    def _off(self, wanted: Watched, dose_kg: float) -> Array:
        steps = self.guesses.at(dose_kg / self.guesses.whole_kg)
        found: Array = self.book.curve(wanted)[self.guesses.system, steps]
        return found


def learn(
    feed: Feed,
    watched: Watched,
    whole_kg: float,
    whole_spread: float,
    readings: Sequence[Settled],
) -> Shortfall:
    """Weigh every hypothesis by all settled readings so far, first to last.

    `whole_kg` is what the system should hold and `whole_spread` how unsure that is (1 σ, share).
    """
    return _learn(feed, watched, whole_kg, whole_spread, tuple(readings))


@lru_cache(maxsize=64)
def _learn(
    feed: Feed,
    watched: Watched,
    whole_kg: float,
    whole_spread: float,
    readings: tuple[Settled, ...],
) -> Shortfall:
    """The same question is asked by every screen that shows the answer: it is worked out once."""
    book = book_of(feed)
    given = np.cumsum([reading.added_kg for reading in readings])
    sigmas = np.array(SCALES)
    wholes = whole_kg * np.exp(sigmas * whole_spread)
    starts = np.arange(0, STEPS, FIRST_STRIDE)
    moves = (given - given[0])[:, None] / wholes / STEP
    at = _steps(starts + moves[:, :, None])
    spreads = _spreads(watched)
    # What each reading counts against each system, scale and start: [readings, …, …, …].
    costs = [
        _costs(reading, book, spreads)[:, steps]
        for reading, steps in zip(readings, at, strict=True)
    ]
    penalty = reduce(np.add, costs)
    prior = np.exp(-sigmas * sigmas / 2)[:, None]
    weight = prior * np.exp(-penalty / 2)
    alive = np.flatnonzero(weight > NEGLIGIBLE * weight.max())
    system, scale, start = np.unravel_index(alive, weight.shape)
    kept = weight[system, scale, start]
    guesses = Guesses(
        kept / kept.sum(),
        system,
        LEAST + (starts[start] + moves[-1][scale]) * STEP,
        wholes[scale],
    )
    surprises = 1.0, 1.0
    if len(readings) > 1:
        now = book.curve(watched)[:, at[-1]]
        before, at_first = prior * np.exp((costs[-1] - penalty) / 2), prior * np.exp(-costs[0] / 2)
        surprises = _surprises((before, at_first), now, readings, watched)
    return Shortfall(watched, guesses, book, *surprises)


def _steps(places: Array) -> NDArray[np.intp]:
    """Places along the book as steps, held at both its ends."""
    return np.clip(np.rint(places), 0, STEPS - 1).astype(np.intp)


def _spreads(watched: Watched) -> tuple[float, float]:
    return (READ_K, BESIDE_K) if watched == "subcooling" else (BESIDE_K, READ_K)


def _costs(reading: Settled, book: ResponseBook, spreads: tuple[float, float]) -> Array:
    """What a reading counts against every system (z²) at every step of its charge."""
    found = np.zeros_like(book.subcooling)
    for value, curve, sigma in (
        (reading.subcooling_off_k, book.subcooling, spreads[0]),
        (reading.superheat_off_k, book.superheat, spreads[1]),
    ):
        if value is not None:
            most = OUTLIER if sigma == READ_K else BESIDE_OUTLIER
            squared = value - curve
            squared *= squared
            found += np.minimum(squared / sigma**2, most)
    return found


def _surprises(
    befores: tuple[Array, Array], now: Array, readings: Sequence[Settled], watched: Watched
) -> tuple[float, float]:
    """The belief, before the last reading was known, in an answer as weak as it gave: `befores` are
    weights, `now` where each hypothesis puts what is watched [K off target].
    """
    last = readings[-1]
    value = last.subcooling_off_k if watched == "subcooling" else last.superheat_off_k
    given = sum(reading.added_kg for reading in readings[1:])
    if value is None or last.added_kg * given <= 0:
        return 1.0, 1.0
    rises = (given > 0) == (watched == "subcooling")
    room = 1.5 * READ_K
    weaker = now <= value + room if rises else now >= value - room
    before, at_first = (_share_of(one, weaker) for one in befores)
    return before, at_first


def _share_of(weights: Array, some: NDArray[np.bool_]) -> float:
    whole = float(weights.sum())
    return float((weights * some).sum()) / whole if whole > 0 else 1.0


def _spread(weights: Array, values: Array) -> Forecast:
    """Weighted quantiles of values."""
    order = np.argsort(values, kind="stable")
    reached = np.cumsum(weights[order])
    marks = np.array((EDGE, 0.10, 0.50, 0.90, 1 - EDGE)) * reached[-1]
    places = np.minimum(np.searchsorted(reached, marks), len(order) - 1)
    return Forecast(*values[order][places].tolist())
