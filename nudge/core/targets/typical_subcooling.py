"""What a full liquid line usually shows: no target, but it tells low charge from its twins."""

from nudge.core.behaviours.case import Case
from nudge.core.targets.at_device import at_device
from nudge.core.targets.fallback_subcooling import TOLERANCE_K, VALUE_K
from nudge.core.targets.school import School, Target, window

KEY = "typical_subcooling"


def _target(case: Case) -> Target | None:
    if case.plate.metering_device.is_valve:
        return None
    if case.derived.subcooling_at_device:
        return at_device(VALUE_K, KEY, "typical only")
    return window(VALUE_K, TOLERANCE_K, KEY, "typical only")


SCHOOL = School(
    KEY,
    "Typical subcooling",
    "subcooling",
    decides_charge=False,
    reason="A fixed orifice has no subcooling target, but a restriction keeps its liquid line "
    "full (about {d7} to {d13}) and low charge does not.",
    target=_target,
    formula="{d10} ± {d3}",
    uses=(),
    reference="Trade rule; it decides nothing.",
)
