"""The storey plan: the outdoor unit, its pipes, and every room on its storey, laid out once.

In units of its own: 1000 wide, a storey as high as the others leave it. The web strokes it, and so
may paper.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from nudge.core.physics.zones.parts import IndoorUnit, Parts

WIDTH, EDGE, GAP = 1000.0, 14.0, 18.0
STOREYS, LEAST_STOREY, MOST_STOREY = 470.0, 92.0, 150.0
"""What all storeys share, and how high one is at the least and at the most."""
RISER_X, LEAST_ROOM, ROOF = 96.0, 96.0, 104.0
PLANT = (170.0, 78.0)
MOST_IN_A_ROW, DROP = 8, 22.0


@dataclass(frozen=True, slots=True)
class RoomBox:
    """A room's place, and the way its pipes take from the riser."""

    key: str
    name: str
    x: float
    y: float
    width: float
    height: float
    pipe: list[list[float]]


@dataclass(frozen=True, slots=True)
class StoreyPlan:
    """Everything's place. `storeys`: the floor lines, with their names."""

    width: float
    height: float
    plant: list[float]
    """x, y, width, height of the outdoor unit."""
    riser: list[list[float]]
    rooms: list[RoomBox]
    storeys: list[tuple[float, str]]


def storey_plan(parts: Parts) -> StoreyPlan:
    """A plant's plan: the highest storey on top, the outdoor unit over or under them."""
    rows: list[tuple[int, Sequence[IndoorUnit]]] = []
    for storey in sorted({room.storey for room in parts.rooms}, reverse=True):
        there = [room for room in parts.rooms if room.storey == storey]
        rows += [
            (storey, there[i : i + MOST_IN_A_ROW]) for i in range(0, len(there), MOST_IN_A_ROW)
        ]
    on_top = sum(room.lift_m for room in parts.rooms) <= 0
    top = ROOF if on_top else EDGE
    boxes, floors = [], []
    high = min(max(STOREYS / len(rows), LEAST_STOREY), MOST_STOREY)
    for n, (storey, units) in enumerate(rows):
        y = top + n * high
        floors.append((y + high, f"{storey}"))
        boxes += _row(units, y, high)
    height = top + len(rows) * high + (EDGE if on_top else ROOF)
    plant_y = EDGE if on_top else height - ROOF + EDGE
    plant = [EDGE, plant_y, *PLANT]
    branches = [box.pipe[0][1] for box in boxes]
    start = plant_y + PLANT[1] if on_top else plant_y
    riser = [[RISER_X, start], [RISER_X, max(branches) if on_top else min(branches)]]
    return StoreyPlan(WIDTH, height, plant, riser, boxes, floors)


def _row(units: Sequence[IndoorUnit], y: float, high: float) -> list[RoomBox]:
    """Rooms of a storey side by side, each as wide as its share of what is there; pipes come to
    them along the ceiling.
    """
    left = RISER_X + 40.0
    whole = WIDTH - left - EDGE - GAP * (len(units) - 1)
    spare = whole - LEAST_ROOM * len(units)
    sizes = [unit.capacity_w or 1.0 for unit in units]
    x, found = left, []
    for unit, size in zip(units, sizes, strict=True):
        width = LEAST_ROOM + spare * size / sum(sizes)
        ceiling, drop = y + GAP / 2, round(x + DROP, 1)
        found.append(
            RoomBox(
                unit.key,
                unit.name,
                round(x, 1),
                round(y + GAP, 1),
                round(width, 1),
                high - GAP - 4.0,
                [[RISER_X, ceiling], [drop, ceiling], [drop, round(y + GAP, 1)]],
            )
        )
        x += width + GAP
    return found
