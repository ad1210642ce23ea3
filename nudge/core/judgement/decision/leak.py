"""No liquid, a leak seen or told by its history: what comes before anything is added."""

from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.limits import least
from nudge.core.judgement.decision.rule import Finding
from nudge.core.judgement.decision.window import reads_low
from nudge.core.judgement.decision.words import paragraph
from nudge.core.judgement.features import Feature
from nudge.core.judgement.over_time import REPEATED
from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.recovered import SHORT_SHARE
from nudge.core.settling.gate import CLOCKS

STEPS = ("liquid_line_drop", "drier_drop")
"""Where a step in temperature on the liquid's way is measured."""


def evidence(ground: Ground) -> list[Feature]:
    """The deciding quantity, then both gaps."""
    first = ground.targets.deciding.judges if ground.targets.deciding else "subcooling"
    keys = dict.fromkeys((first, "subcooling", "superheat"))
    return [ground.marks[key] for key in keys if key in ground.marks]


EMPTY_SUBCOOLING_K = degrees_f(1)


EMPTY_SUPERHEAT_OVER_K = degrees_f(10)


EMPTY_SUPERHEAT_UNTARGETED_K = degrees_f(40)


FREEZING_C = 0.0


LEAK_ACT = (
    "A system does not use refrigerant up. Find and repair the leak, evacuate, weigh in; topping "
    "up a leaker is not a repair."
)


def find_empty(ground: Ground) -> Finding | None:
    """Emptiness by the gaps, borne out by the beliefs, and by them without any one reading."""
    shut = {b.gate.key for b in ground.blocking}
    is_empty = has_no_liquid(ground) and not shut & (CLOCKS - {"not_settled"})
    if not is_empty and not (_starves_cold(ground) and not shut):
        return None
    if ground.leader != "undercharge" or ground.standing.low < least("find_leak"):
        return None
    if ground.past.is_weighed_in or any(one.answered is False for one in ground.answers):
        return None
    if any(ground.level(step) == "high" for step in STEPS):
        return None
    if is_one_readings_word(ground):
        return None
    marks = [ground.marks[k] for k in ("subcooling", "superheat") if k in ground.marks]
    return Finding(
        paragraph("Far too little refrigerant:", marks, LEAK_ACT),
        "low",
        hangs_on=None,
        belief=ground.standing.low,
    )


def is_one_readings_word(ground: Ground) -> bool:
    """Whether without one reading, which nobody confirmed, the rest speaks flatly against it."""
    standing = ground.standing
    stood_by = standing.proved | standing.confirmed
    return any(
        belief < least("leak_without")
        for point, belief in standing.low_without.items()
        if point not in stood_by
    )


def has_no_liquid(ground: Ground) -> bool:
    """No subcooling and superheat far over target (40 °F where there is no target)."""
    derived = ground.case.derived
    if derived.subcooling is None or derived.superheat is None:
        return False
    target = ground.marks.get("superheat")
    over = target.high + EMPTY_SUPERHEAT_OVER_K if target else EMPTY_SUPERHEAT_UNTARGETED_K
    return derived.subcooling <= EMPTY_SUBCOOLING_K and derived.superheat > over


def _starves_cold(ground: Ground) -> bool:
    """Low subcooling, high superheat and suction in the freezing range: a leak, not a trim."""
    saturation = ground.case.derived.evaporator_saturation
    levels = (ground.level("subcooling"), ground.level("superheat"))
    return levels == ("low", "high") and saturation is not None and saturation < FREEZING_C


def leads_to_a_leak(ground: Ground) -> bool:
    """It reads low, low charge leads, and nobody knows where the refrigerant went."""
    if not reads_low(ground) or ground.past.is_weighed_in or ground.leader != "undercharge":
        return False
    return ground.belief("undercharge") >= least("find_leak")


def leak_seen(ground: Ground) -> Finding | None:
    if not leads_to_a_leak(ground) or not ground.case.saw("oil_seen_at_joint"):
        return None
    return _leak(ground, "Oil at a joint says where it went. Repair that, then weigh in.")


def leak_by_history(ground: Ground) -> Finding | None:
    """Added before, or short at recovery: it leaks. Not where it was just proven tight."""
    if not leads_to_a_leak(ground) or ground.answers:
        return None
    past = ground.past
    if past.additions >= REPEATED:
        why = f"Refrigerant was added on {past.additions} visits within two years."
    elif past.recovered_share is not None and past.recovered_share < SHORT_SHARE:
        why = "Too little came out at recovery."
    else:
        return None
    return _leak(
        ground,
        f"{why} Find and repair the leak, then weigh in; topping up a leaker is not a repair.",
    )


def _leak(ground: Ground, closing: str) -> Finding:
    return Finding(
        paragraph("Low on charge:", evidence(ground), closing),
        "low",
        belief=ground.belief("undercharge"),
    )
