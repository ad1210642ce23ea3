"""What a gate is: one condition on judging, and one that is shut on a case."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Said
from nudge.core.targets.choose import Targets

Effect = Literal["blocks", "warns"]
OpenedBy = Literal["reading", "look", "test", "work"]

NEVER_PASSED = frozenset({"application_not_judged", "not_running"})
"""Behind these there is nothing to judge: no rules for such plant, no refrigeration to read."""
CLOCKS = frozenset({"run_short", "just_changed", "not_settled", "charge_mode_short"})
"""Gates that only time opens: a reason to pass one ends when the system is touched again."""


@dataclass(frozen=True, slots=True)
class Gate:
    """One condition on judging, with its reason and the kind of source it rests on."""

    key: str
    effect: Effect
    reason: str
    source: Literal["maker", "standard", "trade rule"]
    breached: Callable[[Case, Targets], Said | None]
    headline: str = ""
    """What to do first, in a few words, where the gate blocks."""
    opened_by: tuple[OpenedBy, str] | None = None
    """What opens it: a reading, a look, a test or work, by its key; None where only time does, or
    another day."""

    @property
    def may_be_passed(self) -> bool:
        return self.effect == "blocks" and self.key not in NEVER_PASSED


@dataclass(frozen=True, slots=True)
class Breach:
    """A gate that is shut on this case."""

    gate: Gate
    message: Said
    passed: bool = False
    """Somebody passed it with a reason, which the message says."""

    @property
    def may_pass(self) -> bool:
        """It stands in the way, and a reason would open it."""
        return self.gate.may_be_passed and not self.passed

    @property
    def effect(self) -> Effect:
        return "warns" if self.passed else self.gate.effect
