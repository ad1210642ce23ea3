"""One expectation a quantity: what a right system of this plate shows in this air, value ± σ.

The plate's own figure, the coil model's, an ordinary stroke's or the class's; moved by what this
system itself showed when it was right; carried to today's air by the table. Windows, departures
and estimates without gauges all derive from it.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from math import hypot
from typing import NamedTuple

from nudge.core.behaviours.case import Case
from nudge.core.expectations.signs import SIGNS, Sign
from nudge.core.expectations.table import Expectation, expectations_of
from nudge.core.language.units import degrees_f, fahrenheit
from nudge.core.targets import approach, chart_school, plate_superheat
from nudge.core.targets.choose import Targets
from nudge.core.targets.condensing import DEFAULT_SEER, class_seer

RATED_OUTDOOR_C, RATED_WET_BULB_C = fahrenheit(95), fahrenheit(67)
OUTDOOR_BLUR_K, WET_BULB_BLUR_K = 6.0, 2.0
"""How far weather nobody read may be from the usual: one standard deviation."""
OUTDOOR_FROM_K, OUTDOOR_TO_K = degrees_f(-27), degrees_f(15)
WET_BULB_FROM_K, WET_BULB_TO_K = degrees_f(-13), degrees_f(9)
"""The weather the expectations were fitted in, about the rated point: held at its edges beyond."""
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
    """The maker's own figure for a sign [K]; None where there is none."""
    if sign.key == "condensing_over_ambient":
        return case.plate.condensing_over_ambient_k
    for key, school, _ in KNOWN:
        if targets is not None and sign.key == key and decides(targets, school):
            return targets.answers[school].value
    return None


def decides(targets: Targets | None, school: str) -> bool:
    """Whether a school is the one that decides charge."""
    return targets is not None and targets.deciding is not None and targets.deciding.key == school


class TodaysAir(NamedTuple):
    """What carries an expectation to today: air over its rated points [K], None unread, held at
    the edges of the fit; rated efficiency over the usual one, and whether the plate gives it.
    """

    outdoor_k: float | None
    wet_bulb_k: float | None
    over_seer: float
    seer_is_known: bool


def today_of(case: Case) -> TodaysAir:
    """Today's air and the class of a case."""
    outdoor = case.readings.get("outdoor_air_temp")
    wet_bulb = case.readings.get("return_air_wet_bulb")
    return TodaysAir(
        None if outdoor is None else held_outdoor(outdoor - RATED_OUTDOOR_C),
        None if wet_bulb is None else held_wet_bulb(wet_bulb - RATED_WET_BULB_C),
        held_seer(class_seer(case.plate)),
        case.plate.rated_seer is not None,
    )


@dataclass(frozen=True, slots=True)
class Expected:
    """What a quantity should be here [core units]: value ± one σ.

    `blur` is the part of σ that weather or a class nobody read adds; `is_own` where the figure is
    this system's own, and not its class's.
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
    sign = SIGNS[key]
    own = case.context.own.get(key)
    said = known(case, sign, targets)
    if said is not None:
        return Expected(said + (own or 0.0), KNOWN_K, 0.0, True)
    row = row_of(case, key) if table is None else table[key]
    step, blur = weather(today or today_of(case), row)
    sigma = row.sigma if own is None else KNOWN_K
    value = sign.base(case) + step + (own or 0.0)
    return Expected(value, hypot(sigma, blur), blur, own is not None)


def is_known(case: Case, key: str) -> bool:
    """Whether the tables of this kind of plant say what is expected of a sign."""
    return key in expectations_of(case.behaviour)[case.plate.metering_device.feed]


def row_of(case: Case, key: str) -> Expectation:
    return expectations_of(case.behaviour)[case.plate.metering_device.feed][key]


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
    step = row.base + row.per_seer * today.over_seer
    blur = 0.0 if today.seer_is_known else abs(row.per_seer) * SEER_BLUR
    if today.outdoor_k is None:
        blur = hypot(blur, row.per_outdoor * OUTDOOR_BLUR_K)
    else:
        step += row.per_outdoor * today.outdoor_k
    if today.wet_bulb_k is None:
        blur = hypot(blur, row.per_wet_bulb * WET_BULB_BLUR_K)
        step += row.per_wet_bulb * row.usual_wet_bulb
    else:
        step += row.per_wet_bulb * today.wet_bulb_k
    return step, blur


def held_outdoor(kelvin: float) -> float:
    """Outdoor air over its rated point, held at the edges of the fit [K]."""
    return min(max(kelvin, OUTDOOR_FROM_K), OUTDOOR_TO_K)


def held_wet_bulb(kelvin: float) -> float:
    """Return wet bulb over its rated point, held at the edges of the fit [K]."""
    return min(max(kelvin, WET_BULB_FROM_K), WET_BULB_TO_K)


def held_seer(seer: float) -> float:
    """Rated efficiency over the usual one, held at the edges of the fit."""
    return min(max(seer, SEER_FROM), SEER_TO) - DEFAULT_SEER
