"""What a proof asks of a case: each answers yes, no, or not known yet."""

from collections.abc import Callable, Mapping

from nudge.core.behaviours.case import Case
from nudge.core.judgement.features import Feature
from nudge.core.judgement.hazards import raise_hazards
from nudge.core.judgement.over_time import lived_through
from nudge.core.language.units import fahrenheit
from nudge.core.language.vocabulary.accuracy import GAP_LIMIT_K
from nudge.core.settling.collar import collar_holds
from nudge.core.targets import approach, chart_school, plate_subcooling

Marks = Mapping[str, Feature]


KNOWN_TARGETS = frozenset({plate_subcooling.KEY, chart_school.SUBCOOLING_KEY, approach.KEY})
"""Schools of a valve system that rest on the maker's own figure."""


def level_is(key: str, *levels: str) -> Callable[[Case, Marks], bool | None]:
    def proven(case: Case, marks: Marks) -> bool | None:
        return marks[key].level in levels if key in marks else None

    return proven


def unless(key: str, *levels: str) -> Callable[[Case, Marks], bool | None]:
    """Proven unless measured and at one of these levels: optional evidence."""

    def proven(case: Case, marks: Marks) -> bool | None:
        return key not in marks or marks[key].level not in levels

    return proven


def suction_not_high(case: Case, marks: Marks) -> bool | None:
    """By the coil model, beyond a gauge's and an air probe's ±; without wet bulb the window is a
    guess, which contradicts nothing.
    """
    mark = marks.get("evaporator_difference")
    if case.coil is None or mark is None:
        return None
    return mark.value >= mark.low - GAP_LIMIT_K


def at_least(point: str, limit_c: float) -> Callable[[Case, Marks], bool | None]:
    def proven(case: Case, marks: Marks) -> bool | None:
        value = case.readings.get(point)
        if value is None or point in case.context.unsure:
            return None
        return value >= limit_c or (point == "outdoor_air_temp" and collar_holds(case))

    return proven


def has_run(case: Case, marks: Marks) -> bool | None:
    return None if case.context.minutes_running is None else True  # the gate holds the limit


def liquid_is_short(case: Case, marks: Marks) -> bool | None:
    """By subcooling; inside a window that is a guess, as on an orifice, it contradicts nothing."""
    if "subcooling" not in marks:
        return None
    mark = marks["subcooling"]
    if mark.level == "in" and mark.method not in KNOWN_TARGETS:
        return None
    return mark.level == "low"


def superheat_fits_low(case: Case, marks: Marks) -> bool | None:
    if "superheat" not in marks:
        return None
    level = marks["superheat"].level
    return level != "low" if case.plate.metering_device.is_valve else level == "high"


def superheat_fits_high(case: Case, marks: Marks) -> bool | None:
    """Not over its window by more than its own ±: a valve may be set at the edge of it."""
    mark = marks.get("superheat")
    return None if mark is None else mark.value <= mark.high + GAP_LIMIT_K


def target_is_known(case: Case, marks: Marks) -> bool | None:
    if not case.plate.metering_device.is_valve:
        return True
    if any(mark.method in KNOWN_TARGETS for mark in marks.values()):
        return True
    return True if "superheat" in marks and marks["superheat"].level == "high" else None


def not_freezing(case: Case, marks: Marks) -> bool | None:
    saturation = case.derived.evaporator_saturation
    if saturation is None or "suction_pressure" in case.context.unsure:
        return None
    return saturation >= fahrenheit(32)


def no_liquid_returns(case: Case, marks: Marks) -> bool | None:
    return all(hazard.key != "liquid_return" for hazard, _ in raise_hazards(case))


def no_dose_in_vain(case: Case, marks: Marks) -> bool | None:
    return all(episode.row.key != "dose_did_nothing" for episode in lived_through(case))


def ticked(key: str) -> Callable[[Case, Marks], bool | None]:
    def proven(case: Case, marks: Marks) -> bool | None:
        return True if case.saw(key) else None

    return proven
