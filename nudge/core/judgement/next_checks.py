"""The check that would settle most per minute: value of information over the live suspects.

For every check not done, each outcome's likelihood under each hypothesis gives what would be
believed after it. A check is worth the entropy it is expected to take away, in bits, over its
minutes of work and risk.
"""

from collections.abc import Sequence
from collections.abc import Set as AbstractSet
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from math import erf, log2, sqrt
from typing import NamedTuple

from nudge.core.circuit.case import Case
from nudge.core.judgement.beliefs import ELSE_SPREAD, PROBE_SPREAD, Weighed, Weighing
from nudge.core.judgement.check_table import CHECKS, Check
from nudge.core.judgement.departures import SIGNS
from nudge.core.judgement.looks import LEAST_SHARE, Look
from nudge.core.judgement.signatures import SIGNATURES, Signature
from nudge.core.judgement.suspect_table import SUSPECTS
from nudge.core.vocabulary.observations import OBSERVATIONS

LIMIT = 4
SETTING_UP = 4.0
"""Minutes to walk over and get the tool out, whatever the check: it favours the telling ones."""
WORTH_ASKING = 0.012
"""Least bits per minute for a check to be listed."""
LIVE = 0.003
"""Hypotheses believed less than this are left out of the sum."""
WIDE = {"something_else": ELSE_SPREAD, "some_probe": PROBE_SPREAD}
EDGES = (-3.0, -1.4, 1.4, 3.0)
"""Edges of the five levels a reading may fall in, in healthy spreads."""
LEVEL_WORDS = ("low", "low", "as expected", "high", "high")
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


@dataclass(frozen=True, slots=True)
class Proposal:
    """A check worth doing now."""

    check: Check
    bits: float
    separates: tuple[str, ...]
    outcomes: tuple[Outcome, ...]


class _Split(NamedTuple):
    """What a check's outcomes would do: expected entropy taken away, and each outcome."""

    bits: float
    outcomes: tuple[Outcome, ...]


def next_checks(
    case: Case,
    weighing: Weighing,
    measured: Sequence[str],
    wanted: Sequence[str] = (),
    limit: int = LIMIT,
    worth: float = WORTH_ASKING,
) -> list[Proposal]:
    """Checks not done yet, best value first.

    First of all the `wanted` ones, which stand between charge and its proof; then the leader's
    own test, so that nothing is condemned without it.
    """
    have = set(case.readings) | case.context.observations
    live = [row for row in weighing.rows if row.belief >= LIVE]
    device = case.plate.metering_device.value
    first = [*wanted, *_own_test(weighing, have, device)]
    scored: list[tuple[float, Proposal]] = []
    for check in CHECKS.values():
        if is_done(check, have) or (check.devices and device not in check.devices):
            continue
        split = _split(check, weighing.is_valve, live, set(measured))
        per_minute = split.bits / (SETTING_UP + check.minutes + check.risk)
        if check.key in first:
            per_minute += len(first) - first.index(check.key)
        if per_minute > worth:
            proposal = Proposal(check, split.bits, _separated(split, weighing), split.outcomes)
            scored.append((per_minute, proposal))
    scored.sort(key=lambda pair: -pair[0])
    return [proposal for _, proposal in scored[:limit]]


def _own_test(weighing: Weighing, have: set[str], device: str) -> list[str]:
    """What proves the leader, as far as nothing has; the first of it that is not done."""
    leader, belief = next(iter(weighing.suspects.items()))
    if weighing.rows and len(weighing.rows[0].hypothesis.signature.suspects) == 2:
        leader = weighing.rows[0].hypothesis.signature.suspects[0]  # of two, the first to clear
    elif belief < IN_FRONT:
        return []
    checks = [CHECKS[key] for key in SUSPECTS[leader].own_test]
    fitting = [c for c in checks if not c.devices or device in c.devices]
    if any(c.look is not None and c.look.yes in have for c in fitting):
        return []
    return [c.key for c in fitting if not is_done(c, have)][:1]


def is_done(check: Check, have: AbstractSet[str]) -> bool:
    """Whether its readings or its look are on the record already."""
    if check.points:
        return set(check.points) <= have
    return not have.isdisjoint(check.done_by)


def _separated(split: _Split, weighing: Weighing) -> tuple[str, ...]:
    """The suspects its outcomes would put in front, then the leaders of now."""
    names = [one.leads for one in sorted(split.outcomes, key=lambda o: -o.chance)]
    return tuple(dict.fromkeys([*names, *list(weighing.suspects)[:2]]))[:3]


