"""The decision, its proofs and limits, and the ways in."""

from nudge.core.charging.guides import OTHER_SCHOOLS
from nudge.core.charging.ledger import MOVEMENT_KINDS
from nudge.core.charging.way_steps import STEPS as WAY_STEPS
from nudge.core.charging.ways import CONNECTIONS, KG_PER_OZ, WAYS
from nudge.core.judgement.cautions import CAUTIONS
from nudge.core.judgement.decision import RULES
from nudge.core.judgement.decision.doses import ANSWERS
from nudge.core.judgement.decision.limits import LIMITS
from nudge.core.judgement.proof import ADD_PROOF, REMOVE_PROOF, ProofRow
from nudge.core.language.said import worded
from tools.books.page import kelvin, key, page, table


@page("decision")
def _decision_page() -> str:
    return table(
        ("rule", "speaks of", "says", "advice", "why"),
        ((key(r.key), r.order, r.headline or "what opens it", r.advice, r.reason) for r in RULES),
    )


@page("limits")
def _limits_page() -> str:
    return table(
        ("limit", "at least", "why"),
        ((key(r.key), f"{r.least:.2f}", r.reason) for r in LIMITS.values()),
    )


@page("answers")
def _answers_page() -> str:
    return table(
        ("quantity", "moved by at least", "and by each percent of the charge", "why"),
        (
            (
                key(a.key),
                kelvin(a.least_k),
                kelvin(a.per_percent_k),
                worded(a.reason, "ip"),
            )
            for a in ANSWERS
        ),
    )


PROOF_COLUMNS = ("look-alike", "told apart by", "required", "confirmed, it asks for", "answered by")


def _proof_row(row: ProofRow) -> tuple[str, ...]:
    return (
        key(row.look_alike),
        worded(row.told_apart_by, "ip"),
        "yes" if row.required else "",
        ", ".join(map(key, row.then)),
        " and ".join(map(key, row.answered_by)),
    )


@page("add")
def _add_page() -> str:
    return table(
        PROOF_COLUMNS,
        map(_proof_row, ADD_PROOF),
    )


@page("remove")
def _remove_page() -> str:
    return table(
        PROOF_COLUMNS,
        map(_proof_row, REMOVE_PROOF),
    )


@page("cautions")
def _cautions_page() -> str:
    return table(
        ("caution", "said with", "text"),
        ((key(c.key), ", ".join(map(key, c.advice)), c.text.text("ip")) for c in CAUTIONS),
    )


@page("ways")
def _ways_page() -> str:
    return table(
        ("way", "near is", "room past it", "wait, min", "why"),
        (
            (
                key(w.key),
                kelvin(w.near_k),
                kelvin(w.room_k),
                f"{w.wait_minutes:g}",
                w.reason,
            )
            for w in WAYS.values()
        ),
    )


@page("connections")
def _connections_page() -> str:
    return table(
        ("connection", "good for", "most a burst, oz"),
        (
            (key(c.key), c.good_for, f"{c.burst_kg / KG_PER_OZ:g}" if c.can_charge else "none")
            for c in CONNECTIONS.values()
        ),
    )


@page("movements")
def _movements_page() -> str:
    return table(
        ("movement", "cylinder", "why"),
        ((key(m.key), "+" if m.sign > 0 else "−", m.reason) for m in MOVEMENT_KINDS.values()),
    )


@page("other_schools")
def _other_schools_page() -> str:
    return table(
        ("key", "school", "how", "why it is not first"),
        ((key(s.key), s.label, s.how, s.reason) for s in OTHER_SCHOOLS),
    )


@page("way_steps")
def _way_steps_page() -> str:
    return table(
        ("way", "steps"),
        (
            (key(way), worded(" ".join(step.text for step in steps), "ip"))
            for way, steps in WAY_STEPS.items()
        ),
    )
