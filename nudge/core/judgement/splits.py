"""How a check's answers would part the suspects: outcomes, their chances, and what is left."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache, lru_cache
from itertools import accumulate
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


@dataclass(frozen=True, slots=True)
class Outcome:
    """One way a check can come out: how likely, and what would then lead."""

    key: str
    """The observation that records it; "" where a reading does."""
    label: str
    chance: float
    leads: str
    belief: float
    besides: Mapping[str, float]
    """The belief each suspect would then have, alone or beside another [0 to 1]."""
    shares: Mapping[str, float] = field(default_factory=dict)
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
        whole = float(self.live.before.sum())
        found = []
        for (key, shown), after in merged.items():
            chance = float(after.sum())
            if chance / whole < LEAST_CHANCE:
                continue
            shares: dict[str, float] = {}
            besides: dict[str, float] = {}
            for names, belief in zip(self.live.names, (after / chance).tolist(), strict=True):
                for name in names:
                    shares[name] = shares.get(name, 0.0) + belief / len(names)
                    besides[name] = besides.get(name, 0.0) + belief
            leads = max(shares, key=lambda name: shares[name])
            observed = key if key in OBSERVATIONS else ""
            found.append(
                Outcome(observed, shown, chance / whole, leads, shares[leads], besides, shares)
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
    model = weighing.model
    told = _told(model, frozenset(case.readings), frozenset(measured))
    wanted = dict.fromkeys(key for check in checks for key in told[check.key])
    shares = levels(
        case,
        weighing,
        live.rows,
        measured,
        [key for key in wanted if not model.sign_rows[key].defines_load],
    )
    asked: list[_Asked] = []
    looked = _all_looks(model)[:, live.places]
    for check in checks:
        if check.look is not None:
            place = _look_places(model)[check.key]
            asked.append(_Asked(check, looked[place : place + 2], _look_labels(check.look)))
            continue
        asked += [
            _Asked(check, shares[sign].T, _sign_labels(model.sign_rows[sign]))
            for sign in told[check.key]
            if sign in shares
        ]
        if any(model.sign_rows[key].defines_load for key in told[check.key]):
            asked.append(_Asked(check, _load_shares(live), _LOAD_LABELS))
    by_check: dict[str, list[Split]] = {}
    for one, split in zip(asked, _taken_away(live, asked), strict=True):
        by_check.setdefault(one.check.key, []).append(split)
    for check in checks:
        splits = sorted(by_check.get(check.key, ()), key=lambda one: -one.bits)
        if splits:
            second = SECOND_SIGN * splits[1].bits if len(splits) > 1 else 0.0
            best = splits[0]
            yield check, Split(best.bits + second, live, best.left, best.labels)


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


class _Asked(NamedTuple):
    """One question of a check: how often each live row gives each outcome [outcomes, rows]."""

    check: Check
    shares: Array
    labels: Sequence[tuple[str, str]]


def by_look(model: Model, look: Look, live: Live) -> Split:
    """What the outcomes of one look would do."""
    check = next(c for c in model.checks.values() if c.look is look)
    shares = _look_shares(model, look)[:, live.places]
    return _taken_away(live, [_Asked(check, shares, _look_labels(look))])[0]


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


def _taken_away(live: Live, asked: Sequence[_Asked]) -> list[Split]:
    """Mutual information between the outcomes of each question and the suspects."""
    if not asked:
        return []
    left = np.concatenate([one.shares for one in asked]) @ live.weights
    entropies = entropy(left) * left.sum(axis=1) / live.before.sum()
    before = float(entropy(live.before[None])[0])
    ends = list(accumulate(len(one.shares) for one in asked))
    begins = [0, *ends[:-1]]
    bits = np.maximum(before - np.add.reduceat(entropies, begins), 0.0).tolist()
    return [
        Split(gain, live, left[begin:end], one.labels)
        for one, gain, begin, end in zip(asked, bits, begins, ends, strict=True)
    ]


def entropy(weights: Array) -> Array:
    """In bits, row by row, of weights that need not sum to one."""
    shares = weights / np.maximum(weights.sum(axis=1, keepdims=True), 1e-300)
    found: Array = -(shares * np.log2(np.maximum(shares, 1e-300))).sum(axis=1)
    return found
