"""Moist air, airflow and its target, the expected split."""

from collections.abc import Callable
from dataclasses import dataclass, replace

from nudge.core.behaviours.case import Context, open_case
from nudge.core.behaviours.workings import derived_workings
from nudge.core.calculators.blanks import given
from nudge.core.calculators.refrigerant_slips import plate_of
from nudge.core.calculators.slip import Entered, Slip, SlipLine, SlipOutcome, needs
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, Values, work
from nudge.core.physics.air.airflow import (
    AIRFLOW_METHODS,
    CLIMATES,
    TOLERANCE,
    balance_airflow,
    blower_amps_say,
    strip_airflow,
)
from nudge.core.physics.air.coil import (
    CAPACITY_OWN_ERROR,
    RATED_KG_PER_S_PER_W,
    SATURATION_OWN_ERROR_K,
    SPLIT_OWN_ERROR_K,
    ExpectedCoil,
    capacity_share,
    expected_coil,
    share_of_rated,
)
from nudge.core.physics.air.heat import standard_flow
from nudge.core.physics.air.moist_air import MoistAir, moist_air
from nudge.core.physics.air.static import DuctReading, read_static
from nudge.core.physics.circuit.derived import unread_supply_air
from nudge.core.physics.circuit.derived_table import DERIVED

_T, _Q, _CFM = Quantity.TEMPERATURE, Quantity.CAPACITY, Quantity.AIRFLOW
_ASHRAE = "ASHRAE Fundamentals 2017, chapter 1, through PsychroLib."
_AIR_USES = ("return_air_temp", "return_air_wet_bulb", "elevation")

PROPERTIES = (
    (Formula("relative_humidity", "Humidity", Quantity.HUMIDITY, "How full of water the air is.",
             "from dry and wet bulb at local pressure",
             "{return_air_temp} dry, {return_air_wet_bulb} wet = {result}", _AIR_USES, _ASHRAE),
     lambda air: air.relative_humidity),
    (Formula("dew_point", "Dew point", _T, "A surface colder than this sweats.",
             "from dry and wet bulb at local pressure",
             "{return_air_temp} dry, {return_air_wet_bulb} wet = {result}", _AIR_USES, _ASHRAE),
     lambda air: air.dew_point_c),
    (Formula("moisture", "Moisture", Quantity.MOISTURE, "Water carried by the air.",
             "from dry and wet bulb at local pressure",
             "{return_air_temp} dry, {return_air_wet_bulb} wet = {result}", _AIR_USES, _ASHRAE),
     lambda air: air.humidity_ratio * 1000),
    (Formula("air_density", "Density", Quantity.DENSITY, "Thin air carries less heat.",
             "mass of air and water ÷ volume",
             "{return_air_temp} dry, {return_air_wet_bulb} wet = {result}", _AIR_USES, _ASHRAE),
     lambda air: air.density_kg_per_m3),
)  # fmt: skip


def _return_air(values: Values, elevation: float) -> MoistAir:
    return moist_air(values["return_air_temp"], elevation, values["return_air_wet_bulb"])


def air(entered: Entered) -> SlipOutcome:
    """What return air is made of; with supply air and airflow, the heat taken from it."""
    if not entered.has("return_air_temp", "return_air_wet_bulb"):
        return SlipOutcome(needs=needs(entered, _AIR_NEEDS))
    elevation = entered.get("elevation", 0.0)
    inputs = given(entered, *_AIR_USES)
    lines = [
        SlipLine(work(f, lambda v, of=of: of(_return_air(v, elevation)), inputs))  # type: ignore[misc]
        for f, of in PROPERTIES
    ]
    readings = {key: entered[key] for key in _HEAT_READINGS if key in entered}
    case = open_case(plate_of(entered), readings, Context())
    heat = derived_workings(case)
    lines += [SlipLine(heat[key]) for key in _HEAT_SHOWN if key in heat]
    return SlipOutcome(tuple(lines), (), needs(entered, _HEAT_NEEDS))


