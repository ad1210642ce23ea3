"""The check that would settle most per minute: value of information over the live suspects.

For every check not done, each outcome's likelihood under each hypothesis gives what would be
believed after it. A check is worth the entropy it is expected to take away, in bits, over its
minutes of work and risk.
"""

from collections.abc import Iterator, Mapping, Sequence
from collections.abc import Set as AbstractSet
from dataclasses import dataclass, field
from functools import cache
from typing import NamedTuple

import numpy as np

from nudge.core.behaviours.case import Case
from nudge.core.checks.looks import LEAST_SHARE, Look
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.checks.table import Check
from nudge.core.expectations.signs import SIGNS
from nudge.core.judgement.beliefs import LOAD_BESIDE, Posterior, Weighed
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.hypotheses import Array, hypotheses
from nudge.core.judgement.model import Model
from nudge.core.judgement.predict import levels

LIMIT = 4
SETTING_UP = 4.0
"""Minutes to walk over and get the tool out, whatever the check: it favours the telling ones."""
WORTH_ASKING = 0.012
"""Least bits per minute for a check to be listed."""
LEAST_CHANCE = 0.02
"""An outcome less likely than this is not counted on."""
LIVE = 0.003
"""Hypotheses believed less than this are left out of the sum."""
LEVEL_WORDS = ("low", "low", "as expected", "high", "high")
MOVES, LEADERS = 0.05, 2
"""A check has to be able to move the belief in one of the first two by this much."""
SAID_BY_AIR = frozenset(("ask_the_house", "ask_the_setting"))
"""Asked only while nobody read the return air, which says it."""
IN_FRONT = 0.5
"""A leader believed this much is asked for its own test."""
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


@dataclass(frozen=True, slots=True)
class Proposal:
    """A check worth doing now."""

    check: Check
    bits: float
    separates: tuple[str, ...]
    outcomes: tuple[Outcome, ...]


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


class _Split(NamedTuple):
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


def next_checks(
    case: Case,
    weighing: Posterior,
    measured: Mapping[str, Departure],
    wanted: Sequence[str] = (),
    limit: int = LIMIT,
    worth: float = WORTH_ASKING,
) -> list[Proposal]:
    """Checks not done yet, best value first.

    First of all the `wanted` ones, which stand between charge and its proof; then the leader's
    own test, so that nothing is condemned without it.
    """
    have = set(case.readings) | case.context.observations
    live = Live([row for row in weighing.rows if row.belief >= LIVE])
    device = case.plate.metering_device.value
    first = [*wanted, *_own_test(weighing, have, device)]
    scored: list[tuple[float, Check, _Split]] = []
    for check, split in _splits(case, weighing, live, measured, open_checks(case, weighing.model)):
        per_minute = split.bits / (SETTING_UP + check.minutes + check.risk)
        if check.key in first:
            per_minute += len(first) - first.index(check.key)
        if per_minute > worth:
            scored.append((per_minute, check, split))
    scored.sort(key=lambda one: -one[0])
    found: list[Proposal] = []
    for _, check, split in scored:
        outcomes = split.outcomes()
        if check.key in first or _moves_the_leaders(outcomes, weighing):
            found.append(Proposal(check, split.bits, _separated(outcomes, weighing), outcomes))
        if len(found) == limit:
            break
    return found


def _moves_the_leaders(outcomes: Sequence[Outcome], weighing: Posterior) -> bool:
    """Whether an outcome that is to be expected would change what is believed of the leaders."""
    return any(
        abs(outcome.shares.get(name, 0.0) - belief) >= MOVES
        for name, belief in list(weighing.suspects.items())[:LEADERS]
        for outcome in outcomes
    )


def proving_check(
    case: Case,
    weighing: Posterior,
    measured: Mapping[str, Departure],
    suspect: str,
    least: float,
) -> Check | None:
    """The check likeliest, per minute, to leave a suspect believed as much as it must be.

    None where no outcome of any one check would.
    """
    live = Live([row for row in weighing.rows if row.belief >= LIVE])
    best, found = 0.0, None
    # One that can only be found, never be ruled out, has no answer to wait for.
    asked = [c for c in open_checks(case, weighing.model) if c.look is None or c.look.no]
    for check, split in _splits(case, weighing, live, measured, asked):
        proves = sum(o.chance for o in split.outcomes() if o.besides.get(suspect, 0.0) >= least)
        per_minute = proves / (SETTING_UP + check.minutes + check.risk)
        if per_minute > best:
            best, found = per_minute, check
    return found


def own_test_besides(case: Case, weighing: Posterior, suspect: str) -> Check | None:
    """The first test not done that proves what is likeliest beside a suspect, or instead."""
    against: dict[str, float] = {}
    for row, belief in weighing.rows:
        for name in row.signature.suspects:
            if name != suspect:
                against[name] = against.get(name, 0.0) + belief
    still_open = {check.key: check for check in open_checks(case, weighing.model)}
    for name in sorted(against, key=lambda one: -against[one]):
        for key in weighing.model.suspects[name].own_test:
            if key in still_open:
                return still_open[key]
    return None


