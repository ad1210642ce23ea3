"""The signs: every measured quantity that faults move, its value, and what it is expected near.

A base is the plate's figure, the coil model's, an ordinary stroke's or the class's; what weather
and class add to it is in the table (`table.py`), what this system itself showed beside it
(`expected.py`).
"""

from collections.abc import Callable, Mapping
from collections.abc import Set as AbstractSet
from dataclasses import dataclass
from math import log
from types import MappingProxyType

from nudge.core.behaviours.case import Case
from nudge.core.language.units import Quantity, degrees_f, fahrenheit
from nudge.core.physics.circuit.compression import (
    expected_discharge_c,
    expected_power_w,
    watts_of_amps,
)
from nudge.core.physics.circuit.derived import blower_static
from nudge.core.settling.collar import valve_need_kpa
from nudge.core.settling.trust import passes_vapour
from nudge.core.targets import fallback_subcooling
from nudge.core.targets.coil_split import healthy_split_k
from nudge.core.targets.condensing import class_seer, condensing_over_ambient_near

USUAL_RETURN_C, USUAL_WET_BULB_C, USUAL_OUTDOOR_C = (fahrenheit(f) for f in (76, 63, 88))
USUAL_VALVE_SHARE = 45.0
"""A valve usually has this much over its need, in percent: 100 ln(have ÷ need)."""
USUAL_STATIC_PA, USUAL_FILTER_PA = 125.0, 28.0
MAKERS_DIFFER_K = degrees_f(2)
"""Most valve systems are built for 8 to 14 °F: without its plate nobody knows which (1 σ)."""

Value = Callable[[Case], float | None]
Base = Callable[[Case], float]


@dataclass(frozen=True, slots=True)
class Sign:
    """One row: what it is, the readings it rests on, its value and what it is expected near.

    `value` and `base` in core units; a share is 100 ln(measured ÷ usual), near enough percent.
    `in_place_of` names a sign that says it better: this one counts only while that is missing.
    """

    key: str
    label: str
    quantity: Quantity
    points: tuple[str, ...]
    value: Value
    base: Base = lambda _: 0.0
    in_place_of: str = ""
    guessed: Base = lambda _: 0.0
    """How far makers differ about the base, where it stands in for a figure of the plate that
    nobody gave (1 σ)."""
    is_weather: bool = False
    """It is what the other expectations are carried by, and has none of its own."""
    defines_load: bool = False
    """Low and high load are defined by it (`load.py`): it is not weighed like a symptom."""
    any_of: tuple[str, ...] = ()
    """Readings one of which is enough; of the others all are needed."""
    starved_k: float | None = None
    """Suction in a vacuum, below the refrigerant's table, starves the coil as far over what is
    expected as any fault was swept [K]. How much further, nobody can read, and it says nothing."""

    def held(self, case: Case, value: float, expected: float) -> float:
        """The value as far as it says anything."""
        if self.starved_k is None or case.lowest_c is None:
            return value
        return min(value, expected + self.starved_k)

    def can_be_told(self, have: AbstractSet[str]) -> bool:
        """Whether these readings are enough for a value."""
        needed = set(self.points) - set(self.any_of)
        return needed <= have and (not self.any_of or not have.isdisjoint(self.any_of))


def _derived(key: str) -> Value:
    return lambda case: case.derived.get(key)


def _subcooling(case: Case) -> float | None:
    """Subcooling leaving the outdoor unit; 0 or more where only vapour passes: how warm that is
    says nothing more.
    """
    found = None if case.derived.subcooling_at_device else case.derived.subcooling
    return max(found, 0.0) if found is not None and passes_vapour(case) else found


def _at_device(case: Case) -> float | None:
    """Subcooling before the metering device, where nothing was clamped outdoors."""
    return case.derived.subcooling if case.derived.subcooling_at_device else None


def _superheat(case: Case) -> float | None:
    """Superheat; where suction is in a vacuum below the table, the least it can be."""
    if case.derived.superheat_at_coil:
        return None
    line, lowest = case.readings.get("suction_line_temp"), case.lowest_c
    if lowest is not None and line is not None:
        return line - lowest
    return case.derived.superheat


def _evaporator_difference(case: Case) -> float | None:
    """Return air over the coil; where suction is in a vacuum, the least it can be."""
    returned, lowest = case.readings.get("return_air_temp"), case.lowest_c
    if lowest is not None and returned is not None:
        return returned - lowest
    return case.derived.evaporator_difference


