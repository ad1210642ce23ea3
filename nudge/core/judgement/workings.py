"""What a suspect's belief opens to: its prior, and what every mark and fact did to it."""

from collections.abc import Iterator

from nudge.core.judgement.assess import Assessment
from nudge.core.judgement.beliefs import Belief, circumstances, odds_of_mark
from nudge.core.judgement.features import Feature, features
from nudge.core.judgement.suspect_table import OBSERVED, Suspect
from nudge.core.said import Measure
from nudge.core.settling.breaches import is_standing
from nudge.core.units import Quantity
from nudge.core.vocabulary.observations import OBSERVATIONS
from nudge.core.working import Formula, Input, Working

_LEVEL_WORDS = {"low": "under", "in": "inside", "high": "over"}


def belief_workings(result: Assessment) -> dict[str, Working]:
    """Each suspect's belief opened, under `belief_` and its key."""
    case = result.case
    marks = {} if is_standing(case) else features(case, result.targets)
    return {
        f"belief_{belief.suspect.key}": _opened(belief, tuple(_inputs(result, belief, marks)))
        for belief in result.suspects
    }


def _opened(belief: Belief, inputs: tuple[Input, ...]) -> Working:
    product = " × ".join("{" + given.key + "}" for given in inputs)
    formula = Formula(
        f"belief_{belief.suspect.key}",
        f"Belief, {belief.suspect.label.lower()}",
        Quantity.PERCENT,
        "How likely this suspect is among all of them, something else included. A first, coarse "
        "judgement: marks are treated as if they did not depend on each other.",
        "prior × how often each mark reads so with this suspect × what each fact seen does to it, "
        "scaled so that all suspects make 100 %",
        product + ", scaled = {result}",
        (),
        "The suspects' table, docs/method.md.",
    )
    return Working(formula, 100 * belief.belief, inputs, None)


def _inputs(result: Assessment, belief: Belief, marks: dict[str, Feature]) -> Iterator[Input]:
    suspect, case = belief.suspect, result.case
    yield _percent("prior", "How common it is", suspect.prior, "of a hundred calls")
    around = circumstances(case, bool(result.doubts)).get(suspect.key)
    if around is not None:
        yield _times("circumstances", "Circumstances", around, "air and pressures")
    for key, mark in marks.items():
        share = _share(suspect, mark, case.plate.metering_device.is_valve)
        if share is not None:
            label = f"{key.replace('_', ' ').capitalize()} {_LEVEL_WORDS[mark.level]}"
            yield _percent(key, label, share, "of a hundred such cases")
    for key in sorted(case.context.observations):
        weight = OBSERVED.get(key, {}).get(suspect.key)
        if weight is not None:
            yield _times(key, f"Seen: {OBSERVATIONS[key].label.lower()}", weight, "seen")


def _share(suspect: Suspect, mark: Feature, has_valve: bool) -> float | None:
    odds = odds_of_mark(suspect, mark.key, has_valve)
    return None if odds is None else odds[("low", "in", "high").index(mark.level)]


def _percent(key: str, label: str, value: float, source: str) -> Input:
    return Input(key, label, Measure(value, Quantity.PERCENT), source)


def _times(key: str, label: str, value: float, source: str) -> Input:
    return Input(key, label, Measure(value, Quantity.RATIO), source)
