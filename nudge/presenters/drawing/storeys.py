"""The storey plan: the outdoor unit, its pipes, and every room on its storey, laid out once.

In units of its own: 1000 wide, a storey as high as the others leave it. The web strokes it, and so
may paper.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from nudge.core.physics.zones.parts import IndoorUnit, Parts

WIDTH, EDGE, GAP = 1000.0, 14.0, 18.0
STOREYS, MOST_STOREY = 430.0, 150.0
"""What all storeys share, and how high one is at the most."""
RISER_X, ROOF = 96.0, 104.0
PLANT = (170.0, 78.0)
MOST_IN_A_ROW, DROP = 8, 22.0
INSET, BAR, LETTER = 10.0, 8.0, 9.5
BOX_HIGH, BOX_EDGE, PORT = 16.0, 8.0, 9.0
"""A branch box: how high, how far from the riser, and how wide for each port."""


@dataclass(frozen=True, slots=True)
class _Room:
    """How a room's words stand in its box: how wide and how high the least one with its pipes is,
    and where name, temperature and wish are written from its corner.
    """

    least_width: float
    least_high: float
    name: tuple[float, float]
    has: tuple[float, float]
    wants: tuple[float, float]


BESIDE = _Room(200.0, 74.0, (112.0, 19.0), (INSET, 35.0), (112.0, 38.0))
"""Many storeys of three rooms or fewer: the name beside the temperature, so that they are low."""
UNDER = _Room(88.0, 108.0, (INSET, 20.0), (INSET, 51.0), (INSET, 70.0))
"""Few storeys, or many rooms on one: all under each other."""
MOST_BESIDE = 3


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
    name_at: tuple[float, float]
    has_at: tuple[float, float]
    wants_at: tuple[float, float]
    bar: tuple[float, float, float, float]
    """Its valve's bar: x, y, width, height."""
    letters: int
    """So many letters of its name there is room for."""


@dataclass(frozen=True, slots=True)
class BranchBox:
    """Where a storey's rooms of one branch box take their pipes from: a port each, or more."""

    name: str
    x: float
    y: float
    width: float
    height: float
    ports: int
    rooms: list[str]


@dataclass(frozen=True, slots=True)
class StoreyPlan:
    """Everything's place. `storeys`: the floor lines, with their names."""

    width: float
    height: float
    plant: list[float]
    """x, y, width, height of the outdoor unit."""
    riser: list[list[float]]
    rooms: list[RoomBox]
    branches: list[BranchBox]
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
    boxes, floors, branches = [], [], []
    share = STOREYS / len(rows)
    is_low = share < UNDER.least_high and max(len(units) for _, units in rows) <= MOST_BESIDE
    laid = BESIDE if is_low else UNDER
    high = min(max(share, laid.least_high), MOST_STOREY)
    for n, (storey, units) in enumerate(rows):
        y = top + n * high
        floors.append((y + high, f"{storey}"))
        row = _row(units, y, high, laid)
        boxes += row
        branches += _branches(units, row)
    height = top + len(rows) * high + (EDGE if on_top else ROOF)
    plant_y = EDGE if on_top else height - ROOF + EDGE
    plant = [EDGE, plant_y, *PLANT]
    leave = [box.pipe[0][1] for box in boxes]
    start = plant_y + PLANT[1] if on_top else plant_y
    riser = [[RISER_X, start], [RISER_X, max(leave) if on_top else min(leave)]]
    return StoreyPlan(WIDTH, height, plant, riser, boxes, branches, floors)


def _branches(units: Sequence[IndoorUnit], row: Sequence[RoomBox]) -> list[BranchBox]:
    """The branch boxes of one storey, each on the ceiling before the first room that hangs on it.

    A plant without them has joints there, and nothing is drawn.
    """
    found = []
    for name in dict.fromkeys(unit.group for unit in units if unit.group):
        hung = [unit for unit in units if unit.group == name]
        ports = sum(unit.ports for unit in hung)
        first = next(box for box in row if box.key == hung[0].key)
        ceiling, drop = first.pipe[1][1], first.pipe[1][0]
        width = PORT * ports + BOX_EDGE
        x = RISER_X + BOX_EDGE if hung[0] is units[0] else drop - BOX_EDGE - width
        keys = [unit.key for unit in hung]
        y = round(ceiling - BOX_HIGH / 2, 1)
        found.append(BranchBox(name, round(x, 1), y, width, BOX_HIGH, ports, keys))
    return found


def _row(units: Sequence[IndoorUnit], y: float, high: float, laid: _Room) -> list[RoomBox]:
    """Rooms of a storey side by side, each as wide as its share of what is there; pipes come to
    them along the ceiling.
    """
    left = RISER_X + 40.0
    whole = WIDTH - left - EDGE - GAP * (len(units) - 1)
    spare = whole - laid.least_width * len(units)
    sizes = [unit.capacity_w or 1.0 for unit in units]
    x, found = left, []
    for unit, size in zip(units, sizes, strict=True):
        width = laid.least_width + spare * size / sum(sizes)
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
                _at(x, y, laid.name),
                _at(x, y, laid.has),
                _at(x, y, laid.wants),
                (
                    round(x + INSET, 1),
                    round(y + high - 4.0 - INSET, 1),
                    round(width - 2 * INSET, 1),
                    BAR - 2.0,
                ),
                int((width - laid.name[0] - INSET / 2) / LETTER),
            )
        )
        x += width + GAP
    return found


def _at(x: float, y: float, inside: tuple[float, float]) -> tuple[float, float]:
    return round(x + inside[0], 1), round(y + GAP + inside[1], 1)
