"""The band a healthy expansion valve keeps its superheat in. Judges the valve, never charge."""

from nudge.core.behaviours.case import Case
from nudge.core.language.units import M_PER_FT, degrees_f
from nudge.core.targets.school import School, Target

KEY = "valve_health"
VALUE_K = degrees_f(11)
OUTDOORS_LOW_K, OUTDOORS_HIGH_K = degrees_f(6), degrees_f(15)
LONG_LINE_HIGH_K = degrees_f(20)
LONG_LINE_M = 50 * M_PER_FT
COIL_KEY = "valve_health_at_coil"
HEATING_LOW_K, HEATING_HIGH_K = degrees_f(3), degrees_f(14)
"""Between reversing valve and compressor, in heating: no line warms it; trade."""
COIL_LOW_K, COIL_VALUE_K, COIL_HIGH_K = degrees_f(8), degrees_f(10), degrees_f(12)


def _at_coil(case: Case) -> Target | None:
    plate = case.plate
    if not plate.metering_device.is_valve:
        return None
    return Target(COIL_VALUE_K, COIL_LOW_K, COIL_HIGH_K, COIL_KEY, "healthy valve, at the coil")


def _target(case: Case) -> Target | None:
    """None in an inverter's charge mode as well: its controller holds what it likes there."""
    if not case.plate.metering_device.is_valve or case.context.charge_mode in ("full", "partial"):
        return None
    if case.derived.superheat_at_coil:
        return Target(COIL_VALUE_K, COIL_LOW_K, COIL_HIGH_K, KEY, "healthy valve, at the coil")
    if case.behaviour.roles.heats:
        return Target(VALUE_K, HEATING_LOW_K, HEATING_HIGH_K, KEY, "healthy valve, in heating")
    long_line = (case.plate.line_set_length_m or 0) > LONG_LINE_M
    high = LONG_LINE_HIGH_K if long_line else OUTDOORS_HIGH_K
    source = "healthy valve"
    return Target(VALUE_K, OUTDOORS_LOW_K, high, KEY, source + (", long line" if long_line else ""))


SCHOOL = School(
    KEY,
    "Valve health band",
    "superheat",
    decides_charge=False,
    reason="A working valve holds {d8} to {d14} total superheat; {d6} to {d15} is accepted at the "
    "outdoor unit, and up to {d20} where the line set is over {l50} and gathers heat; {d3} to "
    "{d14} at the compressor in heating.",
    target=_target,
    formula="{d6} to {d15}; to {d20} with a line set over {l50}; {d3} to {d14} in heating",
    uses=("line_set_length",),
    reference="Trade rule.",
)
AT_COIL = School(
    COIL_KEY,
    "Valve health band at the coil",
    "evaporator_superheat",
    decides_charge=False,
    reason="Beside the bulb, with no line to warm it, a working valve holds {d8} to {d12}.",
    target=_at_coil,
    formula="{d8} to {d12} at the coil outlet",
    uses=(),
    reference="Trade rule.",
)
