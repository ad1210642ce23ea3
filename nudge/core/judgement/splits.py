"""How a check's answers would part the suspects: outcomes, their chances, and what is left."""

from collections.abc import Iterator, Mapping, Sequence
from functools import cache, lru_cache
from itertools import accumulate, pairwise, starmap
from typing import NamedTuple

import numpy as np

from nudge.core.behaviours.case import Case
from nudge.core.checks.check import Check
from nudge.core.checks.looks import LEAST_SHARE, Look
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.expectations.signs import Sign
from nudge.core.judgement.beliefs import LOAD_BESIDE, Posterior, Weighed
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.hypotheses import Array, hypotheses
from nudge.core.judgement.model import Model
from nudge.core.judgement.predict import levels

LEAST_CHANCE = 0.02
"""An outcome less likely than this is not counted on."""
LEVEL_WORDS = ("low", "low", "as expected", "high", "high")
SECOND_SIGN = 0.5
"""Signs read together overlap: the second-best counts half."""


class Outcome(NamedTuple):
    """One way a check can come out: how likely, and what would then lead."""

    key: str
    """The observation that records it; "" where a reading does."""
    label: str
    chance: float
    leads: str
    belief: float
    besides: Mapping[str, float]
    """The belief each suspect would then have, alone or beside another [0 to 1]."""
    shares: Mapping[str, float]
    """The same as it is ranked by: a pair's belief shared between its two."""


class Live:
    """The hypotheses that are still believed, as arrays: what each check's outcomes would leave."""

    def __init__(self, rows: Sequence[Weighed]) -> None:
        self.rows = rows
        self.places = [row.hypothesis.row for row in rows]
        self.names = list(dict.fromkeys(row.hypothesis.signature.suspects for row in rows))
        place = {names: n for n, names in enumerate(self.names)}
        # The belief of each row, in the column of its suspects.
        self.weights = np.zeros((len(rows), len(self.names)))
        for number, row in enumerate(rows):
            self.weights[number, place[row.hypothesis.signature.suspects]] = row.belief
        self.before = self.weights.sum(axis=0)
        self.suspects = list(dict.fromkeys(name for names in self.names for name in names))
        # Which suspects each of the names holds, and what is its share in them.
        self.holds = np.array([[float(s in names) for s in self.suspects] for names in self.names])
        self.shares = self.holds / self.holds.sum(axis=1, keepdims=True)


class Split(NamedTuple):
    """What a check's outcomes would do: expected entropy taken away, and what each would leave."""

    bits: float
    live: Live
    left: Array
    """Belief in each of the live suspects with each outcome [outcomes, names], not yet to one."""
    labels: Sequence[tuple[str, str]]

    def outcomes(self) -> tuple[Outcome, ...]:
        """Each way it can come out, likely or not; outcomes of one name are one."""
        merged: dict[tuple[str, str], Array] = {}
        for label, after in zip(self.labels, self.left, strict=True):
            merged[label] = merged[label] + after if label in merged else after
        left, live = np.array(list(merged.values())), self.live
        chances = left.sum(axis=1)
        beliefs = left / np.maximum(chances, 1e-300)[:, None]
        found = []
        for (key, shown), chance, besides, shares in zip(
            merged,
            (chances / live.before.sum()).tolist(),
            (beliefs @ live.holds).tolist(),
            (beliefs @ live.shares).tolist(),
            strict=True,
        ):
            if chance < LEAST_CHANCE:
                continue
            belief = max(shares)
            found.append(
                Outcome(
                    key if key in OBSERVATIONS else "",
                    shown,
                    chance,
                    live.suspects[shares.index(belief)],
                    belief,
                    dict(zip(live.suspects, besides, strict=True)),
                    dict(zip(live.suspects, shares, strict=True)),
                )
            )
        return tuple(found)


def splits(
    case: Case,
    weighing: Posterior,
    live: Live,
    measured: Mapping[str, Departure],
    checks: Sequence[Check],
) -> Iterator[tuple[Check, Split]]:
    """What the outcomes of each check would do. A reading is worth what it says that the readings
    that are there do not, and a sign counts only where the check brings all it still needs.
    """
    asked = _asked_by(
        weighing.model,
        frozenset(case.readings),
        frozenset(measured),
        tuple([check.key for check in checks]),
    )
    shares = [_all_looks(weighing.model)[asked.looks][:, live.places]]
    if asked.signs:
        predicted = levels(case, weighing, live.rows, measured, asked.signs)
        shares.append(predicted.transpose(1, 2, 0).reshape(-1, len(live.rows)))
    if asked.of_load:
        shares.append(_load_shares(live))
    bits, left = _taken_away(live, np.concatenate(shares), asked.questions)
    for check in checks:
        own = asked.numbers[check.key]
        if len(own) > 1:
            own = sorted(own, key=lambda number: bits[number], reverse=True)
        if own:
            best = asked.questions[own[0]]
            second = SECOND_SIGN * bits[own[1]] if len(own) > 1 else 0.0
            yield check, Split(bits[own[0]] + second, live, left[best.place], best.labels)


class _Question(NamedTuple):
    """A look or a sign: how its outcomes are called, and where they stand among all of them."""

    labels: Sequence[tuple[str, str]]
    place: slice


class _Asked(NamedTuple):
    """All that some checks ask, each thing once: the looks first, the signs, then the load."""

    looks: list[int]
    """Rows of all looks."""
    signs: tuple[str, ...]
    of_load: bool
    questions: tuple[_Question, ...]
    numbers: Mapping[str, Sequence[int]]
    """Of every check, which of those questions are its own."""


