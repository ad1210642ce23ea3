"""How each kind of plant is met by the sweep and the studies: one row a kind, by its tables' name.

What can befall it, how a system of a number is made, brought to rest and read, and how a probe on
it lies.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from random import Random

from nudge.core.behaviours.behaviour import Mode
from nudge.core.judgement.pairs import PAIRS, Pair
from nudge.core.physics.circuit.equipment import FEEDS
from nudge.plant.faults import Present
from tools.rooms import BOXES, ROOM_FAULTS, Box, may_have_in_room, read_room, room, swept_room
from tools.sweep import STEADY_FAULTS, Site, Swept, may_have, read, site, swept
from tools.troubles_at_rest import HEATING_TROUBLES, PROBE_TROUBLES, ROOM_TROUBLES, Spoil
from tools.winter import (
    WINTER_FAULTS,
    may_have_in_winter,
    pump,
    read_in_winter,
    swept_in_winter,
)


@dataclass(frozen=True, slots=True)
class Size:
    """How much of a family is swept: systems of each device, and cases a node."""

    sites: int
    healthy: int
    cases: int
    paired: int


@dataclass(frozen=True, slots=True)
class Way:
    """One kind of plant; `site` makes the system of a number, by family, device and spread."""

    devices: tuple[str, ...]
    faults: tuple[str, ...]
    troubles: Mapping[str, Spoil]
    site: Callable[[int, str, str, float], Site]
    may_have: Callable[[Site, str], bool]
    swept: Callable[[Site, Sequence[Present], Random], Swept | None]
    read: Callable[[Swept, Random], dict[str, float]]
    pairs: tuple[Pair, ...] = ()
    mode: Mode = "cooling"
    home: Size = Size(70, 500, 60, 60)
    cousin: Size = Size(40, 260, 34, 30)

    def size(self, family: str) -> Size:
        return self.home if family == "home" else self.cousin


ROOMS = Size(20, 160, 17, 17)


def _house(number: int, family: str, device: str, spread: float) -> Site:
    return site(number, f"{family}/{device}", spread)


def _pump(number: int, family: str, _: str, spread: float) -> Site:
    return pump(number, family, spread)


def _room(box: Box, number: int, family: str, _: str, spread: float) -> Site:
    return room(number, family, box, spread)


WAYS: Mapping[str, Way] = {
    "cooling": Way(
        tuple(FEEDS), STEADY_FAULTS, PROBE_TROUBLES, _house, may_have, swept, read, PAIRS
    ),
    "heating": Way(
        ("valve",),
        WINTER_FAULTS,
        HEATING_TROUBLES,
        _pump,
        may_have_in_winter,
        swept_in_winter,
        read_in_winter,
        mode="heating",
    ),
} | {
    box: Way(
        ("valve",),
        ROOM_FAULTS,
        ROOM_TROUBLES,
        partial(_room, box),
        may_have_in_room,
        swept_room,
        read_room,
        home=ROOMS,
        cousin=ROOMS,
    )
    for box in BOXES
}
"""By the name of their tables; of a kind with several, each one its own."""
