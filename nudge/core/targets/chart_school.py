"""Targets out of a maker's chart kept with the system: one look-up for both kinds."""

from nudge.core.behaviours.case import Case
from nudge.core.language.said import say, temperature
from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import MeteringDevice
from nudge.core.targets.school import School, Target, window

SUBCOOLING_KEY, SUPERHEAT_KEY = "chart_subcooling", "chart_superheat"
SUBCOOLING_TOLERANCE_K = degrees_f(2)
SUPERHEAT_TOLERANCE_K = degrees_f(5)


def _subcooling(case: Case) -> Target | None:
    chart = case.plate.chart("subcooling_by_outdoor")
    outdoor = case.readings.get("outdoor_air_temp")
    if chart is None or outdoor is None or not case.plate.metering_device.is_valve:
        return None
    value = chart.value(outdoor, case.plate.indoor_unit)
    today = say(
        "the chart at {outdoor} outdoors: {target}",
        outdoor=temperature(outdoor),
    )
    return window(value, SUBCOOLING_TOLERANCE_K, SUBCOOLING_KEY, "maker's chart", today)


def _superheat(case: Case) -> Target | None:
    chart = case.plate.chart("superheat_by_wet_bulb")
    outdoor, wet = (case.readings.get(p) for p in ("outdoor_air_temp", "return_air_wet_bulb"))
    if chart is None or outdoor is None or wet is None:
        return None
    if case.plate.metering_device is not MeteringDevice.FIXED_ORIFICE:
        return None
    today = say(
        "the chart at {outdoor} outdoors and {wet} wet bulb: {target}",
        outdoor=temperature(outdoor),
        wet=temperature(wet),
    )
    value = chart.value(outdoor, wet)
    return window(value, SUPERHEAT_TOLERANCE_K, SUPERHEAT_KEY, "maker's chart", today)


SUBCOOLING = School(
    SUBCOOLING_KEY,
    "Chart subcooling",
    "subcooling",
    decides_charge=True,
    reason="The maker's subcooling by outdoor air, in the column of this indoor unit, straight "
    "between its rows, ±{d2}. Pressures printed on such a chart are a gross check only.",
    target=_subcooling,
    formula="the chart's value at outdoor air, in the indoor unit's column",
    uses=("outdoor_air_temp",),
    reference="The maker's chart, kept with the system.",
)
SUPERHEAT = School(
    SUPERHEAT_KEY,
    "Chart superheat",
    "superheat",
    decides_charge=True,
    reason="The maker's grid of outdoor air and return wet bulb for a fixed orifice, straight "
    "between its points in both directions, ±{d5}.",
    target=_superheat,
    formula="the chart's value at outdoor air and return wet bulb",
    uses=("outdoor_air_temp", "return_air_wet_bulb"),
    reference="The maker's chart, kept with the system.",
)
