"""Defrosts watched on the simulated plant: is what is missing named, is healthy plant left alone.

`python -m tools.defrost_study [CASES]`: heat pumps and weathers of every family in turn; a defrost
is forced after half an hour to an hour, its traces read by instruments every two seconds.
"""

import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from random import Random

from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.settling.trace import Trace
from nudge.core.tests.run import Run, TestMark
from nudge.core.tests.table import judged
from nudge.plant.acts import forced, standing, start
from nudge.plant.defrost import DefrostBoard
from nudge.plant.faults import Present
from nudge.plant.room import Room, Weather
from nudge.plant.running import advance
from nudge.plant.scene import Scene, charged
from nudge.plant.wet_air import air_of
from tools.cousins import FAMILIES
from tools.winter import pump

CASES, FIRST = 102, 13_500
POINTS = ("suction_line_temp", "liquid_line_temp", "condenser_fan_amps", "outdoor_air_temp")
STEP_S, LONGEST_S, BEFORE_S, AFTER_S = 2.0, 960.0, 120.0, 60.0
CAUSES = {
    "": "works",
    "defrost_valve_stuck": "valve_stuck",
    "defrost_fan_runs": "fan_runs_on",
    "defrost_sensor": "does_not_end",
    "defrost_board": "never_called",
    "undercharge": "no_heat_for_it",
}


@dataclass(frozen=True)
class Watched:
    """A defrost as it was made and what it was named."""

    cause: str
    named: str
    state: str


def watched(number: int) -> Watched:
    """One defrost, forced and watched to its end."""
    rng = Random(f"a defrost {number}")
    cause = tuple(CAUSES)[number % len(CAUSES)]
    families = tuple(FAMILIES)
    of = pump(FIRST + number % 24, families[number % len(families)])
    faults = (Present(cause, rng.uniform(0.5, 0.95)),) if cause else ()
    humidity, outdoor = rng.uniform(55, 95), rng.uniform(-7.0, 3.5)
    kw = of.machine.nominal_kw
    scene = Scene(
        of.machine,
        Room(420 * kw, 0.033 * kw, 0.05 * kw, 60 * kw, 0.0),
        Weather(outdoor, relative_humidity=humidity),
        faults,
        heating=True,
        low_switch=None,
        board=DefrostBoard("time", every_s=5400.0),
    )
    state = start(standing(scene, air_of(rng.uniform(19, 21), 38), charged(of.machine, faults)))
    every = rng.uniform(25, 60)
    state = advance(scene, state, 60 * every)
    began, asked = state.seconds, False
    rows: list[tuple[float, dict[str, float]]] = []
    marks: list[TestMark] = []
    ended = None
    while state.seconds - began < LONGEST_S:
        state = advance(scene, state, STEP_S)
        rows.append((state.seconds, dict(state.truth)))
        if not asked and state.seconds - began > BEFORE_S:
            asked = True
            state = forced(state)
            marks.append(TestMark("forced", state.seconds))
        began_defrost = any(row["condenser_fan_amps"] < 0.1 for _, row in rows)
        if asked and ended is None and began_defrost and not state.frosting.is_defrosting:
            ended = state.seconds
        if ended is not None and state.seconds - ended > AFTER_S:
            break
    run = Run(
        "defrost",
        of.plate,
        began,
        state.seconds,
        {"every": every, "humidity": humidity},
        {point: _read(point, rows, rng) for point in POINTS},
        marks=tuple(marks),
    )
    found = judged(run)
    return Watched(cause, found.key, found.state)


def _read(point: str, rows: list[tuple[float, dict[str, float]]], rng: Random) -> Trace:
    bias = rng.gauss(0, accuracy_of(point).limit(rows[0][1][point]) / 2)
    seconds = tuple(second for second, _ in rows)
    return Trace(seconds, tuple(row[point] + bias + rng.gauss(0, 0.05) for _, row in rows))


def main(cases: str = str(CASES)) -> None:
    with ProcessPoolExecutor() as pool:
        found = list(pool.map(watched, range(int(cases)), chunksize=2))
    right = sum(one.named == CAUSES[one.cause] for one in found)
    print(f"named right {100 * right / len(found):.1f} % of {len(found)}")
    for cause, wanted in CAUSES.items():
        some = [one for one in found if one.cause == cause]
        print(f"  {cause or 'healthy':20s} {wanted:15s} {dict(Counter(o.named for o in some))}")


if __name__ == "__main__":
    main(*sys.argv[1:])
