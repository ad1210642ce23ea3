"""Moist air, airflow and its target, the expected split."""

from dataclasses import replace

from nudge.core.behaviours.case import Context, open_case
from nudge.core.behaviours.workings import derived_workings
from nudge.core.calculators.airflow_slip import (
    HEAT_NEEDS,
    HEAT_READINGS,
    HEAT_SHOWN,
    airflow,
    return_air,
)
from nudge.core.calculators.blanks import given
from nudge.core.calculators.refrigerant_slips import plate_of
from nudge.core.calculators.slip import Entered, Slip, SlipLine, SlipOutcome, needs
from nudge.core.language.said import say
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Values, work
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
from nudge.core.physics.circuit.derived_table import DERIVED

_ASHRAE = "ASHRAE Fundamentals 2017, chapter 1, through PsychroLib."
_AIR_USES = ("return_air_temp", "return_air_wet_bulb", "elevation")

PROPERTIES = (
    (Formula("relative_humidity", "Humidity", Quantity.HUMIDITY, "How full of water the air is.",
             "from dry and wet bulb at local pressure",
             "{return_air_temp} dry, {return_air_wet_bulb} wet = {result}", _AIR_USES, _ASHRAE),
     lambda air: air.relative_humidity),
    (Formula("dew_point", "Dew point", Quantity.TEMPERATURE, "A surface colder than this sweats.",
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


def air(entered: Entered) -> SlipOutcome:
    """What return air is made of; with supply air and airflow, the heat taken from it."""
    if not entered.has("return_air_temp", "return_air_wet_bulb"):
        return SlipOutcome(needs=needs(entered, _AIR_NEEDS))
    elevation = entered.get("elevation", 0.0)
    inputs = given(entered, *_AIR_USES)
    lines = [
        SlipLine(work(f, lambda v, of=of: of(return_air(v, elevation)), inputs))  # type: ignore[misc]
        for f, of in PROPERTIES
    ]
    readings = {key: entered[key] for key in HEAT_READINGS if key in entered}
    case = open_case(plate_of(entered), readings, Context())
    heat = derived_workings(case)
    lines += [SlipLine(heat[key]) for key in HEAT_SHOWN if key in heat]
    return SlipOutcome(tuple(lines), (), needs(entered, HEAT_NEEDS))


_AIR_NEEDS = {"return_air_temp": "return air", "return_air_wet_bulb": "return wet bulb"}


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
    Quantity.CAPACITY,
    "What its nominal capacity comes to on this air.",
    "coil model",
    "{nominal_capacity} carried to today's air = {result}",
    ("nominal_capacity", "return_air_wet_bulb", "outdoor_air_temp", "airflow_per_ton"),
    "Coil model, docs/method.md; its own ±8 % is in the uncertainty.",
)
COIL = Formula(
    "expected_saturation",
    "Coil saturation to expect",
    Quantity.TEMPERATURE,
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
        return expected_coil(return_air(values, elevation), values["outdoor_air_temp"], flow, wet)

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