def between(a: str, b: str) -> Value:
    def value(case: Case) -> float | None:
        one, other = case.readings.get(a), case.readings.get(b)
        return None if one is None or other is None else one - other

    return value


def share(measured: float | None, usual: float | None) -> float | None:
    """100 ln(measured ÷ usual): near enough the percentage it is off."""
    if measured is None or usual is None or measured <= 0 or usual <= 0:
        return None
    return 100 * log(measured / usual)


def _subcooling_base(case: Case) -> float:
    return case.plate.target_subcooling_k or fallback_subcooling.VALUE_K


def _subcooling_guessed(case: Case) -> float:
    """Of a valve system, which is charged to its plate; an orifice's is what the table found."""
    is_said = case.plate.target_subcooling_k or not case.plate.metering_device.is_valve
    return 0.0 if is_said else MAKERS_DIFFER_K


def _superheat_base(case: Case) -> float:
    return case.plate.target_superheat_k or degrees_f(12)


def _condensing_base(case: Case) -> float:
    """The plate's own figure, else its class's, between classes in proportion [K]."""
    if case.plate.condensing_over_ambient_k is not None:
        return case.plate.condensing_over_ambient_k
    return condensing_over_ambient_near(class_seer(case.plate))


def _coil_difference(case: Case) -> float:
    coil = case.rated_coil
    returned = case.readings.get("return_air_temp")
    if coil is None or returned is None:
        return degrees_f(35)
    return returned - coil.saturation_c


def _coil_split(case: Case) -> float:
    coil = case.rated_coil
    return degrees_f(20) if coil is None else healthy_split_k(case, coil)


def _boiling(case: Case) -> float | None:
    if "return_air_temp" in case.readings:
        return None
    lowest = case.lowest_c
    return case.derived.evaporator_saturation if lowest is None else lowest


def _airflow(case: Case) -> float | None:
    return share(case.derived.airflow_per_capacity, case.plate.rated_flow_per_capacity())


def _static(case: Case) -> float | None:
    return share(blower_static(case.readings), USUAL_STATIC_PA)


def _filter(case: Case) -> float | None:
    return share(case.readings.get("filter_pressure_drop"), USUAL_FILTER_PA)


def _power(case: Case) -> float | None:
    """Compressor power against what an ordinary one would draw on the gas it draws now."""
    usual = None
    watts = watts_of_amps(case.readings)
    if watts is None:
        watts = case.readings.get("outdoor_unit_watts")
    if watts is not None:
        over_ambient_k = condensing_over_ambient_near(class_seer(case.plate))
        usual = expected_power_w(case.plate, case.readings, over_ambient_k)
    return share(watts, usual)


def _capacity(case: Case) -> float | None:
    return share(case.derived.capacity_normalised, case.plate.nominal_capacity_w)


def _valve_need(case: Case) -> float | None:
    drop = case.derived.valve_pressure_difference
    if drop is None or not case.plate.metering_device.is_valve:
        return None
    return share(drop, valve_need_kpa(case.plate.refrigerant))


def _discharge(case: Case) -> float | None:
    """Discharge line over what an ordinary stroke makes of the gas it draws."""
    line = case.readings.get("discharge_line_temp")
    usual = None if line is None else expected_discharge_c(case.plate, case.readings)
    return None if line is None or usual is None else line - usual


def _return_warmth(case: Case) -> float | None:
    return case.readings.get("return_air_temp")


_K, _P = Quantity.TEMPERATURE_DIFFERENCE, Quantity.PERCENT
_LOW, _HIGH = ("suction_pressure",), ("liquid_pressure",)
_OA, _RA = "outdoor_air_temp", "return_air_temp"

