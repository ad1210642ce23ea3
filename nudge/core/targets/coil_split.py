"""The temperature split a healthy coil would show on this air: never a fixed 20."""

from nudge.core.behaviours.case import Case
from nudge.core.language.units import degrees_f
from nudge.core.physics.air.coil import ExpectedCoil
from nudge.core.targets import formula_superheat
from nudge.core.targets.school import School, Target, window

KEY = "coil_model"
TOLERANCE_K = degrees_f(3)
UNKNOWN_FLOW_TOLERANCE_K = degrees_f(3.5)


SPLIT_PER_SUPERHEAT = 0.04
"""What each degree of an orifice's superheat over 10 °F takes off the split: the part of the coil
that superheats takes less heat. Swept on the simulated plant: 0.02 to 0.04."""
USUAL_SUPERHEAT_K = degrees_f(10)


def healthy_split_k(case: Case, coil: ExpectedCoil) -> float:
    """The split of a healthy coil [K]; an orifice's is smaller where its superheat is due high."""
    due = None if case.plate.metering_device.is_valve else formula_superheat.SCHOOL.target(case)
    over = 0.0 if due is None else max(due.value - USUAL_SUPERHEAT_K, 0.0)
    return coil.split_k - SPLIT_PER_SUPERHEAT * over


def _target(case: Case) -> Target | None:
    coil = case.coil
    if coil is None:
        return None
    value = healthy_split_k(case, coil.expected)
    if coil.airflow_is_measured:
        return window(value, TOLERANCE_K, KEY, "coil model")
    return window(value, UNKNOWN_FLOW_TOLERANCE_K, KEY, "coil model, airflow not measured")


SCHOOL = School(
    KEY,
    "Coil model",
    "temperature_split",
    decides_charge=False,
    reason="What a healthy coil does to this air: capacity at these conditions, leaving air by "
    "the bypass-factor method. ±{d3} at measured airflow; ±{d3.5} without it, because {a350} "
    "or {a450} would move it by about {d1.5}.",
    target=_target,
    formula="split of the coil model at return dry and wet bulb, outdoor air and airflow",
    uses=(
        "return_air_temp",
        "return_air_wet_bulb",
        "return_air_rh",
        "outdoor_air_temp",
        "airflow_per_capacity",
    ),
    reference="Coil model, docs/method.md.",
)
