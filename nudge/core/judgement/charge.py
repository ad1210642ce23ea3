"""Whether the charge is low, right or high, and the only advice the evidence allows."""

from dataclasses import dataclass, replace
from typing import Literal

from nudge.core.circuit.case import Case
from nudge.core.judgement.beliefs import Weighing
from nudge.core.judgement.features import Feature
from nudge.core.judgement.over_time import REPEATED, SHORT_SHARE
from nudge.core.judgement.proof import ADD_PROOF, REMOVE_PROOF, Marks, Proof, prove
from nudge.core.judgement.suspect_table import SUSPECTS
from nudge.core.said import Said, degrees_f, say
from nudge.core.settling.breaches import is_standing
from nudge.core.settling.gates import Breach
from nudge.core.targets import fallback_subcooling
from nudge.core.targets.choose import Targets
from nudge.core.targets.school import Judged, Level, School

ChargeState = Literal["low", "right", "high", "unknown"]
Advice = Literal["add", "remove", "leave", "do_not_charge", "find_leak"]

ALONE, HIGH_ALONE = 0.75, 0.60
"""Belief from which low charge, with nothing besides, stands alone in front; and high charge, of
which taking too much out is easier undone."""
GUESSED = "The subcooling window is a guess: find the plate."
STEPS = ("drier_drop", "liquid_line_drop")
EMPTY_SUBCOOLING_K = degrees_f(1)
EMPTY_SUPERHEAT_OVER_K = degrees_f(10)
EMPTY_SUPERHEAT_UNTARGETED_K = degrees_f(40)
FREEZING_C = 0.0

_STATE_OF: dict[Judged, dict[Level, ChargeState]] = {
    "subcooling": {"low": "low", "in": "right", "high": "high"},
    "superheat": {"low": "high", "in": "right", "high": "low"},
    "approach": {"low": "high", "in": "right", "high": "low"},
}


@dataclass(frozen=True, slots=True)
class OtherMethod:
    """What another school would have decided, and how far the measured value is off its target."""

    school: School
    state: ChargeState
    off_by_k: float


@dataclass(frozen=True, slots=True)
class ChargeVerdict:
    """The answer about charge: state, advice, what to do in words, and why."""

    state: ChargeState
    advice: Advice
    headline: str
    reason: Said
    other_methods: tuple[OtherMethod, ...] = ()
    wanted: tuple[str, ...] = ()
    """Checks of `CHECKS` whose results stand between this and an answer."""


HEADLINES: dict[Advice, str] = {
    "add": "Add refrigerant, a little at a time.",
    "remove": "Remove refrigerant, a little at a time.",
    "leave": "Leave the charge alone.",
    "find_leak": "Find the leak first.",
}

PAST_A_GATE: dict[str, str] = {
    "add": "Looks low, judged past a gate: do not add.",
    "remove": "Looks overcharged, judged past a gate: do not remove.",
}
PAST_ITS_GATE = "A gate was passed to say this, so it is no ground to move refrigerant."


def judge_charge(
    case: Case,
    targets: Targets,
    marks: Marks,
    breaches: list[Breach],
    doubts: list[Said],
    weighing: Weighing | None,
) -> ChargeVerdict:
    """Decide charge state and advice for a case.

    In order: readings that cannot be true, an empty system, a shut gate, then the deciding
    school's window. `add` and `remove` need their whole proof (see `proof.py`), and also that
    the suspects, weighed, leave low (high) charge alone in front: see `ALONE`. Past a gate
    somebody chose to pass, a state may be named but refrigerant is never moved.
    """
    verdict = _judged(case, targets, marks, breaches, doubts, weighing)
    passed = [breach for breach in breaches if breach.passed]
    if not passed or verdict.advice not in ("add", "remove"):
        return verdict
    template, measures, _ = verdict.reason
    return replace(
        verdict, advice="do_not_charge", headline=PAST_A_GATE[verdict.advice],
        reason=Said(f"{template} {PAST_ITS_GATE}", measures),
    )  # fmt: skip


