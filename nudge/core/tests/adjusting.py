"""Adjusting an adjustable expansion valve: its response is learned turn by turn, as a dose's is."""

from dataclasses import dataclass
from itertools import pairwise

from nudge.core.language.errors import CoreError
from nudge.core.language.said import Measure, Said, difference, minutes, say
from nudge.core.language.units import Quantity, degrees_f
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.tests.run import Number, Run, Settings, TestOutcome, between
from nudge.core.tests.valve import superheat_of

PRIOR_K, PRIOR_WEIGHT = 2.0, 0.15
"""Superheat a whole turn in adds [K] before anything is learned, and how much of a turn it weighs
as. Trade: 2 to 4 °F of static superheat a turn; the coil answers with more."""
LEAST_K_TURN, MOST_K_TURN = 0.6, 8.0
NEAR_K = 1.0
EIGHTH, MOST_TURN = 0.125, 1.5
FIRST_TURN = 1.0
SETTLES_MIN = 15.0
MEAN_S = 120.0
TURNS = {
    "in_eighth": EIGHTH,
    "in_quarter": 0.25,
    "in_half": 0.5,
    "in_turn": 1.0,
    "out_eighth": -EIGHTH,
    "out_quarter": -0.25,
    "out_half": -0.5,
    "out_turn": -1.0,
}
"""Marks of a turn of the stem: in (clockwise) is more superheat."""
NAMES = {EIGHTH: "an eighth of a turn", 0.25: "a quarter turn", 0.5: "half a turn", 1: "one turn"}
LEAST_TARGET_K = degrees_f(5)


@dataclass(frozen=True, slots=True)
class Turn:
    """The next turn of the stem (in positive, in eighths), and what a turn does here [K]."""

    turns: float
    k_per_turn: float


def guard(plate: Plate, settings: Settings) -> None:
    """Raises: CoreError, for what has no stem to turn, or must not be turned."""
    if plate.metering_device is not MeteringDevice.TXV:
        raise CoreError("test", "Only a thermostatic expansion valve has a stem to turn.")
    if settings.get("adjustable") != "yes":
        raise CoreError(
            "adjustable",
            "A non-adjustable valve is never opened: its cap stays shut. Renew it if it is wrong.",
        )


def next_turn(target_k: float, settled: list[tuple[float, float]]) -> Turn | None:
    """The turn to make next: None when superheat is within 1 K of its target.

    `settled` are (turns made so far, superheat settled at [K]), oldest first.
    """
    _, now = settled[-1]
    per_turn = _per_turn(settled)
    off = target_k - now
    if abs(off) <= NEAR_K:
        return None
    most = FIRST_TURN if len(settled) == 1 else MOST_TURN
    wanted = max(-most, min(most, off / per_turn))
    eighths = round(wanted / EIGHTH) or (1 if wanted > 0 else -1)
    return Turn(eighths * EIGHTH, per_turn)


def _per_turn(settled: list[tuple[float, float]]) -> float:
    """Superheat a turn adds, by what turns did here; the last counts most."""
    top, under = PRIOR_K * PRIOR_WEIGHT**2, PRIOR_WEIGHT**2
    for n, ((before, was), (after, is_now)) in enumerate(pairwise(settled)):
        weight = 1.0 + n
        top += weight * (after - before) * (is_now - was)
        under += weight * (after - before) ** 2
    return max(LEAST_K_TURN, min(MOST_K_TURN, top / under))


def judge(run: Run) -> TestOutcome:
    """Where the valve stands, and which turn comes next."""
    target = run.number("target") or degrees_f(10)
    marks = run.marked(*TURNS)
    settled = _settled(run)
    now = superheat_of(run, run.until_s)
    hazards = (
        (say("Superheat {now}: liquid may reach the compressor. Turn in.", now=difference(now)),)
        if now is not None and now < LEAST_TARGET_K
        else ()
    )
    since = (run.until_s - (marks[-1].at_s if marks else run.began_s)) / 60
    if not settled:
        return TestOutcome(
            "running",
            "waiting",
            _wait(SETTLES_MIN - since),
            hazards=hazards,
            ready_in=max(SETTLES_MIN - since, 0.0),
        )
    made, superheat = settled[-1]
    turn = next_turn(target, settled)
    numbers = (
        Number("superheat", "Superheat, settled", difference(superheat), degrees_f(1)),
        Number("turns", "Turned in so far", Measure(made, Quantity.RATIO)),
        Number(
            "per_turn",
            "A turn in adds here",
            difference(_per_turn(settled)),
            None,
            "learned from each turn, the last counting most",
        ),
    )
    if marks and since < SETTLES_MIN * 0.98:
        return TestOutcome(
            "running",
            "settling",
            _wait(SETTLES_MIN - since),
            numbers=numbers,
            hazards=hazards,
            ready_in=SETTLES_MIN - since,
        )
    if turn is None:
        return TestOutcome(
            "passed",
            "set",
            say(
                "Set: superheat is {now}, within {near} of its target.",
                now=difference(superheat),
                near=difference(NEAR_K),
            ),
            numbers=numbers,
            proves=("valve_set",),
            hazards=hazards,
        )
    way = "in (clockwise)" if turn.turns > 0 else "out"
    words = f"Turn the stem {_eighths(abs(turn.turns))} {way}, then wait {{waits}}."
    return TestOutcome(
        "running", "turn", say(words, waits=minutes(SETTLES_MIN)), numbers=numbers, hazards=hazards
    )


def _settled(run: Run) -> list[tuple[float, float]]:
    """Superheat at the end of each wait, with the turns made before it."""
    found, made, begin = list[tuple[float, float]](), 0.0, run.began_s
    for mark in (*run.marked(*TURNS), None):
        end = run.until_s if mark is None else mark.at_s
        line = between(run.trace("suction_line_temp"), end - MEAN_S, end)
        values = [superheat_of(run, s) for s in line.seconds]
        known = [v for v in values if v is not None]
        long_enough = not found or (end - begin) / 60 >= SETTLES_MIN * 0.98
        if known and long_enough:
            found.append((made, sum(known) / len(known)))
        if mark is not None:
            made, begin = made + TURNS[mark.kind], mark.at_s
    return found


def _wait(more: float) -> Said:
    return say("Let it settle: {more} more.", more=minutes(max(more, 1.0)))


def _eighths(turns: float) -> str:
    return NAMES.get(turns, f"{round(turns / EIGHTH)} eighths of a turn")
