"""Estimated saturations from air, and what superheat and subcooling would then be.

Every number here is an estimate and says so: each opens to the way it was got, and carries
the way's own ± beside its readings'. Several ways are shown; the first that applies is used.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from nudge.core.behaviours.case import Case, open_case
from nudge.core.behaviours.workings import given_inputs, reading_limits
from nudge.core.expectations.expected import coil_saturation_c, expected, is_known
from nudge.core.language.errors import OutOfRange
from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity, degrees_f
from nudge.core.language.working import Formula, Input, Values, Working, propagate, with_own_error
from nudge.core.physics.refrigerant.saturation import pressures_at
from nudge.core.physics.refrigerant.table import load_table

THIRTY_FIVE_K, OVERSIZED_K = degrees_f(35), degrees_f(30)
THIRTY_FIVE_OWN_ERROR_K = degrees_f(6)
OWN_HISTORY_ERROR_K = degrees_f(3)
PLATE_OWN_ERROR_K = degrees_f(3)
LIMIT_SIGMAS = 2.0
"""A ± shown is two σ, as an instrument's is."""
_T, _D = Quantity.TEMPERATURE, Quantity.TEMPERATURE_DIFFERENCE


@dataclass(frozen=True, slots=True)
class OwnHistory:
    """What this system showed when it was last known to be right [K]; None where unknown."""

    evaporator_difference: float | None = None
    condensing_over_ambient: float | None = None
    approach: float | None = None


@dataclass(frozen=True, slots=True)
class EstimateWay:
    """One way to estimate a saturation: air moved by a step, or a model of its own."""

    formula: Formula
    air: str
    step: Callable[[Case, OwnHistory], float | None] | None
    """What is added to the air [K], or None where the coil model says it all."""
    own_error: Callable[[Case], float] | None = None
    """The way's own ± [K] where it depends on the case; else the formula's."""

    def value(self, case: Case, own: OwnHistory) -> float | None:
        """The estimate [°C]; None where this way does not apply."""
        if self.step is None:
            return coil_saturation_c(case)
        air, step = case.readings.get(self.air), self.step(case, own)
        return None if air is None or step is None else air + step


def _own_difference(_: Case, own: OwnHistory) -> float | None:
    return None if own.evaporator_difference is None else -own.evaporator_difference


def _plate_step(case: Case, _: OwnHistory) -> float | None:
    return case.plate.condensing_over_ambient_k


def _own_step(_: Case, own: OwnHistory) -> float | None:
    return own.condensing_over_ambient


def _class_step(case: Case, _: OwnHistory) -> float | None:
    if not is_known(case, "condensing_over_ambient"):
        return None  # of such plant nothing is known by its class
    return expected(case, "condensing_over_ambient").value


def _class_error(case: Case) -> float:
    return LIMIT_SIGMAS * expected(case, "condensing_over_ambient").sigma


def _coil_error(case: Case) -> float:
    return LIMIT_SIGMAS * expected(case, "evaporator_difference").sigma


EVAPORATOR_WAYS: tuple[EstimateWay, ...] = (
    EstimateWay(
        Formula(
            "evaporator_by_history", "Evaporator saturation, own history", _T,
            "The difference this system showed when it was right, under today's return air.",
            "return air − own evaporator difference", "{return_air_temp} − {step} = {result}",
            ("return_air_temp",), "This system's own visits.", OWN_HISTORY_ERROR_K,
        ),
        "return_air_temp", _own_difference,
    ),
    EstimateWay(
        Formula(
            "evaporator_by_model", "Evaporator saturation, coil model", _T,
            "What a healthy coil boils at on this air, humidity and airflow.",
            "coil model at return dry and wet bulb, outdoor air, airflow",
            "coil model on {return_air_temp} air = {result}",
            ("return_air_temp", "return_air_wet_bulb", "return_air_rh", "outdoor_air_temp",
             "airflow_per_capacity"),
            "Coil model and expectations, docs/method.md.",
        ),
        "return_air_temp", None, _coil_error,
    ),
    EstimateWay(
        Formula(
            "evaporator_by_35", "Evaporator saturation, {d35} rule", _T,
            "Ordinary coils boil about {d35} under their return air at normal airflow and mid "
            "humidity.",
            "return air − {d35}", "{return_air_temp} − {step} = {result}", ("return_air_temp",),
            "Trade rule.", THIRTY_FIVE_OWN_ERROR_K,
        ),
        "return_air_temp", lambda _case, _own: -THIRTY_FIVE_K,
    ),
    EstimateWay(
        Formula(
            "evaporator_by_30", "Evaporator saturation, {d30} rule", _T,
            "The same with an oversized coil.",
            "return air − {d30}", "{return_air_temp} − {step} = {result}", ("return_air_temp",),
            "Trade rule, oversized coils.", THIRTY_FIVE_OWN_ERROR_K,
        ),
        "return_air_temp", lambda _case, _own: -OVERSIZED_K,
    ),
)  # fmt: skip

