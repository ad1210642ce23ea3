"""What every number of a case opens to: formula, today's values, sources, uncertainty."""

from collections.abc import Mapping

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Measure
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.language.working import Input, Values, Working, propagate_all, with_own_error
from nudge.core.physics.air.airflow import AIRFLOW_METHODS
from nudge.core.physics.air.coil import CAPACITY_OWN_ERROR
from nudge.core.physics.circuit.derived import derive
from nudge.core.physics.circuit.derived_table import DERIVED, formula_of
from nudge.core.physics.circuit.plate_fields import PLATE_NUMBERS

OWN_SHARE = {
    "capacity_normalised": CAPACITY_OWN_ERROR,
    "airflow_by_table": AIRFLOW_METHODS["blower_table"].own_error or 0.0,
}
"""A method's own ± as a share of its value, beside what its readings bring."""


def derived_workings(case: Case, sources: Mapping[str, str] | None = None) -> dict[str, Working]:
    """Every derived quantity the case has, opened.

    `sources` says where each reading came from (`typed`, `live` …); typed where it is silent.
    """
    spread = _spread(case)
    inputs = given_inputs(case, sources or {}, spread)
    found = {}
    for key in DERIVED:
        value = case.derived.get(key)
        if value is not None:
            formula = formula_of(key, case.derived)
            shown = tuple(inputs[name] for name in formula.uses if name in inputs)
            ends = with_own_error(spread.get(key), OWN_SHARE.get(key, 0.0) * abs(value))
            found[key] = Working(formula, value, shown, ends)
    return found


def given_inputs(
    case: Case, sources: Mapping[str, str], spread: Mapping[str, float] | None = None
) -> dict[str, Input]:
    """Everything a formula of this case can name: readings, plate numbers, derived numbers."""
    found = {}
    for row in PLATE_NUMBERS:
        value = getattr(case.plate, row.field)
        if value is not None:
            found[row.key] = Input(row.key, row.label, Measure(value, row.quantity), "plate")
    for key, value in case.readings.items():
        point = POINTS[key]
        found[key] = Input(
            key,
            point.label,
            Measure(value, point.quantity),
            sources.get(key, "typed"),
            case.limit(key),
        )
    for key, formula in DERIVED.items():
        value = case.derived.get(key)
        if value is not None:
            measure = Measure(value, formula.quantity)
            found[key] = Input(key, formula.label, measure, "computed", (spread or {}).get(key))
    return found


def _spread(case: Case) -> dict[str, float]:
    """± of every derived quantity, from the readings' own."""

    def results(values: Values) -> Mapping[str, float | None]:
        derived = derive(case.plate, values, case.behaviour.roles)
        return {key: derived.get(key) for key in DERIVED}

    limits = reading_limits(case)
    return propagate_all(results, case.readings, limits)


def reading_limits(case: Case) -> dict[str, float]:
    """± of each reading, core units."""
    return {key: case.limit(key) for key in case.readings}
