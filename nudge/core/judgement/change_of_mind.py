"""What would change its mind: outcomes of checks, and readings that would put another in front."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from math import exp

from nudge.core.judgement.assess import Assessment
from nudge.core.judgement.beliefs import Posterior, told_of, weigh
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.model import Model
from nudge.core.judgement.next_checks import next_checks
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity

MOST_SIGNS = 3
STEPS = (0.25, 0.5, 0.75, 1.0, 1.3, 1.7)
"""How far a reading is moved back past what is expected, as shares of its departure."""
CHECKS_ASKED = 12


@dataclass(frozen=True, slots=True)
class Change:
    """One thing that would put another suspect in front: what, who, how much it is believed."""

    said: Said
    leads: str
    belief: float
    sign: str = ""


def changes_of_mind(result: Assessment) -> list[Change]:
    """What would change the verdict: first what can be looked at, then what may be misread."""
    if result.weighing is None or not result.suspects:
        return []
    leader = result.suspects[0].suspect.key
    model = result.weighing.model
    return [*_by_checks(result, result.weighing, leader), *_by_readings(model, result, leader)]


def _by_checks(result: Assessment, weighing: Posterior, leader: str) -> Iterator[Change]:
    proposals = next_checks(result.case, weighing, result.measured, limit=CHECKS_ASKED, worth=0.0)
    found = [
        (
            outcome.chance,
            Change(
                say(f"{proposal.check.label}: {outcome.label.lower()}."),
                outcome.leads,
                outcome.belief,
            ),
        )
        for proposal in proposals
        for outcome in proposal.outcomes
        if outcome.leads != leader
    ]
    found.sort(key=lambda pair: -pair[0])
    yield from (change for _, change in found[:4])


def _by_readings(model: Model, result: Assessment, leader: str) -> Iterator[Change]:
    """The leader's own evidence, taken back step by step until another leads."""
    signs = [s for s in result.suspects[0].for_signs if s in result.measured]
    for sign in signs[:MOST_SIGNS]:
        one = result.measured[sign]
        for step in STEPS:
            moved = one._replace(value=one.value - step * one.off)
            others = _weighed_with(model, result, {sign: moved})
            name, belief = next(iter(others.suspects.items()))
            if name != leader:
                yield Change(_reading_words(one, moved), name, belief, sign)
                break


def _weighed_with(model: Model, result: Assessment, changed: Mapping[str, Departure]) -> Posterior:
    case = result.case
    measured = {key: changed.get(key, one) for key, one in result.measured.items()}
    told = told_of(case, result.episodes, bool(result.doubts))
    return weigh(model, measured, told)


def _reading_words(now: Departure, then: Departure) -> Said:
    label = now.sign.label
    word = "less" if now.off > 0 else "more"
    if now.sign.quantity is Quantity.PERCENT:
        share = Measure(100 * (exp(then.off / 100) - 1), Quantity.PERCENT)
        return say(f"{label} {{then}} or {word} off what is expected.", then=share)
    return say(
        f"{label} {{then}} or {word}, not {{now}}.",
        then=Measure(then.value, now.sign.quantity),
        now=Measure(now.value, now.sign.quantity),
    )
