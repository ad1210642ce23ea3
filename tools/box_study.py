"""Cold boxes in time: is anything judged that must not be, and is what a log shows found?

`python -m tools.box_study [MOMENTS] [--fresh]`: boxes pull down after a delivery, defrost, have a
door opened and cycle; at moments in and shortly after each they are read and assessed, and none may
be judged. The same boxes' logs are then read for what happened, with and without a clamp at the
coil.
"""

import pickle
import sys
from collections import Counter
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import assess
from nudge.core.language.errors import CoreError
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, Plate
from nudge.core.physics.cold_room.pull_down import NEAR_K
from nudge.core.settling.box_log import box_events, clear_of
from nudge.core.settling.trace import Trace
from nudge.plant.acts import standing
from nudge.plant.box import PUMPED_S, Box, Boxed, Door, walls_of
from nudge.plant.presets import preset, preset_machine
from nudge.plant.room import Weather
from nudge.plant.running import advance
from nudge.plant.scene import PlantState, Scene
from nudge.plant.wet_air import air_of
from tools.gather import SWEPT
from tools.rooms import READ
from tools.sweep import read_points

MOMENTS, BOXES, HOURS, EVERY_S = 500, 16, 4.5, 30.0
KEYS = ("freezer-404a", "freezer-290", "walk-in-449a", "cooler-134a")
LOOKED_BACK_S, AFTER_S = 1500.0, 600.0
NOT_JUDGED = frozenset({"room_not_yet", "standing", "wait", "stop_it"})


@dataclass(frozen=True)
class Logged:
    """One box: its set point, its rows [s, box, coil], what was so, moments with their truth."""

    key: str
    set_c: float
    rows: Sequence[tuple[float, float, float]]
    defrosts: Sequence[tuple[float, float]]
    doors: Sequence[tuple[float, float]]
    moments: Sequence[tuple[float, str, dict[str, float]]]


def scene_of(number: int) -> tuple[str, Scene, PlantState]:
    """A box of a number as it stands before a delivery is cooled."""
    rng = Random(f"box{number}")
    key = KEYS[number % len(KEYS)]
    machine, set_c = preset_machine(key), preset(key).rating.indoor[0]
    kw, outdoor_c, freezes = machine.nominal_kw, rng.uniform(14, 34), set_c < -5
    doors = tuple(Door(rng.uniform(2.0, HOURS) * 3600, rng.uniform(150, 420)) for _ in range(2))
    box = Box(
        set_c,
        rng.uniform(0.8, 1.3),
        goods_kj_k=kw * rng.uniform(200, 700),
        goods_kw_k=kw * rng.uniform(0.015, 0.04),
        defrost="electric" if freezes else "off_cycle",
        every_s=rng.uniform(2.5, 3.5) * 3600,
        heater_kw=kw * rng.uniform(0.6, 0.9),
        low_cut_kpa=35.0 if freezes else 90.0,
        doors=doors,
    )
    room = walls_of(kw, set_c, outdoor_c, rng.uniform(0.45, 0.65))
    scene = Scene(machine, room, Weather(outdoor_c), low_switch=None, box=box)
    warm_c = set_c + rng.uniform(6, 16)
    state = standing(scene, air_of(warm_c, 75.0))
    return key, scene, replace(state, boxed=Boxed(goods_c=warm_c, coil_c=warm_c))


