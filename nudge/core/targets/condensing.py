"""How far over its air a condenser works: by rated efficiency, where nothing better is known."""

from collections.abc import Mapping
from itertools import pairwise
from types import MappingProxyType

from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import Plate

DEFAULT_SEER = 14.0
USUAL_SEER: Mapping[str, float] = MappingProxyType(
    {"R-22": 10.0, "R-407C": 12.0, "R-417A": 10.0, "R-422D": 10.0, "R-32": 16.0, "R-454B": 15.0}
)
"""What a machine of a refrigerant is rated where nobody says: R-22 with no class is an old one, and
so is what replaced R-22 in it; the newest fluids are in machines built to today's minimum."""


def class_seer(plate: Plate) -> float:
    """Rated efficiency: the plate's, else what is usual for its refrigerant and so its age."""
    if plate.rated_seer is not None:
        return plate.rated_seer
    return USUAL_SEER.get(plate.refrigerant, DEFAULT_SEER)


_MIDDLES: tuple[tuple[float, float], ...] = (
    (8.0, degrees_f(30)),
    (11.5, degrees_f(25)),
    (15.0, degrees_f(20)),
    (18.5, degrees_f(15)),
)
"""Middle of each class with its figure: 30 °F for SEER 6-9, 25 for 10-12, 20 for 13-16, 15 for 17
and over, by trade rule. Between them a machine takes a part of each: bigger coils condense
closer to air."""


def condensing_over_ambient_near(seer: float) -> float:
    """Condensing over ambient of a rated efficiency [K], held at the first and last class."""
    for (low, over), (high, under) in pairwise(_MIDDLES):
        if seer <= high:
            return over + (under - over) * max(seer - low, 0.0) / (high - low)
    return _MIDDLES[-1][1]
