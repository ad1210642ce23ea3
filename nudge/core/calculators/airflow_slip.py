"""The airflow slip: strips, the heat balance, static pressure."""

from collections.abc import Callable
from dataclasses import dataclass, replace

from nudge.core.calculators.blanks import given
from nudge.core.calculators.slip import Entered, SlipLine, SlipOutcome
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
from nudge.core.physics.air.heat import standard_flow
from nudge.core.physics.air.moist_air import MoistAir, moist_air
from nudge.core.physics.air.static import DuctReading, read_static
from nudge.core.physics.circuit.derived import unread_supply_air
from nudge.core.physics.circuit.derived_table import DERIVED

_T, _Q, CFM = Quantity.TEMPERATURE, Quantity.CAPACITY, Quantity.AIRFLOW


def return_air(values: Values, elevation: float) -> MoistAir:
    return moist_air(values["return_air_temp"], elevation, values["return_air_wet_bulb"])


HEAT_NEEDS = {
    "supply_air_temp": "supply air",
    "supply_air_wet_bulb": "supply wet bulb",
    "airflow": "airflow, for the heat taken",
}


HEAT_READINGS = (
    "return_air_temp",
    "return_air_wet_bulb",
    "supply_air_temp",
    "supply_air_wet_bulb",
    "airflow",
    "outdoor_air_temp",
)


HEAT_SHOWN = (
    "capacity_total",
    "capacity_sensible",
    "capacity_latent",
    "sensible_heat_ratio",
    "capacity_normalised",
)


TARGET = Formula(
    "airflow_target",
    "Airflow wanted",
    CFM,
    "Standard air the coil should have, ±12 %. A heat pump's plate wins.",
    "capacity × airflow per ton of this climate",
    "{nominal_capacity} × {per_ton} = {result}",
    ("nominal_capacity", "per_ton"),
    "Trade rule, by climate.",
)


MEASURED = Formula(
    "airflow_measured",
    "Airflow measured, as standard air",
    CFM,
    "The same air at standard density: what targets are stated in. Thin or hot air counts less.",
    "actual airflow × its dry-air density ÷ standard density",
    "{airflow} at {supply_air_temp} = {result}",
    ("airflow", "supply_air_temp", "elevation"),
    "ASHRAE Fundamentals 2017, chapter 1, through PsychroLib.",
)


STRIP = Formula(
    "airflow_by_strips",
    "Airflow by strips",
    CFM,
    "Heat put in by the strips over the rise it makes, at the air's real density.",
    "volts × amps ÷ (density × specific heat × rise)",
    "{strip_volts} × {strip_circuit_amps} over {heated_air_temp} − {return_air_temp} = {result}",
    ("strip_volts", "strip_circuit_amps", "heated_air_temp", "return_air_temp", "elevation"),
    "Energy balance; the field's CFM = watts × 3.412 ÷ (1.08 × rise).",
)


BALANCE = Formula(
    "airflow_by_balance",
    "Airflow by capacity balance",
    CFM,
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
        return_air(values, elevation),
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
