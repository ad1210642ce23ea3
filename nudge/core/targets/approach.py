"""Approach on the plate: liquid line over outdoor air, for makers who state one."""

from nudge.core.behaviours.case import Case
from nudge.core.language.units import degrees_f
from nudge.core.targets.school import School, Target, window

KEY = "plate_approach"
TOLERANCE_K = degrees_f(2)


def _target(case: Case) -> Target | None:
    value = case.plate.approach_k
    return None if value is None else window(value, TOLERANCE_K, KEY, "plate")


SCHOOL = School(
    KEY,
    "Plate approach",
    "approach",
    decides_charge=True,
    reason="Some makers state how near leaving liquid comes to outdoor air, over {t65} outdoors. "
    "±{d2}, because two probes of ±{d1} are in it. Over it is low on charge, under it is over.",
    target=_target,
    formula="the plate's approach",
    uses=("approach",),
    reference="The system's plate.",
)
