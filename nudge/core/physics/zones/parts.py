"""A multi-zone plant's parts: outdoor unit, indoor units, their ports, pipes and heights."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from nudge.core.language.errors import CoreError
from nudge.core.physics.circuit.tubes import LiquidPipe, tube_of

MOST_ROOMS = 64
ALIKE_MM = 0.5
"""Two outside sizes this close are one tube."""
STEPS = 480.0
"""A valve's whole way where its plate does not say."""


@dataclass(frozen=True, slots=True)
class IndoorUnit:
    """One indoor unit: capacity [W], height over the outdoor unit and pipe length [m]."""

    key: str
    name: str
    capacity_w: float | None = None
    lift_m: float = 0.0
    length_m: float | None = None
    storey: int = 0
    ports: int = 1
    group: str = ""
    shut_steps: float = 0.0
    """What its valve shows when it is shut."""
    wide_steps: float = STEPS


@dataclass(frozen=True, slots=True)
class Parts:
    """A plant as it is drawn."""

    refrigerant: str
    rooms: tuple[IndoorUnit, ...]
    capacity_w: float | None = None
    recovers_heat: bool = False
    pipes: tuple[LiquidPipe, ...] = ()
    """Its liquid pipes, a size each: the main, the branches and the rooms' own."""

    @property
    def combination(self) -> float | None:
        """Indoor over outdoor capacity; None where a plate lacks."""
        each = [room.capacity_w for room in self.rooms]
        if self.capacity_w is None or not each or None in each:
            return None
        return sum(w for w in each if w is not None) / self.capacity_w

    def room(self, key: str) -> IndoorUnit:
        """Raises: CoreError, for a unit the drawing has not."""
        found = next((room for room in self.rooms if room.key == key), None)
        if found is None:
            raise CoreError("room", f"The drawing has no indoor unit {key}.")
        return found


def parts_of(
    refrigerant: str,
    rooms: Sequence[IndoorUnit],
    pipes: Sequence[LiquidPipe] = (),
    **more: float | bool | None,
) -> Parts:
    """A drawing. Raises: CoreError, for no room, too many, two of one name, or a size of pipe that
    is written twice or that no tube has.
    """
    if not rooms:
        raise CoreError("rooms", "Draw at least one indoor unit.")
    if len(rooms) > MOST_ROOMS:
        raise CoreError("rooms", f"{len(rooms)} indoor units; {MOST_ROOMS} is the most.")
    keys = [room.key for room in rooms]
    twice = next((key for key in keys if keys.count(key) > 1), None)
    if twice is not None:
        raise CoreError("rooms", f"Two indoor units are called {twice}. Rename one.")
    sizes = sorted(pipe.outside_mm for pipe in pipes)
    again = next((size for size, next_ in pairwise(sizes) if next_ - size < ALIKE_MM), None)
    if again is not None:
        raise CoreError("pipes", f"The {again:g} mm pipe is written twice. Add its lengths up.")
    for size in sizes:
        tube_of(size)
    return Parts(refrigerant, tuple(rooms), pipes=tuple(pipes), **more)  # type: ignore[arg-type]
