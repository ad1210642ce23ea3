"""What is read off a log: numbers of the whole plant, and of each room beside the others.

Each is a mean, a share of the time, or a difference, over the samples that count: past the warm-up,
out of oil returns. A room's number is taken beside the median of the others at work, so that what
ails the plant does not accuse its rooms.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from nudge.core.language.units import Quantity

WARM = "warm "
"""Before a sign of a room that heats while others cool."""
Way = Literal["cooling", "heating", "mixed"]


@dataclass(frozen=True, slots=True)
class ZoneSign:
    """One number off a log: how it is worked out, in words, and what it is measured in."""

    key: str
    label: str
    formula: str
    quantity: Quantity | None = None

    def plain(self, value: float) -> str:
        """A value of it where it is no quantity: a share, hertz, a number."""
        if self.formula.startswith("share") or self.key == "combination":
            return f"{value:.0%}"
        return f"{value:.0f} Hz" if self.key == "hz" else f"{value:.2f}"


_K = Quantity.TEMPERATURE_DIFFERENCE
PLANT_SIGNS: Mapping[str, ZoneSign] = {
    row.key: row
    for row in (
        ZoneSign("hz", "Compressor frequency", "mean frequency [Hz]"),
        ZoneSign("fast", "At its fastest", "share of the time at 100 Hz or more"),
        ZoneSign(
            "room_error",
            "Rooms off, by demand",
            "Σ capacity × (room − set point) over rooms that call ÷ Σ capacity",
            _K,
        ),
        ZoneSign(
            "off_target",
            "Off its target",
            "evaporating − target where it cools, target − condensing where it heats",
            _K,
        ),
        ZoneSign("liquid_gap", "Subcooling after the subcoolers", "condensing − liquid", _K),
        ZoneSign("shell_gap", "Shell over boiling", "shell − evaporating", _K),
        ZoneSign("shell_low", "Shell cold", "share of the time with the shell under 5 °F over it"),
        ZoneSign("bands", "Accumulator's bands", "warmest − coldest band", _K),
        ZoneSign("bands_even", "Bands even", "share of the time within 3 °F"),
        ZoneSign("inlet_gap", "Accumulator inlet over boiling", "inlet − evaporating", _K),
        ZoneSign("bypass_gap", "Bypass over outdoor air", "bypass pipe − outdoor air", _K),
        ZoneSign(
            "bypass_share",
            "Bypass, from the air to the discharge",
            "(bypass pipe − outdoor air) ÷ (discharge − outdoor air)",
        ),
        ZoneSign("band_top", "Upper band over boiling", "upper band − evaporating", _K),
        ZoneSign(
            "outdoor_gap",
            "Outdoor coil to air, at 60 Hz",
            "(condensing − outdoor, or outdoor − evaporating) × 60 ÷ frequency",
            _K,
        ),
        ZoneSign("fan", "Outdoor fan, at 60 Hz", "mean of fan [%] × 60 ÷ frequency"),
        ZoneSign(
            "gas_gap", "Discharge over expected", "discharge − (inlet + 273) × ratio^0.18 + 273", _K
        ),
        ZoneSign("steps", "Valves, by capacity", "Σ capacity × steps ÷ whole way, at work"),
        ZoneSign("at_end", "Valves at their end", "share of the room time at 95 % or more"),
        ZoneSign(
            "coil_gap",
            "Coil gap, by capacity",
            "Σ capacity × (outlet − inlet, or condensing − outlet) ÷ Σ capacity",
            _K,
        ),
        ZoneSign("oil", "Oil returns", "share of the running time"),
        ZoneSign(
            "against",
            "Rooms against each other",
            "warmest set point that heats − coldest that cools, both calling",
            _K,
        ),
        ZoneSign("combination", "Combination ratio", "Σ indoor ÷ outdoor capacity"),
        ZoneSign(
            "wrong_way",
            "Coils the wrong way",
            "outlet − room where it should cool, room − outlet where it should heat",
            _K,
        ),
        ZoneSign("outdoor_lift", "Outdoor air", "mean outdoor air", Quantity.TEMPERATURE),
    )
}
ROOM_SIGNS: Mapping[str, ZoneSign] = {
    row.key: row
    for row in (
        ZoneSign("steps", "Valve beside the others", "mean steps ÷ whole way − the others' median"),
        ZoneSign("at_end", "At its end", "share of its calling time at 95 % of the way or more"),
        ZoneSign("at_least", "At its least", "share of its calling time at 10 % or less"),
        ZoneSign("gap", "Coil gap beside the others", "mean gap − the others' median", _K),
        ZoneSign(
            "fill",
            "Coil filled",
            "share of its coil that works: 1 − coil gap ÷ (room − inlet, or condensing − room)",
        ),
        ZoneSign(
            "fed",
            "Fed, for its steps",
            "ln of (share filled × what drives it [K]) ÷ (steps ÷ whole way)",
        ),
        ZoneSign("fed_beside", "Fed beside the others", "the same − the others’ median"),
        ZoneSign("wet", "Coil wet", "share of its calling time with under 1.5 °F of gap"),
        ZoneSign(
            "error",
            "Room beside the others",
            "mean (room − set point, or set point − room) while it calls − the others'",
            _K,
        ),
        ZoneSign(
            "shut",
            "Cold behind a shut valve",
            "room − coil outlet, shut and not calling for seven minutes",
            _K,
        ),
        ZoneSign(
            "airs",
            "Thermostat beside return air",
            "size of room − return air while it calls, else at rest",
            _K,
        ),
        ZoneSign("pipes", "Pipes at rest", "size of outlet − inlet, shut and not calling", _K),
        ZoneSign(
            "coil",
            "Coil against its room",
            "room − coil inlet where it cools, inlet − room where it heats",
            _K,
        ),
        ZoneSign(
            "others_shut",
            "Somebody else's shut valve",
            "the largest of the others' room − outlet behind a shut valve",
            _K,
        ),
        ZoneSign("calls", "Calls", "share of the time it calls"),
    )
}


@dataclass(frozen=True, slots=True)
class ZoneSigns:
    """Everything that was read off a log; a sign that could not be read is missing."""

    way: Way
    plant: Mapping[str, float]
    rooms: Mapping[str, Mapping[str, float]]
    warm: frozenset[str] = frozenset()
    """Rooms that heat in a plant that serves both: what is usual there is not usual beside."""

    def weighed_as(self, part: str, sign: str) -> str:
        """The name a room's sign is weighed by."""
        return f"{WARM}{sign}" if part in self.warm else sign

    def of_room(self, part: str) -> Mapping[str, float]:
        """A room's signs by the names they are weighed by."""
        return {self.weighed_as(part, sign): value for sign, value in self.rooms[part].items()}
