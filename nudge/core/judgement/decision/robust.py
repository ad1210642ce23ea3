"""How the belief in a charge fault holds when a reading is off by its own ±, or is not believed.

A belief is worth moving refrigerant for only if it does not hang on one probe. Each reading is
moved by the ± of its kind, one at a time; each pressure and line clamp is left out, one at a
time. Left out, the rest has to speak the same way: less strongly where somebody confirmed it,
and not at all where another instrument proved it.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

from nudge.core.behaviours.case import Case, drawn, open_case
from nudge.core.expectations.signs import FAR_REACHING
from nudge.core.judgement.beliefs import Posterior, Signed, beliefs_in, signed, told_of, weigh_each
from nudge.core.judgement.departures import Departure, departures, moved
from nudge.core.judgement.over_time import lived_through
from nudge.core.language.errors import CoreError
from nudge.core.language.units import KPA_PER_PSI, atmospheric_kpa, degrees_f
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.physics.air.load import Load, load_of
from nudge.core.physics.circuit.past import Moment
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.targets.choose import choose_targets

FOUR = ("suction_pressure", "liquid_pressure", "suction_line_temp", "liquid_line_temp")
"""The readings superheat and subcooling are made of: left out one at a time."""
INDOORS = {
    "suction_line_temp": "evaporator_outlet_temp",
    "liquid_line_temp": "liquid_line_temp_indoor",
}
"""Where a clamp is when nothing was clamped outdoors."""
SECOND_SENSORS: Mapping[str, tuple[tuple[str, float], ...]] = {
    "liquid_line_temp": (
        ("drier_inlet_temp", degrees_f(2)),
        ("liquid_line_temp_indoor", degrees_f(3)),
    ),
    "suction_line_temp": (
        ("true_suction_temp", degrees_f(3)),
        ("evaporator_outlet_temp", degrees_f(4)),
    ),
    "liquid_pressure": (("discharge_pressure", 12 * KPA_PER_PSI),),
}
"""What agrees with a reading is another instrument on the same pipe, within what the pipe itself
may differ."""
STANDING_PSI = 5.0
STANDING_SLACK_K = degrees_f(4)


def four_of(case: Case) -> tuple[str, ...]:
    """The readings that superheat and subcooling of this case are made of, as far as read."""
    places = [point if point in case.record else INDOORS.get(point, point) for point in FOUR]
    return tuple(point for point in places if point in case.record)


@dataclass(frozen=True, slots=True)
class Standing:
    """Beliefs [0 to 1] as they are, moved by each reading's ±, and with one reading left out.

    `low` is low charge alone or beside something else; `low_alone`, `high_alone` nothing besides.
    """

    low: float
    low_alone: float
    high_alone: float
    worst_low: float
    worst_high: float
    worst_by: str
    """The reading whose own ± moves it most."""
    low_without: Mapping[str, float]
    confirmed: frozenset[str]
    """Somebody zeroed or moved the instrument and read the same: the same sun may be on it."""
    proved: frozenset[str]
    """Another instrument on the same pipe agrees, or the gauge was right at rest."""


class _Asked:
    """A case as a question: two that read the same have one answer."""

    __slots__ = ("case", "measured", "method", "preferred", "same", "weighing")

    def __init__(
        self,
        case: Case,
        weighing: Posterior,
        measured: Mapping[str, Departure],
        method: str | None,
        preferred: Sequence[str],
    ) -> None:
        self.case, self.weighing, self.measured = case, weighing, measured
        self.method, self.preferred = method, tuple(preferred)
        asked = sorted(case.record.items()), case.context, method, preferred, weighing.suspects
        self.same = repr((case.plate, id(weighing.model), *asked))

    def __hash__(self) -> int:
        return hash(self.same)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Asked) and self.same == other.same


def stands(
    case: Case,
    weighing: Posterior | None,
    measured: Mapping[str, Departure],
    method: str | None,
    preferred: Sequence[str],
) -> Standing:
    """Weigh the case again for every reading moved and left out; kept, for it is asked often."""
    if weighing is None:
        return Standing(0.0, 0.0, 0.0, 0.0, 0.0, "", {}, frozenset(), frozenset())
    return _stands(_Asked(case, weighing, measured, method, preferred))


@lru_cache(maxsize=64)
def _stands(asked: _Asked) -> Standing:
    case, weighing = asked.case, asked.weighing
    model = weighing.model
    low, high = weighing.besides("undercharge"), weighing.alone("overcharge")
    without: dict[str, float] = dict.fromkeys(four_of(case), 0.0)
    kept = [*_moved_by_its_limit(asked), *_left_out(asked)]
    told = told_of(case, lived_through(case, model.episodes))
    worst_low, worst_high, worst_by = low, high, ""
    shares = weigh_each(model, [(other.signed, other.load) for other in kept], told)
    lows = beliefs_in(model, shares, "undercharge")
    highs = beliefs_in(model, shares, "overcharge", alone=True)
    for other, still_low, still_high in zip(kept, lows, highs, strict=True):
        if other.is_left_out:
            without[other.point] = still_low
            continue
        if still_low < worst_low:
            worst_low, worst_by = still_low, other.point
        if still_high < worst_high:
            worst_high = still_high
            worst_by = other.point if high > low else worst_by
    return Standing(
        low,
        weighing.alone("undercharge"),
        high,
        worst_low,
        worst_high,
        worst_by,
        without,
        confirmed_readings(case),
        proved_readings(case),
    )


class _Other(NamedTuple):
    """The case with one reading otherwise than it was taken: its signs and its load."""

    point: str
    signed: Signed
    load: Load
    is_left_out: bool = False


def _departures(asked: _Asked, record: Mapping[str, float]) -> Mapping[str, Departure] | None:
    """The departures of other readings; None where they cannot be."""
    try:
        case = open_case(asked.case.plate, record, asked.case.context, asked.case.behaviour)
        return departures(case, targets=choose_targets(case, asked.method, asked.preferred))
    except CoreError:
        return None


def _moved_by_its_limit(asked: _Asked) -> Iterator[_Other]:
    """Every reading up and down by its ±. Signs are straight in a reading as far as its ± goes, so
    down is worked out from up; where signs come and go, it is worked out by itself.
    """
    record, context, measured = asked.case.record, asked.case.context, asked.measured
    here = signed(measured)
    for point, value in record.items():
        limit = accuracy_of(point, context.instruments).limit(value)
        more, less = ({**record, point: at} for at in (value + limit, value - limit))
        found = _with(asked, more, point)
        if found is None:
            continue
        is_alike = point not in FAR_REACHING and found.keys() == measured.keys()
        up = here.with_offs(found) if is_alike else signed(found)
        yield _Other(point, up, load_of(drawn(more, context)))
        if up.signs == here.signs:
            yield _Other(point, here.mirrored(up), load_of(drawn(less, context)))
        elif (found := _departures(asked, less)) is not None:
            yield _Other(point, signed(found), load_of(drawn(less, context)))


def _with(asked: _Asked, record: Mapping[str, float], point: str) -> Mapping[str, Departure] | None:
    """The departures with one reading moved: only the signs it moves, where that is all."""
    if point in FAR_REACHING:
        return _departures(asked, record)
    try:
        case = open_case(asked.case.plate, record, asked.case.context, asked.case.behaviour)
    except CoreError:
        return None
    return moved(asked.measured, case, point) or _departures(asked, record)


def _left_out(asked: _Asked) -> Iterator[_Other]:
    record, context = asked.case.record, asked.case.context
    for point in four_of(asked.case):
        left = {p: v for p, v in record.items() if p != point}
        found = _departures(asked, left)
        if found is not None:
            yield _Other(point, signed(found), load_of(drawn(left, context)), is_left_out=True)


def confirmed_readings(case: Case) -> frozenset[str]:
    """All four where somebody zeroed and moved the probes and read the same."""
    return frozenset(four_of(case)) if case.saw("readings_confirmed") else frozenset()


def proved_readings(case: Case) -> frozenset[str]:
    """Readings another instrument stands behind: a second sensor on the same pipe, or the
    refrigerant itself at rest, before the start or stopped for it.
    """
    found = {
        point
        for point, others in SECOND_SENSORS.items()
        for other, within in others
        if point in case.record
        and other in case.record
        and not {point, other} & case.context.unsure
        and abs(case.record[point] - case.record[other]) <= within
    }
    if case.saw("standing_pressure_right") or any(
        _stood_right(case, moment) for moment in case.context.past.moments
    ):
        found |= {"suction_pressure", "liquid_pressure"}
    return frozenset(found)


def _stood_right(case: Case, moment: Moment) -> bool:
    """Both pressures equal while it stood, and the saturation of the air about it."""
    low, high = (moment.readings.get(p) for p in ("suction_pressure", "liquid_pressure"))
    airs = [
        moment.readings[p] for p in ("outdoor_air_temp", "return_air_temp") if p in moment.readings
    ]
    if low is None or high is None or not airs or abs(low - high) > STANDING_PSI * KPA_PER_PSI:
        return False
    atmosphere, table = atmospheric_kpa(case.plate.elevation_m), load_table(case.plate.refrigerant)
    try:
        least = table.dew.pressure(min(airs) - STANDING_SLACK_K) - atmosphere
        most = table.bubble.pressure(max(airs) + STANDING_SLACK_K) - atmosphere
    except CoreError:
        return False
    return least <= min(low, high) and max(low, high) <= most
