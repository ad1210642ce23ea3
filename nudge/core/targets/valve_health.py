"""The band a healthy expansion valve keeps its superheat in. Judges the valve, never charge."""

from nudge.core.circuit.case import Case
from nudge.core.said import degrees_f
from nudge.core.targets.school import School, Target
from nudge.core.units import M_PER_FT

KEY = "valve_health"
VALUE_K = degrees_f(11)
OUTDOORS_LOW_K, OUTDOORS_HIGH_K = degrees_f(6), degrees_f(15)
LONG_LINE_HIGH_K = degrees_f(20)
LONG_LINE_M = 50 * M_PER_FT


def _target(case: Case) -> Target | None:
    if not case.plate.metering_device.is_valve:
        return None
    long_line = (case.plate.line_set_length_m or 0) > LONG_LINE_M
    high = LONG_LINE_HIGH_K if long_line else OUTDOORS_HIGH_K
    source = "healthy valve"
    return Target(VALUE_K, OUTDOORS_LOW_K, high, KEY, source + (", long line" if long_line else ""))


SCHOOL = School(
    KEY,
    "Valve health band",
    "superheat",
    decides_charge=False,
    reason="A working valve holds 8 to 14 °F total superheat; 6 to 15 °F is accepted at the "
    "outdoor unit, and up to 20 °F where the line set is over 50 ft and gathers heat.",
    target=_target,
)
