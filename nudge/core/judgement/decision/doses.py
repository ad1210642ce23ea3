"""Whether what was given on this visit was answered: dose by dose, against what any system does.

A dose is judged by the first settled reading after it. It is answered where what it must move
has moved: subcooling up, superheat down, or the evaporator warmer (each the other way when
refrigerant came out). What moved has to be beyond what two readings differ by themselves, and
at least the least that so much of a charge moves in any system.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from nudge.core.behaviours.case import Case, Context, open_case
from nudge.core.language.errors import CoreError
from nudge.core.language.units import degrees_f
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.physics.circuit.past import Moment
from nudge.core.physics.circuit.whole import whole_charge
from nudge.core.settling.breaches import CHANGE_MINUTES
from nudge.core.targets.choose import choose_targets

IN_VAIN = 2
"""Doses without an answer after which it is not charge."""
ROSE_K = degrees_f(3)
"""Superheat that rises this far after a dose, subcooling standing, is liquid held back."""
STARVED_K = degrees_f(15)
"""A valve's superheat from which its evaporator is starved: then a dose has to show there."""


class SettledMoment(NamedTuple):
    """What a dose may move, at one settled moment [K]; None unread.

    Superheat is counted from its target where it has one that moves with the load; the
    evaporator from return air, so that a house that cools is no answer and hides none.
    """

    subcooling: float | None
    superheat: float | None
    superheat_off: float | None
    evaporator: float | None


class Before(NamedTuple):
    """What a dose was given to: a valve or an orifice, how it stood, in or out."""

    at: SettledMoment
    is_valve: bool
    removes: bool

    @property
    def starves(self) -> bool:
        return (self.at.superheat or 0.0) >= STARVED_K


@dataclass(frozen=True, slots=True)
class AnswerRow:
    """One quantity a dose moves: by how much at the least, and why.

    `least_k` is what two settled readings differ by themselves, and more; `per_percent_k` what
    one percent of the whole charge moves in the least responsive systems of the book.
    """

    key: str
    sign: int
    least_k: float
    per_percent_k: float
    reason: str
    value: Callable[[SettledMoment], float | None]
    applies: Callable[["Before"], bool]


ANSWERS: tuple[AnswerRow, ...] = (
    AnswerRow(
        "subcooling",
        1,
        degrees_f(1.0),
        degrees_f(0.15),
        "Liquid backs up in the condenser: the first answer of a valve. Two readings of it differ "
        "by nearly {d1} by themselves.",
        lambda at: at.subcooling,
        lambda before: before.is_valve or before.removes,
    ),
    AnswerRow(
        "superheat",
        -1,
        degrees_f(2.0),
        degrees_f(0.3),
        "A better fed evaporator: the answer of an orifice, and of a valve that starves. A clamp "
        "and a gauge differ by up to {d2} from one reading to the next.",
        lambda at: at.superheat_off,
        lambda before: not before.is_valve or before.starves,
    ),
    AnswerRow(
        "evaporator_saturation",
        1,
        degrees_f(1.5),
        degrees_f(0.1),
        "Suction comes up where the evaporator starved. Where it did not, a valve holds it.",
        lambda at: at.evaporator,
        lambda before: before.starves,
    ),
)


@dataclass(frozen=True, slots=True)
class DoseAnswer:
    """One dose and what came of it; `answered` is None where that cannot be told.

    That is so while no reading is old enough (`is_open`), and where the dose was too small for
    every system to show it: then it is told together with the next one.
    """

    amount_kg: float
    answered: bool | None
    is_open: bool = False
    went_wrong_way: bool = False


def dose_answers(case: Case) -> tuple[DoseAnswer, ...]:
    """Every dose since anything else was last done to the system, first to last."""
    past, since = case.context.past, case.context.minutes_since_change
    if not past.has_doses:
        return ()
    is_open = since is not None and since < CHANGE_MINUTES[case.plate.metering_device]
    now = Moment(0.0, case.record, past.added_since_kg, past.done_since)
    is_valve, whole_kg = case.plate.metering_device.is_valve, whole_charge(case.plate).kg
    found: list[DoseAnswer] = []
    seen: list[SettledMoment] = []
    carried_kg = 0.0
    for moment in (*past.moments, now):
        if moment.done and not ACTIONS[moment.done].moves_charge:
            found, seen, carried_kg = [], [], 0.0  # what is read now is of another system
        at = None if moment is now and is_open else _settled(case, moment)
        kg = moment.added_kg
        if kg and at is None:
            found.append(DoseAnswer(kg, None, is_open=True))
            carried_kg += kg
        elif kg and at is not None:
            found.append(_answered(seen, at, kg, carried_kg + kg, is_valve, whole_kg))
            carried_kg = carried_kg + kg if found[-1].answered is None else 0.0
        if at is not None and not carried_kg:
            seen.append(at)
    return tuple(found)


def unanswered(answers: Sequence[DoseAnswer]) -> int:
    """Doses that were not answered, or that nothing told since one was."""
    refused = sum(one.answered is False for one in answers)
    untold = 0
    for one in reversed(answers):
        if one.answered:
            break
        untold += not one.is_open
    return max(refused, untold)


def _answered(
    seen: Sequence[SettledMoment],
    now: SettledMoment,
    kg: float,
    in_all_kg: float,
    is_valve: bool,
    whole_kg: float,
) -> DoseAnswer:
    """Against the best that was ever read: what chance lifted once does not count again.

    `in_all_kg` is this dose with the ones before it that nothing told.
    """
    if not seen:
        return DoseAnswer(kg, None)
    way, percent = (1 if in_all_kg > 0 else -1), 100 * abs(in_all_kg) / whole_kg
    moved, tellable = False, False
    given_to = Before(seen[-1], is_valve, in_all_kg < 0)
    for row in ANSWERS:
        before = [v for at in seen if (v := row.value(at)) is not None]
        value = row.value(now)
        if not before or value is None or not row.applies(given_to):
            continue
        best = max(way * row.sign * v for v in before)
        moved |= way * row.sign * value - best >= max(row.least_k, percent * row.per_percent_k)
        tellable |= percent * row.per_percent_k >= row.least_k
    if kg > 0 and _wrong_way(seen[-1], now):
        return DoseAnswer(kg, answered=False, went_wrong_way=True)
    return DoseAnswer(kg, True if moved else False if tellable else None)


def _wrong_way(before: SettledMoment, now: SettledMoment) -> bool:
    """Superheat climbs while subcooling stands still: what goes in does not get through."""
    if before.superheat_off is None or now.superheat_off is None:
        return False
    rose = 0.0
    if before.subcooling is not None and now.subcooling is not None:
        rose = now.subcooling - before.subcooling
    return now.superheat_off - before.superheat_off >= ROSE_K and rose <= ANSWERS[0].least_k


def _settled(at: Case, moment: Moment) -> SettledMoment | None:
    """None where nothing of it can be worked out."""
    try:
        case = open_case(at.plate, moment.readings, Context(), at.behaviour)
        target = choose_targets(case).windows.get("superheat")
    except CoreError:
        return None
    derived = case.derived
    superheat, low = derived.superheat, derived.evaporator_saturation
    returned = moment.readings.get("return_air_temp", 0.0)
    off = superheat
    if superheat is not None and target is not None and not at.plate.metering_device.is_valve:
        off = superheat - target.value
    return SettledMoment(
        derived.subcooling, superheat, off, None if low is None else low - returned
    )