def _own_test(weighing: Posterior, have: set[str], device: str) -> list[str]:
    """What proves the leader, as far as nothing has; the first of it that is not done."""
    leader, belief = next(iter(weighing.suspects.items()))
    if weighing.rows and len(weighing.rows[0].hypothesis.signature.suspects) == 2:
        leader = weighing.rows[0].hypothesis.signature.suspects[0]  # of two, the first to clear
    elif belief < IN_FRONT:
        return []
    model = weighing.model
    checks = [model.checks[key] for key in model.suspects[leader].own_test]
    fitting = [c for c in checks if not c.devices or device in c.devices]
    if any(c.look is not None and c.look.yes in have for c in fitting):
        return []
    return [c.key for c in fitting if not is_done(c, have)][:1]


def open_checks(case: Case, model: Model) -> list[Check]:
    """Every check that fits this metering device and is not on the record yet."""
    have = set(case.record) | case.context.observations
    device = case.plate.metering_device.value
    return [
        c
        for c in model.checks.values()
        if not is_done(c, have) and (not c.devices or device in c.devices)
    ]


def is_done(check: Check, have: AbstractSet[str]) -> bool:
    """Whether its readings or its look are on the record already."""
    if check.points:
        return set(check.points) <= have
    if check.key in SAID_BY_AIR and "return_air_temp" in have:
        return True
    return not have.isdisjoint(check.done_by)


def _separated(outcomes: Sequence[Outcome], weighing: Posterior) -> tuple[str, ...]:
    """The suspects its outcomes would put in front, then the leaders of now."""
    names = [one.leads for one in sorted(outcomes, key=lambda o: -o.chance)]
    return tuple(dict.fromkeys([*names, *list(weighing.suspects)[:2]]))[:3]


def _splits(
    case: Case,
    weighing: Posterior,
    live: Live,
    measured: Mapping[str, Departure],
    checks: Sequence[Check],
) -> Iterator[tuple[Check, _Split]]:
    """What the outcomes of each check would do. A reading is worth what it says that the readings
    that are there do not, and a sign counts only where the check brings all it still needs.
    """
    have, model = set(case.readings), weighing.model
    told = {
        check.key: [
            key
            for key in check.signs
            if key not in measured
            and key in model.signs
            and SIGNS[key].can_be_told(have | set(check.points))
        ]
        for check in checks
    }
    wanted = dict.fromkeys(key for keys in told.values() for key in keys)
    shares = levels(
        case, weighing, live.rows, measured, [key for key in wanted if not SIGNS[key].defines_load]
    )
    asked: list[_Asked] = []
    for check in checks:
        if check.look is not None:
            asked.append(
                _Asked(
                    check, _look_shares(model, check.look)[:, live.places], _look_labels(check.look)
                )
            )
            continue
        asked += [
            _Asked(check, shares[sign].T, _sign_labels(sign))
            for sign in told[check.key]
            if sign in shares
        ]
        if any(SIGNS[key].defines_load for key in told[check.key]):
            asked.append(_Asked(check, _load_shares(live), _LOAD_LABELS))
    by_check: dict[str, list[_Split]] = {}
    for one, split in zip(asked, _taken_away(live, asked), strict=True):
        by_check.setdefault(one.check.key, []).append(split)
    for check in checks:
        splits = sorted(by_check.get(check.key, ()), key=lambda one: -one.bits)
        if splits:
            second = SECOND_SIGN * splits[1].bits if len(splits) > 1 else 0.0
            yield check, splits[0]._replace(bits=splits[0].bits + second)


class _Asked(NamedTuple):
    """One question of a check: how often each live row gives each outcome [outcomes, rows]."""

    check: Check
    shares: Array
    labels: Sequence[tuple[str, str]]


def by_look(model: Model, look: Look, live: Live) -> _Split:
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
def _sign_labels(sign: str) -> list[tuple[str, str]]:
    label = SIGNS[sign].label
    return [("", f"{label} {word}") for word in LEVEL_WORDS]


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


def _taken_away(live: Live, asked: Sequence[_Asked]) -> list[_Split]:
    """Mutual information between the outcomes of each question and the suspects."""
    if not asked:
        return []
    left = np.concatenate([one.shares for one in asked]) @ live.weights
    entropies = _entropy(left) * left.sum(axis=1) / live.before.sum()
    before = float(_entropy(live.before[None])[0])
    found, at = [], 0
    for one in asked:
        end = at + len(one.shares)
        bits = before - float(entropies[at:end].sum())
        found.append(_Split(max(bits, 0.0), live, left[at:end], one.labels))
        at = end
    return found


def _entropy(weights: Array) -> Array:
    """In bits, row by row, of weights that need not sum to one."""
    shares = weights / np.maximum(weights.sum(axis=1, keepdims=True), 1e-300)
    found: Array = -(shares * np.log2(np.maximum(shares, 1e-300))).sum(axis=1)
    return found
