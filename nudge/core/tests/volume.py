"""How much room there is inside a system, where nobody has measured it."""

from nudge.core.physics.circuit.equipment import Plate
from nudge.core.tests.run import Run

LITRES_PER_KW = 1.15
"""Coils, lines and compressor of a split hold about this for every kW of capacity: 12 L at 3 tons.
Within a third. Trade, and our own plant."""
USUAL_LITRES = 12.0


def litres_of(run: Run) -> tuple[float, bool]:
    """The volume of a run [L], and whether somebody gave it rather than its plate's capacity."""
    given = run.number("litres")
    return (given, True) if given else (usual_litres(run.plate), False)


def usual_litres(plate: Plate) -> float:
    """What such a system holds inside [L]."""
    if plate.nominal_capacity_w is None:
        return USUAL_LITRES
    return LITRES_PER_KW * plate.nominal_capacity_w / 1000
