"""The signs of each kind of plant, by the key of its behaviour."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.core.behaviours.behaviour import Behaviour
from nudge.core.expectations.heating_signs import HEATING_SIGNS
from nudge.core.expectations.room_signs import ROOM_SIGNS
from nudge.core.expectations.signs import SIGNS, Sign

SIGNS_OF: Mapping[str, Mapping[str, Sign]] = MappingProxyType(
    {"heating": HEATING_SIGNS, "freezer": ROOM_SIGNS, "cooler": ROOM_SIGNS}
)
"""Where they are not those of cooling."""
ALL_SIGNS: Mapping[str, Sign] = MappingProxyType({**ROOM_SIGNS, **HEATING_SIGNS, **SIGNS})
"""Every sign by key, of any kind of plant: for its unit."""


def signs_of(behaviour: Behaviour) -> Mapping[str, Sign]:
    """The signs of a kind of plant."""
    return SIGNS_OF.get(behaviour.key, SIGNS)
