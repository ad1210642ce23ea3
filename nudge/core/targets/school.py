"""What every school of targets gives: a window for one quantity, and where it came from."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, NamedTuple

from nudge.core.behaviours.case import Case
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.said import Measure, Said
from nudge.core.language.units import Quantity

Judged = Literal["superheat", "subcooling", "approach", "evaporator_superheat", "temperature_split"]
Level = Literal["low", "in", "high"]


class Target(NamedTuple):
    """A target and its tolerance [K]. `source` says where the value came from, in words.

    `today` is how the value was got, with today's numbers, where that is more than a look.
    """

    value: float
    low: float
    high: float
    method: str
    source: str
    today: Said | None = None

    def place(self, measured: float) -> Level:
        """Where a measured value sits; the ends of the window count as in.

        A thousandth of a kelvin of slack, so that a value typed as exactly the limit is in.
        """
        if measured < self.low - 0.001:
            return "low"
        return "high" if measured > self.high + 0.001 else "in"


@dataclass(frozen=True, slots=True)
class School:
    """One way of setting a target. `target` answers None where the school does not apply.

    It raises CoreError where it applies but cannot answer (a point off its chart). `formula`,
    `uses` and `reference` are what its number opens to.
    """

    key: str
    label: str
    judges: Judged
    decides_charge: bool
    reason: str
    target: Callable[[Case], Target | None]
    formula: str
    uses: tuple[str, ...]
    reference: str


def window(
    value: float, tolerance: float, method: str, source: str, today: Said | None = None
) -> Target:
    """A target with the same tolerance on both sides [K]; `{target}` in `today` is filled in."""
    if today is not None:
        measure = Measure(value, Quantity.TEMPERATURE_DIFFERENCE)
        today = Said(today.template, (*today.measures, ("target", measure)))
    return Target(value, value - tolerance, value + tolerance, method, source, today)


def school_named(schools: tuple[School, ...], key: str) -> School:
    """The school that decides charge under this key. Raises: UnknownName, CoreError."""
    for school in schools:
        if school.key == key:
            if not school.decides_charge:
                raise CoreError("method", f"{school.label} does not decide charge. Pick another.")
            return school
    raise UnknownName("method", key, [s.key for s in schools if s.decides_charge])
