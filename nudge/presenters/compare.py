"""Two visits of a system over the wire: laid over each other, quantity by quantity."""

from datetime import datetime

from pydantic import BaseModel

from nudge.core.behaviours.loop import draw_loop
from nudge.core.language.units import UnitSystem, decimals, difference_of, from_si, unit_label
from nudge.core.visit.compared import Beside, compared
from nudge.presenters.drawing.compare_layout import DrawnCompare, compares_of
from nudge.presenters.loops import loop_out
from nudge.services.snapshot import Snapshot


class ComparedVisit(BaseModel):
    """One of the two."""

    id: str
    at: datetime | None
    headline: str
    heats: bool


class ComparedRow(BaseModel):
    """One quantity on both, and how far it moved, in words."""

    key: str
    label: str
    unit: str
    then: str
    now: str
    moved: str


class CompareOut(BaseModel):
    """Two visits of a system, the earlier first."""

    then: ComparedVisit
    now: ComparedVisit
    unlike: list[str]
    """What makes them unlike; empty where what moved is the machine's."""
    rows: list[ComparedRow]
    drawn: list[DrawnCompare]


def compare_out(one: Snapshot, other: Snapshot, units: UnitSystem) -> CompareOut | None:
    """Both, the earlier first; None where nothing was judged on one of them."""
    if one.assessment is None or other.assessment is None:
        return None
    first, last = sorted((one, other), key=_when)
    assert first.assessment is not None
    assert last.assessment is not None
    then, now = first.assessment.case, last.assessment.case
    found = compared(then, now)
    before, after = (loop_out(draw_loop(case), None, units) for case in (then, now))
    words = f"Two visits: {_words(first, units)} then, {_words(last, units)} later."
    return CompareOut(
        then=_visit(first),
        now=_visit(last),
        unlike=[said.text(units) for said in found.unlike],
        rows=[_row(row, units) for row in found.rows],
        drawn=compares_of(before, after, words) if found.same_mode else [],
    )


def _when(snapshot: Snapshot) -> tuple[bool, float]:
    """The order of two visits; one that was never opened is the later."""
    at = _at(snapshot)
    return at is None, 0.0 if at is None else at.timestamp()


def _at(snapshot: Snapshot) -> datetime | None:
    return snapshot.visit.opened_at


def _words(snapshot: Snapshot, units: UnitSystem) -> str:
    assert snapshot.assessment is not None
    decision = snapshot.assessment.decision
    return decision.headline.rstrip(".").lower() or decision.reason.text(units)


def _visit(snapshot: Snapshot) -> ComparedVisit:
    assert snapshot.assessment is not None
    return ComparedVisit(
        id=snapshot.visit.id,
        at=_at(snapshot),
        headline=snapshot.assessment.decision.headline,
        heats=snapshot.assessment.case.behaviour.roles.heats,
    )


def _row(row: Beside, units: UnitSystem) -> ComparedRow:
    def shown(value: float | None) -> str:
        if value is None:
            return "–"
        return f"{from_si(value, row.quantity, units):,.{decimals(row.quantity, units)}f}"

    moved = ""
    if row.moved is not None:
        step = difference_of(row.quantity)
        by = from_si(row.moved, step, units)
        size = f"{abs(by):,.{decimals(row.quantity, units)}f}"
        is_nothing = not size.strip("0.,")
        moved = "0" if is_nothing else ("+" if by > 0 else "−") + size
    return ComparedRow(
        key=row.key,
        label=row.label,
        unit=unit_label(row.quantity, units),
        then=shown(row.one),
        now=shown(row.other),
        moved=moved,
    )
