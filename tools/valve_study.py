"""Valves stuck shut, proven by a test dose, and valves adjusted: what Nudge says and asks.

`python -m tools.valve_study [CASES]`. Severities to fully shut, every family of cousins, every
refrigerant; the proof as a technician who follows the test would make it.
"""

import sys
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.charging.advise import decided
from nudge.core.language.errors import CoreError
from nudge.core.language.units import KPA_PER_PSI
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.refrigerant.catalogue import CATALOGUE, refrigerant
from nudge.core.settling.trace import Trace
from nudge.core.tests.adjusting import next_turn
from nudge.core.tests.run import Run, TestMark
from nudge.core.tests.table import judged
from nudge.core.tests.valve import MOST_RUN_MIN
from nudge.plant.acts import dosed, standing, start, stop
from nudge.plant.faults import Present
from nudge.plant.presets import PRESETS, preset_machine
from nudge.plant.room import Weather, room_for
from nudge.plant.running import advance
from nudge.plant.scene import PlantState, Scene
from nudge.plant.wet_air import air_of
from tools.cousins import FAMILIES
from tools.sweep import read, swept
from tools.tables import some_site

CASES, ADJUSTED = 600, 100
SEVEN = (
    "suction_pressure",
    "liquid_pressure",
    "suction_line_temp",
    "liquid_line_temp",
    "outdoor_air_temp",
    "return_air_temp",
    "return_air_wet_bulb",
    "discharge_line_temp",
)
TICKED = frozenset({"filter_clean", "evaporator_coil_clean", "condenser_coil_clean"})
VALVES = tuple(k for k in PRESETS if preset_machine(k).device.kind in ("txv", "eev"))
BURNS = ("A2L", "A2", "A3")
DOSE_KG, DOSE_KG_S = 0.15, 0.02
REST_S, STEP_S = 120.0, 1.0
RIGHT_K, MOST_STEPS = 1.0, 3


@dataclass(frozen=True, slots=True)
class Proven:
    """A proof made on the plant: minutes of work, lowest suction [kPa gauge], longest run [s]."""

    minutes: float
    lowest: float
    longest_s: float
    found: str


def shut_scene(key: str, outdoor_c: float, fluid: str = "") -> tuple[Scene, PlantState]:
    """A plant whose valve lets nothing through, standing."""
    machine = preset_machine(key)
    if fluid:
        machine = replace(machine, fluid=fluid)
    air, weather = air_of(25.0, 50.0), Weather(outdoor_c)
    room = room_for(machine.nominal_kw, air, weather.at(0))
    scene = Scene(machine, room, weather, (Present("valve_shut", 1.0),), low_switch=None)
    return scene, standing(scene, air, machine.charge_kg)


def stuck(cases: int) -> None:
    """What is advised behind a stuck valve: never `add`, never `find_leak`."""
    said: Counter[tuple[str, str]] = Counter()
    for number in range(cases):
        rng = Random(f"stuck {number}")
        try:
            plate, readings, how = _stuck(rng)
            ticked = TICKED if rng.random() < 0.7 else frozenset()
            found = decided(plate, readings, Context(15.0, None, ticked)).assessment
        except CoreError:
            continue
        said[(how, found.decision.advice)] += 1
    print("stuck valves:", dict(sorted(said.items())))
    harm = sum(n for (_, advice), n in said.items() if advice in ("add", "find_leak"))
    print(f"   add or find_leak: {harm} of {sum(said.values())}")


def _stuck(rng: Random) -> tuple[Plate, dict[str, float], str]:
    if rng.random() < 0.5:
        of = some_site(rng, range(200), f"{rng.choice(list(FAMILIES))}/valve")
        case = swept(of, [Present("metering_underfeed", rng.uniform(0.7, 1.0))], rng)
        if case is None:
            raise CoreError("case", "no operating point")
        everything = read(case, rng)
        return of.plate, {p: everything[p] for p in SEVEN if p in everything}, "starving"
    key = rng.choice(VALVES)
    fluid = rng.choice([f for f in CATALOGUE if f != "R-744"])
    scene, state = shut_scene(key, rng.uniform(18, 40), fluid)
    state = advance(scene, start(state), rng.choice((60, 180, 600)))
    machine = scene.machine
    plate = Plate(
        fluid,
        MeteringDevice(machine.device.kind),
        nominal_capacity_w=machine.nominal_kw * 1000,
        rated_seer=14,
    )
    noisy = {
        p: state.truth[p] + rng.gauss(0, 2.0 if "pressure" in p else 0.3)
        for p in SEVEN
        if p in state.truth
    }
    return plate, noisy, "shut"


def proofs() -> None:
    """The proof on every plant with a valve, as the test asks for it."""
    found = [(key, _proof(key, out)) for key in VALVES for out in (20.0, 32.0, 40.0)]
    bad = [key for key, one in found if one.found != "valve_shut"]
    burning = [
        one.lowest
        for key, one in found
        if refrigerant(preset_machine(key).fluid).safety_class in BURNS
    ]
    print(
        f"proof: complete {len(found) - len(bad)} of {len(found)}, longest "
        f"{max(one.minutes for _, one in found):.0f} min of work, longest run "
        f"{max(one.longest_s for _, one in found):.0f} s; lowest suction with A2L and A3 "
        f"{min(burning) / KPA_PER_PSI:.1f} psig; not proven {bad}"
    )


