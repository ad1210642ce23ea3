"""What a decision hangs on: a check or a row of a proof as the one thing that is missing."""

from collections.abc import Set as AbstractSet

from nudge.core.checks.check import Check
from nudge.core.checks.table import CHECKS
from nudge.core.judgement.decision.decision import HangsOn
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.holds import again
from nudge.core.judgement.decision.limits import least
from nudge.core.judgement.decision.words import capital
from nudge.core.judgement.next_checks import (
    has_answer,
    open_checks,
    own_test_besides,
    proving_check,
)
from nudge.core.judgement.proof import ProofRow
from nudge.core.language.said import say

MARGIN = 0.1
"""Of what is left to certainty: a check is asked for what it tells, not for a hair."""


def hang_on_row(row: ProofRow, have: AbstractSet[str] = frozenset()) -> HangsOn | None:
    """What a row of a proof asks for."""
    kind, key = row.asks
    if kind == "test" and not row.check:
        return None
    if kind in ("test", "look") and row.check:
        return hang_on_check(CHECKS[row.check], row.if_missing or row.if_contradicted, have)
    return HangsOn(kind, key, say(capital(row.if_missing or row.if_contradicted) + "."))


def hang_on_contradiction(row: ProofRow, ground: Ground) -> HangsOn | None:
    """What would settle a contradiction: what it rests on, read again; once that is confirmed, the
    checks it names that are not done.
    """
    case, weighing = ground.case, ground.weighing
    if weighing is not None and case.saw("readings_confirmed"):
        still_open = {check.key for check in open_checks(case, weighing.model)}
        for key in row.then:
            if key in still_open:
                have = set(case.record) | case.context.observations
                return hang_on_check(CHECKS[key], row.if_contradicted, have)
    found = hang_on_row(row, set(case.record))
    if found is not None and found.kind == "reading" and found.key in case.record:
        return again(found.key)
    return found or best_check(ground)


def hang_on_check(check: Check, why: str = "", have: AbstractSet[str] = frozenset()) -> HangsOn:
    """A check as the one thing: by its first reading that nobody took, with the next of the same
    walk in the same breath; by its look; or as a test.
    """
    said = say(capital(why) + "." if why else check.why)
    if check.points:
        point, *more = [p for p in check.points if p not in have] or check.points[-1:]
        walk = say(f"The same check: {check.label[0].lower()}{check.label[1:]}.")
        also = tuple(HangsOn("reading", p, walk) for p in more[:1])
        return HangsOn("reading", point, said, also)
    return HangsOn("look" if check.look is not None else "test", check.key, said)


def best_check(ground: Ground) -> HangsOn | None:
    """The check that would settle most per minute, of those that end either way if there are."""
    if not ground.checks:
        return None
    checks = [proposal.check for proposal in ground.checks]
    check = next(filter(has_answer, checks), checks[0])
    return hang_on_check(check, have=set(ground.case.record))


def parting_check(
    ground: Ground, suspect: str = "undercharge", limit: str = "add"
) -> HangsOn | None:
    """Where a charge fault leads already: what would prove it soonest; where it is sure to be
    there, the own test of what is likeliest there besides; else what settles most.
    """
    if ground.weighing is None:
        return None
    case, check = ground.case, None
    have = set(case.record) | case.context.observations
    if ground.weighing.besides(suspect) < least(limit):
        wanted = least(limit) + (1 - least(limit)) * MARGIN
        check = proving_check(case, ground.weighing, ground.measured, suspect, wanted)
    else:
        check = own_test_besides(case, ground.weighing, suspect)
    return best_check(ground) if check is None else hang_on_check(check, have=have)
