"""Checks of a cold room: its doors, its coil's ice, its fans, its receiver.

They need no table: a room is answered by its windows (`judgement/decision/cold_room.py`).
"""

from nudge.core.checks.check import Check
from nudge.core.checks.looks import seen

_LOCKED_IN = "Wedge the door and tell somebody: nobody is shut in. Ice underfoot, and cold."
_FANS = "Fans start by themselves after a defrost: power locked out before a guard comes off."

COLD_ROOM_CHECKS: tuple[Check, ...] = (
    Check(
        "see_door_shut",
        "See every door and curtain shut, and its gasket whole",
        "Warm wet air is a load no design counts, and it ices the coil.",
        2,
        ("Shut it from outside. A strip of paper in the gasket holds all round.",),
        caution=_LOCKED_IN,
        look=seen(
            "Indoors",
            ("door_open", "A door open, or a gasket that lets by"),
            ("door_shut", "Doors shut, gaskets whole"),
            0.03,
            "seen from in front of it",
            door_open=0.92,
        ),
    ),
    Check(
        "look_at_room_coil",
        "Look into the coil of the room: frost, or ice between the fins?",
        "Ice stops the air: it boils lower and the box stays warm.",
        3,
        ("From the entering side, with a lamp, down to the pan and its heater.",),
        0.5,
        _LOCKED_IN,
        look=seen(
            "Indoors: indoor_coil",
            ("room_coil_iced", "Ice between the room coil's fins"),
            ("room_coil_clear", "Room coil clear, or lightly frosted"),
            0.03,
            "ice is seen from a step away",
            room_coil_iced=0.93,
            room_fan=0.2,
            door_open=0.2,
            receiver_short=0.15,
            metering_underfeed=0.15,
            valve_frozen=0.15,
        ),
    ),
    Check(
        "see_room_fans",
        "See every fan of the room's coil run, the right way round",
        "One that stands takes its share of the air with it.",
        1,
        ("Count them. A strip of paper shows which way the air goes.",),
        0.5,
        _FANS,
        look=seen(
            "Indoors: blower",
            ("room_fan_stands", "A fan of the room's coil stands, or runs backwards"),
            ("room_fans_run", "All fans of the room's coil run"),
            0.02,
            "seen and heard",
            room_fan=0.95,
        ),
    ),
    Check(
        "read_receiver_level",
        "Find the level in the receiver: warm above, cold below, or its glass",
        "With a receiver the level is the charge, not the subcooling.",
        4,
        (
            "Hold a hand or a clamp up its side after ten steady minutes: the step is the level.",
            "Between its maker's marks it is right; with the outlet uncovered gas goes to the "
            "valve.",
        ),
        look=seen(
            "Refrigerant: liquid_line",
            ("receiver_low", "Receiver's level under its mark, or bubbles at a steady load"),
            ("receiver_right", "Receiver's level between its marks, glass clear"),
            0.04,
            "the level is felt within an inch",
            receiver_short=0.93,
        ),
    ),
    Check(
        "read_room_coil",
        "Read the box, the coil's outlet and suction, near set point",
        "Superheat at the coil says how it is fed, the box how low it should boil.",
        5,
        (
            "Zero the instrument open to air; clamp the coil's outlet by the bulb, insulated.",
            "Hang the box probe in the returning air, not against a wall or product.",
            "Type BX, EO and SUCT.",
        ),
        1,
        _LOCKED_IN,
        signs=("coil_superheat", "evaporator_difference", "box_over_set"),
        points=("box_air_temp", "evaporator_outlet_temp", "suction_pressure"),
    ),
    Check(
        "read_room_supply",
        "Read the air off the room's coil",
        "Little air falls far; a starved coil hardly cools it.",
        3,
        ("An arm's length in front of the fans, clear of the coil's face.", "Type SA."),
        0.5,
        _LOCKED_IN,
        signs=("coil_air_drop",),
        points=("supply_air_temp",),
    ),
    Check(
        "see_load",
        "See what was brought in: warm goods, or more than usual?",
        "Warm goods hold the box up for hours, and nothing is wrong with the plant.",
        2,
        ("Ask when the last delivery came; a probe between two boxes tells.",),
        0.5,
        _LOCKED_IN,
        look=seen(
            "Indoors",
            ("warm_goods", "Warm goods in the box"),
            ("goods_cold", "Goods as cold as the box"),
            0.04,
            "told, or felt with a probe",
            product_load=0.92,
        ),
    ),
    Check(
        "see_head_control",
        "See the head-pressure control hold: fan, damper or valve, against its setting",
        "One that sticks open lets the head fall with the weather; one set too high wastes power.",
        5,
        (
            "Read the condensing against its setting, with the day colder than it and warmer.",
            "A fan that never slows in the cold sticks, or a valve with a cold bypass.",
        ),
        1,
        "Fans start by themselves: hands and sleeves clear.",
        look=seen(
            "Refrigerant: liquid_line",
            ("head_control_sticks", "Head-pressure control sticks, or is set wrong"),
            ("head_control_holds", "Head-pressure control holds its setting"),
            0.06,
            "its setting is written on it",
            head_held_low=0.9,
            head_held_high=0.9,
        ),
    ),
    Check(
        "thaw_valve",
        "Warm the metering device's body by hand or rag: does the coil feed again?",
        "Water freezes in the port of a wet system, and thaws.",
        6,
        (
            "A rag with warm water on the valve's body; no flame.",
            "Suction that jumps up and falls back later is water: renew the drier, evacuate.",
        ),
        1,
        "No flame on a valve or near refrigerant.",
        look=seen(
            "Refrigerant: bulb",
            ("valve_thaws", "The valve feeds again when it is warmed"),
            ("valve_stays", "Warming the valve changes nothing"),
            0.04,
            "water lets go within minutes",
            valve_frozen=0.92,
        ),
    ),
)
