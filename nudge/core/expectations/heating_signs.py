"""The signs of a heat pump that heats: the coils change places, and heat is weighed itself.

Rows with a cooling row's name measure the same thing the other way round. What the plate does not
rate is not weighed: a guess of it says nothing of faults.
"""

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType

from nudge.core.behaviours.case import Case
from nudge.core.expectations.signs import SIGNS, Sign, between, share
from nudge.core.language.units import Quantity, degrees_f, fahrenheit

USUAL_HEAD_K, USUAL_COIL_K, USUAL_RISE_K = degrees_f(32), degrees_f(13), degrees_f(24)
_SUCTION = ("suction_pressure", "true_suction_temp")


def _heat(case: Case) -> float | None:
    """Heat against the plate's line of a coil clear of frost."""
    heat = case.heat
    if heat is None or heat.delivered is None or heat.is_guessed:
        return None
    return share(heat.delivered.value, heat.clear_w)


def _power(case: Case) -> float | None:
    """Power of both units against the plate's line."""
    heat, plate = case.heat, case.plate
    if heat is None or heat.power is None or plate.power_47_w is None or plate.power_17_w is None:
        return None
    return share(heat.power.value, heat.clear_power_w)


def _rise(case: Case) -> float | None:
    return None if case.heat is None else case.heat.rise_k


def _on_true_suction(row: Sign) -> Sign:
    """A sign of the stroke: what is drawn in is read between reversing valve and compressor."""

    def value(case: Case) -> float | None:
        return row.value(case) if "true_suction_temp" in case.readings else None

    points = tuple("true_suction_temp" if p == "suction_line_temp" else p for p in row.points)
    return replace(row, points=points, value=value)


_K, _P = Quantity.TEMPERATURE_DIFFERENCE, Quantity.PERCENT
_ROWS = (
    replace(SIGNS["subcooling"], base=lambda _: degrees_f(14), guessed=lambda _: 0.0),
    replace(SIGNS["superheat"], points=_SUCTION, base=lambda _: degrees_f(8)),
    replace(
        SIGNS["condensing_over_ambient"],
        label="Condensing over return",
        points=("liquid_pressure", "return_air_temp"),
        base=lambda _: USUAL_HEAD_K,
    ),
    replace(
        SIGNS["approach"],
        points=("liquid_line_temp", "return_air_temp"),
        base=lambda _: degrees_f(15),
    ),
    replace(
        SIGNS["evaporator_difference"],
        label="Outdoor coil difference",
        points=("suction_pressure", "outdoor_air_temp"),
        value=lambda case: case.derived.evaporator_difference,
        base=lambda _: USUAL_COIL_K,
    ),
    Sign(
        "heat_delivered",
        "Heat delivered",
        _P,
        ("return_air_temp", "supply_air_temp", "outdoor_air_temp", "airflow"),
        _heat,
    ),
    Sign(
        "temperature_rise",
        "Temperature rise",
        _K,
        ("return_air_temp", "supply_air_temp"),
        _rise,
        lambda _: USUAL_RISE_K,
        in_place_of="heat_delivered",
    ),
    Sign(
        "heating_power",
        "Power drawn",
        _P,
        ("outdoor_unit_watts", "indoor_unit_watts", "outdoor_air_temp"),
        _power,
    ),
    SIGNS["airflow"],
    SIGNS["static"],
    SIGNS["filter_drop"],
    _on_true_suction(SIGNS["compressor_power"]),
    _on_true_suction(SIGNS["discharge_over_stroke"]),
    replace(
        SIGNS["condenser_air_rise"],
        label="Outdoor air drop",
        value=between("outdoor_air_temp", "condenser_leaving_air_temp"),
        base=lambda _: degrees_f(6),
    ),
    SIGNS["drier_drop"],
    replace(SIGNS["liquid_line_drop"], in_place_of=""),
    replace(SIGNS["outdoor_air"], base=lambda _: fahrenheit(35)),
    replace(SIGNS["pressure_ratio"], base=lambda _: 4.0),
)
HEATING_SIGNS: Mapping[str, Sign] = MappingProxyType({row.key: row for row in _ROWS})
