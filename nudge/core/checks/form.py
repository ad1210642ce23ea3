"""What a form is: the check it fills in, its part of the system, its blanks, what they mean."""

from collections.abc import Callable
from dataclasses import dataclass

from nudge.core.checks.blanks import Blank
from nudge.core.checks.form_findings import Entries, FormFinding
from nudge.core.physics.circuit.equipment import Plate


@dataclass(frozen=True, slots=True)
class Form:
    """What is filled in for a check: its part of the system, its blanks, what they mean."""

    key: str
    label: str
    subsystem: str
    blanks: tuple[Blank, ...]
    judge: Callable[[Plate, Entries], FormFinding]
    caution: str = ""