_AIR_NEEDS = {"return_air_temp": "return air", "return_air_wet_bulb": "return wet bulb"}
_HEAT_NEEDS = {
    "supply_air_temp": "supply air",
    "supply_air_wet_bulb": "supply wet bulb",
    "airflow": "airflow, for the heat taken",
}
_HEAT_READINGS = (
    "return_air_temp",
    "return_air_wet_bulb",
    "supply_air_temp",
    "supply_air_wet_bulb",
    "airflow",
    "outdoor_air_temp",
)
_HEAT_SHOWN = (
    "capacity_total",
    "capacity_sensible",
    "capacity_latent",
    "sensible_heat_ratio",
    "capacity_normalised",
)

TARGET = Formula(
    "airflow_target",
    "Airflow wanted",
    _CFM,
    "Standard air the coil should have, ±12 %. A heat pump's plate wins.",
    "capacity × airflow per ton of this climate",
    "{nominal_capacity} × {per_ton} = {result}",
    ("nominal_capacity", "per_ton"),
    "Trade rule, by climate.",
)
MEASURED = Formula(
    "airflow_measured",
    "Airflow measured, as standard air",
    _CFM,
    "The same air at standard density: what targets are stated in. Thin or hot air counts less.",
    "actual airflow × its dry-air density ÷ standard density",
    "{airflow} at {supply_air_temp} = {result}",
    ("airflow", "supply_air_temp", "elevation"),
    "ASHRAE Fundamentals 2017, chapter 1, through PsychroLib.",
)
STRIP = Formula(
    "airflow_by_strips",
    "Airflow by strips",
    _CFM,
    "Heat put in by the strips over the rise it makes, at the air's real density.",
    "volts × amps ÷ (density × specific heat × rise)",
    "{strip_volts} × {strip_circuit_amps} over {heated_air_temp} − {return_air_temp} = {result}",
    ("strip_volts", "strip_circuit_amps", "heated_air_temp", "return_air_temp", "elevation"),
    "Energy balance; the field's CFM = watts × 3.412 ÷ (1.08 × rise).",
)
BALANCE = Formula(
    "airflow_by_balance",
    "Airflow by capacity balance",
    _CFM,
    "The air that would carry the capacity this system should have now. Only where charge and "
    "compressor are known to be right.",
    "expected capacity ÷ (return − supply) enthalpy",
    "{nominal_capacity} carried to today's air, over its enthalpy drop = {result}",
    (
        "nominal_capacity",
        "return_air_temp",
        "return_air_wet_bulb",
        "supply_air_temp",
        "supply_air_wet_bulb",
        "outdoor_air_temp",
    ),
    "Coil model, docs/method.md.",
)


def airflow(entered: Entered) -> SlipOutcome:
    """The airflow wanted, the airflow each way gives, and what statics and amps say."""
    lines, words = [], list(_static_words(entered))
    wanted = None
    if "nominal_capacity" in entered:
        climate = CLIMATES[entered.pick("climate")]
        per_ton = Input(
            "per_ton",
            f"{climate.label} climate",
            Measure(climate.lps_per_kw, Quantity.AIRFLOW_PER_CAPACITY),
            climate.reason,
        )
        target = work(
            TARGET,
            lambda v: v["nominal_capacity"] / 1000 * v["per_ton"],
            given(entered, "nominal_capacity") | {"per_ton": per_ton},
        )
        wanted = (target.value * (1 - TOLERANCE), target.value * (1 + TOLERANCE))
        lines.append(SlipLine(target))
    lines += [_way_line(entered, way, wanted) for way in _WAYS if entered.has(*way.blanks)]
    if entered.has("supply_static", "return_static"):
        statics = given(entered, "supply_static", "return_static")
        formula = DERIVED["external_static"]
        working = work(formula, lambda v: v["supply_static"] - v["return_static"], statics)
        lines.append(SlipLine(working, reading="total_external_static"))
    if entered.has("blower_amps", "blower_plate_amps"):
        row = blower_amps_say(
            entered.pick("blower_motor"), entered["blower_amps"], entered["blower_plate_amps"]
        )
        words.append(say(row.sentence))
    asks = () if lines or words else ("capacity, or strips, or statics",)
    return SlipOutcome(tuple(lines), tuple(words), asks)


