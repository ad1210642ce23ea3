"""What a check is: one row, with all its facets."""

from dataclasses import dataclass

from nudge.core.checks.looks import Look


@dataclass(frozen=True, slots=True)
class Check:
    """One look, reading or test.

    `minutes` is work, `risk` minutes added for what can hurt; `signs` are measured by it,
    `points` are the readings it asks for (done once all are there), `look` is what it answers.
    `devices` limits it to kinds of metering device; empty for all.
    """

    key: str
    label: str
    why: str
    minutes: float
    how: tuple[str, ...]
    risk: float = 0.0
    caution: str = ""
    signs: tuple[str, ...] = ()
    points: tuple[str, ...] = ()
    look: Look | None = None
    devices: tuple[str, ...] = ()
    form: str = ""
    """The form it is filled in with (`forms.py`); "" where a reading or a tick says it."""
    step: str = ""
    """The step of a visit that it does (`visit/steps.py`)."""
    doubted_by: frozenset[str] = frozenset()
    """Gates that say its reading does not pass: the step stays open."""

    @property
    def done_by(self) -> tuple[str, ...]:
        """Points or observations that record its result."""
        found = () if self.look is None else (self.look.no, self.look.yes)
        return (*self.points, *(key for key in found if key))
