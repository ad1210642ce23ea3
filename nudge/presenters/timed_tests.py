"""Tests with time over the wire: what can be tested, what runs, what each shows."""

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict
from nudge.core.language.errors import UnknownName
from nudge.core.language.said import Said, worded
from nudge.core.language.units import (
    UnitSystem,
    decimals,
    from_si,
    spread_from_si,
    to_si,
    unit_label,
)
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.tests.joints import JOINTS
from nudge.core.tests.row import TimedTest
from nudge.core.tests.run import Number as TestNumber
from nudge.core.tests.table import FACTS, TESTS, test_named
from nudge.presenters.blanks import CheckBlankOut, Filled, blank_out, filled_in_si
from nudge.presenters.book import Id
from nudge.presenters.drawing.defrost_layout import defrosts_of
from nudge.presenters.drawing.film_layout import DrawnFilm, films_of
from nudge.presenters.drawing.joints_layout import DrawnJoints, joints_drawn
from nudge.presenters.drawing.proof_layout import DrawnProof, proofs_of
from nudge.presenters.notes import Short
from nudge.services.timed_tests import Tested


class NewTest(Strict):
    """Begin a test: its kind, and what it asks, in the caller’s units."""

    id: Id
    test: Name
    settings: Filled = Field(default_factory=dict)

    def to_core(self, units: UnitSystem) -> dict[str, float | str]:
        """Raises: UnknownName, for a test or a setting there is none of."""
        return filled_in_si("setting", test_named(self.test).entries, self.settings, units)


class NewTestReading(Strict):
    """A reading of a test, typed, in the caller’s units."""

    id: Id
    run_id: Id
    point: Name
    value: Number

    def to_core(self, units: UnitSystem) -> float:
        """Raises: UnknownName, for a point there is none of."""
        if self.point not in POINTS:
            raise UnknownName("point", self.point, POINTS)
        return to_si(float(self.value), POINTS[self.point].quantity, units)


class NewTestMark(Strict):
    """Something noted in a test; `place` names a joint."""

    id: Id
    run_id: Id
    mark: Name
    place: Annotated[str, Field(max_length=80)] = ""


class NewTestEnd(Strict):
    """End a test; with a reason, break it off."""

    id: Id
    run_id: Id
    reason: Short = ""
    breaks_off: bool = False


class TestMarkOut(BaseModel):
    key: str
    label: str
    caution: str


class TestKindOut(BaseModel):
    """A test that can be begun: what it is for, what it asks, its cautions and how it is done."""

    key: str
    label: str
    why: str
    where: Literal["circuit", "running", "air", "instrument"]
    points: list[tuple[str, str, str]]
    """Point, label, unit."""
    blanks: list[CheckBlankOut]
    marks: list[TestMarkOut]
    cautions: list[str]
    how: list[str]
    proves: list[str]
    step: str


class TestNumberOut(BaseModel):
    key: str
    label: str
    text: str
    off: str
    how: str


class NextTestOut(BaseModel):
    key: str
    words: str


class TestOut(BaseModel):
    """A test as it stands: its clock, its finding, what to do next, its drawings."""

    id: str
    key: str
    label: str
    state: Literal["running", "passed", "failed", "cannot_tell", "aborted"]
    finding: str
    headline: str
    says: list[str]
    numbers: list[TestNumberOut]
    hidden: TestNumberOut | None
    then: list[NextTestOut]
    hazards: list[str]
    warnings: list[str]
    schools: list[str]
    proves: list[str]
    proven: bool
    """It is over, and proved it."""
    began_at: datetime
    ended_at: datetime | None
    ready_in: float | None
    """Minutes until it is worth looking again."""
    readings: list[tuple[str, str]]
    """What it reads now: label and value."""
    places: list[tuple[str, str]]
    joints: DrawnJoints | None
    """The joints of a nitrogen test, to be touched."""
    proof: list[DrawnProof]
    """The strip of a test dose or of a defrost, in each frame."""


class TestsOut(BaseModel):
    """The tests of a visit, the newest first, on one sheet."""

    tests: list[TestOut]
    kinds: list[TestKindOut]
    film: list[DrawnFilm]


def kind_out(row: TimedTest, units: UnitSystem) -> TestKindOut:
    return TestKindOut(
        key=row.key,
        label=row.label,
        why=worded(row.why, units),
        where=row.where,
        points=[
            (key, POINTS[key].label, unit_label(POINTS[key].quantity, units)) for key in row.points
        ],
        blanks=[blank_out(blank, units) for blank in row.entries],
        marks=[TestMarkOut(key=m.key, label=m.label, caution=m.caution) for m in row.marks],
        cautions=[worded(text, units) for text in row.cautions],
        how=[worded(text, units) for text in row.how],
        proves=[FACTS[fact] for fact in row.proves],
        step=row.step,
    )


def tests_out(found: Sequence[Tested], units: UnitSystem) -> TestsOut:
    """Every test of a visit, and what can be begun."""
    return TestsOut(
        tests=[one_out(one, units) for one in found],
        kinds=[kind_out(row, units) for row in TESTS.values()],
        film=films_of(found, units),
    )


STRIPS: Mapping[str, Callable[[Tested, UnitSystem], list[DrawnProof]]] = {
    "test_dose": proofs_of,
    "defrost": defrosts_of,
}
"""Tests that draw what they prove as a strip."""


def one_out(one: Tested, units: UnitSystem) -> TestOut:
    outcome = one.outcome
    return TestOut(
        id=one.id,
        key=one.row.key,
        label=one.row.label,
        state=outcome.state,
        finding=outcome.key,
        headline=_read(outcome.headline, units),
        says=[_read(said, units) for said in outcome.says],
        numbers=[_number(number, units) for number in outcome.numbers],
        hidden=_number(outcome.hidden, units) if outcome.hidden else None,
        then=[NextTestOut(key=a.key, words=worded(a.words, units)) for a in outcome.then],
        hazards=[_read(said, units) for said in outcome.hazards],
        warnings=[_read(said, units) for said in outcome.warnings],
        schools=[_read(said, units) for said in outcome.schools],
        proves=[FACTS[fact.partition(":")[0]] for fact in outcome.proves],
        proven=one.is_over and bool(outcome.proves),
        began_at=one.began_at,
        ended_at=one.ended_at,
        ready_in=outcome.ready_in,
        readings=_readings(one, units),
        places=[(JOINTS.get(place, place), note) for place, note in one.places],
        joints=joints_drawn(one.run) if one.row.key == "nitrogen" else None,
        proof=STRIPS[one.row.key](one, units) if one.row.key in STRIPS else [],
    )


def _read(said: Said, units: UnitSystem) -> str:
    return said.text(units)


def _number(number: TestNumber, units: UnitSystem) -> TestNumberOut:
    quantity = number.measure.quantity
    off = ""
    if number.off is not None:
        spread = abs(spread_from_si(number.off, quantity, units))
        off = f"± {spread:.{decimals(quantity, units)}f}"
    return TestNumberOut(
        key=number.key,
        label=number.label,
        text=number.measure.text(units),
        off=off,
        how=number.how,
    )


def _readings(one: Tested, units: UnitSystem) -> list[tuple[str, str]]:
    found = []
    shown = {"vacuum_level"} if one.row.key in ("evacuation", "decay") else set()
    for key in (key for key in one.row.points if key not in shown):
        value = one.run.last_of(key)
        if value is not None:
            point = POINTS[key]
            in_units = from_si(value, point.quantity, units)
            text = f"{in_units:,.{decimals(point.quantity, units)}f}"
            found.append((point.label, f"{text} {unit_label(point.quantity, units)}"))
    return found
