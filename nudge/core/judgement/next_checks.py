"""The check that would settle most per minute: value of information over the live suspects.

For every check not done, each outcome's likelihood under each hypothesis gives what would be
believed after it. A check is worth the entropy it is expected to take away, in bits, over its
minutes of work and risk.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from nudge.core.behaviours.case import Case
from nudge.core.checks.check import Check
from nudge.core.judgement.beliefs import Posterior
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.model import Model
from nudge.core.judgement.splits import Live, Outcome, Split, splits

LIMIT = 4
SETTING_UP = 4.0
"""Minutes to walk over and get the tool out, whatever the check: it favours the telling ones."""
WORTH_ASKING = 0.012
"""Least bits per minute for a check to be listed."""
LIVE = 0.003
"""Hypotheses believed less than this are left out of the sum."""
MOVES, LEADERS = 0.05, 2
"""A check has to be able to move the belief in one of the first two by this much."""
SAID_BY_AIR = frozenset(("ask_the_house", "ask_the_setting"))
"""Asked only while nobody read the return air, which says it."""
ANSWERED_BY_NITROGEN: frozenset[str] = frozenset({"look_for_leak"})
"""Not asked of a circuit that held its pressure and was weighed in on this visit."""
IN_FRONT = 0.5
"""A leader believed this much is asked for its own test."""


@dataclass(frozen=True, slots=True)
class Proposal:
    """A check worth doing now."""

    check: Check
    bits: float
    separates: tuple[str, ...]
    outcomes: tuple[Outcome, ...]


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
    scored: list[tuple[float, Check, Split]] = []
    for check, split in splits(case, weighing, live, measured, open_checks(case, weighing.model)):
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
    asked = [c for c in open_checks(case, weighing.model) if has_answer(c)]
    for check, split in splits(case, weighing, live, measured, asked):
        proves = sum(o.chance for o in split.outcomes() if o.besides.get(suspect, 0.0) >= least)
        per_minute = proves / (SETTING_UP + check.minutes + check.risk)
        if per_minute > best:
            best, found = per_minute, check
    return found


def has_answer(check: Check) -> bool:
    """Whether it ends either way: what can only be found, never be ruled out, is not waited for."""
    return check.look is None or bool(check.look.no)


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


def open_checks(case: Case, model: Model) -> tuple[Check, ...]:
    """Every check that fits this metering device and is not on the record yet.

    A circuit that nitrogen proved tight on this visit is not searched for a leak.
    """
    have = frozenset((*case.record, *case.context.observations))
    device = case.plate.metering_device.value
    return _open(model, have, device, case.context.past.is_weighed_in)


@lru_cache(maxsize=64)
def _open(
    model: Model, have: frozenset[str], device: str, is_weighed_in: bool
) -> tuple[Check, ...]:
    answered = ANSWERED_BY_NITROGEN if is_weighed_in else frozenset()
    return tuple(
        check
        for check in model.checks.values()
        if not is_done(check, have)
        and (not check.devices or device in check.devices)
        and check.key not in answered
    )


def is_done(check: Check, have: frozenset[str] | set[str]) -> bool:
    """Whether its readings or its look are on the record already."""
    if check.points:
        return have.issuperset(check.points)
    if check.key in SAID_BY_AIR and "return_air_temp" in have:
        return True
    return not have.isdisjoint(check.done_by)


def _separated(outcomes: Sequence[Outcome], weighing: Posterior) -> tuple[str, ...]:
    """The suspects its outcomes would put in front, then the leaders of now."""
    names = [one.leads for one in sorted(outcomes, key=lambda o: -o.chance)]
    return tuple(dict.fromkeys([*names, *list(weighing.suspects)[:2]]))[:3]
