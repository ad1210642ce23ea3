"""The rules in their order, and the one decision they come to.

Danger, readings that cannot be true, what must be done first, clocks, charge: the first row that
finds something decides.
"""

from nudge.core.judgement.decision.before import BEFORE, FIRST
from nudge.core.judgement.decision.decision import Decision, OtherMethod
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.high import HIGH
from nudge.core.judgement.decision.low import EMPTY, LOW
from nudge.core.judgement.decision.near import NEAR
from nudge.core.judgement.decision.right import RIGHT
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.window import NOTHING, STATE_OF
from nudge.core.judgement.decision.words import joined
from nudge.core.language.said import say
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.settling.breaches import is_standing

RULES: tuple[Rule, ...] = (*BEFORE, *EMPTY, *FIRST, *NOTHING, *NEAR, *LOW, *HIGH, *RIGHT)
GUESSED = say("The subcooling window is a guess: find the plate.")


def decide(ground: Ground) -> Decision:
    """The decision of a case, without its dose. Every case has one."""
    for rule in RULES:
        found = rule.finds(ground)
        if found is not None:
            return _made(ground, rule, found)
    raise AssertionError("a case that reads low, high or right has a rule")


def _made(ground: Ground, rule: Rule, found: Finding) -> Decision:
    deciding, judged = ground.targets.deciding, ground.deciding
    target = None if deciding is None else ground.targets.windows[deciding.judges]
    reason, past = found.reason, ground.case.context
    if rule.order == "charge" and ground.target_is_guessed:
        reason = joined([reason, GUESSED])
    if past.taken_back and rule.order == "charge" and rule.advice == "do_not_charge":
        names = ", ".join(sorted(POINTS[point].label.lower() for point in past.taken_back))
        gone = say(f"Taken back: {names}. What was advised on it no longer stands.")
        reason = joined([gone, reason])
    if past.rejudged is not None:
        reason = joined([past.rejudged, reason])
    belief = found.belief
    if belief is None:
        belief = ground.belief(ground.leader) if ground.leader else 0.0
    return Decision(
        rule.key,
        rule.order,
        found.headline or rule.headline,
        found.advice or rule.advice,
        found.state,
        reason,
        found.stage or rule.stage,
        belief,
        ground.diagnosis,
        target,
        deciding.judges if deciding else None,
        judged.value - target.value if judged and target else None,
        found.hangs_on,
        tuple(ground.hazards),
        None,
        None,
        found.ready_in,
        found.wrong_if,
        found.watch,
        _other_methods(ground),
    )


def _other_methods(ground: Ground) -> tuple[OtherMethod, ...]:
    decided = []
    for school in ground.targets.others:
        measured = ground.case.derived.get(school.judges)
        target = ground.targets.answers[school.key]
        if measured is not None and not is_standing(ground.case):
            state = STATE_OF[school.judges][target.place(measured)]
            decided.append(OtherMethod(school, state, measured - target.value))
    return tuple(decided)