def log(number: int) -> Logged:
    """A box's day, logged twice a minute, with what happened to it."""
    rng = Random(f"log{number}")
    key, scene, state = scene_of(number)
    assert scene.box is not None
    rows, moments, defrosts = [], [], []
    began, last_defrost, last_door = None, None, None
    for _ in range(int(HOURS * 3600 / EVERY_S)):
        state = advance(scene, state, EVERY_S)
        now, boxed = state.seconds, state.boxed
        assert boxed is not None
        truth = state.truth
        box_c = truth["box_air_temp"] + rng.gauss(0, 0.05)
        rows.append((now, box_c, truth["evaporator_outlet_temp"] + rng.gauss(0, 0.07)))
        heats = boxed.defrost_s is not None and boxed.defrost_s > PUMPED_S
        if heats and began is None:
            began = now
        if began is not None and not heats:
            defrosts.append((began, now))
            began, last_defrost = None, now
        if scene.box.is_open(now):
            last_door = now
        what = ""
        if heats or (last_defrost is not None and now - last_defrost < AFTER_S - 60):
            what = "defrost"
        elif box_c > scene.box.set_c + NEAR_K + 1.0 and last_door is None:
            what = "pull-down"
        elif last_door is not None and now - last_door < 120:
            what = "door"
        if what and rng.random() < 0.5 and all(point in truth for point in READ):
            moments.append((now, what, read_points({p: truth[p] for p in READ}, (), rng)))
    doors = [(door.from_s, door.from_s + door.for_s) for door in scene.box.doors]
    return Logged(key, scene.box.set_c, rows, defrosts, doors, moments)


def judged(found: Logged) -> list[tuple[str, str]]:
    """What every moment of a box that must not be judged came to: what it was, and its decision."""
    plate = Plate(
        preset(found.key).rating.fluid,
        MeteringDevice("txv"),
        application=Application.REFRIGERATION,
        nominal_capacity_w=1000 * preset(found.key).rating.nominal_kw,
        box_set_point_c=found.set_c,
        has_receiver="yes",
    )
    answers = []
    for now, what, readings in found.moments:
        past = [row for row in found.rows if now - LOOKED_BACK_S <= row[0] <= now]
        seconds = tuple(row[0] for row in past)
        events = box_events(
            Trace(seconds, tuple(row[1] for row in past)),
            Trace(seconds, tuple(row[2] for row in past)),
            None,
        )
        context = Context(
            40.0,
            40.0,
            minutes_clear=clear_of(events, "defrost", now),
            since_door=clear_of(events, "door", now),
            box=tuple((row[0] / 60, row[1]) for row in past[::10]),
        )
        try:
            key = assess(plate, readings, context).decision.key
        except CoreError as off:
            key = f"refused: {off.what}"
        answers.append((what, key))
    return answers


def main(*arguments: str) -> None:
    wanted = next((int(a) for a in arguments if a.isdigit()), MOMENTS)
    kept = SWEPT / "boxes.pickle"
    with ProcessPoolExecutor() as pool:
        if not kept.exists() or "--fresh" in arguments:
            kept.write_bytes(pickle.dumps(list(pool.map(log, range(BOXES)))))
        logs: list[Logged] = pickle.loads(kept.read_bytes())
        answers = [one for some in pool.map(judged, logs) for one in some][:wanted]
    for what in ("pull-down", "defrost", "door"):
        keys = Counter(key for of, key in answers if of == what)
        wrong = sum(n for key, n in keys.items() if not _is_set_aside(key))
        print(f"{what}: judged {wrong} of {sum(keys.values())}: {dict(keys)}")
    for clamped in (True, False):
        tell(logs, clamped)


def _is_set_aside(key: str) -> bool:
    return key in NOT_JUDGED or key.startswith("refused")


def tell(logs: Sequence[Logged], clamped: bool) -> None:
    """Of what happened, what a log shows; and what it shows that did not happen."""
    found = there = false = 0
    for one in logs:
        seconds = tuple(row[0] for row in one.rows)
        coil = Trace(seconds, tuple(row[2] for row in one.rows)) if clamped else None
        events = box_events(Trace(seconds, tuple(row[1] for row in one.rows)), coil, one.set_c)
        shown = [e for e in events if e.kind == "defrost"]
        there += len(one.defrosts)
        found += sum(any(e.covers((a + b) / 2) for e in shown) for a, b in one.defrosts)
        false += sum(not any(e.covers((a + b) / 2) for a, b in one.defrosts) for e in shown)
    by = "with a clamp at the coil" if clamped else "by the box's air alone"
    print(f"defrosts {by}: {found} of {there} found, {false} that were none")


if __name__ == "__main__":
    main(*sys.argv[1:])
