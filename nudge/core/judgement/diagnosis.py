"""The diagnosis in one sentence: which suspect stands, how surely, and what to do about it."""

from dataclasses import dataclass
from typing import Literal

from nudge.core.behaviours.case import Case
from nudge.core.judgement.beliefs import Posterior
from nudge.core.judgement.over_time import seen_at_two_loads
from nudge.core.judgement.suspect_table import FAULT_LABELS
from nudge.core.settling.breaches import is_standing

Confidence = Literal["sure", "likely", "open"]

SURE, LIKELY = 0.90, 0.60
PAIR_LEADS = 0.45
WORTH_NAMING = 0.10
VALVE_IN_QUESTION = 0.10


@dataclass(frozen=True, slots=True)
class Diagnosis:
    """What the suspects come to. `faults` names one, two for a pair, none while it is open."""

    sentence: str
    faults: tuple[str, ...]
    confidence: Confidence
    severity: str
    act: str
    valve: str
    """Whether the metering device was seen at two loads, where it is in question."""


def diagnose(case: Case, weighing: Posterior, measured: int, doubted: bool) -> Diagnosis:
    """Put the weighing into words. `measured` counts the signs it rests on."""
    valve = _valve_words(case, weighing)
    if is_standing(case) or measured == 0:
        return Diagnosis(
            "Nothing to judge yet: no running reading that faults would move.",
            (),
            "open",
            "",
            "",
            valve,
        )
    pair = max(weighing.pairs, key=lambda names: weighing.pairs[names], default=None)
    if pair is not None and weighing.pairs[pair] >= PAIR_LEADS:
        return _of_pair(pair, weighing, valve)
    leader, belief = next(iter(weighing.suspects.items()))
    suspect = weighing.model.suspects[leader]
    severity = weighing.severity(leader) if leader not in ("none", "sensor_suspect") else ""
    if belief < LIKELY:
        return Diagnosis(_open_words(weighing), (), "open", "", "", valve)
    confidence: Confidence = "sure" if belief >= SURE else "likely"
    word = "Almost surely" if confidence == "sure" else "Probably"
    if leader == "none":
        sentence = "Nothing wrong shows." if confidence == "sure" else "Probably nothing wrong."
    elif leader == "something_else":
        sentence = "Something that no suspect here explains."
    else:
        bad = f", {severity}" if severity else ""
        fault = FAULT_LABELS.get(weighing.likeliest_fault(leader), "")
        where = f": {fault}" if fault else ""
        sentence = f"{word} {suspect.label.lower()}{where}{bad}."
    if doubted and leader == "sensor_suspect":
        sentence = "A reading is wrong: these cannot all be true."
    return Diagnosis(sentence, (leader,), confidence, severity, suspect.act, valve)


def _of_pair(faults: tuple[str, str], weighing: Posterior, valve: str) -> Diagnosis:
    row = next(pair for pair in weighing.model.pairs if pair.faults == faults)
    names = next(
        r.hypothesis.signature.suspects for r in weighing.rows if r.hypothesis.faults == faults
    )
    first, second = (weighing.model.suspects[name] for name in names)
    word = "Almost surely" if weighing.pairs[faults] >= SURE else "Probably"
    sentence = f"{word} two at once: {first.label.lower()} and {second.label.lower()}."
    return Diagnosis(
        sentence,
        names,
        "sure" if word == "Almost surely" else "likely",
        "",
        f"{first.act} In this order because: {row.reason}.",
        valve,
    )


def _open_words(weighing: Posterior) -> str:
    named = [
        weighing.model.suspects[k].label.lower()
        for k, b in weighing.suspects.items()
        if b >= WORTH_NAMING
    ]
    if len(named) < 2:
        return "Cannot tell yet."
    listed = ", ".join(named[:2]) + f" or {named[2]}" if len(named) > 2 else " or ".join(named)
    return f"Cannot tell yet: {listed}."


def _valve_words(case: Case, weighing: Posterior) -> str:
    device = case.plate.metering_device
    in_question = sum(
        weighing.suspects.get(key, 0.0) for key in ("metering_underfeed", "metering_overfeed")
    )
    if not device.is_valve or in_question < VALVE_IN_QUESTION:
        return ""
    if seen_at_two_loads(case):
        return "The valve was seen at two loads."
    if case.saw("bulb_test_reacts") or case.saw("bulb_test_no_reaction"):
        return "The valve was seen at one load, and its bulb was tested."
    return (
        "The valve was seen at one load only: no verdict on it without a second, or the bulb test."
    )
