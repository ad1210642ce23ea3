"""A plant standing in the yard, and what work on it does."""

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from random import Random
from typing import Any

from nudge.core.language.errors import CoreError
from nudge.instruments.kit import Ails, KitSource, kit_rows, new_kit
from nudge.plant.acts import dosed, forced, switched
from nudge.plant.box import Box, Boxed, walls_of
from nudge.plant.defrost import DefrostBoard
from nudge.plant.faults import Present
from nudge.plant.kept import scene_of, state_of, without_fault
from nudge.plant.presets import preset
from nudge.plant.scene import PlantState, Scene
from nudge.plant.thermostat import Called, Remembered, Thermostat
from nudge.services.samples import Given
from nudge.services.yard_called import SETTINGS, thermostat_said
from nudge.services.yard_jobs import Job
from nudge.services.yard_open import OPEN_WORK, OpenCircuit, left_in, open_of, recovered
from nudge.store.repositories.live import Placed

FAST_KG_S = 0.02
"""Weighed in as liquid while it stands."""
DOSE_KG_S = 0.006
"""A throttled burst: 0.2 oz a second."""


CYLINDER_KG = 9.5


LARGEST_DOSE_KG = 2.0
MOSTLY = 0.9
JOB_OF_STATE: Mapping[str, str] = {
    "opened": "open_circuit",
    "pressurised": "raise_nitrogen",
    "released": "release_nitrogen",
    "evacuating": "open_pump",
    "isolated": "shut_pump",
    "broken": "add_charge",
}
"""What is done to a simulated circuit to bring it to a state."""
FAULTS_OF_PART: Mapping[str, tuple[str, ...]] = {
    "valve": ("valve_shut", "metering_underfeed", "metering_overfeed", "drier_restricted"),
    "compressor": ("compressor_worn", "compressor_reed", "drier_restricted"),
    "drier": ("drier_restricted",),
    "coil": ("evaporator_dirt",),
}
"""What renewing a part puts right. A joint that leaks is found under nitrogen."""


@dataclass(frozen=True, slots=True)
class Winter:
    """What a heat pump has in its winter: its board, what calls it, what that remembers."""

    board: DefrostBoard
    thermostat: Thermostat | None = None
    memory: tuple[Remembered, ...] = ()

    def over(self, scene: Scene) -> Scene:
        """A scene in this winter."""
        return replace(scene, heating=True, board=self.board, thermostat=self.thermostat)

    def met(self, state: PlantState) -> PlantState:
        """A plant as it is met: what it calls, and what it remembers."""
        return replace(state, called=Called(pump=state.is_running, memory=self.memory))


@dataclass(frozen=True, slots=True)
class ColdBox:
    """What a cold room's plant has round it: its box, and how warm the goods are in it [°C]."""

    box: Box
    goods_c: float
    load: float = 0.6
    """Of its cooling, what walls and people take."""

    def over(self, scene: Scene) -> Scene:
        """A scene with this box."""
        kw, outdoor_c = scene.machine.nominal_kw, scene.weather.at(0).temp_c
        walls = walls_of(kw, self.box.set_c, outdoor_c, self.load)
        return replace(scene, box=self.box, room=walls, low_switch=None)

    def met(self, state: PlantState) -> PlantState:
        """A plant as it is met, its coil as warm as its box."""
        return replace(state, boxed=Boxed(self.goods_c, state.indoor.temp_c))


@dataclass(slots=True)
class StandingPlant:
    """A plant in memory: its scene and state, its kit, and when it was last moved on."""

    preset: str
    scene: Scene
    state: PlantState
    source: KitSource
    seed: int
    cylinder_kg: float
    seen_placements: dict[str, int]
    at: datetime
    kept_at: datetime
    ahead_kg: float = 0.0
    """What came in through an open valve and is not written down as a dose yet."""
    is_open: bool = False
    circuit: OpenCircuit | None = None
    """The inside, while there is no refrigerant in it."""
    last_placed: int = 0
    """The number of the last placement its kit has followed."""

    @property
    def outdoors_c(self) -> float:
        return self.scene.weather.at(self.state.seconds).temp_c


def put_right(plant: StandingPlant, job: Job, kg: float) -> str:
    had = [f for f in plant.scene.faults if f.key in job.puts_right]
    plant.scene = without_fault(plant.scene, *job.puts_right)
    if not job.puts_right:
        return ""
    return f"{job.label}: done." if had else f"{job.label}: done. There was nothing wrong with it."


