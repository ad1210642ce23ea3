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
            0.05,
            "seen from in front of it",
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
            0.05,
            "ice is seen from a step away",
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
            0.05,
            "seen and heard",
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
            0.05,
            "the level is felt within an inch",
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
        points=("box_air_temp", "evaporator_outlet_temp", "suction_pressure"),
    ),
)