def _proof(key: str, outdoor_c: float) -> Proven:
    """Readings for a minute, pumped down, a dose, watched; bulb in the hand; the walk.

    With what burns it is stopped over the air’s pressure, dosed standing, and run again briefly.
    """
    scene, state = shut_scene(key, outdoor_c)
    burns = refrigerant(scene.machine.fluid).safety_class in BURNS
    low, back = (40 * KPA_PER_PSI, 35 * KPA_PER_PSI) if burns else (0.0, -60.0)
    rows, ran_s, longest, lowest = list[tuple[float, PlantState]](), 0.0, 0.0, 1e9
    given_s, begins, second = None, 60.0, 0.0
    while second < begins + MOST_RUN_MIN * 60 + 120:
        kpa = state.truth["suction_pressure"]
        if second == begins:
            state = start(state)
        elif state.is_running:
            ran_s += STEP_S
            lowest, longest = min(lowest, kpa), max(longest, ran_s)
            if given_s is None and kpa < low and (burns or ran_s > 45):
                state, given_s = dosed(state, DOSE_KG, DOSE_KG_S), second
                state = stop(state) if burns else state
            elif (given_s is not None and kpa < back) or ran_s >= MOST_RUN_MIN * 60:
                state = stop(state)
        elif burns and given_s is not None and second == given_s + 12:
            state, ran_s = start(state), 0.0
        rows.append((second, state))
        state = advance(scene, state, STEP_S)
        second += STEP_S
    marks = [TestMark("dose_given", given_s or 120.0), TestMark("stopped", second - 60)]
    marks += [TestMark("bulb_dead", second - 30), TestMark("walk_clean", second - 20)]
    machine = scene.machine
    run = Run(
        "test_dose",
        Plate(
            machine.fluid,
            MeteringDevice(machine.device.kind),
            nominal_capacity_w=machine.nominal_kw * 1000,
        ),
        0.0,
        second,
        traces=dict(_traces(rows)),
        marks=tuple(marks),
        ended_s=second,
        started_s=(begins,),
    )
    work = second / 60 + REST_S / 60 + 8 + 4  # rest, the bulb (table of checks), the walk
    return Proven(work, lowest, longest, judged(run).key)


def _traces(rows: list[tuple[float, PlantState]]) -> Iterator[tuple[str, Trace]]:
    for point in (
        "suction_pressure",
        "liquid_pressure",
        "suction_line_temp",
        "discharge_line_temp",
    ):
        yield point, Trace(tuple(s for s, _ in rows), tuple(st.truth[point] for _, st in rows))


def adjusting(cases: int) -> None:
    """An adjustable valve set off its target, turned as asked: steps until within 1 K."""
    steps: Counter[int] = Counter()
    for number in range(cases):
        rng = Random(f"adjust {number}")
        key = rng.choice([k for k in VALVES if preset_machine(k).device.kind == "txv"])
        machine = preset_machine(key)
        air, weather = air_of(rng.uniform(22, 27), 50.0), Weather(rng.uniform(24, 38))
        k_turn, off = rng.uniform(1.0, 3.0), rng.choice((-1, 1)) * rng.uniform(1.5, 4.0)
        room = room_for(machine.nominal_kw, air, weather.at(0))
        plain = Scene(machine, room, weather)
        state = advance(plain, start(standing(plain, air)), 900)
        target = _superheat(state, machine.fluid)
        made, settled = 0.0, list[tuple[float, float]]()
        count = 0
        while count < 12:
            moved = replace(
                machine.device,
                static_superheat_k=max(
                    machine.device.static_superheat_k + off + made * k_turn, 0.3
                ),
            )
            scene = replace(plain, machine=replace(machine, device=moved))
            state = advance(scene, state, 900)
            settled.append((made, _superheat(state, machine.fluid) + rng.gauss(0, 0.15)))
            turn = next_turn(target, settled)
            if turn is None:
                break
            made += turn.turns
            count += 1
        steps[count] += 1
    within = sum(n for k, n in steps.items() if k <= MOST_STEPS)
    print(
        f"adjusting: within {RIGHT_K:g} K in at most {MOST_STEPS} steps: "
        f"{within / cases:.1%}; steps {dict(sorted(steps.items()))}"
    )


def _superheat(state: PlantState, fluid: str) -> float:
    from nudge.core.physics.refrigerant.table import load_table

    kpa = state.truth["suction_pressure"] + 101.325
    return state.truth["suction_line_temp"] - load_table(fluid).dew.temperature(kpa)


def main(cases: str = str(CASES)) -> int:
    stuck(int(cases))
    proofs()
    adjusting(ADJUSTED)
    return 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