def _recover_all(plant: StandingPlant, job: Job, kg: float) -> str:
    if plant.state.is_running:
        raise CoreError("job", "Stop it and lock it out before it is recovered.")
    open_up(plant)
    return "Recovered and weighed."


def _on_circuit(plant: StandingPlant, job: Job, kg: float) -> str:
    if plant.circuit is None:
        raise CoreError("job", "There is refrigerant in it: recover it first.")
    pipe = plant.circuit.pipe_c(plant.outdoors_c)
    plant.circuit, said = OPEN_WORK[job.key](plant.circuit, pipe)
    plant.scene = without_fault(plant.scene, *job.puts_right)
    return said


def _start(plant: StandingPlant, job: Job, kg: float) -> str:
    if plant.circuit is not None:
        return "It hums and arcs inside: there is no refrigerant in it. Off at once."
    plant.state = switched(plant.scene, plant.state, True)
    return "It runs." if plant.state.is_running else "It is on, and waits for its thermostat."


def _stop(plant: StandingPlant, job: Job, kg: float) -> str:
    plant.state = switched(plant.scene, plant.state, False)
    return "It stands."


def _add(plant: StandingPlant, job: Job, kg: float) -> str:
    if kg > plant.cylinder_kg - plant.state.to_add_kg:
        raise CoreError("amount", "There is not that much in the cylinder.")
    _break_vacuum(plant)
    plant.state = dosed(plant.state, kg, DOSE_KG_S if plant.state.is_running else FAST_KG_S)
    return "Letting it in, in bursts. The scale shows what has gone."


def _remove(plant: StandingPlant, job: Job, kg: float) -> str:
    plant.state = dosed(replace(plant.state), -min(kg, plant.state.charge_kg), 0.0)
    return "Recovered into the recovery cylinder."


def take_in(plant: StandingPlant, kg: float) -> None:
    """Refrigerant weighed in from the shelf [kg]: throttled while it runs, liquid while it stands.

    What came through the open valve already is in: only the rest of it follows.
    """
    _break_vacuum(plant)
    ahead = min(plant.ahead_kg, kg)
    plant.ahead_kg = 0.0
    rate = DOSE_KG_S if plant.state.is_running else FAST_KG_S
    plant.state = dosed(plant.state, max(kg - ahead, 0.0), rate)


def open_up(plant: StandingPlant) -> None:
    """A circuit that stands open and empty: new pipes, or what is left after recovery."""
    plant.circuit = recovered(plant.scene.machine, plant.scene, plant.outdoors_c)
    plant.state = replace(plant.state, charge_kg=0.0, to_add_kg=0.0, spreading_kg=0.0)


def give_out(plant: StandingPlant, kg: float) -> None:
    """Recovered onto the shelf [kg]: what is left of a whole charge is what oil and hoses keep."""
    held = plant.state.charge_kg
    plant.state = dosed(plant.state, -min(kg, held), 0.0)
    if held > 0 and kg >= MOSTLY * held and not plant.state.is_running:
        open_up(plant)


def bring_to(
    plant: StandingPlant, state: str, parts: Collection[str], brought_kg: float = 0.0
) -> None:
    """What somebody does who brings a circuit to a state; `parts` are those being renewed,
    `brought_kg` what stands behind shut service valves.

    Raises: CoreError, where the plant does not stand so.
    """
    if state == "recovered" and plant.circuit is None:
        give_out(plant, plant.state.charge_kg)
    if state == "broken" and brought_kg > 0:
        take_in(plant, brought_kg)
    job = JOB_OF_STATE.get(state, "")
    if job not in OPEN_WORK or plant.circuit is None:
        return
    pipe = plant.circuit.pipe_c(plant.outdoors_c)
    plant.circuit, _ = OPEN_WORK[job](plant.circuit, pipe)
    if state in ("opened", "pressurised"):
        healed = [fault for part in parts for fault in FAULTS_OF_PART.get(part, ())]
        plant.scene = without_fault(plant.scene, *healed)


