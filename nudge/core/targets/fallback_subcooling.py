"""Ten degrees of subcooling where the plate is silent: a guess, and said to be one."""

from nudge.core.behaviours.case import Case
from nudge.core.language.units import degrees_f
from nudge.core.targets.at_device import at_device
from nudge.core.targets.school import School, Target, window

KEY = "fallback_subcooling"
VALUE_K, TOLERANCE_K = degrees_f(10), degrees_f(3)


def _target(case: Case) -> Target | None:
    if not case.plate.metering_device.is_valve:
        return None
    if case.derived.subcooling_at_device:
        return at_device(VALUE_K, KEY, "a guess: the plate gives none")
    return window(VALUE_K, TOLERANCE_K, KEY, "a guess: the plate gives none")


SCHOOL = School(
    KEY,
    "Fallback subcooling",
    "subcooling",
    decides_charge=True,
    reason="Most valve systems are built for {d8} to {d14}; {d10} ± {d3} is the middle of the "
    "trade. A guess: find the plate.",
    target=_target,
    formula="{d10} ± {d3}",
    uses=(),
    reference="Trade rule, marked as a guess.",
)