def _split(check: Check, is_valve: bool, live: Sequence[Weighed], measured: set[str]) -> _Split:
    if check.look is not None:
        return _by_look(check.look, live)
    splits = [_by_sign(is_valve, sign, live) for sign in check.signs if sign not in measured]
    splits.sort(key=lambda one: -one.bits)
    if not splits:
        return _Split(0.0, ())
    second = SECOND_SIGN * splits[1].bits if len(splits) > 1 else 0.0
    return _Split(splits[0].bits + second, splits[0].outcomes)


def _by_look(look: Look, live: Sequence[Weighed]) -> _Split:
    shares = [
        min(max(look.share(row.hypothesis.faults), LEAST_SHARE), 1 - LEAST_SHARE) for row in live
    ]
    columns = [shares, [1 - share for share in shares]]
    labels = [(key, _look_label(key)) for key in (look.yes, look.no)]
    return _taken_away(live, columns, labels)


_EPISODE_LABELS = {
    "superheat_moves": "Superheat moved with the load", "superheat_holds": "Superheat held",
    "head_fell": "The head came down", "head_stayed": "The head stayed up",
}  # fmt: skip


def _look_label(key: str) -> str:
    if not key:
        return "Nothing found"
    return OBSERVATIONS[key].label if key in OBSERVATIONS else _EPISODE_LABELS[key]


def _by_sign(is_valve: bool, sign: str, live: Sequence[Weighed]) -> _Split:
    rows = [_levels(is_valve, row.hypothesis.signature.variant,
                    row.hypothesis.signature.severity, sign) for row in live]  # fmt: skip
    columns = [[row[level] for row in rows] for level in range(len(LEVEL_WORDS))]
    label = SIGNS[sign].label
    return _taken_away(live, columns, [("", f"{label} {word}") for word in LEVEL_WORDS])


@cache
def _levels(is_valve: bool, variant: str, severity: str, sign: str) -> tuple[float, ...]:
    """How often a hypothesis puts a sign in each of the five levels."""
    rows = SIGNATURES[is_valve]
    healthy = next(row for row in rows if row.suspects == ("none",)).moves[sign]
    if variant in WIDE:
        middle, spread = 0.0, WIDE[variant] * healthy[1]
    else:
        middle, spread = _row(rows, variant, severity).moves.get(sign, healthy)
    under = [0.5 * (1 + erf((e * healthy[1] - middle) / (spread * sqrt(2)))) for e in EDGES]
    steps = [0.0, *under, 1.0]
    return tuple(max(b - a, 1e-4) for a, b in pairwise(steps))


def _row(rows: Sequence[Signature], variant: str, severity: str) -> Signature:
    return next(r for r in rows if r.variant == variant and r.severity == severity)


def _taken_away(
    live: Sequence[Weighed], columns: Sequence[Sequence[float]], labels: list[tuple[str, str]]
) -> _Split:
    """Mutual information between the outcome and the suspects, and what each outcome means."""
    before: dict[tuple[str, ...], float] = {}
    for row in live:
        suspects = row.hypothesis.signature.suspects
        before[suspects] = before.get(suspects, 0.0) + row.belief
    bits = _entropy(before)
    merged: dict[tuple[str, str], tuple[float, dict[tuple[str, ...], float]]] = {}
    whole = sum(before.values())
    for column, label in zip(columns, labels, strict=True):
        after: dict[tuple[str, ...], float] = {}
        for row, share in zip(live, column, strict=True):
            suspects = row.hypothesis.signature.suspects
            after[suspects] = after.get(suspects, 0.0) + row.belief * share
        chance = sum(after.values())
        bits -= chance / whole * _entropy(after)
        old_chance, old = merged.get(label, (0.0, {}))
        merged[label] = (old_chance + chance, {k: old.get(k, 0.0) + after[k] for k in after})
    outcomes = []
    for (key, shown), (chance, after) in merged.items():
        if chance / whole < 0.02:
            continue
        marginal: dict[str, float] = {}
        for names, belief in after.items():
            for name in names:
                marginal[name] = marginal.get(name, 0.0) + belief / len(names)
        leads = max(marginal, key=lambda name: marginal[name])
        observed = key if key in OBSERVATIONS else ""
        outcomes.append(Outcome(observed, shown, chance / whole, leads, marginal[leads] / chance))
    return _Split(max(bits, 0.0), tuple(outcomes))


def _entropy(weights: dict[tuple[str, ...], float]) -> float:
    """In bits, of weights that need not sum to one."""
    whole = sum(weights.values())
    return -sum(w / whole * log2(w / whole) for w in weights.values() if w > 0)
