"""Checks of a vehicle after a repair: made ready, its three tests, and what looks like them."""

from nudge.core.checks.check import Check
from nudge.core.checks.looks import seen

_ROLLS = "Brake on, chocks, exhaust led out; sleeves and leads clear of belts and fan."
_HIGH_VOLTAGE = "High-voltage compressors and a refrigerant that burns: trained persons only."

VEHICLE_CHECKS: tuple[Check, ...] = (
    Check(
        "make_vehicle_ready",
        "Make it ready: open, warm, maximum cold, blower high",
        "At half work every difference is half.",
        5,
        (
            "In the sun or its warmth; doors and windows open; engine warm.",
            "Maximum cold, fresh air, blower high; then five minutes steady.",
        ),
        1,
        f"{_ROLLS} {_HIGH_VOLTAGE}",
        look=seen(
            "Tests",
            ("vehicle_ready", "Vehicle ready: open, warm, maximum cold, blower high"),
            None,
            0.5,
            "what the tests are made for",
        ),
    ),
    Check(
        "read_three_tests",
        "Read condenser lines, the air before it, vent and evaporator's outlet",
        "Three differences together say how it works, and none alone.",
        6,
        (
            "Clamps on clean bare metal: paint or dirt under one can be 30 °F.",
            "Vent air in the middle one, not at the feet; wet bulb in the air it takes in.",
            "Type CIL, COL, CEA, VENT, EO and WB. EIL beside VENT where its inlet is bare.",
            "With a second evaporator RVENT and REO as well: blower high at both.",
        ),
        1,
        _ROLLS,
        points=(
            "condenser_inlet_line_temp",
            "condenser_outlet_line_temp",
            "condenser_entering_air_temp",
            "vent_air_temp",
            "evaporator_outlet_temp",
            "return_air_wet_bulb",
        ),
    ),
    Check(
        "see_condenser_air",
        "See the condenser's fans run, and air go through its face",
        "Too little air over it looks like too much in it.",
        3,
        ("Fans at their high speed; leaves, mud and bent fins; the seals round it.",),
        1,
        _ROLLS,
        look=seen(
            "Outdoors: outdoor_fan",
            ("vehicle_fan_weak", "Condenser's fan weak, or its face blocked"),
            ("vehicle_fan_right", "Condenser's fans and face right"),
            0.1,
            "seen and felt",
        ),
    ),
    Check(
        "see_clutch_hold",
        "See the compressor's clutch hold, without slip or cycling",
        "One that slips pumps less, and nothing else is wrong.",
        2,
        ("Watch its hub turn with the pulley, at idle and at 2,000 rpm.",),
        1,
        _ROLLS,
        look=seen(
            "Outdoors: compressor",
            ("clutch_slips", "Clutch slips, or cycles on its switch"),
            ("clutch_holds", "Clutch holds"),
            0.1,
            "seen",
        ),
    ),
    Check(
        "feel_evaporator_feed",
        "Feel the liquid line of that evaporator, up to its valve",
        "Where one of two is fed wrong, its own way is at fault, and a hand finds where.",
        4,
        ("Warm up to its valve and cold behind it: the valve. Cold before it: the line.",),
        1,
        _ROLLS,
        look=seen(
            "Indoors",
            ("feed_cold", "Liquid line of one evaporator cold before its valve"),
            ("feed_warm", "Liquid line of one evaporator warm up to its valve"),
            0.1,
            "felt",
        ),
    ),
    Check(
        "see_blend_door",
        "See the heater shut off: blend door at full cold, heater hoses",
        "Warm air mixed in spoils the vent and leaves the circuit innocent.",
        3,
        ("From full cold to full warm and back: the vent must follow.",),
        look=seen(
            "Indoors",
            ("heater_mixes", "Heater mixes in at full cold"),
            ("heater_shut", "Heater shut off at full cold"),
            0.1,
            "felt at the vent",
        ),
    ),
)
