"""The suspects of a cold room with a receiver, and the checks that part them.

How common each is, is the trade's: ice, fans and doors lead in the room, the condenser outside. Low
charge is the receiver running short; nothing here is ever charged by subcooling.
"""

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType

from nudge.core.checks.check import Check
from nudge.core.checks.in_cold_rooms import COLD_ROOM_CHECKS
from nudge.core.checks.table import CHECKS
from nudge.core.judgement.suspect_table import SUSPECTS, Suspect

_ROWS = (
    replace(
        SUSPECTS["none"],
        prior=24,
        act="Leave it. If the goods are warm, look at doors, load and thermostat.",
        told_apart_by="both rungs at their height, the coil's superheat in its window",
    ),
    Suspect(
        "evaporator_coil_iced",
        "Room coil iced",
        12,
        2,
        "ice between the fins, down to the pan: it boils low and its air falls far",
        "Melt it through a defrost or two, then find what left it: clock, heater, drain, door.",
        ("look_at_room_coil",),
    ),
    Suspect(
        "evaporator_fan",
        "Room coil's fan",
        8,
        2,
        "count the fans: one that stands takes its share of the air",
        "Lock out, then see motor, blade and wiring right. It starts by itself after a defrost.",
        ("see_room_fans",),
    ),
    Suspect(
        "door_open",
        "Door or gasket",
        7,
        1,
        "a door, a curtain or a gasket that lets warm wet air in",
        "Shut it, mend the gasket, and read again near set point.",
        ("see_door_shut",),
    ),
    replace(
        SUSPECTS["high_indoor_load"],
        label="Warm goods",
        prior=6,
        told_apart_by="what was brought in, and when; everything else by its design",
        act="Let it pull down; read again near set point.",
        own_test=("see_load",),
    ),
    Suspect(
        "receiver_short",
        "Short of refrigerant",
        9,
        5,
        "the receiver's level: gas goes to the valve once its outlet is uncovered",
        "Find the leak, mend it, evacuate and weigh in by the plate or to the receiver's mark.",
        ("read_receiver_level", "look_for_leak"),
    ),
    replace(SUSPECTS["condenser_airflow"], prior=12),
    replace(SUSPECTS["non_condensables"], prior=3),
    Suspect(
        "head_pressure_control",
        "Head-pressure control",
        4,
        6,
        "condensing against its setting, on a day colder than that",
        "See it set and free; renew it by its maker's rules before the charge is doubted.",
        ("see_head_control",),
    ),
    replace(
        SUSPECTS["liquid_line_restriction"],
        prior=5,
        told_apart_by="a temperature step along the liquid side: drier, screen, kink or valve",
    ),
    replace(
        SUSPECTS["metering_underfeed"],
        prior=6,
        told_apart_by="liquid right up to it; the bulb does nothing, or warming its body frees it",
        act="Thaw it: water asks for a drier and an evacuation. Else bulb, screen, then the valve.",
        own_test=("walk_liquid_line", "thaw_valve", "test_bulb"),
    ),
    replace(
        SUSPECTS["metering_overfeed"],
        prior=5,
        own_test=("look_at_bulb", "test_bulb"),
    ),
    replace(SUSPECTS["inefficient_compressor"], prior=4),
    replace(SUSPECTS["sensor_suspect"], prior=3),
    replace(SUSPECTS["something_else"], prior=2),
)
ROOM_SUSPECTS: Mapping[str, Suspect] = MappingProxyType({row.key: row for row in _ROWS})

_WHY: Mapping[str, str] = MappingProxyType(
    {
        "look_at_condenser": "A matted condenser drives the head over its class.",
        "watch_condenser_fan": "A slow fan does the same; one that cycles on a cold day is right.",
        "feel_discharge_air": "Warm air that comes back in is a hotter day than it is.",
        "read_outdoor_air": "The condenser's class counts from the air in front of it.",
        "read_condenser_leaving_air": "Little air leaves hot; a full one leaves as designed.",
        "look_at_service_valves": "A valve left half shut starves the coil.",
        "look_for_kink": "A kink is seen, or felt as a cold spot.",
        "walk_liquid_line": "A step along the liquid side is where it is held up.",
        "look_at_bulb": "A loose bulb feels the room's air and opens the valve.",
        "test_bulb": "A live valve answers; a dead one does not.",
        "read_compressor_amps": "A compressor that is not pumping draws little.",
        "read_discharge_line": "A hot discharge is starved or slipping; a cool one is flooded.",
        "test_compressor": "Pressures that lean together can be the valve or the compressor.",
        "standing_pressure": "Standing pressure over its temperature's saturation is air inside.",
        "ask_if_opened": "Air and water get in only where something let them in.",
        "look_for_leak": "What is missing went somewhere.",
        "swap_probes": "A number that moves with its probe was the probe.",
    }
)
"""The checks that part suspects in a room too, with their reason there."""

JUDGED_IN_ROOM: Mapping[str, Check] = MappingProxyType(
    {
        **{row.key: row for row in COLD_ROOM_CHECKS},
        **{key: replace(CHECKS[key], why=why) for key, why in _WHY.items()},
    }
)