def _static_words(entered: Entered) -> list[Said]:
    return read_static(
        DuctReading(
            entered.get("supply_static"),
            entered.get("return_static"),
            None,
            entered.get("filter_pressure_drop"),
        )
    )


def _as_standard(values: Values, elevation: float) -> float:
    supply = unread_supply_air(values["supply_air_temp"], elevation)
    return standard_flow(supply, values["airflow"])


def _by_strips(values: Values, elevation: float) -> float:
    entering = moist_air(values["return_air_temp"], elevation, relative_humidity=45)
    rise = values["heated_air_temp"] - values["return_air_temp"]
    return strip_airflow(values["strip_volts"] * values["strip_circuit_amps"], rise, entering)


def _by_balance(values: Values, elevation: float) -> float:
    leaving = moist_air(values["supply_air_temp"], elevation, values["supply_air_wet_bulb"])
    return balance_airflow(
        values["nominal_capacity"],
        _return_air(values, elevation),
        leaving,
        values["outdoor_air_temp"],
    )


@dataclass(frozen=True, slots=True)
class _Way:
    """One way to airflow: the method's row, its formula, its sum, the blanks it needs."""

    method: str
    formula: Formula
    value: Callable[[Values, float], float]
    blanks: tuple[str, ...]
    is_reading: bool = False
    """Airflow as it was read: its ± is the reading's own, and it is not sent twice."""


_WAYS = (
    _Way("flow_measured", MEASURED, _as_standard, ("airflow", "supply_air_temp"), is_reading=True),
    _Way(
        "strip_heat",
        STRIP,
        _by_strips,
        ("strip_volts", "strip_circuit_amps", "heated_air_temp", "return_air_temp"),
    ),
    _Way(
        "capacity_balance",
        BALANCE,
        _by_balance,
        (
            "nominal_capacity",
            "return_air_temp",
            "return_air_wet_bulb",
            "supply_air_temp",
            "supply_air_wet_bulb",
            "outdoor_air_temp",
        ),
    ),
)


def _way_line(entered: Entered, way: _Way, wanted: tuple[float, float] | None) -> SlipLine:
    """One way's airflow, its own ± added, against the airflow wanted."""
    elevation = entered.get("elevation", 0.0)
    share = 0.0 if way.is_reading else AIRFLOW_METHODS[way.method].own_error or 0.0
    own = share * way.value(entered, elevation)
    inputs = given(entered, *way.blanks, "elevation")
    formula = replace(way.formula, own_error=own)
    low, high = wanted or (None, None)
    worked = work(formula, lambda v: way.value(v, elevation), inputs)
    return SlipLine(worked, low, high, "wanted", None if way.is_reading else "airflow")


