"""How the belief in a charge fault holds when a reading is off by its own ±, or is not believed.

A belief is worth moving refrigerant for only if it does not hang on one probe. Each reading is
moved by the ± of its kind, one at a time; each pressure and line clamp is left out, one at a
time. Left out, the rest has to speak the same way: less strongly where somebody confirmed it.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from nudge.core.circuit.case import Case, open_case
from nudge.core.circuit.past import Moment
from nudge.core.errors import CoreError
from nudge.core.judgement.beliefs import Weighing, by_plate, weigh
from nudge.core.judgement.departures import departures
from nudge.core.judgement.over_time import lived_through
from nudge.core.refrigerant.table import load_table
from nudge.core.said import degrees_f
from nudge.core.targets.choose import choose_targets
from nudge.core.units import KPA_PER_PSI, atmospheric_kpa
from nudge.core.vocabulary.accuracy import accuracy_of

FOUR = ("suction_pressure", "liquid_pressure", "suction_line_temp", "liquid_line_temp")
"""The readings superheat and subcooling are made of: left out one at a time."""
SECOND_SENSORS: Mapping[str, tuple[tuple[str, float], ...]] = {
    "liquid_line_temp": (("drier_inlet_temp", degrees_f(2)),
                         ("liquid_line_temp_indoor", degrees_f(3))),
    "suction_line_temp": (("true_suction_temp", degrees_f(3)),
                          ("evaporator_outlet_temp", degrees_f(4))),
    "liquid_pressure": (("discharge_pressure", 12 * KPA_PER_PSI),),
}  # fmt: skip
"""What agrees with a reading is another instrument on the same pipe, within what the pipe itself
may differ."""
STANDING_PSI = 5.0
STANDING_SLACK_K = degrees_f(4)


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


class _Asked:
    """A case as a question: two that read the same have one answer."""

    __slots__ = ("case", "method", "preferred", "same", "weighing")

    def __init__(
        self, case: Case, weighing: Weighing, method: str | None, preferred: Sequence[str]
    ) -> None:
        self.case, self.weighing = case, weighing
        self.method, self.preferred = method, tuple(preferred)
        self.same = repr((case.plate, sorted(case.record.items()), case.context, method, preferred,
                          weighing.suspects))  # fmt: skip

    def __hash__(self) -> int:
        return hash(self.same)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Asked) and self.same == other.same


def stands(
    case: Case, weighing: Weighing | None, method: str | None, preferred: Sequence[str]
) -> Standing:
    """Weigh the case again for every reading moved and left out; kept, for it is asked often."""
    if weighing is None:
        return Standing(0.0, 0.0, 0.0, 0.0, 0.0, "", {}, frozenset())
    return _stands(_Asked(case, weighing, method, preferred))


@lru_cache(maxsize=64)
def _stands(asked: _Asked) -> Standing:
    case, weighing = asked.case, asked.weighing
    method, preferred = asked.method, asked.preferred

    def again(readings: Mapping[str, float]) -> Weighing | None:
        try:
            moved = open_case(case.plate, readings, case.context)
            targets = choose_targets(moved, method, preferred)
        except CoreError:
            return None
        return weigh(
            case.plate.metering_device.is_valve, departures(moved, targets=targets),
            tuple(sorted(case.context.observations)), lived_through(moved), False,
            by_plate(case.plate),
        )  # fmt: skip

    low, high = low_in(weighing), weighing.alone("overcharge")
    worst_low, worst_high, worst_by = low, high, ""
    for point, value in case.record.items():
        limit = accuracy_of(point).limit(value)
        for moved in (value - limit, value + limit):
            found = again({**case.record, point: moved})
            if found is None:
                continue
            if low_in(found) < worst_low:
                worst_low, worst_by = low_in(found), point
            if found.alone("overcharge") < worst_high:
                worst_high = found.alone("overcharge")
                worst_by = point if high > low else worst_by
    without = {}
    for point in FOUR:
        if point in case.record:
            found = again({p: v for p, v in case.record.items() if p != point})
            without[point] = 0.0 if found is None else low_in(found)
    return Standing(low, weighing.alone("undercharge"), high, worst_low, worst_high, worst_by,
                    without, confirmed_readings(case))  # fmt: skip


def low_in(weighing: Weighing) -> float:
    """The belief that charge is low, whatever else is wrong besides."""
    return sum(b for row, b in weighing.rows if "undercharge" in row.signature.suspects)


def confirmed_readings(case: Case) -> frozenset[str]:
    """Readings that another word stands behind.

    All of them where somebody zeroed and moved the probes and read the same; one where a second
    sensor on the same pipe agrees; pressures where they were right standing, before the start.
    """
    if case.saw("readings_confirmed"):
        return frozenset(FOUR)
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
    airs = [moment.readings[p] for p in ("outdoor_air_temp", "return_air_temp")
            if p in moment.readings]  # fmt: skip
    if low is None or high is None or not airs or abs(low - high) > STANDING_PSI * KPA_PER_PSI:
        return False
    atmosphere, table = atmospheric_kpa(case.plate.elevation_m), load_table(case.plate.refrigerant)
    try:
        least = table.dew.pressure(min(airs) - STANDING_SLACK_K) - atmosphere
        most = table.bubble.pressure(max(airs) + STANDING_SLACK_K) - atmosphere
    except CoreError:
        return False
    return least <= min(low, high) and max(low, high) <= most
