"""What a suspect's belief opens to: its prior, and what every sign and fact does to it."""

from collections.abc import Iterator

from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.judgement.assess import Assessment
from nudge.core.judgement.evidence import Belief, sentence_of, sign_ratios
from nudge.core.judgement.model import Model
from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, Working

MOST, LEAST = 1e3, 1e-3
"""Ratios further out than this are shown at the limit: the table is not surer than that."""


def belief_workings(result: Assessment) -> dict[str, Working]:
    """Each suspect's belief opened, under `belief_` and its key."""
    weighing = result.weighing
    if weighing is None:
        return {}
    ratios, model = sign_ratios(weighing, result.measured), weighing.model
    return {
        f"belief_{belief.suspect.key}": _opened(
            belief, tuple(_inputs(model, result, belief, ratios.get(belief.suspect.key, {})))
        )
        for belief in result.suspects
    }


def _opened(belief: Belief, inputs: tuple[Input, ...]) -> Working:
    product = " × ".join("{" + given.key + "}" for given in inputs)
    formula = Formula(
        f"belief_{belief.suspect.key}",
        f"Belief, {belief.suspect.label.lower()}",
        Quantity.PERCENT,
        "How likely this suspect is among all of them, something else included. The signs are "
        "weighed together, with how they move together, so the product is the direction and not "
        "the sum.",
        "prior × how much commoner each sign's departure is with this suspect than with the others "
        "× what each fact seen does to it, scaled so that all suspects make 100 %",
        product + ", weighed together and scaled = {result}",
        (),
        "The judge's table, docs/method.md: simulated systems, corrected by trade knowledge.",
    )
    return Working(formula, 100 * belief.belief, inputs, None)


def _inputs(
    model: Model, result: Assessment, belief: Belief, ratios: dict[str, float]
) -> Iterator[Input]:
    prior = belief.suspect.prior
    yield Input("prior", "How common it is", Measure(prior, Quantity.PERCENT), "of a hundred calls")
    for key, ratio in ratios.items():
        shown = min(max(ratio, LEAST), MOST)
        label = sentence_of(result.measured[key]).template.split("{")[0].split(" is ")[0].strip()
        yield Input(key, label, Measure(shown, Quantity.RATIO), "times commoner than with others")
    faults = tuple(f for f in (belief.fault,) if f) or (belief.suspect.key,)
    for key in sorted(result.case.context.observations):
        label = f"Seen: {OBSERVATIONS[key].label.lower()}"
        yield Input(key, label, Measure(model.times(key, faults), Quantity.RATIO), "seen")
    for episode in result.episodes:
        factor = episode.row.factor((belief.suspect.key,), faults)
        yield Input(
            episode.row.key, episode.row.label, Measure(factor, Quantity.RATIO), "over time"
        )
