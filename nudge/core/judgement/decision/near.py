"""Before low and high: a sheet that cannot be right, and a window missed by less than can be read.

Both move nothing.
"""

from nudge.core.judgement.decision import high, low
from nudge.core.judgement.decision.decision import HangsOn
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.leak import EMPTY_SUBCOOLING_K, evidence, has_no_liquid
from nudge.core.judgement.decision.limits import least
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.window import is_beside, reads_low, reads_right, state_of
from nudge.core.judgement.decision.words import joined, paragraph
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity
from nudge.core.physics.circuit.whole import whole_charge

REST_SHARE, ALL_IN_SHARE = 0.10, 0.02
"""Of the whole charge: more of its sheet still to go in explains that it reads short; and more than
the second goes in first, where nothing measured speaks against it.
"""


def _sheet_doubted(ground: Ground) -> Finding | None:
    """Tight by nitrogen, full by the scale, and without liquid: the sheet it was filled by."""
    if not reads_low(ground) or not ground.past.is_weighed_in or not _lacks_liquid(ground):
        return None
    left = ground.past.sheet_left_kg / whole_charge(ground.case.plate).kg
    if left > REST_SHARE or (left > ALL_IN_SHARE and not _contradicted(ground)):
        return None
    why = say(
        "It was proven tight and filled by its sheet, {whole}: so the sheet is what to doubt. Read "
        "the plate and the line set's length and size again, put right what differs, and weigh in "
        "the rest of the new sum.",
        whole=Measure(whole_charge(ground.case.plate).kg, Quantity.CHARGE),
    )
    return Finding(
        joined([paragraph("Far short by the numbers:", evidence(ground)), why]),
        "low",
        hangs_on=HangsOn("work", "plate", why),
        belief=ground.standing.low,
    )


def _contradicted(ground: Ground) -> bool:
    return bool(ground.proof_of_low(is_answered=True).contradicted)


def _lacks_liquid(ground: Ground) -> bool:
    """None by both gaps; or by subcooling alone, which is what its plate is held against."""
    subcooling = ground.case.derived.subcooling
    by_plate = ground.is_brought_to_plate and ground.leader == "undercharge"
    none_left = subcooling is not None and subcooling <= EMPTY_SUBCOOLING_K
    return has_no_liquid(ground) or (by_plate and none_left)


def _near_enough(ground: Ground) -> Finding | None:
    """Outside by less than a clamp and a gauge can be off, and nothing wrong leads."""
    if reads_right(ground) or not is_beside(ground):
        return None
    if ground.leader != "none" or ground.belief("none") < least("leads"):
        return None
    is_low = reads_low(ground)
    if (low if is_low else high).is_trimmed(ground):
        return None  # by answers, or by scale and plate: it is brought into its window
    proof = ground.proof_of_low() if is_low else ground.proof_of_high()
    if proof.missing or proof.contradicted:
        return None
    return Finding(
        paragraph(
            "Outside its window by less than two instruments can be off, with nothing else that "
            "speaks of a fault:",
            evidence(ground),
            "No dose is worth that.",
        ),
        state_of(ground),
        belief=ground.belief("none"),
    )


NEAR_ENOUGH = Rule(
    "near_enough",
    "charge",
    "As near as it can be read. Leave it.",
    "leave",
    "close",
    "What two instruments cannot tell apart from right moves no refrigerant.",
    _near_enough,
)
NEAR: tuple[Rule, ...] = (
    Rule(
        "sheet_doubted",
        "charge",
        "Full by the scale, short by the numbers. Check the sheet.",
        "do_not_charge",
        "arrive",
        "What is tight and was weighed in lost nothing: a figure of "
        "its plate or its line set is wrong.",
        _sheet_doubted,
    ),
    NEAR_ENOUGH,
)
