"""A plant met in the middle of its day: it has run for long already."""

from dataclasses import replace

from nudge.plant.acts import standing
from nudge.plant.defrost import Frosting
from nudge.plant.scene import PlantState, Scene, charged, now
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import WetAir


def settled(
    scene: Scene, indoor: WetAir, seconds: float, frosting: Frosting | None = None
) -> PlantState:
    """A plant that has run for so long that everything is where it stays.

    Raises: NoOperatingPoint, where it cannot run so.
    """
    state = replace(
        standing(scene, indoor, charged(scene.machine, scene.faults)),
        is_running=True,
        seconds=seconds,
        frosting=frosting or Frosting(),
    )
    machine, conditions = now(scene, state)
    at = steady(machine, conditions)
    truth, point = running_truth(at), at.operating
    return replace(
        state,
        truth=truth,
        quick=truth,
        slow=truth,
        target=point,
        root=point.root,
        opening=point.opening,
        coil_superheat_k=point.superheat_k,
        bulb_superheat_k=point.superheat_k,
    )
