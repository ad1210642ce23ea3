"""A simulated system whose circuit is open: recovered, under nitrogen, on the pump, standing."""

from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress
from dataclasses import asdict, dataclass, replace
from typing import Any

from nudge.core.language.errors import CoreError
from nudge.plant.machine import Machine
from nudge.plant.opened import (
    ATMOSPHERE_PA,
    Inside,
    Opened,
    PlantPump,
    filled,
    pressure_pa,
    step,
    vented,
)
from nudge.plant.scene import Scene
from nudge.plant.truth import inside_m3
from nudge.services.errors import NotFound
from nudge.services.instruments import Instruments

RECOVERED_PA = 65_000.0
NITROGEN_PA = ATMOSPHERE_PA + 150 * 6_894.757
SWEPT_PA = 1.15 * ATMOSPHERE_PA
MOST_LEAK, MOST_WATER_G = 0.5, 20.0
WARMED_K = 15.0
WATER_W_K = 0.06
"""Heat that reaches a puddle in the suction line."""
JOINT = "flare at the outdoor unit"
FOREIGN_FROM_PA = 2_000.0


@dataclass(frozen=True, slots=True)
class OpenCircuit:
    """The inside of a circuit, its pump where one is open to it, how far its pipes are warmed."""

    opened: Opened
    inside: Inside
    pump: PlantPump | None = None
    warmed_k: float = 0.0

    def pipe_c(self, outdoors_c: float) -> float:
        return outdoors_c + self.warmed_k

    def later(self, outdoors_c: float, seconds: float) -> "OpenCircuit":
        """The same, this much later."""
        pipe = self.pipe_c(outdoors_c)
        return replace(self, inside=step(self.opened, self.inside, pipe, seconds, self.pump))

    def truth(self, outdoors_c: float) -> dict[str, float]:
        """What perfect instruments read on it."""
        pipe = self.pipe_c(outdoors_c)
        pa = pressure_pa(self.opened, self.inside, pipe)
        gauge = (pa - ATMOSPHERE_PA) / 1000
        pipes = ("suction_line_temp", "liquid_line_temp", "evaporator_outlet_temp")
        found = dict.fromkeys(("suction_pressure", "liquid_pressure", "test_pressure"), gauge)
        found |= dict.fromkeys(pipes, pipe)
        if pa < ATMOSPHERE_PA:
            found["vacuum_level"] = pa
        return found


def recovered(machine: Machine, scene: Scene, outdoors_c: float) -> OpenCircuit:
    """A circuit just recovered, with what leaks and is wet in it."""
    has = {fault.key: fault.severity for fault in scene.faults}
    leak = MOST_LEAK * has.get("joint_leak", 0.0)
    opened = Opened(
        inside_m3(machine) * 1000,
        leak,
        JOINT if leak else "",
        water_w_k=WATER_W_K,
        oil_pa=20.0,
    )
    inside = filled(opened, RECOVERED_PA, outdoors_c, MOST_WATER_G * has.get("wet_circuit", 0.0))
    return OpenCircuit(opened, inside)


def _opened_up(at: OpenCircuit, pipe_c: float) -> tuple[OpenCircuit, str]:
    return _at(at, pipe_c, ATMOSPHERE_PA), "Open, the part renewed, joints made under nitrogen."


def _nitrogen(at: OpenCircuit, pipe_c: float) -> tuple[OpenCircuit, str]:
    _no_pump(at)
    return _at(at, pipe_c, NITROGEN_PA), "150 psig of dry nitrogen stand in it."


def _released(at: OpenCircuit, pipe_c: float) -> tuple[OpenCircuit, str]:
    _no_pump(at)
    return _at(at, pipe_c, 1.02 * ATMOSPHERE_PA), "Let down, slowly, out of doors."


def _bubbles(at: OpenCircuit, pipe_c: float) -> tuple[OpenCircuit, str]:
    if pressure_pa(at.opened, at.inside, pipe_c) < 2 * ATMOSPHERE_PA:
        raise CoreError("job", "Bubbles need pressure in it: raise it with nitrogen first.")
    said = f"Bubbles at the {at.opened.joint}." if at.opened.leak else "No joint bubbles."
    return at, said