SPLIT = Formula(
    "expected_split",
    "Split to expect",
    Quantity.TEMPERATURE_DIFFERENCE,
    "What a healthy coil does to this air. A small split in humid air can be perfectly healthy; "
    "never slow the blower to make 20.",
    "coil model at return dry and wet bulb, outdoor air and airflow per ton",
    "coil model: {return_air_temp} dry, {return_air_wet_bulb} wet, {outdoor_air_temp} out, "
    "{airflow_per_ton} = {result}",
    ("return_air_temp", "return_air_wet_bulb", "outdoor_air_temp", "airflow_per_ton"),
    "Coil model, docs/method.md.",
    SPLIT_OWN_ERROR_K,
)
CAPACITY = Formula(
    "expected_capacity",
    "Capacity to expect",
    _Q,
    "What its nominal capacity comes to on this air.",
    "coil model",
    "{nominal_capacity} carried to today's air = {result}",
    ("nominal_capacity", "return_air_wet_bulb", "outdoor_air_temp", "airflow_per_ton"),
    "Coil model, docs/method.md; its own ±8 % is in the uncertainty.",
)
COIL = Formula(
    "expected_saturation",
    "Coil saturation to expect",
    _T,
    "Where a healthy coil boils on this air: an estimate, without gauges.",
    "coil model",
    "coil model on {return_air_temp} air = {result}",
    ("return_air_temp", "return_air_wet_bulb", "outdoor_air_temp", "airflow_per_ton"),
    "Coil model, docs/method.md.",
    SATURATION_OWN_ERROR_K,
)


def split(entered: Entered) -> SlipOutcome:
    """The split to expect, beside the one measured."""
    blanks = ("return_air_temp", "return_air_wet_bulb", "outdoor_air_temp")
    if not entered.has(*blanks):
        return SlipOutcome(needs=needs(entered, _AIR_NEEDS | {"outdoor_air_temp": "outdoor air"}))
    elevation = entered.get("elevation", 0.0)
    inputs = given(entered, *blanks, "airflow_per_ton")

    def coil(values: Values) -> ExpectedCoil:
        flow = share_of_rated(values["airflow_per_ton"]) * RATED_KG_PER_S_PER_W
        wet = min(values["return_air_wet_bulb"], values["return_air_temp"])
        return expected_coil(_return_air(values, elevation), values["outdoor_air_temp"], flow, wet)

    expected = work(SPLIT, lambda v: coil(v).split_k, inputs)
    lines = [SlipLine(expected), SlipLine(work(COIL, lambda v: coil(v).saturation_c, inputs))]
    if "supply_air_temp" in entered:
        off = expected.uncertainty or SPLIT_OWN_ERROR_K
        airs = given(entered, "return_air_temp", "supply_air_temp")
        formula = DERIVED["temperature_split"]
        measured = work(formula, lambda v: v["return_air_temp"] - v["supply_air_temp"], airs)
        lines.insert(1, SlipLine(measured, expected.value - off, expected.value + off, "expected"))
    if "nominal_capacity" in entered:
        share = share_of_rated(entered["airflow_per_ton"])
        formula = replace(CAPACITY, own_error=CAPACITY_OWN_ERROR * entered["nominal_capacity"])
        lines.append(
            SlipLine(
                work(
                    formula,
                    lambda v: (
                        v["nominal_capacity"]
                        * capacity_share(v["return_air_wet_bulb"], v["outdoor_air_temp"], share)
                    ),
                    inputs | given(entered, "nominal_capacity"),
                )
            )
        )
    return SlipOutcome(tuple(lines))


SLIPS = (
    Slip("airflow", "Airflow",
         ("nominal_capacity", "climate", "strip_volts", "strip_circuit_amps", "return_air_temp",
          "heated_air_temp"), airflow,
         say("Live terminals and moving blowers: rated gloves, panels back before air is judged."),
         seldom=("supply_static", "return_static", "filter_pressure_drop", "blower_motor",
                 "blower_amps", "blower_plate_amps", "airflow", "supply_air_temp",
                 "return_air_wet_bulb", "supply_air_wet_bulb", "outdoor_air_temp", "elevation")),
    Slip("split", "Split to expect",
         ("return_air_temp", "return_air_wet_bulb", "outdoor_air_temp", "airflow_per_ton",
          "supply_air_temp"), split, seldom=("nominal_capacity", "elevation")),
    Slip("air", "Air and its heat",
         ("return_air_temp", "return_air_wet_bulb", "supply_air_temp", "supply_air_wet_bulb",
          "airflow"), air, seldom=("nominal_capacity", "outdoor_air_temp", "elevation")),
)  # fmt: skip
