"""How far every measured sign is from what is expected of this system in this weather.

A missing reading leaves its signs out; where only the weather is missing, or a reading was
estimated or is old, the sign counts with more blur.
"""

from collections.abc import Mapping
from math import hypot
from typing import NamedTuple

from nudge.core.behaviours.case import Case
from nudge.core.expectations.by_kind import signs_of
from nudge.core.expectations.expected import (
    AT_RATING,
    KNOWN_K,
    Air,
    TodaysAir,
    decides,
    expectations_here,
    expected,
    today_of,
)
from nudge.core.expectations.signs import FAR_REACHING, Sign
from nudge.core.expectations.table import Expectation
from nudge.core.language.units import Quantity
from nudge.core.targets import approach
from nudge.core.targets.choose import Targets

UNSURE_BLUR = 3.0
"""An estimated or old reading is off by this many times a fresh instrument's ±."""


class Departure(NamedTuple):
    """One sign on one case: measured, expected, the difference, and its extra blur (1 σ)."""

    sign: Sign
    value: float
    expected: float
    blur: float
    known: float = 0.0
    """How far a healthy one may be off where the figure is this system's own (1 σ); 0 where it
    is the class's, whose spread is in the table."""
    today: TodaysAir | None = None
    """The air it was read in: faults move a sign otherwise in other weather."""

    @property
    def off(self) -> float:
        return self.value - self.expected


def departures(
    case: Case,
    table: Mapping[str, Expectation] | None = None,
    targets: Targets | None = None,
) -> dict[str, Departure]:
    """Every sign the readings allow, by key; `table` in place of the packaged expectations.

    With `targets`, what the maker says of this system is expected of it.
    """
    found: dict[str, Departure] = {}
    today = today_of(case)
    rows = expectations_here(case) if table is None else table
    by_approach = decides(targets, approach.KEY)
    unsure = case.context.unsure & case.readings.keys()
    for sign in signs_of(case.behaviour).values():
        if sign.in_place_of in found or (table is None and sign.key not in rows):
            continue
        if sign.key == "subcooling" and by_approach and case.derived.approach is not None:
            continue  # the maker judges by approach: a guess of subcooling says no more
        value = sign.value(case)
        if value is None:
            continue
        wanted = expected(case, sign.key, targets, rows, today)
        blur = wanted.blur
        for point in sign.points if unsure else ():
            if point in unsure:
                blur = hypot(blur, UNSURE_BLUR * _one_sigma(case, sign, point))
        found[sign.key] = Departure(
            sign,
            sign.held(case, value, wanted.value),
            wanted.value,
            blur,
            KNOWN_K if wanted.is_own else 0.0,
            today,
        )
    return found


def read_in(measured: Mapping[str, Departure]) -> TodaysAir | None:
    """The air some departures were read in."""
    return next((one.today for one in measured.values()), None)


def air_of(measured: Mapping[str, Departure]) -> Air:
    """The same as a fault's moves are carried by it."""
    today = read_in(measured)
    return AT_RATING if today is None else today.over


def moved(here: Mapping[str, Departure], case: Case, point: str) -> dict[str, Departure] | None:
    """The departures of a case that differs from `here` in one reading, by the signs it moves.

    None where more than those may move: then all have to be worked out again.
    """
    touched = [one for one in here.values() if point in one.sign.points]
    if not touched or point in FAR_REACHING:
        return None
    found = dict(here)
    for one in touched:
        value = one.sign.value(case)
        if value is None:
            return None
        held = one.sign.held(case, value, one.expected)
        found[one.sign.key] = Departure(
            one.sign, held, one.expected, one.blur, one.known, one.today
        )
    return found


def departures_of_approach(case: Case) -> float:
    """How far the liquid line stands off outdoor air beyond what is expected [K]; 0 unread."""
    sign = signs_of(case.behaviour)["approach"]
    value = sign.value(case)
    if value is None or not case.context.unsure.isdisjoint(sign.points):
        return 0.0
    return value - expected(case, sign.key).value


def _one_sigma(case: Case, sign: Sign, point: str) -> float:
    """What a reading's own ± does to a sign: its 95 % limit as one σ of the sign's unit."""
    limit = case.limit(point) / 2
    if point.endswith("pressure") and sign.quantity is Quantity.TEMPERATURE_DIFFERENCE:
        return limit / PRESSURE_PER_KELVIN_KPA
    if sign.quantity is Quantity.PERCENT:
        return 100 * limit / max(abs(case.readings[point]), 1e-6)
    return limit


PRESSURE_PER_KELVIN_KPA = 25.0
"""Near enough for blur: 20 to 30 kPa a kelvin for the usual fluids on the low side."""
