"""The measured marks a judgement rests on, each against what is expected of this system."""

from dataclasses import dataclass
from math import inf

from nudge.core.circuit.case import Case
from nudge.core.circuit.derived import DERIVED
from nudge.core.said import Measure, Said, degrees_f, say
from nudge.core.targets.choose import Targets
from nudge.core.targets.school import Level

EVAPORATOR_DIFFERENCE_K = (degrees_f(28), degrees_f(42))
TEMPERATURE_SPLIT_K = (degrees_f(15), degrees_f(24))
PRESSURE_RATIO = (1.8, 3.8)
CONDENSING_SPREAD_K = degrees_f(7)
LIQUID_DROP_K = degrees_f(5)
CONDENSING_BY_SEER: tuple[tuple[float, float], ...] = (
    (17, degrees_f(15)),
    (13, degrees_f(20)),
    (10, degrees_f(25)),
    (0, degrees_f(30)),
)
"""(SEER at least, expected condensing over ambient [K]): bigger coils condense closer to air."""
DEFAULT_SEER = 14.0


@dataclass(frozen=True, slots=True)
class Feature:
    """A measured quantity, the window expected of it, and where in that it falls."""

    key: str
    value: float
    low: float
    high: float

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


def expected_condensing_over_ambient(case: Case) -> float:
    """Condensing over ambient this system should show [K]: its plate, else by rated SEER.

    Source: trade rule, 30 °F for SEER 6-9, 25 for 10-12, 20 for 13-16, 15 for 17 and over;
    with no rating 14 is assumed.
    """
    if case.plate.condensing_over_ambient_k is not None:
        return case.plate.condensing_over_ambient_k
    seer = DEFAULT_SEER if case.plate.rated_seer is None else case.plate.rated_seer
    return next(k for least, k in CONDENSING_BY_SEER if seer >= least)


def features(case: Case, targets: Targets) -> dict[str, Feature]:
    """The features whose readings are there. Missing readings are absent, not guessed."""
    condensing = expected_condensing_over_ambient(case)
    expected: dict[str, tuple[float, float]] = {
        judged: (window.low, window.high) for judged, window in targets.windows.items()
    }
    expected |= {
        "condensing_over_ambient": (
            condensing - CONDENSING_SPREAD_K, condensing + CONDENSING_SPREAD_K
        ),
        "evaporator_difference": EVAPORATOR_DIFFERENCE_K,
        "temperature_split": TEMPERATURE_SPLIT_K,
        "pressure_ratio": PRESSURE_RATIO,
        "liquid_line_drop": (-inf, LIQUID_DROP_K),
        "drier_drop": (-inf, LIQUID_DROP_K),
    }  # fmt: skip
    found = {}
    for key, (low, high) in expected.items():
        value = case.derived.get(key)
        if value is not None:
            found[key] = Feature(key, value, low, high)
    return found
