"""What a step of a visit is, and what shows that it is done."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from nudge.core.checks.check import Check
from nudge.core.checks.table import CHECKS
from nudge.core.language.vocabulary.stages import Stage
from nudge.core.visit.facts import Facts

Blocks = Literal["", "judging", "closing", "opening"]
BLOCKED = {"judging": "judging", "closing": "closing", "opening": "the next step of the circuit"}
Shows = Callable[[Facts], bool]
ANY: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class StepRow:
    """One step: its stage, its words, its caution, what it blocks, and what shows it is done.

    `calls` are the kinds of call it belongs to (all, where empty); `applies` leaves it out where
    it has no ground; `check` names the form it is filled in with.
    """

    key: str
    stage: Stage
    label: str
    caution: str = ""
    blocks: Blocks = ""
    shows: Shows | None = None
    calls: frozenset[str] = ANY
    applies: Shows = lambda _: True
    check: str = ""
    proven_by: str = ""
    """The fact of a test that proves it; ticked by hand it is printed as not measured."""
    part: str = ""
    """The part of the machine it is done at, one of `PARTS`; "" for one done elsewhere."""


def seen(*keys: str) -> Shows:
    return lambda facts: any(key in facts.observations for key in keys)


def read(*points: str) -> Shows:
    return lambda facts: all(point in facts.points for point in points)


def proven(fact: str) -> Shows:
    return lambda facts: fact in facts.proven


def passed(step: str) -> Shows:
    """Whether the checks that do a step were done, with a value or a look that passes.

    A look is all or nothing, so all that belong to the step must be right; of forms and readings
    one is enough.
    """
    rows = [row for row in CHECKS.values() if row.step == step]
    looks = [row for row in rows if row.look is not None]
    read = [row for row in rows if row.look is None]

    def shows(facts: Facts) -> bool:
        if looks:
            return all(is_right(row, facts) for row in looks)
        return any(_is_read(row, facts) for row in read)

    return shows


def is_right(row: Check, facts: Facts) -> bool:
    right = row.look.no if row.look is not None else ""
    return right in facts.observations or facts.findings.get(row.form) == "good"


def _is_read(row: Check, facts: Facts) -> bool:
    if row.form in facts.findings:
        return facts.findings[row.form] != "bad"
    is_read = bool(row.points) and not facts.points.isdisjoint(row.points)
    return is_read and row.doubted_by.isdisjoint(facts.doubts)