def _judged(
    case: Case,
    targets: Targets,
    marks: Marks,
    breaches: list[Breach],
    doubts: list[Said],
    weighing: Weighing | None,
) -> ChargeVerdict:
    blocking = [b for b in breaches if b.effect == "blocks"]
    standing = [b for b in blocking if b.gate.key == "not_running"]
    if standing:
        return _hold("unknown", standing[0].gate.headline, standing[0].message)
    if doubts:
        return _hold("unknown", "Put the reading right first.", doubts[0])
    if (_is_empty(case, marks) and not _too_early(blocking)) or (
        _is_starving_cold(case, marks) and not blocking
    ):
        return ChargeVerdict("low", "find_leak", HEADLINES["find_leak"], _empty_reason(marks))
    others = _other_methods(case, targets)
    if blocking:
        return _hold("unknown", blocking[0].gate.headline, blocking[0].message, others)
    if targets.deciding is None:
        return _hold("unknown", "Read one more number.", _no_target_reason(case, targets), others)
    judged = targets.deciding.judges
    if judged not in marks:
        needs = {
            "subcooling": "liquid pressure and liquid line",
            "superheat": "suction pressure and suction line",
            "approach": "liquid line and outdoor air",
        }[judged]
        return _hold("unknown", "Read one more number.", say(f"Charge cannot be judged by "
                     f"{judged} until you read {needs}."), others)  # fmt: skip
    state = _STATE_OF[judged][marks[judged].level]
    if state == "low":
        verdict = _low(case, marks, judged, others, weighing)
    elif state == "high":
        verdict = _high(case, marks, judged, others, weighing)
    else:
        verdict = _right(case, marks, others)
    if targets.deciding.key != fallback_subcooling.KEY:
        return verdict
    template, measures, _ = verdict.reason
    return replace(verdict, reason=Said(f"{template} {GUESSED}", measures))


def _hold(
    state: ChargeState,
    headline: str,
    reason: Said,
    others: tuple[OtherMethod, ...] = (),
    wanted: tuple[str, ...] = (),
) -> ChargeVerdict:
    return ChargeVerdict(state, "do_not_charge", headline, reason, others, wanted)


def _is_empty(case: Case, marks: Marks) -> bool:
    """No subcooling and superheat far over target (40 °F where there is no target)."""
    subcooling, superheat = case.derived.subcooling, case.derived.superheat
    if subcooling is None or superheat is None or subcooling > EMPTY_SUBCOOLING_K:
        return False
    target = marks.get("superheat")
    over = target.high + EMPTY_SUPERHEAT_OVER_K if target else EMPTY_SUPERHEAT_UNTARGETED_K
    return superheat > over


def _is_starving_cold(case: Case, marks: Marks) -> bool:
    """Low subcooling, high superheat and suction in the freezing range: a leak, not a trim."""
    saturation = case.derived.evaporator_saturation
    levels = [marks[key].level for key in ("subcooling", "superheat") if key in marks]
    return levels == ["low", "high"] and saturation is not None and saturation < FREEZING_C


def _too_early(blocking: list[Breach]) -> bool:
    return any(
        b.gate.key in ("run_short", "just_changed", "application_not_judged") for b in blocking
    )


def _empty_reason(marks: Marks) -> Said:
    return _join(
        "Far too little refrigerant:",
        [marks[key] for key in ("subcooling", "superheat") if key in marks],
        "A system does not use refrigerant up. Find and repair the leak, evacuate, weigh in; "
        "topping up a leaker is not a repair.",
    )


def _low(
    case: Case,
    marks: Marks,
    judged: Judged,
    others: tuple[OtherMethod, ...],
    weighing: Weighing | None,
) -> ChargeVerdict:
    proof = prove(ADD_PROOF, case, marks)
    evidence = _evidence(marks, judged)
    if proof.contradicted:
        return _contradicted(proof, evidence, others)
    rival = rival_of("undercharge", weighing)
    if rival is not None and (not proof.missing or not _leads("undercharge", weighing)):
        return _hold(
            "unknown", "Not proven to be charge. Do not add.",
            _join("It reads low on charge:", evidence, f"But {rival}. Settle that first."), others,
        )  # fmt: skip
    if case.saw("oil_seen_at_joint"):
        return ChargeVerdict(
            "low", "find_leak", HEADLINES["find_leak"],
            _join("Low on charge:", evidence, "Oil at a joint says where it went. Repair that, "
                  "then weigh in."), others,
        )  # fmt: skip
    if proof.missing:
        return _hold(
            "low", "Looks low. Not proven: do not add yet.",
            _join("It reads low on charge:", evidence, _missing_words(proof, "adding")), others,
            tuple(dict.fromkeys(row.check for row in proof.missing if row.check)),
        )  # fmt: skip
    history = _leaks_by_history(case)
    if history is not None:
        return ChargeVerdict(
            "low", "find_leak", HEADLINES["find_leak"],
            _join("Low on charge:", evidence, f"{history} Find and repair the leak, then weigh "
                  "in; topping up a leaker is not a repair."), others,
        )  # fmt: skip
    return ChargeVerdict(
        "low", "add", HEADLINES["add"],
        _join("Low on charge, and its look-alikes are ruled out:", evidence,
              "Look for the leak too: it went somewhere."), others,
    )  # fmt: skip


