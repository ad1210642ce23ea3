"""What to do with the charge next: how much, how long to wait, when to stop.

The judge opens the door (`add` or `remove` with its whole proof); from then on every settled
reading after a dose is weighed, and the first sign that it is not charge shuts it again.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from math import ceil
from typing import Literal

from nudge.core.charging.dose import next_dose, room_for, taken_back
from nudge.core.charging.shortfall import UNLIKELY, Forecast, Settled, Shortfall, Watched, learn
from nudge.core.charging.stops import Step, Stop, stopped
from nudge.core.charging.ways import CONFIRM_MINUTES, CONNECTIONS, Connection, Way, way_for
from nudge.core.charging.whole import Whole, whole_charge
from nudge.core.circuit.case import Context, open_case
from nudge.core.circuit.past import Moment
from nudge.core.errors import CoreError
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.said import Measure, Said, difference, minutes, say
from nudge.core.settling.breaches import CHANGE_MINUTES, RUN_MINUTES
from nudge.core.settling.gates import CLOCKS
from nudge.core.targets.choose import choose_targets
from nudge.core.targets.school import Judged
from nudge.core.units import Quantity
from nudge.core.vocabulary.equipment import Plate
from nudge.core.vocabulary.points import Readings

Action = Literal["add", "remove", "wait", "done", "stop"]
DANGERS = frozenset({"liquid_return", "overheating"})


@dataclass(frozen=True, slots=True)
class Dosed:
    """One settled reading of the visit and what went in just before it [kg, minus for out]."""

    minutes: float
    added_kg: float
    readings: Readings


@dataclass(frozen=True, slots=True)
class Nudge:
    """The advice: what to do, how much [kg], how long to wait [min], and what to expect."""

    action: Action
    amount_kg: float
    bursts: int
    wait_minutes: float
    reason: Said
    assessment: Assessment
    connection: Connection
    way: Way | None = None
    watched: Watched | None = None
    target_k: float | None = None
    expected: Forecast | None = None
    """Where what is watched settles after the dose [K, not off target]."""
    beside: Forecast | None = None
    """Where the other of the two settles [K]."""
    learned: Shortfall | None = None
    whole: Whole | None = None
    stop: Stop | None = None
    would_prove_wrong: Said | None = None


def advise(
    plate: Plate,
    history: Sequence[Dosed],
    context: Context,
    method: str | None = None,
    preferred: Sequence[str] = (),
    connection: str = "hose_manifold",
) -> Nudge:
    """Say what to do after the last reading of a history, first to last.

    Raises: CoreError for an empty history, times that run backwards, a connection that cannot
    charge; and what `assess` raises.
    """
    link = _connection(connection)
    _check(history)
    assessed = _assessed(plate, history, context, method, preferred)
    base = Nudge("stop", 0.0, 0, 0.0, assessed.charge.reason, assessed, link)
    added = tuple(row.added_kg for row in history)
    shut = _standing_in_the_way(base, removing=any(kg < 0 for kg in added))
    if shut is not None:
        return shut
    aim = _aim(plate, history, assessed, method, preferred)
    if aim is None:
        return base
    whole = whole_charge(plate)
    has_valve = plate.metering_device.is_valve
    learned = learn(has_valve, aim.watched, whole.kg, whole.spread, aim.settled)
    base = replace(base, way=aim.way, watched=aim.watched, target_k=aim.target_k, whole=whole,
                   learned=learned)  # fmt: skip
    stop = stopped(Step(assessed, added, learned, aim.settled))
    if stop is not None:
        return replace(base, reason=stop.said, stop=stop)
    has_dosed = any(added)
    last_kg = next((kg for kg in reversed(added) if kg), 0.0)
    if aim.is_right(last_kg):
        return _near(base, context, aim.off_k, has_dosed)
    if not _is_open(assessed, learned, aim.is_short, has_dosed):
        return base
    superheat = assessed.targets.windows.get("superheat")
    now_k = assessed.case.derived.superheat
    room = room_for(aim.way, aim.watched, superheat.value if superheat else None, now_k)
    dose = next_dose(learned, room, not aim.is_short)
    if dose <= 0 and aim.is_in_window:
        return _near(base, context, aim.off_k, has_dosed)
    back = aim.back_kg(added[-1]) if dose <= 0 else 0.0
    if back > 0:
        return replace(
            _given(base, learned, aim, -back), expected=None, beside=None,
            reason=say("The last dose went past the window: this system answers more than any in "
                       "the book. Take this much back out, by its own answer."),
        )  # fmt: skip
    if dose <= 0:
        return replace(base, reason=say("No dose is safe from here: what is read fits no charge "
                                        "that would come right. Check the probes."))  # fmt: skip
    return _given(base, learned, aim, dose if aim.is_short else -dose)


@dataclass(frozen=True, slots=True)
class _Aim:
    """What is charged by, how far off it is now [K], and its window about the target [K]."""

    watched: Watched
    way: Way
    target_k: float
    off_k: float
    low_k: float
    high_k: float
    settled: tuple[Settled, ...]

    @property
    def is_short(self) -> bool:
        return self.off_k < 0 if self.watched == "subcooling" else self.off_k > 0

    @property
    def is_in_window(self) -> bool:
        return self.low_k <= self.off_k <= self.high_k

    def back_kg(self, last_kg: float) -> float:
        """What of a dose that went past the window comes out again [kg]."""
        if len(self.settled) < 2:
            return 0.0
        before, now = self.settled[-2], self.settled[-1]
        pair = (before.subcooling_off_k, now.subcooling_off_k)
        if self.watched == "superheat":
            pair = (before.superheat_off_k, now.superheat_off_k)
        if pair[0] is None or pair[1] is None or self.is_short:
            return 0.0
        return taken_back(pair[0], pair[1], last_kg)

    def is_right(self, last_kg: float) -> bool:
        """Near enough; or past the target by the last dose but inside its window: left alone."""
        if abs(self.off_k) <= self.way.near_k:
            return True
        passed = last_kg < 0 if self.is_short else last_kg > 0
        return passed and self.is_in_window


def _aim(
    plate: Plate,
    history: Sequence[Dosed],
    assessed: Assessment,
    method: str | None,
    preferred: Sequence[str],
) -> _Aim | None:
    """None where no school decides, or what it judges is not read."""
    deciding = assessed.targets.deciding
    if deciding is None:
        return None
    watched: Watched = "superheat" if deciding.judges == "superheat" else "subcooling"
    settled = tuple(_settled(plate, row, method, preferred) for row in history)
    last = settled[-1]
    off = last.superheat_off_k if watched == "superheat" else last.subcooling_off_k
    if off is None:
        return None
    window = assessed.targets.windows[deciding.judges]
    removes = off > 0 if watched == "subcooling" else off < 0
    way = way_for(plate.metering_device, watched, removes)
    return _Aim(watched, way, window.value, off, window.low - window.value,
                window.high - window.value, settled)  # fmt: skip


def _connection(name: str) -> Connection:
    found = CONNECTIONS.get(name)
    if found is None:
        listed = ", ".join(CONNECTIONS)
        raise CoreError("connection", f"Unknown connection “{name[:60]}”. Known: {listed}.")
    if not found.can_charge:
        raise CoreError(
            "connection", f"{found.label}: nothing can be charged through it. Connect a hose first."
        )
    return found


def _check(history: Sequence[Dosed]) -> None:
    if not history:
        raise CoreError("history", "There is no reading yet. Give at least one settled reading.")
    if any(not row.readings for row in history):
        raise CoreError("readings", "A row without readings says nothing. Read, or leave it out.")
    for before, after in pairwise(history):
        if after.minutes < before.minutes:
            raise CoreError(
                "history", f"Its times run backwards: {after.minutes:g} min comes after "
                f"{before.minutes:g} min. Put the readings in order.",
            )  # fmt: skip


def _assessed(
    plate: Plate, history: Sequence[Dosed], context: Context, method: str | None,
    preferred: Sequence[str],
) -> Assessment:  # fmt: skip
    """The last reading judged, with the ones before it as its past."""
    now = history[-1]
    moments = tuple(
        Moment(now.minutes - row.minutes, row.readings, row.added_kg) for row in history[:-1]
    )
    past = replace(
        context.past, moments=context.past.moments + moments, added_since_kg=now.added_kg
    )
    return assess(plate, now.readings, replace(context, past=past), method, preferred)


def _standing_in_the_way(base: Nudge, removing: bool) -> Nudge | None:
    """A doubted reading, a danger, a shut gate: wait where only time opens it, else stop.

    Liquid at the compressor ends adding; taking out is its cure.
    """
    assessed = base.assessment
    if assessed.doubts:
        return base
    danger = next((said for hazard, said in assessed.hazards if hazard.key in DANGERS), None)
    if danger is not None and not removing and assessed.charge.advice != "remove":
        return replace(base, reason=danger)
    blocking = [b for b in assessed.breaches if b.effect == "blocks"]
    shut = [b for b in blocking if b.gate.key not in CLOCKS]
    if shut:
        return replace(base, reason=shut[0].message)
    if any(breach.passed for breach in assessed.breaches):
        return replace(base, reason=say("A gate was passed to judge this: no ground to move "
                                        "refrigerant."))  # fmt: skip
    if blocking:
        wait = _still_to_wait(assessed)
        return replace(base, action="wait", wait_minutes=wait, reason=blocking[0].message)
    return None


def _still_to_wait(assessed: Assessment) -> float:
    """Minutes until the clocks open and, where instruments watch, their forecast says settled."""
    context, device = assessed.case.context, assessed.case.plate.metering_device
    waits = [2.0 if context.settles_in is None else context.settles_in]
    if context.minutes_running is not None:
        waits.append(RUN_MINUTES[device] - context.minutes_running)
    if context.minutes_since_change is not None:
        waits.append(CHANGE_MINUTES[device] - context.minutes_since_change)
    return float(ceil(max(waits)))


def _settled(plate: Plate, row: Dosed, method: str | None, preferred: Sequence[str]) -> Settled:
    """A reading as distances from its own target: the load may have moved since the last one."""
    case = open_case(plate, row.readings, Context())
    targets = choose_targets(case, method, preferred)

    def off(judged: Judged) -> float | None:
        value, target = case.derived.get(judged), targets.windows.get(judged)
        return None if value is None or target is None else value - target.value

    subcooling = off("subcooling")
    if targets.deciding is not None and targets.deciding.judges == "approach":
        approach = off("approach")
        subcooling = None if approach is None else -approach
    return Settled(row.added_kg, subcooling, off("superheat"))


def _near(base: Nudge, context: Context, off_k: float, has_dosed: bool) -> Nudge:
    """As near as it can be brought: confirmed after a quarter of an hour, then done."""
    since = context.minutes_since_change
    if has_dosed and since is not None and since < CONFIRM_MINUTES:
        left = float(ceil(CONFIRM_MINUTES - since))
        return replace(
            base, action="wait", wait_minutes=left,
            reason=say("Right, {off} from its target. Shut the cylinder, let the hose run empty "
                       "into suction, and read again in {left} to confirm.",
                       off=difference(abs(off_k)), left=minutes(left)),
        )  # fmt: skip
    opening = "Confirmed: right" if has_dosed else "Right as it is"
    return replace(
        base, action="done",
        reason=say(f"{opening}, {{off}} from its target. Weigh the cylinder back, disconnect, "
                   "prove the ports tight.", off=difference(abs(off_k))),
    )  # fmt: skip


def _is_open(assessed: Assessment, learned: Shortfall, is_short: bool, has_dosed: bool) -> bool:
    """The judge's own word opens the door; a dose that is answered keeps it open.

    Near its target a system looks like one with nothing wrong: then the answer to the dose is
    the better witness, and the stop rules have been asked already.
    """
    if not has_dosed:
        return assessed.charge.advice == ("add" if is_short else "remove")
    return learned.surprise > UNLIKELY


def _given(base: Nudge, learned: Shortfall, aim: _Aim, dose_kg: float) -> Nudge:
    """The dose with what to expect of it, and what would prove it wrong."""
    now = base.assessment.case.derived
    other: Watched = "superheat" if aim.watched == "subcooling" else "subcooling"
    beside = now.get(other)
    before, after = learned.after(0.0, other), learned.after(dose_kg, other)
    missing = learned.missing_kg()
    least, most = sorted((abs(missing.low), abs(missing.high)))
    what = "is missing" if dose_kg > 0 else "is too much"
    return replace(
        base, action="add" if dose_kg > 0 else "remove", amount_kg=abs(dose_kg),
        bursts=max(1, ceil(abs(dose_kg) / base.connection.burst_kg - 0.05)),
        wait_minutes=aim.way.wait_minutes,
        expected=learned.after(dose_kg).moved(aim.target_k),
        beside=None if beside is None else after.moved(beside - before.middle),
        reason=say(
            f"About {{about}} {what} by what is known now, between {{least}} and {{most}}. This "
            "dose stays inside the window even if the system answers more than expected.",
            about=_mass(abs(missing.middle)), least=_mass(least), most=_mass(most),
        ),
        would_prove_wrong=say(
            f"{aim.watched.capitalize()} still near {{now}} after the wait, or suction that did "
            "not move: then it is not getting through, and nothing more goes in.",
            now=difference(now.get(aim.watched) or 0.0),
        ),
    )  # fmt: skip


def _mass(kg: float) -> Measure:
    return Measure(kg * 1000, Quantity.SMALL_MASS)