_ROWS = (
    Sign("subcooling", "Subcooling", _K, (*_HIGH, "liquid_line_temp"), _subcooling,
         _subcooling_base, guessed=_subcooling_guessed),
    Sign("device_subcooling", "Subcooling at the device", _K,
         (*_HIGH, "liquid_line_temp_indoor"), _at_device, _subcooling_base,
         in_place_of="subcooling", guessed=_subcooling_guessed),
    Sign("superheat", "Superheat", _K, (*_LOW, "suction_line_temp"), _superheat,
         _superheat_base, starved_k=degrees_f(75)),
    Sign("evaporator_superheat", "Evaporator superheat", _K, (*_LOW, "evaporator_outlet_temp"),
         _derived("evaporator_superheat"), _superheat_base, in_place_of="superheat"),
    Sign("condensing_over_ambient", "Condensing over ambient", _K, (*_HIGH, _OA),
         _derived("condensing_over_ambient"), _condensing_base),
    Sign("approach", "Approach", _K, ("liquid_line_temp", _OA), _derived("approach"),
         lambda case: case.plate.approach_k or degrees_f(10), in_place_of="subcooling"),
    Sign("evaporator_difference", "Evaporator difference", _K, (*_LOW, _RA),
         _evaporator_difference, _coil_difference, starved_k=degrees_f(50)),
    Sign("boiling", "Evaporator saturation", Quantity.TEMPERATURE, _LOW, _boiling,
         lambda _: fahrenheit(45), in_place_of="evaporator_difference"),
    Sign("temperature_split", "Temperature split", _K, (_RA, "supply_air_temp"),
         _derived("temperature_split"), _coil_split),
    Sign("airflow", "Airflow", _P, ("airflow",), _airflow),
    Sign("static", "External static", _P,
         ("total_external_static", "return_static", "supply_static"), _static,
         any_of=("total_external_static", "return_static", "supply_static")),
    Sign("filter_drop", "Filter drop", _P, ("filter_pressure_drop",), _filter),
    Sign("capacity", "Capacity", _P, ("airflow", _RA, "supply_air_temp"), _capacity),
    Sign("compressor_power", "Compressor power", _P,
         ("compressor_amps", "outdoor_unit_watts", *_LOW, "suction_line_temp", *_HIGH), _power,
         any_of=("compressor_amps", "outdoor_unit_watts")),
    Sign("discharge_over_stroke", "Discharge over an ordinary stroke", _K,
         ("discharge_line_temp", *_LOW, "suction_line_temp", *_HIGH), _discharge),
    Sign("condenser_air_rise", "Condenser air rise", _K, ("condenser_leaving_air_temp", _OA),
         between("condenser_leaving_air_temp", _OA), lambda _: degrees_f(16)),
    Sign("drop_to_drier", "Drop to the drier", _K, ("liquid_line_temp", "drier_inlet_temp"),
         between("liquid_line_temp", "drier_inlet_temp")),
    Sign("drier_drop", "Drier drop", _K, ("drier_inlet_temp", "drier_outlet_temp"),
         _derived("drier_drop")),
    Sign("drop_past_drier", "Drop past the drier", _K,
         ("drier_outlet_temp", "liquid_line_temp_indoor"),
         between("drier_outlet_temp", "liquid_line_temp_indoor")),
    Sign("liquid_line_drop", "Liquid line drop", _K,
         ("liquid_line_temp", "liquid_line_temp_indoor"), _derived("liquid_line_drop"),
         in_place_of="drop_past_drier"),
    Sign("rise_at_reversing_valve", "Rise across the reversing valve", _K,
         ("true_suction_temp", "suction_line_temp"),
         between("true_suction_temp", "suction_line_temp")),
    Sign("return_air", "Return air", Quantity.TEMPERATURE, (_RA,), _return_warmth,
         lambda _: USUAL_RETURN_C, is_weather=True, defines_load=True),
    Sign("return_wet_bulb", "Return wet bulb", Quantity.TEMPERATURE, ("return_air_wet_bulb",),
         lambda case: case.readings.get("return_air_wet_bulb"), lambda _: USUAL_WET_BULB_C,
         is_weather=True, defines_load=True),
    Sign("outdoor_air", "Outdoor air", Quantity.TEMPERATURE, (_OA,),
         lambda case: case.readings.get(_OA), lambda _: USUAL_OUTDOOR_C, is_weather=True),
    Sign("valve_pressure", "Valve pressure difference", _P, (*_LOW, *_HIGH), _valve_need,
         lambda _: USUAL_VALVE_SHARE, in_place_of="outdoor_air", is_weather=True),
    Sign("pressure_ratio", "Pressure ratio", Quantity.RATIO, (*_LOW, *_HIGH),
         _derived("pressure_ratio"), lambda _: 3.0, in_place_of="condensing_over_ambient"),
)  # fmt: skip

FAR_REACHING = frozenset(
    (
        "outdoor_air_temp",
        "condenser_entering_air_temp",
        "return_air_temp",
        "return_air_wet_bulb",
        "return_air_rh",
        "supply_air_temp",
        "supply_air_wet_bulb",
        "supply_air_rh",
        "airflow",
        "line_volts",
        "true_suction_temp",
        "discharge_pressure",
    )
)
"""Readings that move more than the signs that name them: expectations, air, an ordinary stroke."""

SIGNS: Mapping[str, Sign] = MappingProxyType({row.key: row for row in _ROWS})
