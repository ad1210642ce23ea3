"""What an opened circuit can be, one row a state, in the order it goes through them."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.errors import UnknownName
from nudge.core.language.vocabulary.stages import Stage


@dataclass(frozen=True, slots=True)
class CircuitState:
    """One state: what it is now, in a sentence, and what holds as long as it lasts.

    `is_empty`: no refrigerant is in it, so it must not be started.
    """

    key: str
    label: str
    said: str
    caution: str
    stage: Stage
    """The stage of the visit it belongs to."""
    is_empty: bool = True


_ROWS = (
    CircuitState("charged", "Charged", "It holds its refrigerant.", "", "recover", is_empty=False),
    CircuitState(
        "recovered",
        "Recovered",
        "Its refrigerant is out and weighed.",
        "Oil gives off more for a while: look at the gauge again before it is opened.",
        "repair",
    ),
    CircuitState(
        "opened",
        "Open",
        "It stands open.",
        "Caps on every open end: oil drinks water out of the air.",
        "repair",
    ),
    CircuitState(
        "pressurised",
        "Under nitrogen",
        "Nitrogen stands in it.",
        "Stand clear of sight glasses and flares. No flame, no wrench on a joint under pressure.",
        "prove",
    ),
    CircuitState(
        "released",
        "Let down",
        "The nitrogen is out.",
        "Nitrogen displaces air in closed rooms: air the room.",
        "prove",
    ),
    CircuitState(
        "evacuating",
        "On the pump",
        "The pump draws on it.",
        "A compressor run in a vacuum arcs and burns out.",
        "prove",
    ),
    CircuitState(
        "isolated",
        "Isolated",
        "It stands by itself, shut off from the pump.",
        "A compressor run in a vacuum arcs and burns out.",
        "prove",
    ),
    CircuitState(
        "broken",
        "Filling",
        "The vacuum is broken with refrigerant; the rest goes in by weight.",
        "Gloves and eye protection. Liquid only into the liquid side, and only while it stands.",
        "fill",
        is_empty=False,
    ),
    CircuitState(
        "weighed",
        "Weighed in",
        "What the sheet asks for is in it.",
        "Control voltage back on; crankcase heater first, where there is one.",
        "settle",
        is_empty=False,
    ),
    CircuitState(
        "trimmed",
        "Trimmed and written",
        "Settled in its window, the sum written down.",
        "",
        "close",
        is_empty=False,
    ),
)

STATES: Mapping[str, CircuitState] = MappingProxyType({row.key: row for row in _ROWS})
WHOLE = frozenset({"charged", "trimmed"})
"""Nothing is open: a visit may end so without a word."""


def state_named(key: str) -> CircuitState:
    """The row of a state. Raises: UnknownName, with the nearest."""
    row = STATES.get(key)
    if row is None:
        raise UnknownName("state", key, STATES)
    return row