def _mended(at: OpenCircuit, pipe_c: float) -> tuple[OpenCircuit, str]:
    if pressure_pa(at.opened, at.inside, pipe_c) > 1.3 * ATMOSPHERE_PA:
        raise CoreError("job", "Let it down first: no joint is mended under pressure.")
    return replace(at, opened=replace(at.opened, leak=0.0, joint="")), "Made anew."


def _pump_on(at: OpenCircuit, pipe_c: float) -> tuple[OpenCircuit, str]:
    if pressure_pa(at.opened, at.inside, pipe_c) > 1.3 * ATMOSPHERE_PA:
        raise CoreError("job", "Let the nitrogen out first: no pump is opened to pressure.")
    return replace(at, pump=PlantPump()), "The pump draws."


def _pump_off(at: OpenCircuit, pipe_c: float) -> tuple[OpenCircuit, str]:
    del pipe_c
    return replace(at, pump=None), "Isolated; the gauge stays on the system."


def _swept(at: OpenCircuit, pipe_c: float) -> tuple[OpenCircuit, str]:
    return _at(replace(at, pump=None), pipe_c, SWEPT_PA), "Broken with dry nitrogen."


def _warm(at: OpenCircuit, pipe_c: float) -> tuple[OpenCircuit, str]:
    del pipe_c
    return replace(at, warmed_k=0.0 if at.warmed_k else WARMED_K), (
        "The lamps are off." if at.warmed_k else "Lamps warm the pipes by 27 °F."
    )


def _at(at: OpenCircuit, pipe_c: float, pa: float) -> OpenCircuit:
    return replace(at, inside=vented(at.opened, at.inside, pipe_c, pa))


def _no_pump(at: OpenCircuit) -> None:
    if at.pump is not None:
        raise CoreError("job", "Shut the pump off first.")


def place_kit(
    instruments: Instruments, visit_id: str, job_id: str, places: Sequence[tuple[str, str]]
) -> None:
    """Put instruments where a job needs them; what is there already, or held elsewhere, stays."""
    now = instruments.points(visit_id)
    for channel, point in places:
        if now.get(channel, "") != point:
            with suppress(CoreError, NotFound):
                instruments.place(visit_id, f"{job_id}:{channel}", channel, point)


OPEN_WORK: Mapping[str, Callable[[OpenCircuit, float], tuple[OpenCircuit, str]]] = {
    "open_circuit": _opened_up,
    "raise_nitrogen": _nitrogen,
    "release_nitrogen": _released,
    "bubble_test": _bubbles,
    "mend_joint": _mended,
    "open_pump": _pump_on,
    "shut_pump": _pump_off,
    "sweep_nitrogen": _swept,
    "warm_pipes": _warm,
}
"""What can be done to an open circuit, by the key of its job."""


def left_in(at: OpenCircuit, outdoors_c: float) -> float:
    """Foreign gas that stays when refrigerant comes in [kPa]; none under a fair vacuum."""
    pa = pressure_pa(at.opened, at.inside, at.pipe_c(outdoors_c))
    return pa / 1000 if pa > FOREIGN_FROM_PA else 0.0


def open_data(at: OpenCircuit | None) -> dict[str, Any] | None:
    """An open circuit as plain data."""
    return None if at is None else asdict(at)


def open_of(data: Mapping[str, Any] | None) -> OpenCircuit | None:
    """An open circuit back from its data."""
    if not data:
        return None
    opened = {**data["opened"], "wall_s": tuple(data["opened"]["wall_s"])}
    inside = {**data["inside"], "wall_g": tuple(data["inside"]["wall_g"])}
    pump = PlantPump(**data["pump"]) if data["pump"] else None
    return OpenCircuit(Opened(**opened), Inside(**inside), pump, data["warmed_k"])
