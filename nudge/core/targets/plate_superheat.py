"""Superheat printed on the plate or entered by hand."""

from nudge.core.behaviours.case import Case
from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import MeteringDevice
from nudge.core.targets.school import School, Target, window

KEY = "plate_superheat"
ORIFICE_TOLERANCE_K = degrees_f(5)


def _target(case: Case) -> Target | None:
    value = case.plate.target_superheat_k
    if value is None:
        return None
    own = case.behaviour.superheat_tolerance_k
    if case.plate.metering_device is not MeteringDevice.FIXED_ORIFICE and own is None:
        return None
    return window(value, ORIFICE_TOLERANCE_K if own is None else own, KEY, "plate")


SCHOOL = School(
    KEY,
    "Plate superheat",
    "superheat",
    decides_charge=True,
    reason="The maker's or the box designer's own figure: ±{d5} on a fixed orifice, ±{d3} in "
    "refrigeration.",
    target=_target,
    formula="the plate's superheat",
    uses=("target_superheat",),
    reference="The system's plate.",
)
