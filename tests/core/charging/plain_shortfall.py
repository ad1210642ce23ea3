"""The hypothesis sum of `nudge.core.charging.shortfall` in plain loops, for comparison: its limits
and its book, none of its arithmetic.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate
from math import exp
from typing import NamedTuple

from nudge.core.charging.responses import LEAST, STEP, STEPS, Response, Watched, responses
from nudge.core.charging.shortfall import (
    BESIDE_K,
    BESIDE_OUTLIER,
    EDGE,
    FIRST_STRIDE,
    NEGLIGIBLE,
    OUTLIER,
    READ_K,
    SCALES,
    Forecast,
    Settled,
)
from nudge.core.physics.circuit.equipment import Feed


def step_of(share: float) -> int:
    """The step of a charge over right (share), held at both ends of the book."""
    return min(max(round((share - LEAST) / STEP), 0), STEPS - 1)


class Guess(NamedTuple):
    """One hypothesis that is still alive: its weight, system, charge over right now, whole kg."""

    weight: float
    response: Response
    share: float
    whole_kg: float


@dataclass(frozen=True, slots=True)
class Shortfall:
    """What is believed of the charge now."""

    watched: Watched
    guesses: tuple[Guess, ...]
    surprise: float
    """How likely the last reading was to come out as weak as it did, by the doses before it."""
    surprise_in_all: float
    """The same for everything given since the first reading, by that reading alone."""

    def missing_kg(self) -> Forecast:
        """What has to go in to be right [kg]; minus is too much."""
        return _spread([(g.weight, -g.share * g.whole_kg) for g in self.guesses])

    def after(self, dose_kg: float, of: Watched | None = None) -> Forecast:
        """Where the watched quantity (or another) settles after a dose [K off target]."""
        wanted = of or self.watched
        return _spread([(g.weight, _off(g, wanted, dose_kg)) for g in self.guesses])

    def whole_kg(self) -> float:
        """What the system holds when right, by what is believed now [kg]."""
        return sum(guess.weight * guess.whole_kg for guess in self.guesses)

    def share_under(self, dose_kg: float, off_k: float) -> float:
        """The belief that the watched quantity settles under a mark after a dose [K off target]."""
        is_liquid, found = self.watched == "subcooling", 0.0
        for weight, response, share, whole_kg in self.guesses:
            at = round((share + dose_kg / whole_kg - LEAST) / STEP)
            curve = response.subcooling if is_liquid else response.superheat
            if curve[0 if at < 0 else min(at, STEPS - 1)] < off_k:
                found += weight
        return found

    def per_kg(self) -> tuple[float, float]:
        """This system's response at its place, over the next 3 % of charge [K/kg]: middle, ±."""
        slopes = []
        for guess in self.guesses:
            dose = 0.03 * guess.whole_kg
            rise = _off(guess, self.watched, dose) - _off(guess, self.watched, 0.0)
            slopes.append((guess.weight, rise / dose))
        found = _spread(slopes)
        return found.middle, (found.high - found.low) / 2


def _off(guess: Guess, wanted: Watched, dose_kg: float) -> float:
    curve = guess.response.subcooling if wanted == "subcooling" else guess.response.superheat
    return curve[step_of(guess.share + dose_kg / guess.whole_kg)]


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
    doses = list(accumulate(reading.added_kg for reading in readings))
    doses = [total - doses[0] for total in doses]
    spreads, is_superheat = _spreads(watched), watched == "superheat"
    alive: list[Guess] = []
    before: list[tuple[float, float]] = []
    at_first: list[tuple[float, float]] = []
    best = 0.0
    for response in responses(feed):
        costs = [_costs(reading, response, spreads) for reading in readings]
        curve = response.superheat if is_superheat else response.subcooling
        for sigma in SCALES:
            whole = whole_kg * exp(sigma * whole_spread)
            prior = exp(-sigma * sigma / 2)
            moves = [dose / whole / STEP for dose in doses]
            for start in range(0, STEPS, FIRST_STRIDE):
                penalty = last = first = 0.0
                at = start
                for cost, move in zip(costs, moves, strict=True):
                    at = round(start + move)
                    at = 0 if at < 0 else min(at, STEPS - 1)
                    last = cost[at]
                    penalty += last
                    if cost is costs[0]:
                        first = penalty
                if len(readings) > 1:
                    before.append((prior * exp((last - penalty) / 2), curve[at]))
                    at_first.append((prior * exp(-first / 2), curve[at]))
                weight = prior * exp(-penalty / 2)
                if weight > NEGLIGIBLE * best:
                    best = max(best, weight)
                    share = LEAST + (start + moves[-1]) * STEP
                    alive.append(Guess(weight, response, share, whole))
    kept = [guess for guess in alive if guess.weight > NEGLIGIBLE * best]
    total = sum(guess.weight for guess in kept)
    kept = [guess._replace(weight=guess.weight / total) for guess in kept]
    return Shortfall(
        watched,
        tuple(kept),
        _surprise(before, readings, watched),
        _surprise(at_first, readings, watched),
    )


def _spreads(watched: Watched) -> tuple[float, float]:
    return (READ_K, BESIDE_K) if watched == "subcooling" else (BESIDE_K, READ_K)


def _costs(reading: Settled, response: Response, spreads: tuple[float, float]) -> list[float]:
    """What a reading counts against a response (z²) at every step of its charge."""
    found = [0.0] * STEPS
    measured = (
        (reading.subcooling_off_k, response.subcooling, spreads[0]),
        (reading.superheat_off_k, response.superheat, spreads[1]),
    )
    for value, curve, sigma in measured:
        if value is None:
            continue
        most = OUTLIER if sigma == READ_K else BESIDE_OUTLIER
        found = [
            so_far + min(((value - off) / sigma) ** 2, most)
            for so_far, off in zip(found, curve, strict=True)
        ]
    return found


def _surprise(
    before: Sequence[tuple[float, float]], readings: Sequence[Settled], watched: Watched
) -> float:
    """The belief, before the last reading was known, in an answer as weak as it gave."""
    if len(readings) < 2:
        return 1.0
    last = readings[-1]
    value = last.subcooling_off_k if watched == "subcooling" else last.superheat_off_k
    given = sum(reading.added_kg for reading in readings[1:])
    total = sum(weight for weight, _ in before)
    if value is None or total <= 0 or last.added_kg * given <= 0:
        return 1.0
    rises = (given > 0) == (watched == "subcooling")
    room = 1.5 * READ_K
    weaker = sum(w for w, k in before if (k <= value + room if rises else k >= value - room))
    return weaker / total


def _spread(found: list[tuple[float, float]]) -> Forecast:
    """Weighted quantiles of (weight, value)."""
    found.sort(key=lambda one: one[1])
    total = sum(weight for weight, _ in found)
    marks = [share * total for share in (EDGE, 0.10, 0.50, 0.90, 1 - EDGE)]
    values: list[float] = []
    reached = 0.0
    for weight, value in found:
        reached += weight
        while len(values) < len(marks) and reached >= marks[len(values)]:
            values.append(value)
    values += [found[-1][1]] * (len(marks) - len(values))
    return Forecast(*values)
