"""How often settling and the probe checks are right, on simulated systems. Run by `make study`.

`python -m tools.study [STARTS] [FAULTY] [HEALTHY]`; seeds are fixed, and were not used to set any
limit. Every start runs a random system, weather, fault and dose with a noisy kit; what is judged
is compared with the noiseless truth.
"""

import sys
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from random import Random
from statistics import median

from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.probes import lying
from nudge.core.settling.seen import Seen
from nudge.core.settling.stability import SHORTEST_S, SLOW, settling, with_differences
from nudge.core.settling.trace import Trace
from nudge.instruments.kit import Ails, SimulatedKit, new_kit
from nudge.plant.acts import dosed, standing, start
from nudge.plant.faults import Present
from nudge.plant.presets import PRESETS, preset_machine
from nudge.plant.room import Weather, room_for
from nudge.plant.running import advance
from nudge.plant.scene import PlantState, Scene, charged
from nudge.plant.wet_air import air_of

STARTS, FAULTY, HEALTHY = 200, 30, 200
START_SEED, FAULTY_SEED, HEALTHY_SEED = 1000, 5600, 9600
STEP_S = 2.0
LIMIT = {slow.key: slow.within for slow in SLOW}
SYSTEMS = [key for key, row in PRESETS.items() if row.rating.application == "comfort_cooling"]
MACHINE_FAULTS = (
    "undercharge",
    "overcharge",
    "condenser_dirt",
    "filter_dirty",
    "low_load",
    "drier_restricted",
    "compressor_worn",
    "metering_underfeed",
)
MORE_FAULTS = (*MACHINE_FAULTS, "metering_overfeed", "non_condensables", "hunting")
SITED = (
    ("low-probe", "wrong_zero"),
    ("high-probe", "wrong_zero"),
    ("clamp-1", "dirt"),
    ("clamp-2", "dirt"),
    ("clamp-3", "dirt"),
    ("clamp-4", "dirt"),
    ("clamp-5", "dirt"),
    ("clamp-1", "wrong_pipe"),
    ("clamp-2", "wrong_pipe"),
    ("clamp-5", "wrong_pipe"),
    ("air-1", "sun"),
    ("air-1", "touching_coil"),
    ("air-3", "mixed_air"),
    ("air-2-wet", "dry_wick"),
)
FAILING = tuple(
    (channel, trouble)
    for channel in (
        "low-probe",
        "high-probe",
        "clamp-1",
        "clamp-2",
        "clamp-3",
        "clamp-4",
        "air-1",
        "air-2",
        "air-3",
    )
    for trouble in ("stuck", "spiking", "dropping_out", "dead")
)


@dataclass(frozen=True)
class Start:
    """One start or addition: said settled after, truly settled after, and whether it was right."""

    said_s: float | None
    true_s: float
    is_right: bool


def _scene(rng: Random, faults: tuple[str, ...], share: float) -> tuple[Scene, PlantState]:
    machine = preset_machine(rng.choice(SYSTEMS))
    air, weather = air_of(rng.uniform(23, 29), rng.uniform(40, 62)), Weather(rng.uniform(24, 40))
    present: tuple[Present, ...] = ()
    if rng.random() < share:
        present = (Present(rng.choice(faults), rng.uniform(0.2, 0.7)),)
    scene = Scene(machine, room_for(machine.nominal_kw, air, weather.at(0)), weather, present)
    return scene, standing(scene, air, charged(machine, present))


def one_start(seed: int) -> Start:
    """Start a system, or dose a running one, and see when it is called settled.

    The house is held where it is, so that where it ends is the machine's own.
    """
    rng = Random(seed)
    scene, state = _scene(rng, MACHINE_FAULTS, 0.6)
    scene = replace(scene, room=replace(scene.room, store_kj_k=1e9, water_kg=1e9))
    state, kit = start(state), new_kit(rng)
    quiet = 0.0
    if rng.random() < 0.5:
        state = advance(scene, state, 900)
        kg = rng.uniform(0.03, 0.13) if rng.random() < 0.8 else -0.05
        state, quiet = dosed(state, kg, 0.005), state.seconds
    rows: dict[str, list[tuple[float, float]]] = {}
    truths: list[tuple[float, dict[str, float]]] = []
    said = None
    for number in range(500):
        given: dict[str, float] = {}
        for _ in range(2):
            state = advance(scene, state, STEP_S)
            kit, values = kit.read(state.truth, STEP_S, rng)
            given = {k: given.get(k, 0.0) + v / 2 for k, v in values.items()}
        _keep(rows, scene, kit, state.seconds, given)
        truths.append((state.seconds - quiet, _slow_truth(scene, state)))
        if (
            said is None
            and number % 3 == 0
            and settling(_traces(rows), state.seconds, quiet).is_settled
        ):
            said = state.seconds - quiet
    end = truths[-1][1]
    apart = [t for t, row in truths if any(abs(row[k] - end[k]) > LIMIT[k] for k in end)]
    at_said = next((row for t, row in truths if said is not None and t >= said), None)
    right = at_said is not None and all(abs(at_said[k] - end[k]) <= LIMIT[k] for k in end)
    return Start(said, max(apart, default=0.0) + 2 * STEP_S, right)


