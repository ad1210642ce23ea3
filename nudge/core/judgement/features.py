"""The measured marks a judgement rests on, each against what is expected of this system."""

from collections.abc import Callable
from dataclasses import dataclass
from math import inf

from nudge.core.behaviours.case import Case
from nudge.core.expectations.expected import WINDOW_SIGMAS, coil_saturation_c, expected, is_known
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.derived_table import DERIVED, formula_of
from nudge.core.targets import approach, fallback_subcooling, typical_subcooling
from nudge.core.targets.choose import Targets
from nudge.core.targets.school import Level, Target

EVAPORATOR_DIFFERENCE_K = (degrees_f(28), degrees_f(42))
TEMPERATURE_SPLIT_K = (degrees_f(15), degrees_f(24))
PRESSURE_RATIO = (1.8, 3.8)
"""Trade windows, where no healthy coil can be reckoned from this air."""
LIQUID_DROP_K = degrees_f(5)


@dataclass(frozen=True, slots=True)
class Feature:
    """A measured quantity, the window expected of it, and where in that it falls."""

    key: str
    value: float
    low: float
    high: float
    method: str | None = None
    """The school that set the window, where one did."""

    @property
    def level(self) -> Level:
        if self.value < self.low - 0.001:
            return "low"
        return "high" if self.value > self.high + 0.001 else "in"

    def said(self) -> Said:
        """The finding in one clause: `Subcooling 2.0 °F is under 7.0 to 13.0 °F`."""
        row = DERIVED[self.key]
        where = {"low": "under", "in": "inside", "high": "over"}[self.level]
        value, high = (Measure(n, row.quantity) for n in (self.value, self.high))
        if self.low == -inf:
            return say(f"{row.label} {{value}} is {where} {{high}}", value=value, high=high)
        low = Measure(self.low, row.quantity, bare=True)
        return say(
            f"{row.label} {{value}} is {where} {{low}} to {{high}}", value=value, low=low, high=high
        )


def features(case: Case, targets: Targets) -> dict[str, Feature]:
    """The features whose readings are there. Missing readings are absent, not guessed."""
    windows: dict[str, tuple[float, float, str | None]] = {
        "liquid_line_drop": (-inf, LIQUID_DROP_K, None),
        "drier_drop": (-inf, LIQUID_DROP_K, None),
    }
    of_class: dict[str, Callable[[], tuple[float, float]]] = {
        "condensing_over_ambient": lambda: expected(case, "condensing_over_ambient").window(),
        "evaporator_difference": lambda: expected_evaporator_difference(case),
        "temperature_split": lambda: _expected(case, "temperature_split", TEMPERATURE_SPLIT_K),
        "pressure_ratio": lambda: _expected(case, "pressure_ratio", PRESSURE_RATIO),
    }
    windows |= {key: (*way(), None) for key, way in of_class.items() if is_known(case, key)}
    windows |= {
        key: (w.low, w.high, w.method)
        for key, w in targets.windows.items()
        if not _contradicts_the_maker(w, targets)
    }
    unsure = unsure_quantities(case)
    return {
        key: Feature(key, value, *window)
        for key, window in windows.items()
        if key not in unsure and (value := case.derived.get(key)) is not None
    }


GUESSES = frozenset({fallback_subcooling.KEY, typical_subcooling.KEY})


def _contradicts_the_maker(window: Target, targets: Targets) -> bool:
    """A guessed window beside a maker's approach: it has no say."""
    decides = targets.deciding
    return decides is not None and decides.key == approach.KEY and window.method in GUESSES


def unsure_quantities(case: Case) -> frozenset[str]:
    """Derived quantities that rest on an estimated or old reading: they prove nothing."""
    if not case.context.unsure:
        return frozenset()
    return frozenset(
        key
        for key in DERIVED
        if not case.context.unsure.isdisjoint(formula_of(key, case.derived).uses)
    )


def expected_evaporator_difference(case: Case) -> tuple[float, float]:
    """The window of return air over coil saturation [K], at the airflow measured; 28 to 42 °F
    where no healthy coil can be reckoned.
    """
    if not case.behaviour.has_coil_model:
        return expected(case, "evaporator_difference").window()
    saturation_c = coil_saturation_c(case)
    if saturation_c is None:
        return EVAPORATOR_DIFFERENCE_K
    middle = case.readings["return_air_temp"] - saturation_c
    wide = WINDOW_SIGMAS * expected(case, "evaporator_difference").sigma
    return middle - wide, middle + wide


def _expected(case: Case, key: str, trade: tuple[float, float]) -> tuple[float, float]:
    """The window of a quantity's own expectation; the trade's where no coil can be reckoned."""
    reckoned = case.rated_coil is not None or not case.behaviour.has_coil_model
    return expected(case, key).window() if reckoned else trade
