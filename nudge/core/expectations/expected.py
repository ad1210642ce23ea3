"""One expectation a quantity: what a right system of this plate shows in this air, value ± σ.

The plate's own figure, the coil model's, an ordinary stroke's or the class's; moved by what this
system itself showed when it was right; carried to today's air by the table. Windows, departures
and estimates without gauges all derive from it.
"""

from collections.abc import Mapping
from math import hypot
from typing import NamedTuple

from nudge.core.behaviours.behaviour import RatedAir
from nudge.core.behaviours.case import Case
from nudge.core.expectations.by_kind import signs_of
from nudge.core.expectations.signs import SIGNS, Sign
from nudge.core.expectations.table import Expectation, expectations_of
from nudge.core.language.units import degrees_f
from nudge.core.targets import approach, chart_school, plate_superheat
from nudge.core.targets.choose import Targets
from nudge.core.targets.condensing import DEFAULT_SEER, class_seer

SEER_FROM, SEER_TO, SEER_BLUR = 8.0, 20.0, 2.5
"""The efficiencies the expectations were fitted in, and the spread of an unknown one (1 σ)."""
WINDOW_SIGMAS = 2.3
"""A window is its expectation ± this many σ: all but two healthy systems in a hundred are in it."""

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


def known(case: Case, sign: Sign, targets: Targets | None) -> float | None:
    """The maker's own figure for a sign [K]; None where there is none, as for a winter's day."""
    if case.behaviour.roles.heats:
        return None
    if sign.key == "condensing_over_ambient":
        return case.plate.condensing_over_ambient_k
    deciding = None if targets is None else targets.deciding
    if targets is None or deciding is None or (sign.key, deciding.key) not in _KNOWN:
        return None
    return targets.answers[deciding.key].value


_KNOWN = frozenset((sign, school) for sign, school, _ in KNOWN)


def decides(targets: Targets | None, school: str) -> bool:
    """Whether a school is the one that decides charge."""
    return targets is not None and targets.deciding is not None and targets.deciding.key == school


Air = tuple[float, float, float]
"""Outdoor air, the house [K] and rated efficiency over their rated points."""
AT_RATING: Air = (0.0, 0.0, 0.0)


class TodaysAir(NamedTuple):
    """What carries an expectation, and a fault's moves, to today."""

    over: Air
    """Outdoor air, the house and the class over their rated points, held at the edges of the fit;
    what is usual stands in for what nobody read."""
    unsure: Air
    """How far each of the three may be from that (1 σ); 0 where it was read."""


def today_of(case: Case) -> TodaysAir:
    """Today's air and the class of a case."""
    rated = case.behaviour.rated_air
    outdoor = case.readings.get("outdoor_air_temp")
    house = case.readings.get(rated.house_point)
    return TodaysAir(
        (
            0.0 if outdoor is None else held_outdoor(rated, outdoor),
            rated.usual_k if house is None else held_house(rated, house),
            held_seer(class_seer(case.plate)),
        ),
        (
            rated.outdoor_blur_k if outdoor is None else 0.0,
            rated.house_blur_k if house is None else 0.0,
            SEER_BLUR if case.plate.rated_seer is None else 0.0,
        ),
    )


class Expected(NamedTuple):
    """What a quantity should be here [core units]: value ± one σ.

    `blur` is the part of σ that weather, a class or a plate nobody read adds; `is_own` where the
    figure is this system's own, and not its class's.
    """

    value: float
    sigma: float
    blur: float = 0.0
    is_own: bool = False

    def window(self) -> tuple[float, float]:
        """Where all but two healthy systems in a hundred are."""
        return self.value - WINDOW_SIGMAS * self.sigma, self.value + WINDOW_SIGMAS * self.sigma


def expected(
    case: Case,
    key: str,
    targets: Targets | None = None,
    table: Mapping[str, Expectation] | None = None,
    today: TodaysAir | None = None,
) -> Expected:
    """The one expectation of a sign in this case; `table` in place of the packaged one, `today`
    where it is worked out already.

    With `targets`, a maker's figure that decides charge is expected as well: see `KNOWN`.
    """
    sign = signs_of(case.behaviour)[key]
    own = case.context.own.get(key)
    said = known(case, sign, targets)
    if said is not None:
        return Expected(said + (own or 0.0), KNOWN_K, 0.0, True)
    row = row_of(case, key) if table is None else table[key]
    step, blur = weather(today or today_of(case), row)
    sigma = row.sigma if own is None else KNOWN_K
    if own is None:
        blur = hypot(blur, sign.guessed(case))
    value = sign.base(case) + step + (own or 0.0)
    return Expected(value, hypot(sigma, blur), blur, own is not None)


def is_known(case: Case, key: str) -> bool:
    """Whether the tables of this kind of plant say what is expected of a sign."""
    return key in expectations_here(case)


def row_of(case: Case, key: str) -> Expectation:
    return expectations_here(case)[key]


def expectations_here(case: Case) -> Mapping[str, Expectation]:
    """What is expected of every sign, by the tables of its kind of plant and what feeds it."""
    return expectations_of(case.behaviour)[case.plate.metering_device.feed]


def coil_saturation_c(case: Case) -> float | None:
    """What a right system's coil boils at on this air, at the airflow measured [°C]: the coil
    model, moved as the table moves its difference. None where the model lacks an input.
    """
    if case.coil is None:
        return None
    key = "evaporator_difference"
    moved_k = expected(case, key).value - SIGNS[key].base(case)
    return case.coil.expected.saturation_c - moved_k


def weather(today: TodaysAir, row: Expectation) -> tuple[float, float]:
    """What today's air and the class add to an expectation, and the blur of what is not known."""
    outdoor, house, seer = today.over
    step = outdoor * row.per_outdoor + house * row.per_house + seer * row.per_seer
    return row.base + step, weather_blur(today.unsure, row)


def weather_blur(unsure: Air, row: Expectation) -> float:
    """The blur of an expectation where its air or its class may be this far off (1 σ)."""
    outdoor, house, seer = unsure
    return hypot(outdoor * row.per_outdoor, house * row.per_house, seer * row.per_seer)


def held_outdoor(rated: RatedAir, outdoor_c: float) -> float:
    """Outdoor air over its rated point, held at the edges of the fit [K]."""
    over_k = outdoor_c - rated.outdoor_c
    return min(max(over_k, rated.outdoor_from_k), rated.outdoor_to_k)


def held_house(rated: RatedAir, house_c: float) -> float:
    """What is read of the house over its rated point, held at the edges of the fit [K]."""
    return min(max(house_c - rated.house_c, rated.house_from_k), rated.house_to_k)


def held_seer(seer: float) -> float:
    """Rated efficiency over the usual one, held at the edges of the fit."""
    return min(max(seer, SEER_FROM), SEER_TO) - DEFAULT_SEER
