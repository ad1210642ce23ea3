"""How far every measured sign is from what is expected of this system in this weather.

A sign is a quantity that faults move. Its expectation is the plate's, the coil model's or the
class's, moved by what this system itself showed when it was right, then carried to today's air
by the table of expectations; the departure is evidence.
A missing reading leaves its signs out; where only the weather is missing, or a reading was
estimated or is old, the sign counts with more blur.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from math import hypot, log
from types import MappingProxyType

from nudge.core.circuit.case import Case
from nudge.core.circuit.derived import blower_static
from nudge.core.judgement.signatures import EXPECTATIONS, Expectation
from nudge.core.said import degrees_f, fahrenheit
from nudge.core.settling.collar import valve_need_kpa
from nudge.core.targets import approach, chart_school, plate_superheat
from nudge.core.targets.choose import Targets
from nudge.core.targets.condensing import DEFAULT_SEER, condensing_over_ambient_near
from nudge.core.units import Quantity
from nudge.core.vocabulary.accuracy import accuracy_of

RATED_OUTDOOR_C, RATED_WET_BULB_C = fahrenheit(95), fahrenheit(67)
USUAL_RETURN_C, USUAL_WET_BULB_C, USUAL_OUTDOOR_C = (fahrenheit(f) for f in (76, 63, 88))
OUTDOOR_BLUR_K, WET_BULB_BLUR_K, RETURN_BLUR_K = 6.0, 2.0, 1.5
"""How far weather nobody read may be from the usual: one standard deviation."""
UNSURE_BLUR = 3.0
"""An estimated or old reading is off by this many times a fresh instrument's ±."""
USUAL_VALVE_SHARE = 45.0
"""A valve usually has this much over its need, in percent: 100 ln(have ÷ need)."""
OUTDOOR_FROM_K, OUTDOOR_TO_K = degrees_f(-27), degrees_f(15)
WET_BULB_FROM_K, WET_BULB_TO_K = degrees_f(-13), degrees_f(9)
"""The weather the expectations were fitted in, about the rated point: held at its edges beyond."""
SEER_FROM, SEER_TO, SEER_BLUR = 8.0, 20.0, 2.5
"""The efficiencies the expectations were fitted in, and the spread of an unknown one (1 σ)."""
USUAL_STATIC_PA, USUAL_FILTER_PA = 125.0, 28.0
ORDINARY_VOLTS, ORDINARY_POWER_FACTOR = 230.0, 0.95
SEER_TO_WATTS = 0.29307
"""SEER is Btu/h per W; rated power is capacity [W] over SEER times this."""
EER_OF_SEER = 0.85

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
    is_weather: bool = False
    """It is what the other expectations are carried by, and has none of its own."""


@dataclass(frozen=True, slots=True)
class Departure:
    """One sign on one case: measured, expected, the difference, and its extra blur (1 σ)."""

    sign: Sign
    value: float
    expected: float
    blur: float
    known: float = 0.0
    """How far a healthy one may be off where the figure is this system's own (1 σ); 0 where it
    is the class's, whose spread is in the table."""

    @property
    def off(self) -> float:
        return self.value - self.expected


def departures(
    case: Case,
    expected: Mapping[str, Expectation] | None = None,
    targets: Targets | None = None,
) -> dict[str, Departure]:
    """Every sign the readings allow, by key; `expected` in place of the packaged table.

    With `targets`, what the maker says of this system is expected of it: see `KNOWN`.
    """
    found: dict[str, Departure] = {}
    table = EXPECTATIONS[case.plate.metering_device.is_valve] if expected is None else expected
    by_approach = targets is not None and _decides(targets, approach.KEY)
    for sign in SIGNS.values():
        if sign.in_place_of in found:
            continue
        if sign.key == "subcooling" and by_approach and case.derived.approach is not None:
            continue  # the maker judges by approach: a guess of subcooling says no more
        value = sign.value(case)
        if value is None:
            continue
        said = None if targets is None else _known(case, sign, targets)
        step, blur = _weather(case, table[sign.key]) if said is None else (0.0, 0.0)
        middle = sign.base(case) if said is None else said
        own = case.context.own.get(sign.key, 0.0)
        unsure = [point for point in sign.points if point in case.context.unsure]
        for point in unsure:
            blur = hypot(blur, UNSURE_BLUR * _one_sigma(case, sign, point))
        is_own = said is not None or sign.key in case.context.own
        found[sign.key] = Departure(sign, value, middle + own + step, blur,
                                    KNOWN_K if is_own else 0.0)  # fmt: skip
    return found