CONDENSER_WAYS: tuple[EstimateWay, ...] = (
    EstimateWay(
        Formula(
            "condenser_by_plate", "Condenser saturation, plate", _T,
            "The plate's own condensing over ambient, over today's outdoor air.",
            "outdoor air + plate's condensing over ambient",
            "{outdoor_air_temp} + {condensing_over_ambient} = {result}",
            ("outdoor_air_temp", "condensing_over_ambient"), "The plate.", PLATE_OWN_ERROR_K,
        ),
        "outdoor_air_temp", _plate_step,
    ),
    EstimateWay(
        Formula(
            "condenser_by_history", "Condenser saturation, own history", _T,
            "What this system showed when it was right, over today's outdoor air.",
            "outdoor air + own condensing over ambient",
            "{outdoor_air_temp} + {step} = {result}", ("outdoor_air_temp",),
            "This system's own visits.", OWN_HISTORY_ERROR_K,
        ),
        "outdoor_air_temp", _own_step,
    ),
    EstimateWay(
        Formula(
            "condenser_by_class", "Condenser saturation, efficiency class", _T,
            "Better coils condense closer to the air: about {d30} over it for SEER 6 to 9, {d25} "
            "for 10 to 12, {d20} for 13 to 16, {d15} for 17 and over, between them in proportion; "
            "then carried to today's air like every expectation.",
            "outdoor air + condensing over ambient of its class",
            "{outdoor_air_temp} + {step} = {result}",
            ("outdoor_air_temp", "rated_seer"), "Trade rule and expectations, docs/method.md.",
        ),
        "outdoor_air_temp", _class_step, _class_error,
    ),
)  # fmt: skip

SUPERHEAT = Formula(
    "estimated_superheat",
    "Superheat, estimated",
    _D,
    "What superheat would be if the coil boils where this air says it should.",
    "suction line − estimated evaporator saturation",
    "{suction_line_temp} − {estimated_saturation} = {result}",
    ("suction_line_temp", "estimated_saturation"),
    "Estimate, no gauges.",
)
SUBCOOLING = Formula(
    "estimated_subcooling",
    "Subcooling, estimated",
    _D,
    "What subcooling would be if the condenser works where this air says it should.",
    "estimated condenser saturation − liquid line",
    "{estimated_saturation} − {liquid_line_temp} = {result}",
    ("liquid_line_temp", "estimated_saturation"),
    "Estimate, no gauges.",
)


GAUGE_LOW = Formula(
    "expected_suction_pressure",
    "Suction pressure a gauge should show",
    Quantity.PRESSURE,
    "The dew pressure at the estimated evaporator saturation, over today's atmosphere.",
    "dew pressure at the estimated saturation − atmosphere",
    "at {estimated_saturation}: {result}",
    ("estimated_saturation",),
    "Refrigerant tables; estimate, no gauges.",
)
GAUGE_HIGH = Formula(
    "expected_liquid_pressure",
    "Liquid pressure a gauge should show",
    Quantity.PRESSURE,
    "The bubble pressure at the estimated condenser saturation, over today's atmosphere.",
    "bubble pressure at the estimated saturation − atmosphere",
    "at {estimated_saturation}: {result}",
    ("estimated_saturation",),
    "Refrigerant tables; estimate, no gauges.",
)


