"""Which school sets the target for this system, and which others could."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from nudge.core.behaviours.case import Case
from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Said
from nudge.core.targets import (
    approach,
    chart_school,
    coil_split,
    fallback_subcooling,
    formula_superheat,
    plate_subcooling,
    plate_superheat,
    refrigeration_superheat,
    typical_subcooling,
    valve_health,
)
from nudge.core.targets.school import Judged, School, Target, school_named

SCHOOLS: tuple[School, ...] = (
    plate_subcooling.SCHOOL,
    chart_school.SUBCOOLING,
    approach.SCHOOL,
    plate_superheat.SCHOOL,
    chart_school.SUPERHEAT,
    formula_superheat.SCHOOL,
    fallback_subcooling.SCHOOL,
    refrigeration_superheat.SCHOOL,
    valve_health.SCHOOL,
    valve_health.AT_COIL,
    typical_subcooling.SCHOOL,
    coil_split.SCHOOL,
)
"""In order of trust: what the plate says, its chart, a formula, a guess; then health checks."""


@dataclass(frozen=True, slots=True)
class Targets:
    """Windows by quantity; the school that decides charge; the other schools that could.

    `silent` holds schools that apply but cannot answer here, with what they say about it.
    """

    windows: Mapping[Judged, Target]
    deciding: School | None
    others: tuple[School, ...]
    silent: tuple[tuple[School, Said], ...] = ()
    answers: Mapping[str, Target] = field(default_factory=dict)
    """What every school that could answer said, by its key."""


def choose_targets(case: Case, method: str | None = None, preferred: Sequence[str] = ()) -> Targets:
    """Targets for a case: by `method` if asked, else the first preferred school that can
    answer, else the most trusted one.

    `deciding` is None when no school has what it needs (an orifice without a wet bulb), and where
    a maker's chart that would decide is blank here: another school is asked for by `method`.
    Raises: UnknownName for a method Nudge does not have, CoreError for one that only checks.
    """
    asked = school_named(SCHOOLS, method) if method else None
    answers: dict[str, Target] = {}
    able: list[School] = []
    silent: list[tuple[School, Said]] = []
    for school in SCHOOLS:
        if school.key in case.behaviour.without_schools or _by_level(case, school):
            continue
        try:
            target = school.target(case)
        except CoreError as error:
            silent.append((school, silent_words(error)))
            continue
        if target is not None:
            able.append(school)
            answers[school.key] = target
    deciders = [s for s in able if s.decides_charge]
    wanted = [s for key in preferred for s in deciders if s.key == key]
    ranked = deciders if asked is None else [s for s in deciders if s is asked]
    deciding = next(iter((wanted if asked is None else []) + ranked), None)
    if asked is None and deciding not in wanted and _is_outranked(deciding, silent):
        deciding = None  # the maker's own chart is blank here: no other takes its place unasked
    windows: dict[Judged, Target] = {}
    for school in ([deciding] if deciding else []) + able:
        windows.setdefault(school.judges, answers[school.key])
    others = tuple(s for s in deciders if s is not deciding)
    return Targets(windows, deciding, others, tuple(silent), answers)


def _by_level(case: Case, school: School) -> bool:
    """With a receiver subcooling is not the charge: its level or the sight glass is."""
    return school.judges in ("subcooling", "approach") and case.plate.has_receiver == "yes"


def _is_outranked(deciding: School | None, silent: Sequence[tuple[School, Said]]) -> bool:
    """Whether a school of more trust applies, and has nothing to say here."""
    rank = len(SCHOOLS) if deciding is None else SCHOOLS.index(deciding)
    return any(school.decides_charge and SCHOOLS.index(school) < rank for school, _ in silent)


def silent_words(error: CoreError) -> Said:
    """What a chart that cannot answer says, as a sentence."""
    if isinstance(error, Impossible):
        return error.said
    return Said(error.message.replace("{", "{{").replace("}", "}}"))


def methods_for_charge() -> tuple[School, ...]:
    """The schools a person may pick as a default."""
    return tuple(school for school in SCHOOLS if school.decides_charge)
