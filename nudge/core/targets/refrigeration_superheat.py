"""Superheat at the coil of a cold room: tight, because every degree is lost capacity."""

from nudge.core.behaviours.case import Case
from nudge.core.language.units import degrees_f, fahrenheit
from nudge.core.targets.school import School, Target, window

KEY = "refrigeration_superheat"
FREEZER_BELOW_C = fahrenheit(32)
FREEZER_K = (degrees_f(3), degrees_f(6))
COOLER_K = (degrees_f(6), degrees_f(10))


def _target(case: Case) -> Target | None:
    box = case.readings.get("box_air_temp")
    if "box_air_temp" not in case.behaviour.roles.cold_air or box is None:
        return None
    own, give = case.plate.target_superheat_k, case.behaviour.superheat_tolerance_k
    if own is not None and give is not None:
        return window(own, give, KEY, "plate, at the coil")
    low, high = FREEZER_K if box < FREEZER_BELOW_C else COOLER_K
    kind = "freezer" if box < FREEZER_BELOW_C else "cooler"
    return Target((low + high) / 2, low, high, KEY, f"{kind}, at the coil")


SCHOOL = School(
    KEY,
    "Refrigeration superheat",
    "evaporator_superheat",
    decides_charge=False,
    reason="Read at the coil near set point: {d3} to {d6} in a freezer (box under {t32}), {d6} to "
    "{d10} in a cooler. The plate's own ±{d3} where it has one.",
    target=_target,
    formula="{d3} to {d6} for a freezer, {d6} to {d10} for a cooler",
    uses=("box_air_temp",),
    reference="Trade rule.",
)