def rival_of(suspect: str, weighing: Weighing | None) -> str | None:
    """What else the readings may mean, in words; None where the suspect stands alone in front.

    A pair counts against charge: the other of the two is cleared first, and charge read again.
    """
    if weighing is None:
        return "the suspects are not weighed here"
    if weighing.alone(suspect) >= (ALONE if suspect == "undercharge" else HIGH_ALONE):
        return None
    others = [
        (belief, row.signature.suspects)
        for row, belief in weighing.rows
        if row.signature.suspects != (suspect,)
    ]
    if not others:
        return None
    names = max(others)[1]
    left = [SUSPECTS[name].label.lower() for name in names if name != suspect]
    if len(names) == 2 and suspect in names:
        return f"“{left[0]}” is likely there as well, and comes first"
    return f"it may as well be “{' and '.join(left)}”"


def _leads(suspect: str, weighing: Weighing | None) -> bool:
    return weighing is not None and next(iter(weighing.suspects)) == suspect


def _leaks_by_history(case: Case) -> str | None:
    """Why this is a leak by its past: added before, or short at recovery."""
    past = case.context.past
    if past.additions >= REPEATED:
        return f"Refrigerant was added on {past.additions} visits within two years."
    if past.recovered_share is not None and past.recovered_share < SHORT_SHARE:
        return "Too little came out at recovery."
    return None


def _high(
    case: Case,
    marks: Marks,
    judged: Judged,
    others: tuple[OtherMethod, ...],
    weighing: Weighing | None,
) -> ChargeVerdict:
    proof = prove(REMOVE_PROOF, case, marks)
    evidence = _evidence(marks, judged)
    if judged == "superheat":
        return _high_by_superheat(case, marks, evidence, others)
    if proof.contradicted:
        return _contradicted(proof, evidence, others)
    if proof.missing:
        return _hold(
            "high", "Looks overcharged. Not proven: do not remove yet.",
            _join("It reads high on charge:", evidence, _missing_words(proof, "removing")), others,
            tuple(dict.fromkeys(row.check for row in proof.missing if row.check)),
        )  # fmt: skip
    rival = rival_of("overcharge", weighing)
    if rival is not None:
        return _hold(
            "high", "Reads high. Not proven to be charge: do not remove yet.",
            _join("It reads high on charge:", evidence, f"But {rival}. Settle that first."), others,
        )  # fmt: skip
    return ChargeVerdict(
        "high", "remove", HEADLINES["remove"],
        _join("Too much charge, with the outdoor coil and fan seen right:", evidence,
              "Recover into a recovery cylinder, never to air."), others,
    )  # fmt: skip


def _high_by_superheat(
    case: Case, marks: Marks, evidence: list[Feature], others: tuple[OtherMethod, ...]
) -> ChargeVerdict:
    """Low superheat on an orifice: charge only if the liquid side says so too."""
    if "subcooling" in marks and marks["subcooling"].level == "high":
        proof = prove(REMOVE_PROOF, case, marks)
        split = marks.get("temperature_split")
        if proof.complete and split is not None and split.level != "high":
            return ChargeVerdict(
                "high", "remove", HEADLINES["remove"],
                _join("Too much charge, with air and outdoor coil seen right:", evidence,
                      "Recover into a recovery cylinder, never to air."), others,
            )  # fmt: skip
        return _hold(
            "high", "Looks overcharged. Not proven: do not remove yet.",
            _join("It reads high on charge:", evidence, "First rule out low indoor air: measure "
                  "supply air, see filter, indoor coil, outdoor coil and fan."), others,
        )  # fmt: skip
    return _hold(
        "unknown", "Not a charge reading. Look at the indoor air.",
        _join("Superheat is low but the liquid line is not over-full:", evidence,
              "Low airflow, low load or an oversized orifice does that. Check filter, coil, "
              "blower, then the orifice."), others,
    )  # fmt: skip


