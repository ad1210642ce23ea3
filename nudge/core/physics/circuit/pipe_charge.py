"""What the liquid pipes of a plant with many rooms hold, size by size."""

from collections.abc import Sequence

from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, Working, work
from nudge.core.physics.circuit.tubes import (
    LINE_OWN_ERROR,
    LiquidPipe,
    liquid_per_length,
    tube_of,
)

PIPE_CHARGE = Formula(
    "pipe_charge",
    "In this size of pipe",
    Quantity.CHARGE,
    "What the liquid pipes of one size hold over their whole length.",
    "length × charge per length",
    "{size}: {length} × {per_length} = {result}",
    ("size", "length", "per_length"),
    "The maker’s figure where one was written; else bore × liquid density at 100 °F, ASTM B280.",
)
LINE_BY_PIPES = Formula(
    "line_charge",
    "Liquid pipes’ charge",
    Quantity.CHARGE,
    "What all liquid pipes of a plant with many rooms need beyond what its outdoor unit brings.",
    "the sum of its liquid pipes, size by size",
    "{pipes} in its liquid pipes",
    ("pipes",),
    "Trade rule. Makers may add for rooms or branch boxes: theirs holds.",
)


def pipe_charges(refrigerant: str, pipes: Sequence[LiquidPipe]) -> tuple[Working, ...]:
    """What each size of liquid pipe holds [kg]. Raises: CoreError, for no standard tube."""
    return tuple(_pipe_charge(refrigerant, pipe) for pipe in pipes)


def charge_of_pipes(each: Sequence[Working]) -> Working:
    """What the pipes hold together [kg]; their errors are one maker's or one reckoning's each."""
    spread = sum((one.uncertainty or 0.0) ** 2 for one in each) ** 0.5
    pipes = Measure(sum(one.value for one in each), Quantity.CHARGE)
    inputs = {"pipes": Input("pipes", "Liquid pipes", pipes, "computed", spread or None)}
    return work(LINE_BY_PIPES, lambda v: v["pipes"], inputs)


def _pipe_charge(refrigerant: str, pipe: LiquidPipe) -> Working:
    per_length, source, own = pipe.g_per_m, "plate", None
    if per_length is None:
        per_length, source = liquid_per_length(refrigerant, pipe.outside_mm), "computed"
        own = LINE_OWN_ERROR * per_length
    size = Measure(tube_of(pipe.outside_mm).outside_mm, Quantity.TUBE_SIZE)
    inputs = {
        "size": Input("size", "Liquid pipe, outside", size, "plate"),
        "length": Input("length", "Together", Measure(pipe.length_m, Quantity.LENGTH), "plate"),
        "per_length": Input(
            "per_length",
            "Charge per length",
            Measure(per_length, Quantity.CHARGE_PER_LENGTH),
            source,
            own,
        ),
    }
    return work(PIPE_CHARGE, lambda v: v["length"] * v["per_length"] / 1000, inputs)
