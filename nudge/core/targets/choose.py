"""Which school sets the target for this system, and which others could."""

from collections.abc import Mapping
from dataclasses import dataclass

from nudge.core.circuit.case import Case
from nudge.core.targets import (
    fallback_subcooling,
    formula_superheat,
    plate_subcooling,
    plate_superheat,
    typical_subcooling,
    valve_health,
)
from nudge.core.targets.school import Judged, School, Target, school_named

SCHOOLS: tuple[School, ...] = (
    plate_subcooling.SCHOOL,
    plate_superheat.SCHOOL,
    formula_superheat.SCHOOL,
    fallback_subcooling.SCHOOL,
    valve_health.SCHOOL,
    typical_subcooling.SCHOOL,
)
"""In order of trust: what the plate says, what a formula says, a guess."""


@dataclass(frozen=True, slots=True)
class Targets:
    """Windows by quantity; the school that decides charge; the other schools that could."""

    windows: Mapping[Judged, Target]
    deciding: School | None
    others: tuple[School, ...]


def choose_targets(case: Case, method: str | None = None) -> Targets:
    """Targets for a case by the most trusted school that applies, or by `method`.

    `deciding` is None when no school has what it needs (an orifice without a wet bulb).
    Raises: UnknownName for a method Nudge does not have, CoreError for one that only checks.
    """
    asked = school_named(SCHOOLS, method) if method else None
    able = [s for s in SCHOOLS if s.target(case) is not None]
    deciders = [s for s in able if s.decides_charge]
    deciding = asked if asked in deciders else (None if asked else next(iter(deciders), None))
    windows: dict[Judged, Target] = {}
    for school in ([deciding] if deciding else []) + able:
        target = school.target(case)
        if target is not None:
            windows.setdefault(school.judges, target)
    return Targets(windows, deciding, tuple(s for s in deciders if s is not deciding))
