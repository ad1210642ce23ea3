"""The rules of what reads right: what must still be confirmed, and what charge does not explain."""

from nudge.core.checks.table import CHECKS
from nudge.core.judgement.decision.before import FEEDS
from nudge.core.judgement.decision.decision import HangsOn
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.hangs import best_check, hang_on_check
from nudge.core.judgement.decision.leak import evidence
from nudge.core.judgement.decision.limits import least
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.window import reads_right
from nudge.core.judgement.decision.words import joined, paragraph, percent
from nudge.core.language.said import Said, minutes, say

CONFIRM_MINUTES = 15.0
"""What has come right must still be right after this long."""


def _confirm(ground: Ground) -> Finding | None:
    """In its window after a dose: it must still be so after a quarter of an hour."""
    since = ground.case.context.minutes_since_change
    if not reads_right(ground) or not ground.answers or since is None or since >= CONFIRM_MINUTES:
        return None
    left = CONFIRM_MINUTES - since
    said = say(
        "In its window. Shut the cylinder, let the hose run empty into suction, and read "
        "again in {left} to confirm.",
        left=minutes(left),
    )
    return Finding(
        joined([paragraph("", evidence(ground)), said]),
        "right",
        ready_in=left,
        hangs_on=HangsOn("minutes", "confirm", said),
    )


def _not_through(ground: Ground) -> Finding | None:
    if not reads_right(ground) or ground.level("superheat") != "high":
        return None
    if ground.leader not in FEEDS or ground.belief(ground.leader) < least("leads"):
        return None
    return Finding(
        paragraph(
            "The liquid line is full but the evaporator starves:",
            evidence(ground),
            "Look for a restriction or a starving valve: walk the liquid line with a thermometer.",
        ),
        "right",
        hangs_on=hang_on_check(CHECKS["walk_liquid_line"]),
        belief=ground.belief(ground.leader),
    )


def _starves(ground: Ground) -> Finding | None:
    """Superheat over its band with charge right, and nothing wrong does not explain it."""
    if not reads_right(ground) or ground.level("superheat") != "high":
        return None
    if not ground.case.plate.metering_device.is_valve or _nothing_leads(ground):
        return None
    if _lacks_its_rest(ground):
        return None
    return Finding(
        paragraph(
            "Charge reads right, and superheat is over the valve's band:",
            evidence(ground),
            "Find out why before anything moves.",
        ),
        "right",
        hangs_on=best_check(ground),
    )


def _floods(ground: Ground) -> Finding | None:
    if not reads_right(ground) or ground.level("superheat") != "low":
        return None
    if not ground.case.plate.metering_device.is_valve or _nothing_leads(ground):
        return None
    return Finding(
        paragraph(
            "Charge reads right but superheat is under the valve's band:",
            evidence(ground),
            "Check airflow, then the bulb.",
        ),
        "right",
        hangs_on=best_check(ground),
    )


def _nothing_leads(ground: Ground) -> bool:
    return ground.leader == "none" and ground.belief("none") >= least("leads")


def _lacks_its_rest(ground: Ground) -> bool:
    """By the scale and by its numbers it is short: the rest of its sheet is offered."""
    return ground.past.is_known_short and ground.leader == "undercharge"


def _at_the_edge(ground: Ground) -> Finding | None:
    """In the window, and a fault of charge leads all the same: neither is said alone."""
    if not reads_right(ground) or ground.leader not in ("undercharge", "overcharge"):
        return None
    if _lacks_its_rest(ground):
        return None
    if ground.goes_well:
        return None  # it was brought there dose by dose, and each was answered
    belief = ground.belief(ground.leader)
    if belief < least("leads"):
        return None
    leader = ground.suspect(ground.leader).label.lower()
    said = say(
        f"The suspects lean to {leader}, {{sure}}. Settle that before anything moves.",
        sure=percent(belief),
    )
    return Finding(
        joined([paragraph("Inside its window, near the edge:", evidence(ground)), said]),
        "right",
        hangs_on=best_check(ground),
        belief=belief,
    )


def _open(ground: Ground) -> Finding | None:
    found = ground.diagnosis
    if not reads_right(ground) or found is None or found.confidence != "open":
        return None
    return Finding(
        paragraph("", evidence(ground), "What else may be wrong is open."),
        "right",
        hangs_on=best_check(ground),
    )


def _as_it_should(ground: Ground) -> Finding | None:
    if not reads_right(ground):
        return None
    return Finding(_right_words(ground), "right", belief=ground.belief(ground.leader or "none"))


def _right_words(ground: Ground) -> Said:
    if not ground.case.plate.metering_device.is_valve and ground.level("subcooling") == "low":
        return paragraph(
            "Superheat decides on a fixed orifice, and it is on target:",
            evidence(ground),
            "Subcooling is on the low side: read again at another load.",
        )
    if ground.leader not in ("none", "") and ground.belief(ground.leader) >= least("leads"):
        return paragraph("Charge is not the fault:", evidence(ground), "")
    return paragraph("", evidence(ground), "If there is a complaint, look at air and load first.")


RIGHT: tuple[Rule, ...] = (
    Rule("not_through", "charge", "Do not add. Liquid is not getting through.", "do_not_charge",
         "act", "A full liquid line before a starved evaporator is held back, and that leads.",
         _not_through),
    Rule("at_the_edge", "charge", "In its window, near the edge. Move nothing yet.",
         "do_not_charge", "judge", "Window and beliefs lean apart: one more look settles it.",
         _at_the_edge),
    Rule("starves", "charge", "Leave the charge. Look at what feeds the coil.", "do_not_charge",
         "judge", "Superheat over the valve's band has a cause.", _starves),
    Rule("floods", "charge", "Leave the charge. Look at the valve and the air.", "do_not_charge",
         "judge", "Superheat under the valve's band has a cause.", _floods),
    Rule("confirm", "clocks", "Right. Wait, then confirm.", "leave", "settle",
         "What has come right must still be right after a quarter of an hour.", _confirm),
    Rule("right_open", "charge", "Charge is in its window. The rest is open.", "leave", "judge",
         "Charge is answered, what is wrong is not.", _open),
    Rule("right", "charge", "Leave the charge alone.", "leave", "close",
         "Inside its window, with nothing against it.", _as_it_should),
)  # fmt: skip
