"""The suspects of each kind of plant."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.core.judgement.heating_suspects import HEATING_SUSPECTS
from nudge.core.judgement.room_suspects import ROOM_SUSPECTS
from nudge.core.judgement.suspect_table import SUSPECTS, Suspect

ALL_SUSPECTS: Mapping[str, Suspect] = MappingProxyType(
    {**ROOM_SUSPECTS, **HEATING_SUSPECTS, **SUSPECTS}
)
"""Every suspect by key, of any kind of plant: for its name."""
