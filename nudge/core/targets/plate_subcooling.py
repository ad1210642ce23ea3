"""Subcooling on the plate: the school of every metering valve."""

from nudge.core.behaviours.case import Case
from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import MeteringDevice
from nudge.core.targets.at_device import at_device
from nudge.core.targets.school import School, Target, window

KEY = "plate_subcooling"
TOLERANCE_K = degrees_f(3)
CHARGE_MODE_TOLERANCE_K = degrees_f(1)


def _target(case: Case) -> Target | None:
    value = case.plate.target_subcooling_k
    if value is None or not case.plate.metering_device.is_valve:
        return None
    if case.derived.subcooling_at_device:
        return at_device(value, KEY, "plate")
    if case.plate.metering_device is MeteringDevice.EEV:
        return window(value, CHARGE_MODE_TOLERANCE_K, KEY, "plate, in the unit's charge mode")
    return window(value, TOLERANCE_K, KEY, "plate")


SCHOOL = School(
    KEY,
    "Plate subcooling",
    "subcooling",
    decides_charge=True,
    reason="The maker's own target for this coil pair: ±{d3} with an expansion valve; ±{d1} "
    "with an electronic valve, whose charge mode holds the unit still enough to read it.",
    target=_target,
    formula="the plate's subcooling",
    uses=("target_subcooling",),
    reference="The system's plate.",
)