def _break_vacuum(plant: StandingPlant) -> None:
    """Refrigerant comes in: what gas stood in it stays."""
    if plant.circuit is None:
        return
    left = left_in(plant.circuit, plant.outdoors_c)
    if left > 0:
        there = Present("non_condensables", min(left / 400, 1.0))
        plant.scene = replace(plant.scene, faults=(*plant.scene.faults, there))
    plant.circuit = None


def _force_defrost(plant: StandingPlant, job: Job, kg: float) -> str:
    if not plant.state.is_running:
        raise CoreError("job", "Start it first: a board defrosts a machine that heats.")
    plant.state = forced(plant.state)
    return "Bridged. If its board answers, it does so at once."


def _at_thermostat(plant: StandingPlant, job: Job, kg: float) -> str:
    plant.scene, plant.state, said = SETTINGS[job.key](plant.scene, plant.state)
    return said


DONE: Mapping[str, Callable[[StandingPlant, Job, float], str]] = {
    "start_system": _start,
    "stop_system": _stop,
    "add_charge": _add,
    "remove_charge": _remove,
    "force_defrost": _force_defrost,
    "recover_all": _recover_all,
    **dict.fromkeys(OPEN_WORK, _on_circuit),
    **dict.fromkeys(SETTINGS, _at_thermostat),
}


@dataclass(frozen=True, slots=True)
class YardView:
    """What somebody standing there sees without instruments."""

    title: str
    is_running: bool
    tripped: str
    adding_kg: float
    cylinder_kg: float
    slug_kg: float
    valve_is_open: bool
    circuit_is_open: bool = False
    """No refrigerant is in it."""
    heats: bool = False
    is_defrosting: bool = False
    is_on: bool = False
    """Its disconnect is closed: it runs, or waits for its thermostat."""
    thermostat: str = ""
    """How its thermostat stands, in words; "" where it has none."""


def view_of(plant: StandingPlant) -> YardView:
    """A plant as somebody standing there sees it."""
    state = plant.state
    return YardView(
        plant.preset,
        state.is_running,
        state.tripped,
        state.to_add_kg,
        plant.cylinder_kg,
        state.slug_kg,
        plant.is_open,
        plant.circuit is not None,
        plant.scene.heating,
        state.frosting.is_defrosting,
        state.is_running or (plant.scene.thermostat is not None and state.called.is_on),
        thermostat_said(plant.scene, state),
    )


def read_kit(plant: StandingPlant, now: datetime, seconds: float) -> list[Given]:
    """What the kit of a system reads after so many seconds more."""
    inside = plant.circuit.truth(plant.outdoors_c) if plant.circuit else {}
    truth = {**plant.state.truth, **inside, "cylinder_weight": plant.cylinder_kg}
    plant.source.tick(truth, seconds, round(now.timestamp() * 1000))
    known = {info.key: info for info in plant.source.channels}
    return [
        Given(
            sample.channel,
            known[sample.channel].point,
            sample.value,
            now,
            "",
            known[sample.channel].label,
        )
        for sample in plant.source.samples()
    ]


def follow(plant: StandingPlant, rows: Sequence[Placed]) -> None:
    """Put its probes where somebody has put them. A swap only re-labels."""
    for placed in rows:
        newest, key = placed.now, placed.channel.key
        if newest is None or plant.seen_placements.get(key) == newest.sequence:
            continue
        plant.seen_placements[key] = newest.sequence
        kit = plant.source.kit
        if newest.how == "placed" and any(h.row.key == key for h in kit.held):
            plant.source.kit = kit.place(key, newest.point)


def plant_kept(
    scene: Mapping[str, Any], more: Mapping[str, Any], at: datetime, now: datetime
) -> StandingPlant:
    """A plant as it was kept at a moment, taken up again now."""
    application = preset(scene["preset"]).rating.application
    kit = new_kit(Random(more["seed"]), kit_rows(scene["heating"], application))
    for channel, point in more["sits"].items():
        kit = kit.place(channel, point)
    for channel, troubles in more["ails"].items():
        kit = kit.ail(channel, tuple(Ails(*trouble) for trouble in troubles))
    return StandingPlant(
        scene["preset"],
        scene_of(scene),
        state_of(more["plant"]),
        KitSource(kit, Random(more["seed"] + 1)),
        more["seed"],
        more["cylinder_kg"],
        dict(more["placements"]),
        at,
        now,
        more.get("ahead_kg", 0.0),
        more.get("is_open", False),
        open_of(more.get("circuit")),
    )