@dataclass(frozen=True, slots=True)
class Estimates:
    """What the look knows. `evaporator` and `condenser` hold every way that applied, best first."""

    evaporator: tuple[Working, ...]
    condenser: tuple[Working, ...]
    superheat: Working | None
    subcooling: Working | None
    suction: Working | None = None
    """What a gauge should show on the low side, and `liquid` on the high side."""
    liquid: Working | None = None


def estimate(case: Case, own: OwnHistory) -> Estimates:
    """Everything air and line temperatures allow."""
    evaporator = tuple(_ways(EVAPORATOR_WAYS, case, own))
    condenser = tuple(_ways(CONDENSER_WAYS, case, own))
    return Estimates(
        evaporator,
        condenser,
        _gap(SUPERHEAT, case, evaporator[0], "suction_line_temp", 1) if evaporator else None,
        _gap(SUBCOOLING, case, condenser[0], "liquid_line_temp", -1) if condenser else None,
        _gauge(GAUGE_LOW, case, evaporator[0], of_dew=True) if evaporator else None,
        _gauge(GAUGE_HIGH, case, condenser[0], of_dew=False) if condenser else None,
    )


def gauges(case: Case, own: OwnHistory) -> dict[str, Working]:
    """The pressures alone, each by its best way: by point, for those that can be told."""
    found = {}
    sides = (
        ("suction_pressure", GAUGE_LOW, EVAPORATOR_WAYS),
        ("liquid_pressure", GAUGE_HIGH, CONDENSER_WAYS),
    )
    for point, formula, ways in sides:
        best = next(_ways(ways, case, own), None)
        shown = None if best is None else _gauge(formula, case, best, formula is GAUGE_LOW)
        if shown is not None:
            found[point] = shown
    return found


def _gauge(formula: Formula, case: Case, saturation: Working, of_dew: bool) -> Working | None:
    """The pressure at an estimated saturation [kPa gauge]; None off the fluid's table."""
    table, give = load_table(case.plate.refrigerant), saturation.uncertainty or 0.0

    def at(temp_c: float) -> float:
        bubble, dew = pressures_at(table, temp_c, case.plate.elevation_m)
        return dew if of_dew else bubble

    try:
        middle, low, high = (at(saturation.value + off) for off in (0.0, -give, give))
    except OutOfRange:
        return None
    estimated = _estimated(saturation)
    return Working(formula, middle, (estimated,), (high - low) / 2)


def _estimated(saturation: Working) -> Input:
    """An estimated saturation, as what follows from it rests on it."""
    return Input(
        "estimated_saturation",
        saturation.formula.label,
        saturation.measure,
        "estimated",
        saturation.uncertainty,
    )


def _ways(ways: tuple[EstimateWay, ...], case: Case, own: OwnHistory) -> Iterator[Working]:
    inputs = given_inputs(case, {})
    for way in ways:
        value = way.value(case, own)
        if value is None:
            continue
        limits = {
            key: limit for key, limit in reading_limits(case).items() if key in way.formula.uses
        }

        def moved(values: Values, way: EstimateWay = way) -> float | None:
            return way.value(open_case(case.plate, values, case.context, case.behaviour), own)

        own_error = way.formula.own_error if way.own_error is None else way.own_error(case)
        spread = with_own_error(propagate(moved, case.readings, limits), own_error)
        shown = [inputs[name] for name in way.formula.uses if name in inputs]
        if way.step is not None:
            step = Measure(abs(value - case.readings[way.air]), _D)
            shown.append(Input("step", "Difference", step, way.formula.reference))
        yield Working(way.formula, value, tuple(shown), spread)


def _gap(formula: Formula, case: Case, saturation: Working, line: str, sign: int) -> Working | None:
    if line not in case.readings:
        return None
    given = given_inputs(case, {})[line]
    estimated = _estimated(saturation)
    value = sign * (given.measure.value - saturation.value)
    spread = with_own_error(given.uncertainty, saturation.uncertainty or 0.0)
    return Working(formula, value, (given, estimated), spread)
