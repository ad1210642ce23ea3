"""What a test with time is: one row a test, with what it asks, reads, guards and proves."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from nudge.core.checks.blanks import Blank, check_filled
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.tests.run import Run, Settings, TestOutcome

Where = Literal["circuit", "running", "air", "instrument"]


@dataclass(frozen=True, slots=True)
class MarkRow:
    """Something a person notes while a test runs."""

    key: str
    label: str
    caution: str = ""


def _any(_: Plate, __: Settings) -> None:
    """Begun as it is."""


@dataclass(frozen=True, slots=True)
class TimedTest:
    """One test with time.

    `points` are read by instruments or typed; `needs` of them it cannot do without; `entries` are
    asked when it begins; `guard` refuses a beginning that could hurt or say nothing; `judge` says
    what the run shows so far. `step` is the step of a visit that it proves.
    """

    key: str
    label: str
    why: str
    where: Where
    points: tuple[str, ...]
    needs: tuple[str, ...]
    judge: Callable[[Run], TestOutcome]
    entries: tuple[Blank, ...] = ()
    marks: tuple[MarkRow, ...] = ()
    cautions: tuple[str, ...] = ()
    how: tuple[str, ...] = ()
    proves: tuple[str, ...] = ()
    step: str = ""
    guard: Callable[[Plate, Settings], None] = _any


def check_settings(row: TimedTest, plate: Plate, settings: Settings) -> dict[str, float | str]:
    """What a test is begun with, without blanks. Core units.

    Raises: UnknownName, OutOfRange; CoreError, for what is missing, or could hurt.
    """
    found = {key: value for key, value in settings.items() if value != ""}
    check_filled("setting", row.entries, found)
    for blank in row.entries:
        if blank.is_needed and blank.key not in found:
            raise CoreError(blank.key, f"{blank.label}: it is needed before the test begins.")
    row.guard(plate, found)
    return found


def check_mark(row: TimedTest, kind: str) -> None:
    """Raises: UnknownName, for what is not noted on such a test."""
    marks = {mark.key: mark for mark in row.marks}
    if kind not in marks:
        raise UnknownName("mark", kind, marks)
