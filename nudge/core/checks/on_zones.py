"""Checks of a multi-zone plant: what parts the patterns of its log."""

from nudge.core.checks.check import Check
from nudge.core.checks.looks import seen

_LIVE = "Live parts behind the panel: isolate, lock, and wait for its capacitors."
_HOT = "Hot gas: up to 110 °C. The back of the hand, and short."
_HIGH = "A ladder on firm ground, somebody below, the unit off."


def _row(
    key: str,
    label: str,
    why: str,
    minutes: float,
    how: tuple[str, ...],
    found: str,
    right: str,
    caution: str = "",
    where: str = "Indoors",
) -> Check:
    """A check whose outcome is one of two words."""
    look = seen(where, (f"{key}_found", found), (f"{key}_right", right), 0.1, "seen, felt or tried")
    return Check(key, label, why, minutes, how, 2 if caution else 0, caution, look=look)


ZONE_CHECKS: tuple[Check, ...] = (
    _row(
        "zone_one_mode",
        "Move every room to one mode, all calling, for an hour",
        "Rooms that are content hide what is short; all at once they show it.",
        60,
        (
            "Set every room to cooling (in winter to heating), 18 or 30 °C, doors as usual.",
            "Log on for an hour, and read that log here.",
        ),
        "With every room calling the plant falls short",
        "With every room calling the plant holds its target",
        "Tell the people in the rooms: they will feel it.",
    ),
    _row(
        "zone_force_one",
        "Let this one room call alone for twenty minutes",
        "One that calls alone shows whose coil answers, and whether it stops when it is told.",
        20,
        ("All others off.", "Feel both pipes of this coil, then of the others."),
        "Another coil answers, or this one answers when it is shut",
        "Only this coil answers, and stops when it is told",
    ),
    _row(
        "zone_restart_valve",
        "Take the power off that unit for a minute, and put it back",
        "It drives its valve to its end and counts anew; a clogged screen stays as it was.",
        25,
        ("Then let it call for twenty minutes, and see its steps and its coil.",),
        "After counting anew its coil comes",
        "After counting anew nothing changes",
        _LIVE,
    ),
    _row(
        "zone_feel_bypass",
        "Feel the hot-gas bypass pipe along its way",
        "Hot after its valve it leaks; as warm as the air, the reversing valve is next.",
        5,
        ("The bypass after its valve, then the reversing valve's middle pipe beside it.",),
        "Bypass pipe hot behind its shut valve",
        "Bypass pipe as warm as the air",
        _HOT,
        "Outdoors: outdoor_fan",
    ),
    _row(
        "zone_feel_accumulator",
        "Feel the accumulator from below upwards",
        "Cold and wet to the top it is full of liquid that is missing elsewhere.",
        5,
        ("Cold below only is as it should be.",),
        "Accumulator cold to its top",
        "Accumulator cold below only",
        "",
        "Outdoors: outdoor_fan",
    ),
    _row(
        "zone_feel_reversing",
        "Feel the reversing valve's four pipes, and measure its coil",
        "Two hot and two cold: shifted. Its coil without voltage never shifts it.",
        10,
        ("The voltage at its coil while it is told to shift.",),
        "Reversing valve told to shift, and does not",
        "Reversing valve shifts",
        _LIVE,
        "Outdoors: outdoor_fan",
    ),
    _row(
        "zone_oil_history",
        "Read how often it fetched oil this week, and its lowest speed",
        "Oil that does not come back is fetched again and again.",
        10,
        ("Both stand in the plant's own history.",),
        "Oil fetched many times a day",
        "Oil fetched a few times a day",
    ),
    _row(
        "zone_sum_rooms",
        "Add up the rooms' capacities beside the plant's",
        "A plant that was sold too small is not broken.",
        10,
        ("From the plates; how many call at once on a hot day.",),
        "Rooms call for more than the plant has",
        "Plant large enough for its rooms",
    ),
    _row(
        "zone_see_filter",
        "Take out that room's filter, and see its coil",
        "Little air through a coil looks like a valve that gives too much.",
        10,
        ("Against the light; then hear its fan at high speed.",),
        "That room's filter, coil or fan dirty",
        "That room's filter, coil and fan clean",
        _HIGH,
    ),
    _row(
        "zone_feel_screen",
        "Feel the liquid pipe before and after that room's screen",
        "A step down there is the screen: it boils in it.",
        5,
        ("Both ends of it at once, two hands.",),
        "Step down over that room's screen",
        "No step over that room's screen",
    ),
    _row(
        "zone_read_coil",
        "Read that coil's pipes with your own clamps, at rest",
        "At rest both pipes are at the room's air: a sensor that says otherwise is off.",
        25,
        ("Twenty minutes without a call.",),
        "Coil sensor off beside your own clamp",
        "Coil sensors agree with your own clamps",
    ),
    _row(
        "zone_read_room",
        "Hang your own thermometer beside that room's thermostat",
        "A room is held where its thermostat reads, not where its people sit.",
        10,
        ("Ten minutes, out of the sun and of draughts.",),
        "Thermostat off beside your own thermometer",
        "Thermostat agrees with your own thermometer",
    ),
)