def _keep(
    rows: dict[str, list[tuple[float, float]]],
    scene: Scene,
    kit: SimulatedKit,
    now: float,
    given: dict[str, float],
) -> None:
    table = load_table(scene.machine.fluid)
    by_point = {h.point: given[h.row.key] for h in kit.held if h.row.key in given}
    by_point["evaporator"] = table.dew.temperature(by_point["suction_pressure"] + 101.325)
    by_point["condenser"] = table.bubble.temperature(by_point["liquid_pressure"] + 101.325)
    for point, value in by_point.items():
        rows.setdefault(point, []).append((now, value))


def _traces(rows: dict[str, list[tuple[float, float]]]) -> dict[str, Trace]:
    late = {p: Trace(*map(tuple, zip(*r[-80:], strict=True))) for p, r in rows.items()}
    return with_differences(
        late,
        (
            ("superheat", "evaporator", "suction_line_temp", 1),
            ("subcooling", "condenser", "liquid_line_temp", -1),
        ),
    )


def _slow_truth(scene: Scene, state: PlantState) -> dict[str, float]:
    table, truth = load_table(scene.machine.fluid), state.truth
    return {
        "suction_pressure": truth["suction_pressure"],
        "liquid_pressure": truth["liquid_pressure"],
        "suction_line_temp": truth["suction_line_temp"],
        "liquid_line_temp": truth["liquid_line_temp"],
        "superheat": truth["suction_line_temp"]
        - table.dew.temperature(truth["suction_pressure"] + 101.325),
        "subcooling": table.bubble.temperature(truth["liquid_pressure"] + 101.325)
        - truth["liquid_line_temp"],
    }


def one_kit(seed: int, is_faulty: bool) -> tuple[str, list[str], list[str]]:
    """Run a kit 16 minutes: the point whose probe is bad, those named at the end, and ever."""
    rng = Random(seed)
    scene, state = _scene(rng, MORE_FAULTS, 0.5)
    kit, bad = new_kit(rng), ""
    if is_faulty:
        channel, trouble = rng.choice(SITED if rng.random() < 0.6 else FAILING)
        kit = kit.ail(channel, (Ails(trouble, rng.uniform(0.6, 1.0)),))
        bad = next(h.point for h in kit.held if h.row.key == channel)
    rows: dict[str, list[tuple[float, float]]] = {}

    def passed(
        state: PlantState, kit: SimulatedKit, seconds: float
    ) -> tuple[PlantState, SimulatedKit]:
        for _ in range(round(seconds / STEP_S)):
            state = advance(scene, state, STEP_S)
            kit, values = kit.read(state.truth, STEP_S, rng)
            for held in kit.held:
                if held.row.key in values and held.point:
                    rows.setdefault(held.point, []).append((state.seconds, values[held.row.key]))
        return state, kit

    state, kit = passed(state, kit, 60)
    before = {p: sum(v for _, v in r[-15:]) / len(r[-15:]) for p, r in rows.items()}
    state = start(state)
    placed = frozenset(h.point for h in kit.held if h.point and h.point != "cylinder_weight")
    ever: list[str] = []
    named: list[str] = []
    for minute in range(1, 17):
        state, kit = passed(state, kit, 60)
        if not state.is_running:
            break
        traces = {p: Trace(*map(tuple, zip(*r[-120:], strict=True))) for p, r in rows.items()}
        now = state.seconds
        mean = {
            p: sum(t.values[-5:]) / len(t.values[-5:])
            for p, t in traces.items()
            if now - t.seconds[-1] < 30
        }
        seen = Seen(
            scene.machine.fluid,
            0.0,
            {p: t.since(now - 240) for p, t in traces.items()},
            mean,
            placed,
            now,
            float(minute),
            before,
        )
        named = [lie.point for lie in lying(seen)]
        ever += named
    return bad, named, ever


def main(starts: int = STARTS, faulty: int = FAULTY, healthy: int = HEALTHY) -> None:
    with ProcessPoolExecutor() as pool:
        began = list(pool.map(one_start, range(START_SEED, START_SEED + starts), chunksize=4))
        said = [s for s in began if s.said_s is not None]
        right = sum(s.is_right for s in said)
        soon = sum(
            s.said_s is not None and s.said_s <= 2 * max(s.true_s, SHORTEST_S) for s in began
        )
        print(f"settling: {starts} starts and additions, said settled in {len(said)}")
        print(f"  right (within 0.5 °F, 1 psi of its end): {right / len(said):.1%} (wanted 95 %)")
        print(f"  by twice the true time: {soon / starts:.1%} (wanted 90 %)")
        print(
            f"  median said {median(s.said_s or 0 for s in said):.0f} s, true "
            f"{median(s.true_s for s in began):.0f} s"
        )
        ill = list(pool.map(one_kit, range(FAULTY_SEED, FAULTY_SEED + faulty), [True] * faulty))
        hit = sum(bool(named) and named[0] == bad for bad, named, _ in ill)
        print(f"probes: {hit} of {faulty} faults named (wanted 27 of 30)")
        well = list(
            pool.map(one_kit, range(HEALTHY_SEED, HEALTHY_SEED + healthy), [False] * healthy)
        )
        alarms = sum(bool(ever) for _, _, ever in well)
        print(f"  false alarms: {alarms} of {healthy} healthy runs (wanted 2 of 200 at most)")


if __name__ == "__main__":
    main(*(int(argument) for argument in sys.argv[1:]))
