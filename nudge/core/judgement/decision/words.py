"""How a decision puts its evidence into one paragraph."""

from collections.abc import Iterable, Sequence

from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.features import Feature
from nudge.core.language.said import Measure, Said, numbered, say
from nudge.core.language.units import Quantity


def but_leads(ground: Ground) -> str:
    """Why a reading off its window moves nothing while charge does not lead."""
    if ground.leader == "none":
        return "But one with nothing wrong reads so often enough: nothing is moved on that."
    label = ground.suspect(ground.leader).label.lower() if ground.leader else "not weighed here"
    return f"But it may as well be “{label}”. Settle that first."


def paragraph(opening: str, evidence: Sequence[Feature], closing: str | Said = "") -> Said:
    """Opening, the marks in one sentence, closing."""
    clauses: list[str] = []
    measures: list[tuple[str, Measure]] = []
    for index, mark in enumerate(evidence):
        said = numbered(mark.said(), f"_{index}")
        clauses.append(said.template)
        measures += said.measures
    middle = "; ".join(c[0].lower() + c[1:] if opening or i else c for i, c in enumerate(clauses))
    body = f"{middle}." if middle else ""
    end = numbered(closing, "_end") if isinstance(closing, Said) else say(closing)
    text = " ".join(part for part in (opening, body, end.template + end.tail) if part)
    return Said(text, (*measures, *end.measures))


def joined(sentences: Iterable[Said]) -> Said:
    """Several sentences as one."""
    found = [numbered(said, f"_s{number}") for number, said in enumerate(sentences)]
    text = " ".join(said.template + said.tail for said in found)
    return Said(text, tuple(m for said in found for m in said.measures))


def percent(belief: float) -> Measure:
    return Measure(100 * min(belief, 0.99), Quantity.PERCENT)


def capital(text: str) -> str:
    return text[:1].upper() + text[1:]
