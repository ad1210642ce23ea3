"""What can hurt somebody when refrigerant is moved, said beside the advice. One row a caution."""

from collections.abc import Callable
from dataclasses import dataclass

from nudge.core.language.said import Said, difference, say
from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.refrigerant.catalogue import Refrigerant, refrigerant


@dataclass(frozen=True, slots=True)
class Caution:
    """A caution, the advice it belongs to, and the fluids it is said for."""

    key: str
    advice: tuple[str, ...]
    applies: Callable[[Refrigerant], bool]
    text: Said


CAUTIONS: tuple[Caution, ...] = (
    Caution(
        "skin_and_eyes",
        ("add", "remove", "find_leak", "weigh_in"),
        lambda _: True,
        say(
            "Butyl gloves and eye protection; hand clear of the fitting's end. Licensed persons "
            "only; plate, maker and local code come first."
        ),
    ),
    Caution(
        "flammable",
        ("add", "remove", "find_leak", "weigh_in"),
        lambda fluid: fluid.safety_class != "A1",
        say(
            "Flammable refrigerant: ventilate, no ignition source, rated tools, the maker's limits "
            "on charge and room."
        ),
    ),
    Caution(
        "liquid_from_cylinder",
        ("add", "weigh_in"),
        lambda fluid: fluid.is_blend,
        say("A blend leaves the cylinder as liquid only: cylinder upside down or by its dip tube."),
    ),
    Caution(
        "suction_side_bursts",
        ("add",),
        lambda _: True,
        say(
            "Short bursts into the suction side, superheat never under {least} on the way; never "
            "into the high side of a running system. Weigh the cylinder before and after.",
            least=difference(degrees_f(5)),
        ),
    ),
    Caution(
        "recovery_cylinder",
        ("remove",),
        lambda _: True,
        say("Recovery cylinder to 80 % at most, weighed before and after."),
    ),
)


def cautions_for(plate: Plate, advice: str) -> list[Caution]:
    """The cautions that stand beside an advice, for this refrigerant."""
    fluid = refrigerant(plate.refrigerant)
    return [row for row in CAUTIONS if advice in row.advice and row.applies(fluid)]