KNOWN_K = degrees_f(2)
"""How far a healthy system stands off its own maker's or baseline's figure (1 σ): two
instruments, and what a good installer leaves."""
KNOWN: tuple[tuple[str, str, str], ...] = (
    ("subcooling", chart_school.SUBCOOLING_KEY, "the chart decides charge: it is expected as well"),
    ("superheat", chart_school.SUPERHEAT_KEY, "the chart decides charge: it is expected as well"),
    ("superheat", plate_superheat.KEY, "this system's own superheat, in any weather"),
    ("approach", approach.KEY, "the plate's approach decides charge: it is expected as well"),
)
"""Signs whose expectation is the deciding target itself, by the school that sets it, and why.
Condensing over ambient on the plate joins them: it is the system's own, never corrected."""


def _known(case: Case, sign: Sign, targets: Targets) -> float | None:
    """The maker's own figure for a sign [K]; None where there is none."""
    if sign.key == "condensing_over_ambient":
        return case.plate.condensing_over_ambient_k
    for key, school, _ in KNOWN:
        if sign.key == key and _decides(targets, school):
            return targets.answers[school].value
    return None


def _decides(targets: Targets, school: str) -> bool:
    return targets.deciding is not None and targets.deciding.key == school


def expected_condensing_over_ambient(case: Case) -> float:
    """Condensing over ambient this system should show today [K]: the plate's, else the class's
    and this system's own, carried to today's air. The one figure every screen and rule uses.
    """
    if case.plate.condensing_over_ambient_k is not None:
        return case.plate.condensing_over_ambient_k
    key = "condensing_over_ambient"
    row = EXPECTATIONS[case.plate.metering_device.is_valve][key]
    return SIGNS[key].base(case) + case.context.own.get(key, 0.0) + _weather(case, row)[0]


def departures_of_approach(case: Case) -> float:
    """How far the liquid line stands off outdoor air beyond what is expected [K]; 0 unread."""
    sign = SIGNS["approach"]
    value = sign.value(case)
    if value is None or not case.context.unsure.isdisjoint(sign.points):
        return 0.0
    step, _ = _weather(case, EXPECTATIONS[case.plate.metering_device.is_valve][sign.key])
    return value - sign.base(case) - step


def _weather(case: Case, row: Expectation) -> tuple[float, float]:
    """What today's air and the class add to an expectation, and the blur of what is not known."""
    outdoor = case.readings.get("outdoor_air_temp")
    wet_bulb = case.readings.get("return_air_wet_bulb")
    step, blur = row.base, 0.0
    if case.plate.rated_seer is None:
        blur = abs(row.per_seer) * SEER_BLUR
    else:
        step += row.per_seer * held_seer(case.plate.rated_seer)
    if outdoor is None:
        blur = hypot(blur, row.per_outdoor * OUTDOOR_BLUR_K)
    else:
        step += row.per_outdoor * held_outdoor(outdoor - RATED_OUTDOOR_C)
    if wet_bulb is None:
        blur = hypot(blur, row.per_wet_bulb * WET_BULB_BLUR_K)
        step += row.per_wet_bulb * row.usual_wet_bulb
    else:
        step += row.per_wet_bulb * held_wet_bulb(wet_bulb - RATED_WET_BULB_C)
    return step, blur


def held_outdoor(kelvin: float) -> float:
    """Outdoor air over its rated point, held at the edges of the fit [K]."""
    return min(max(kelvin, OUTDOOR_FROM_K), OUTDOOR_TO_K)


def held_wet_bulb(kelvin: float) -> float:
    """Return wet bulb over its rated point, held at the edges of the fit [K]."""
    return min(max(kelvin, WET_BULB_FROM_K), WET_BULB_TO_K)


def held_seer(seer: float) -> float:
    """Rated efficiency over the usual one, held at the edges of the fit."""
    return min(max(seer, SEER_FROM), SEER_TO) - DEFAULT_SEER


