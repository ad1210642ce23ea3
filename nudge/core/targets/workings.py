"""What every target of a case opens to: the school's rule with today's numbers in it."""

from collections.abc import Mapping

from nudge.core.behaviours.case import Case, open_case
from nudge.core.behaviours.workings import given_inputs, reading_limits
from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.language.working import Formula, Input, Values, Working, propagate
from nudge.core.targets.choose import SCHOOLS, Targets
from nudge.core.targets.school import School, Target

_SCHOOLS = {school.key: school for school in SCHOOLS}
_D = Quantity.TEMPERATURE_DIFFERENCE


def target_workings(
    case: Case, targets: Targets, sources: Mapping[str, str] | None = None
) -> dict[str, Working]:
    """Each target window opened, under `target_` and the quantity it judges."""
    inputs = given_inputs(case, sources or {})
    return {
        f"target_{judged}": _opened(case, _SCHOOLS[window.method], window, inputs)
        for judged, window in targets.windows.items()
    }


def _opened(case: Case, school: School, window: Target, inputs: Mapping[str, Input]) -> Working:
    shown = tuple(inputs[name] for name in school.uses if name in inputs)
    low = Input("low", "Window from", Measure(window.low, _D), window.source)
    high = Input("high", "Window to", Measure(window.high, _D), window.source)
    formula = Formula(
        f"target_{school.judges}",
        f"Target, {school.label.lower()}",
        _D,
        school.reason,
        school.formula,
        f"{window.source}: {{result}}",
        school.uses,
        school.reference,
    )
    moved = {key for key in school.uses if key in POINTS} & set(case.readings)
    limits = {k: v for k, v in reading_limits(case).items() if k in moved}
    if "airflow_per_capacity" in school.uses and "airflow" in case.readings:
        limits["airflow"] = reading_limits(case)["airflow"]

    def value(values: Values) -> float | None:
        target = school.target(open_case(case.plate, values, case.context, case.behaviour))
        return None if target is None else target.value

    spread = propagate(value, case.readings, limits)
    return Working(formula, window.value, (*shown, low, high), spread, window.today)
