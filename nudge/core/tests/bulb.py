"""The bulb in the hand, and the valve at two loads: whether superheat answers as a valve's does."""

from nudge.core.language.said import difference, say
from nudge.core.language.units import degrees_f
from nudge.core.tests.run import Advice, Number, Run, TestOutcome, at
from nudge.core.tests.valve import superheat_of

BULB_MIN, BULB_K = 2.0, degrees_f(3)
LOAD_K, MOVES_SHARE = degrees_f(8), 0.5


def _moves(run: Run) -> tuple[list[float], float]:
    """How far superheat moved each way the bulb was taken [K], and minutes still to wait."""
    moves, waits = list[float](), 0.0
    for kind, way in (("bulb_warm", -1.0), ("bulb_cold", 1.0)):
        marks = run.marked(kind)
        if not marks:
            continue
        begin, end = marks[-1].at_s, marks[-1].at_s + BULB_MIN * 60 * 1.5
        before = superheat_of(run, begin)
        seconds = [s for s in run.trace("suction_line_temp").seconds if begin < s <= end]
        if before is None or not seconds:
            waits = max(waits, BULB_MIN)
            continue
        found = [superheat_of(run, s) for s in seconds]
        moves.append(max(way * (v - before) for v in found if v is not None))
        waits = max(waits, BULB_MIN - (run.until_s - begin) / 60)
    return moves, waits


def judge_bulb(run: Run) -> TestOutcome:
    """Whether superheat answers the bulb in the hand, and in ice."""
    warmed, cooled = run.marked("bulb_warm"), run.marked("bulb_cold")
    moves, waits = _moves(run)
    now = superheat_of(run, run.until_s)
    hazards = (
        (
            say(
                "Superheat {now}: cool the bulb at once, liquid may reach the compressor.",
                now=difference(now),
            ),
        )
        if now is not None and now < degrees_f(5)
        else ()
    )
    if not warmed and not cooled:
        return TestOutcome(
            "running",
            "waiting",
            say("Warm the bulb in your hand and mark it; then cool it in ice water."),
            hazards=hazards,
        )
    numbers = tuple(
        Number("moved", "Superheat moved by", difference(one), degrees_f(1)) for one in moves
    )
    if moves and max(moves) >= BULB_K:
        return TestOutcome(
            "passed",
            "reacts",
            say("The valve answers its bulb."),
            numbers=numbers,
            observations=("bulb_test_reacts",),
            hazards=hazards,
        )
    if waits > 0.05 or not (warmed and cooled):
        return TestOutcome(
            "running",
            "watching",
            say("Nothing yet. Two minutes each way: warm, then cold."),
            numbers=numbers,
            ready_in=max(waits, 0.0),
            hazards=hazards,
        )
    return TestOutcome(
        "failed",
        "no_reaction",
        say("The valve does not answer its bulb."),
        numbers=numbers,
        observations=("bulb_test_no_reaction",),
        hazards=hazards,
        then=(Advice("test_dose", "A test dose tells shut from starved."),),
    )


def judge_loads(run: Run) -> TestOutcome:
    """Whether superheat holds at two loads, as a valve's does, or moves as an orifice's."""
    marks = run.marked("load_changed")
    first = superheat_of(run, run.began_s + 60)
    if not marks:
        return TestOutcome(
            "running",
            "waiting",
            say("Read superheat, then change the load: another hour, a room shut off. Mark it."),
        )
    last, wet = superheat_of(run, run.until_s), run.trace("return_air_wet_bulb")
    load = abs((at(wet, run.until_s) or 0.0) - (at(wet, marks[-1].at_s) or 0.0))
    if first is None or last is None or (run.until_s - marks[-1].at_s) < 10 * 60:
        return TestOutcome(
            "running",
            "settling",
            say("Let it settle at the second load: ten minutes."),
            ready_in=max(10 - (run.until_s - marks[-1].at_s) / 60, 0.0),
        )
    moved = last - first
    numbers = (
        Number("moved", "Superheat moved by", difference(moved), degrees_f(2)),
        Number("load", "Wet bulb moved by", difference(load)),
    )
    if load < LOAD_K * 0.5:
        return TestOutcome(
            "cannot_tell",
            "same_load",
            say("The load hardly changed: it tells nothing yet."),
            numbers=numbers,
        )
    if abs(moved) > MOVES_SHARE * LOAD_K:
        return TestOutcome(
            "failed",
            "moves",
            say("Superheat moved with the load, as an orifice’s does: the valve does not follow."),
            numbers=numbers,
            observations=("superheat_moves",),
        )
    return TestOutcome(
        "passed",
        "holds",
        say("Superheat held at both loads: the valve follows."),
        numbers=numbers,
        observations=("superheat_holds",),
    )
