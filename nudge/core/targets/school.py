"""What every school of targets gives: a window for one quantity, and where it came from."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from nudge.core.circuit.case import Case
from nudge.core.errors import CoreError, UnknownName

Judged = Literal["superheat", "subcooling"]
Level = Literal["low", "in", "high"]


@dataclass(frozen=True, slots=True)
class Target:
    """A target and its tolerance [K]. `source` says where the value came from, in words."""

    value: float
    low: float
    high: float
    method: str
    source: str

    def place(self, measured: float) -> Level:
        """Where a measured value sits; the ends of the window count as in.

        A thousandth of a kelvin of slack, so that a value typed as exactly the limit is in.
        """
        if measured < self.low - 0.001:
            return "low"
        return "high" if measured > self.high + 0.001 else "in"


@dataclass(frozen=True, slots=True)
class School:
    """One way of setting a target. `target` answers None where the school does not apply."""

    key: str
    label: str
    judges: Judged
    decides_charge: bool
    reason: str
    target: Callable[[Case], Target | None]


def window(value: float, tolerance: float, method: str, source: str) -> Target:
    """A target with the same tolerance on both sides [K]."""
    return Target(value, value - tolerance, value + tolerance, method, source)


def school_named(schools: tuple[School, ...], key: str) -> School:
    """The school that decides charge under this key. Raises: UnknownName, CoreError."""
    for school in schools:
        if school.key == key:
            if not school.decides_charge:
                raise CoreError("method", f"{school.label} does not decide charge. Pick another.")
            return school
    raise UnknownName("method", key, [s.key for s in schools if s.decides_charge])