def _one_sigma(case: Case, sign: Sign, point: str) -> float:
    """What a reading's own ± does to a sign: its 95 % limit as one σ of the sign's unit."""
    limit = accuracy_of(point).limit(case.readings[point]) / 2
    if point.endswith("pressure") and sign.quantity is Quantity.TEMPERATURE_DIFFERENCE:
        return limit / PRESSURE_PER_KELVIN_KPA
    if sign.quantity is Quantity.PERCENT:
        return 100 * limit / max(abs(case.readings[point]), 1e-6)
    return limit


PRESSURE_PER_KELVIN_KPA = 25.0
"""Near enough for blur: 20 to 30 kPa a kelvin for the usual fluids on the low side."""


def _derived(key: str) -> Value:
    return lambda case: case.derived.get(key)


def _superheat(case: Case) -> float | None:
    """Superheat; where suction is in a vacuum below the table, the least it can be."""
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


def _between(a: str, b: str) -> Value:
    def value(case: Case) -> float | None:
        one, other = case.readings.get(a), case.readings.get(b)
        return None if one is None or other is None else one - other

    return value


def _share(measured: float | None, usual: float | None) -> float | None:
    """100 ln(measured ÷ usual): near enough the percentage it is off."""
    if measured is None or usual is None or measured <= 0 or usual <= 0:
        return None
    return 100 * log(measured / usual)


def _subcooling_base(case: Case) -> float:
    return case.plate.target_subcooling_k or degrees_f(10)


def _superheat_base(case: Case) -> float:
    return case.plate.target_superheat_k or degrees_f(12)


def _condensing_base(case: Case) -> float:
    """The plate's own figure, else its class's, between classes in proportion [K]."""
    if case.plate.condensing_over_ambient_k is not None:
        return case.plate.condensing_over_ambient_k
    return condensing_over_ambient_near(case.plate.rated_seer)


def _coil_difference(case: Case) -> float:
    coil = case.rated_coil
    returned = case.readings.get("return_air_temp")
    if coil is None or returned is None:
        return degrees_f(35)
    return returned - coil.saturation_c


def _coil_split(case: Case) -> float:
    coil = case.rated_coil
    return degrees_f(20) if coil is None else coil.split_k


def _boiling(case: Case) -> float | None:
    if "return_air_temp" in case.readings:
        return None
    lowest = case.lowest_c
    return case.derived.evaporator_saturation if lowest is None else lowest


def _airflow(case: Case) -> float | None:
    return _share(case.derived.airflow_per_capacity, case.plate.rated_flow_per_capacity())


def _static(case: Case) -> float | None:
    return _share(blower_static(case.readings), USUAL_STATIC_PA)


def _filter(case: Case) -> float | None:
    return _share(case.readings.get("filter_pressure_drop"), USUAL_FILTER_PA)


def _power(case: Case) -> float | None:
    """Compressor power against what its capacity and class would draw at the rated point."""
    amps, capacity = case.readings.get("compressor_amps"), case.plate.nominal_capacity_w
    if capacity is None:
        return None
    usual = capacity / ((case.plate.rated_seer or DEFAULT_SEER) * EER_OF_SEER * SEER_TO_WATTS)
    if amps is not None:
        volts = case.readings.get("line_volts", ORDINARY_VOLTS)
        return _share(amps * volts * ORDINARY_POWER_FACTOR, usual)
    return _share(case.readings.get("outdoor_unit_watts"), usual)


def _capacity(case: Case) -> float | None:
    return _share(case.derived.capacity_normalised, case.plate.nominal_capacity_w)


def _valve_need(case: Case) -> float | None:
    drop = case.derived.valve_pressure_difference
    if drop is None or not case.plate.metering_device.is_valve:
        return None
    return _share(drop, valve_need_kpa(case.plate.refrigerant))


def _discharge(case: Case) -> float | None:
    line, saturation = case.readings.get("discharge_line_temp"), case.derived.condenser_saturation
    return None if line is None or saturation is None else line - saturation


def _return_warmth(case: Case) -> float | None:
    return case.readings.get("return_air_temp")


_K, _P = Quantity.TEMPERATURE_DIFFERENCE, Quantity.PERCENT
_LOW, _HIGH = ("suction_pressure",), ("liquid_pressure",)
_OA, _RA = "outdoor_air_temp", "return_air_temp"