def _right(case: Case, marks: Marks, others: tuple[OtherMethod, ...]) -> ChargeVerdict:
    evidence = [marks[key] for key in ("subcooling", "superheat") if key in marks]
    superheat, subcooling = marks.get("superheat"), marks.get("subcooling")
    valve = case.plate.metering_device.is_valve
    step = next((m for k in STEPS if (m := marks.get(k)) and m.level == "high"), None)
    if superheat and superheat.level == "high" and step:
        return _hold(
            "right", "Do not add. The liquid line is restricted.",
            _join("The liquid line is full, the evaporator starves, and there is a step on the "
                  "way:", [*evidence, step], "Find the kink or the plugged drier between the two "
                  "clamps."), others,
        )  # fmt: skip
    if valve and superheat and superheat.level == "high":
        return _hold(
            "right", "Do not add. Liquid is not getting through.",
            _join("The liquid line is full but the evaporator starves:", evidence,
                  "Look for a restriction or a starving valve: walk the liquid line with a "
                  "thermometer."), others,
        )  # fmt: skip
    if valve and superheat and superheat.level == "low":
        return _hold(
            "right", "Leave the charge. Look at the valve and the air.",
            _join("Charge reads right but superheat is under the valve's band:", evidence,
                  "Check airflow, then the bulb."), others,
        )  # fmt: skip
    if not valve and subcooling and subcooling.level == "low":
        return ChargeVerdict(
            "right", "leave", HEADLINES["leave"],
            _join("Superheat decides on a fixed orifice, and it is on target:", evidence,
                  "Subcooling is on the low side: read again at another load."), others,
        )  # fmt: skip
    condensing = marks.get("condensing_over_ambient")
    if condensing is not None and condensing.level == "high":
        return ChargeVerdict(
            "right", "leave", "Leave the charge alone. Look at the outdoor coil.",
            _join("Charge reads right but the head is high:", [*evidence, condensing],
                  "Look for a dirty coil, a slow fan or hot air coming back."), others,
        )  # fmt: skip
    unread = [] if superheat else ["superheat"]
    closing = (
        "Superheat is not read yet, so the valve and the air are not judged."
        if unread
        else "Charge is not the fault. If there is a complaint, look at air, load and duct."
    )
    return ChargeVerdict("right", "leave", HEADLINES["leave"], _join("", evidence, closing), others)


def _contradicted(
    proof: Proof, evidence: list[Feature], others: tuple[OtherMethod, ...]
) -> ChargeVerdict:
    first = proof.contradicted[0]
    return _hold(
        "unknown", "Not proven to be charge. Do not add or remove.",
        _join("The numbers do not agree on charge:", evidence, first.if_contradicted + "."), others,
    )  # fmt: skip


def _missing_words(proof: Proof, doing: str) -> str:
    asks = list(dict.fromkeys(row.if_missing for row in proof.missing))
    listed = asks[0] if len(asks) == 1 else "; ".join(asks[:-1]) + "; and " + asks[-1]
    return f"Before {doing}: {listed}."


def _evidence(marks: Marks, judged: Judged) -> list[Feature]:
    order = dict.fromkeys([judged, "subcooling", "superheat"])
    return [marks[key] for key in order if key in marks]


def _join(opening: str, evidence: list[Feature], closing: str) -> Said:
    """One paragraph: opening, the marks in one sentence, closing."""
    clauses, measures = [], []
    for index, mark in enumerate(evidence):
        said = mark.said()
        template = said.template
        for name, measure in said.measures:
            template = template.replace("{" + name + "}", "{" + f"{name}_{index}" + "}")
            measures.append((f"{name}_{index}", measure))
        clauses.append(template)
    middle = "; ".join(c[0].lower() + c[1:] if opening or i else c for i, c in enumerate(clauses))
    body = f"{middle}." if middle else ""
    return Said(" ".join(part for part in (opening, body, closing) if part), tuple(measures))


def _no_target_reason(case: Case, targets: Targets) -> Said:
    if targets.silent:
        return targets.silent[0][1]
    if case.plate.metering_device.is_valve:
        return say("This method does not apply to this system. Pick another.")
    return say(
        "A fixed orifice is judged by superheat, and its target moves with the load: read return "
        "wet bulb and outdoor air, or enter the plate's superheat."
    )


def _other_methods(case: Case, targets: Targets) -> tuple[OtherMethod, ...]:
    decided = []
    for school in targets.others:
        measured, target = case.derived.get(school.judges), targets.answers[school.key]
        if measured is not None and not is_standing(case):
            state = _STATE_OF[school.judges][target.place(measured)]
            decided.append(OtherMethod(school, state, measured - target.value))
    return tuple(decided)