@lru_cache(maxsize=64)
def _asked_by(
    model: Model, have: frozenset[str], measured: frozenset[str], checks: tuple[str, ...]
) -> _Asked:
    """What these checks ask where these readings are taken and these signs are measured."""
    told = _told(model, have, measured)
    rows, look_places = model.sign_rows, _look_places(model)
    looks = [key for key in checks if model.checks[key].look is not None]
    wanted = dict.fromkeys(sign for key in checks if key not in looks for sign in told[key])
    signs = tuple(sign for sign in wanted if not rows[sign].defines_load)
    labels = [_look_labels(look) for key in looks if (look := model.checks[key].look) is not None]
    labels += [_sign_labels(rows[sign]) for sign in signs]
    of_load = len(signs) < len(wanted)
    labels += [_LOAD_LABELS] if of_load else []
    places = starmap(slice, pairwise(accumulate(map(len, labels), initial=0)))
    number = {key: place for place, key in enumerate([*looks, *signs])}
    number |= dict.fromkeys((sign for sign in wanted if rows[sign].defines_load), len(number))
    return _Asked(
        [row for key in looks for row in (look_places[key], look_places[key] + 1)],
        signs,
        of_load,
        tuple(map(_Question, labels, places)),
        {
            key: (number[key],)
            if key in looks
            else tuple(dict.fromkeys(number[sign] for sign in told[key]))
            for key in checks
        },
    )


@lru_cache(maxsize=64)
def _told(
    model: Model, have: frozenset[str], measured: frozenset[str]
) -> Mapping[str, tuple[str, ...]]:
    """The signs each check would add to those measured, where these readings are taken."""
    return {
        check.key: tuple(
            key
            for key in check.signs
            if key not in measured
            and key in model.signs
            and model.sign_rows[key].can_be_told(have | set(check.points))
        )
        for check in model.checks.values()
    }


@cache
def _all_looks(model: Model) -> Array:
    """How often every look comes out each way with every hypothesis, two rows a look."""
    found: Array = np.concatenate(
        [_look_shares(model, c.look) for c in model.checks.values() if c.look is not None]
    )
    return found


@cache
def _look_places(model: Model) -> Mapping[str, int]:
    """Where in that a check's look stands."""
    looks = [check.key for check in model.checks.values() if check.look is not None]
    return {key: 2 * number for number, key in enumerate(looks)}


def by_look(model: Model, look: Look, live: Live) -> Split:
    """What the outcomes of one look would do."""
    shares = _look_shares(model, look)[:, live.places]
    bits, left = _taken_away(live, shares, [_Question(_look_labels(look), slice(0, 2))])
    return Split(bits[0], live, left, _look_labels(look))


@cache
def _look_shares(model: Model, look: Look) -> Array:
    """How often a look comes out each way with every hypothesis [outcomes, rows]."""
    yes = np.array([_share(look, row.faults) for row in hypotheses(model)])
    return np.stack([yes, 1 - yes])


def _share(look: Look, faults: tuple[str, ...]) -> float:
    return min(max(look.share(faults), LEAST_SHARE), 1 - LEAST_SHARE)


@cache
def _look_labels(look: Look) -> list[tuple[str, str]]:
    return [(key, _look_label(key)) for key in (look.yes, look.no)]


_EPISODE_LABELS = {
    "superheat_moves": "Superheat moved with the load",
    "superheat_holds": "Superheat held",
    "head_fell": "The head came down",
    "head_stayed": "The head stayed up",
}


def _look_label(key: str) -> str:
    if not key:
        return "Nothing found"
    return OBSERVATIONS[key].label if key in OBSERVATIONS else _EPISODE_LABELS[key]


@cache
def _sign_labels(sign: Sign) -> list[tuple[str, str]]:
    return [("", f"{sign.label} {word}") for word in LEVEL_WORDS]


_LOAD_LABELS = [
    ("", "The house is cold"),
    ("", "The house is as usual"),
    ("", "The house is hot or humid"),
]


def _load_shares(live: Live) -> Array:
    """Return air defines low and high load: it is one, the other, or neither."""
    shares = np.full((3, len(live.rows)), LOAD_BESIDE)
    for number, row in enumerate(live.rows):
        suspects = row.hypothesis.signature.suspects
        place = 0 if "low_indoor_load" in suspects else 2 if "high_indoor_load" in suspects else 1
        shares[place, number] = 1 - 2 * LOAD_BESIDE
    return shares


def _taken_away(
    live: Live, shares: Array, questions: Sequence[_Question]
) -> tuple[list[float], Array]:
    """Mutual information between the outcomes of each question and the suspects [bits], and what
    each outcome leaves [outcomes, names]; `shares` say how often each live row gives each outcome
    [outcomes, rows].
    """
    left = shares @ live.weights
    if not questions:
        return [], left
    entropies = entropy(left) * left.sum(axis=1) / live.before.sum()
    before = float(entropy(live.before[None])[0])
    begins = [one.place.start for one in questions]
    bits = np.maximum(before - np.add.reduceat(entropies, begins), 0.0)
    return bits.tolist(), left


def entropy(weights: Array) -> Array:
    """In bits, row by row, of weights that need not sum to one."""
    shares = weights / np.maximum(weights.sum(axis=1, keepdims=True), 1e-300)
    found: Array = -(shares * np.log2(np.maximum(shares, 1e-300))).sum(axis=1)
    return found