_ROWS = (
    Sign("subcooling", "Subcooling", _K, (*_HIGH, "liquid_line_temp"), _derived("subcooling"),
         _subcooling_base),
    Sign("superheat", "Superheat", _K, (*_LOW, "suction_line_temp"), _superheat,
         _superheat_base),
    Sign("evaporator_superheat", "Evaporator superheat", _K, (*_LOW, "evaporator_outlet_temp"),
         _derived("evaporator_superheat"), _superheat_base, in_place_of="superheat"),
    Sign("condensing_over_ambient", "Condensing over ambient", _K, (*_HIGH, _OA),
         _derived("condensing_over_ambient"), _condensing_base),
    Sign("approach", "Approach", _K, ("liquid_line_temp", _OA), _derived("approach"),
         lambda case: case.plate.approach_k or degrees_f(10), in_place_of="subcooling"),
    Sign("evaporator_difference", "Evaporator difference", _K, (*_LOW, _RA),
         _evaporator_difference, _coil_difference),
    Sign("boiling", "Evaporator saturation", Quantity.TEMPERATURE, _LOW, _boiling,
         lambda _: fahrenheit(45), in_place_of="evaporator_difference"),
    Sign("temperature_split", "Temperature split", _K, (_RA, "supply_air_temp"),
         _derived("temperature_split"), _coil_split),
    Sign("airflow", "Airflow", _P, ("airflow",), _airflow),
    Sign("static", "External static", _P,
         ("total_external_static", "return_static", "supply_static"), _static),
    Sign("filter_drop", "Filter drop", _P, ("filter_pressure_drop",), _filter),
    Sign("capacity", "Capacity", _P, ("airflow", _RA, "supply_air_temp"), _capacity),
    Sign("compressor_power", "Compressor power", _P, ("compressor_amps", "outdoor_unit_watts"),
         _power),
    Sign("discharge_over_condensing", "Discharge over condensing", _K,
         ("discharge_line_temp", *_HIGH), _discharge, lambda _: degrees_f(50)),
    Sign("condenser_air_rise", "Condenser air rise", _K, ("condenser_leaving_air_temp", _OA),
         _between("condenser_leaving_air_temp", _OA), lambda _: degrees_f(16)),
    Sign("drop_to_drier", "Drop to the drier", _K, ("liquid_line_temp", "drier_inlet_temp"),
         _between("liquid_line_temp", "drier_inlet_temp")),
    Sign("drier_drop", "Drier drop", _K, ("drier_inlet_temp", "drier_outlet_temp"),
         _derived("drier_drop")),
    Sign("drop_past_drier", "Drop past the drier", _K,
         ("drier_outlet_temp", "liquid_line_temp_indoor"),
         _between("drier_outlet_temp", "liquid_line_temp_indoor")),
    Sign("liquid_line_drop", "Liquid line drop", _K,
         ("liquid_line_temp", "liquid_line_temp_indoor"), _derived("liquid_line_drop"),
         in_place_of="drop_past_drier"),
    Sign("rise_at_reversing_valve", "Rise across the reversing valve", _K,
         ("true_suction_temp", "suction_line_temp"),
         _between("true_suction_temp", "suction_line_temp")),
    Sign("return_air", "Return air", Quantity.TEMPERATURE, (_RA,), _return_warmth,
         lambda _: USUAL_RETURN_C, is_weather=True),
    Sign("return_wet_bulb", "Return wet bulb", Quantity.TEMPERATURE, ("return_air_wet_bulb",),
         lambda case: case.readings.get("return_air_wet_bulb"), lambda _: USUAL_WET_BULB_C,
         is_weather=True),
    Sign("outdoor_air", "Outdoor air", Quantity.TEMPERATURE, (_OA,),
         lambda case: case.readings.get(_OA), lambda _: USUAL_OUTDOOR_C, is_weather=True),
    Sign("valve_pressure", "Valve pressure difference", _P, (*_LOW, *_HIGH), _valve_need,
         lambda _: USUAL_VALVE_SHARE, in_place_of="outdoor_air", is_weather=True),
    Sign("pressure_ratio", "Pressure ratio", Quantity.RATIO, (*_LOW, *_HIGH),
         _derived("pressure_ratio"), lambda _: 3.0, in_place_of="condensing_over_ambient"),
)  # fmt: skip

SIGNS: Mapping[str, Sign] = MappingProxyType({row.key: row for row in _ROWS})
