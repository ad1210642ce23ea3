"""What a multi-zone plant's log may show: one row a pattern, with its look-alikes and what parts
them, how common it is, what to do next, and what is done about it.

Charge is never trimmed on such a plant: it is recovered, weighed, and weighed in by the sum of its
pipes, once everything that looks the same is excluded.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

NONE = "none"


@dataclass(frozen=True, slots=True)
class Pattern:
    """One pattern. `prior`: how common it is before anything is read; of a room's, in any room."""

    key: str
    of: Literal["plant", "room"]
    prior: float
    label: str
    sentence: str
    """What is seen, said of the part that carries it."""
    look_alikes: tuple[str, ...]
    parted_by: str
    check: str
    """The check that would settle it."""
    act: str


_ROWS = (
    Pattern(
        "none",
        "plant",
        0.3,
        "Nothing wrong",
        "It does what it is asked, room by room.",
        (),
        "",
        "",
        "",
    ),
    Pattern(
        "low_charge",
        "plant",
        0.11,
        "Low charge",
        "The compressor holds its target with little to do while valves stand open and subcooling"
        " is gone: too little liquid.",
        ("accumulator_full", "strainer_clogged", "compressor_not_pumping"),
        "Full bands say that the liquid stands in the accumulator; one room alone is that room's "
        "own screen; a compressor that does not pump misses its target at full speed.",
        "zone_one_mode",
        "Look for the leak first. Then recover all of it, weigh it, and weigh in what the sum of "
        "the pipes comes to. Never add to what is in it.",
    ),
    Pattern(
        "overcharge",
        "plant",
        0.05,
        "Too much charge",
        "The shell stands near boiling and much liquid is held warm: it comes back wet.",
        ("valve_stuck_open", "accumulator_full"),
        "A valve that is stuck open wets one coil; a plugged accumulator leaves the shell dry.",
        "zone_one_mode",
        "Recover all of it, weigh it, and weigh in what the sum of the pipes comes to.",
    ),
    Pattern(
        "hot_gas_bypass",
        "plant",
        0.04,
        "Hot-gas bypass leaks",
        "Hot gas comes to the accumulator, and the bypass pipe is hot though nobody asked for it.",
        ("reversing_valve_leaking",),
        "The bypass pipe itself: hot along its way, or as warm as the air.",
        "zone_feel_bypass",
        "Renew the bypass valve or its coil; check what it is told by the board.",
    ),
    Pattern(
        "accumulator_full",
        "plant",
        0.03,
        "Accumulator full",
        "All three bands stand as cold as what boils, and the condenser runs short: the liquid "
        "stands in the accumulator.",
        ("low_charge", "overcharge"),
        "Low charge leaves the bands apart; too much charge wets the shell.",
        "zone_feel_accumulator",
        "Find what fills it: its oil hole plugged, a coil that floods. Do not touch the charge.",
    ),
    Pattern(
        "reversing_valve_stuck",
        "plant",
        0.03,
        "Reversing valve stuck",
        "Coils that are to cool are hot, or the other way: it never shifted.",
        ("changeover_confusion",),
        "Its coil's voltage and its four pipes, felt.",
        "zone_feel_reversing",
        "Coil and pilot first, then the valve.",
    ),
    Pattern(
        "reversing_valve_leaking",
        "plant",
        0.03,
        "Reversing valve leaks by",
        "Hot gas comes to the accumulator with the bypass pipe cold.",
        ("hot_gas_bypass",),
        "The bypass pipe itself; then the valve's middle pipe against the suction pipe after it.",
        "zone_feel_bypass",
        "Shift it ten times; renew it if the middle pipe stays warm.",
    ),
    Pattern(
        "compressor_not_pumping",
        "plant",
        0.05,
        "Compressor does not pump",
        "At its fastest it misses its target, and its gas comes out hotter than its ratio makes "
        "it.",
        ("capacity_short", "low_charge"),
        "Too small a plant pumps what its plate says, with gas as hot as its ratio makes it.",
        "zone_one_mode",
        "Its valves, its windings, the other compressor of the pair; an oil test before it is "
        "renewed.",
    ),
    Pattern(
        "outdoor_coil",
        "plant",
        0.07,
        "Outdoor coil or fan",
        "It condenses far over the air outdoors, or boils far under it, for the work it does.",
        ("overcharge",),
        "Face, fan and blades seen; too much charge holds more liquid cold.",
        "look_at_condenser",
        "Clean the coil; fan, motor and its board.",
    ),
    Pattern(
        "oil_return",
        "plant",
        0.03,
        "Oil returns again and again",
        "It fetches oil many times an hour: the oil does not stay.",
        (),
        "The oil's level, a trap or a long riser in the drawing, a speed that was held low.",
        "zone_oil_history",
        "Pipes and traps by the drawing; the oil's sensor; how low the compressor is held.",
    ),
    Pattern(
        "capacity_short",
        "plant",
        0.05,
        "Too small for its rooms",
        "Everything is wide open and at full speed with liquid to spare: it is asked for more "
        "than it has.",
        ("low_charge", "compressor_not_pumping"),
        "Subcooling that is there, gas as hot as its ratio makes it; the sum of its rooms beside "
        "its plate.",
        "zone_sum_rooms",
        "By design: fewer rooms at once, or a larger plant. Nothing is broken.",
    ),
    Pattern(
        "changeover_confusion",
        "plant",
        0.03,
        "Rooms against each other",
        "A room heats while its neighbour cools, and neither gets where it wants.",
        ("room_thermostat",),
        "Set points of the two rooms side by side.",
        "zone_force_one",
        "One set point for one space; a band between heating and cooling.",
    ),
    Pattern(
        "valve_leaking",
        "room",
        0.05,
        "Valve leaks by",
        "It is told to be shut, and its coil is cold.",
        ("wrong_port", "coil_sensor_off"),
        "Another room that calls and stays warm: the ports; pipes that differ at rest by as much "
        "as at work: a sensor.",
        "zone_force_one",
        "Drive it shut to its end once; then renew it.",
    ),
    Pattern(
        "valve_stuck_open",
        "room",
        0.03,
        "Valve stuck open",
        "Its coil is wet whatever it is told.",
        ("overcharge", "coil_sensor_off"),
        "Other coils are not; the pipe behind it when it is told to shut.",
        "zone_force_one",
        "Coil of the valve, its plug, its steps; then the valve.",
    ),
    Pattern(
        "valve_stuck_shut",
        "room",
        0.04,
        "Valve stuck shut",
        "Told to open all the way, its coil stays at the room's air.",
        ("wrong_port", "strainer_clogged", "valve_lost_steps"),
        "Another room that is cold and never asked: the ports. Some flow, and cold: a screen.",
        "zone_force_one",
        "Coil of the valve, its plug, its steps; then the valve.",
    ),
    Pattern(
        "valve_lost_steps",
        "room",
        0.03,
        "Valve has lost its steps",
        "It opens less than it is told: far open by its number, little by its coil.",
        ("strainer_clogged", "valve_stuck_shut", "low_charge"),
        "Power off and on: it drives to its end and counts anew. A screen stays as it was.",
        "zone_restart_valve",
        "Let it count anew; if it loses them again, renew its motor and look at its board.",
    ),
    Pattern(
        "indoor_coil_dirty",
        "room",
        0.07,
        "Coil or filter dirty",
        "Its coil is wet with its valve hardly open, and the room stays behind: little air goes "
        "through it.",
        ("valve_stuck_open",),
        "Filter in the hand, fan heard, coil seen.",
        "zone_see_filter",
        "Filter, coil, fan wheel.",
    ),
    Pattern(
        "strainer_clogged",
        "room",
        0.04,
        "Screen clogged",
        "Its valve stands at its end, its coil is short of liquid, and at small openings it is as"
        " the others.",
        ("low_charge", "valve_lost_steps", "valve_stuck_shut"),
        "Cold before the valve, felt; the others are right, so the charge is not it.",
        "zone_feel_screen",
        "Pump down that branch, renew the screen, and look what came loose.",
    ),
    Pattern(
        "wrong_port",
        "room",
        0.03,
        "Wrong port",
        "It calls and gets nothing, and another room that does not call is served.",
        ("valve_stuck_shut", "valve_leaking"),
        "Force this room alone and see which coil answers.",
        "zone_force_one",
        "Put wires or pipes right, and write the ports into the drawing.",
    ),
    Pattern(
        "coil_sensor_off",
        "room",
        0.04,
        "Coil sensor off",
        "Its two pipes differ at rest, when both are at the room's air.",
        ("valve_leaking",),
        "At rest for twenty minutes both read the room.",
        "zone_read_coil",
        "Clip and insulate it; then its resistance by its table.",
    ),
    Pattern(
        "room_thermostat",
        "room",
        0.05,
        "Room's own thermostat",
        "The thermostat and the air that the unit draws in do not agree: it holds what it reads.",
        ("capacity_short", "indoor_coil_dirty"),
        "A thermometer of your own beside it for ten minutes.",
        "zone_read_room",
        "Move it out of sun and draught, or set its offset.",
    ),
)
PATTERNS: Mapping[str, Pattern] = MappingProxyType({row.key: row for row in _ROWS})
OF_CHARGE = ("low_charge", "overcharge")
OF_VALVES = (
    "valve_leaking",
    "valve_stuck_open",
    "valve_stuck_shut",
    "valve_lost_steps",
    "strainer_clogged",
)
"""What may be wrong with a room's valve while the charge is wrong as well."""

SMALLEST_ROOM = (
    "All of its charge can leak into its smallest room: know that room's volume and what the local "
    "code allows for this refrigerant before you open anything."
)
