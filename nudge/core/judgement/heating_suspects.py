"""The suspects of a heat pump that heats, and the checks that part them.

How common each is, is the trade's: in winter ice, air and the outdoor side lead. Charge is named
and never trimmed. Checks are the cooling rows with a winter's reason where theirs was a summer's.
"""

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType

from nudge.core.checks.check import Check
from nudge.core.checks.table import CHECKS
from nudge.core.judgement.suspect_table import SUSPECTS, Suspect

_WEIGH = "Weigh it: recover, mend, weigh in; or judge it in warm weather, in cooling."

_ROWS = (
    replace(
        SUSPECTS["none"],
        prior=22,
        act="Leave it. If the house is cold, look at strips, lockouts and the house itself.",
    ),
    replace(
        SUSPECTS["undercharge"],
        prior=12,
        act=f"Find the leak. {_WEIGH}",
        own_test=("read_true_suction", "read_liquid_in_heating", "look_for_leak"),
    ),
    replace(
        SUSPECTS["overcharge"],
        prior=6,
        told_apart_by="liquid line near the return air, filter and indoor coil seen clean",
        act=_WEIGH,
        own_test=("look_at_filter", "measure_static"),
    ),
    Suspect(
        "condenser_airflow",
        "Outdoor coil air",
        10,
        4,
        "look at the coil and the fan; the coil boils far under the outdoor air",
        "Clean the outdoor coil, see the fan right and its air free, then read again.",
        ("look_at_condenser", "watch_condenser_fan", "feel_discharge_air"),
    ),
    Suspect(
        "outdoor_coil_iced",
        "Outdoor coil iced",
        8,
        3,
        "ice between the fins, not the light even frost of any winter's day",
        "Melt it with a defrost, then find what left it: defrost, fan, charge or drain.",
        ("look_for_ice", "force_defrost"),
    ),
    replace(SUSPECTS["non_condensables"], prior=2),
    replace(SUSPECTS["low_indoor_airflow"], prior=12),
    replace(SUSPECTS["electrical_blower"], prior=5),
    replace(
        SUSPECTS["liquid_line_restriction"],
        prior=4,
        told_apart_by="a temperature step along the liquid side, from the house outwards",
        own_test=("walk_liquid_in_heating", "look_at_service_valves", "look_for_kink"),
    ),
    replace(
        SUSPECTS["metering_underfeed"],
        prior=4,
        own_test=("look_at_service_valves", "walk_liquid_in_heating", "test_bulb", "drive_valve"),
    ),
    replace(
        SUSPECTS["metering_overfeed"],
        prior=5,
        own_test=("look_at_bulb", "feel_check_valve", "test_bulb", "drive_valve"),
    ),
    Suspect(
        "idle_check_valve_leak",
        "Check valve leaking by",
        2,
        9,
        "the device answers its bulb, and liquid goes round it all the same",
        "Prove it: the pipe behind the check valve is as cold as the device's own outlet. Then "
        "renew it.",
        ("feel_check_valve",),
    ),
    replace(SUSPECTS["inefficient_compressor"], prior=3),
    replace(SUSPECTS["reversing_valve_leak"], prior=2),
    Suspect(
        "strips_on",
        "Strips on with the pump",
        5,
        1,
        "amps on the strips' feed",
        "Find what calls them: stage, lockout, emergency heat, a relay that sticks.",
        ("see_strips_off",),
    ),
    replace(SUSPECTS["sensor_suspect"], prior=3),
    replace(SUSPECTS["something_else"], prior=2),
)
HEATING_SUSPECTS: Mapping[str, Suspect] = MappingProxyType({row.key: row for row in _ROWS})
_WHY: Mapping[str, str] = MappingProxyType(
    {
        "look_at_filter": "A choked filter holds the heat in the coil: the head climbs.",
        "look_at_condenser": "A matted coil takes little from the air outdoors.",
        "watch_condenser_fan": "A slow fan starves the outdoor coil, and it ices.",
        "feel_discharge_air": "Cold air that comes back in looks like a colder day.",
        "read_outdoor_air": "Heat is judged by the air outdoors.",
        "measure_static": "Static and filter drop show where the air is held up.",
        "measure_airflow": "Heat is air times its rise.",
        "look_at_evaporator": "A matted indoor coil holds the heat in, behind a clean filter.",
        "test_blower_capacitor": "A weak capacitor halves the air, and the head climbs.",
        "look_at_service_valves": "A liquid valve left half shut starves the outdoor coil.",
        "look_for_kink": "A kink is seen, or felt as a cold spot.",
        "look_at_bulb": "A loose bulb feels the air and opens the valve.",
        "test_bulb": "A live valve answers; a dead one does not.",
        "read_compressor_amps": "A compressor that is not pumping draws little.",
        "read_discharge_line": "A hot discharge is starved or slipping; a cool one is flooded.",
        "feel_reversing_valve": "A leaking valve warms the suction gas on its way through.",
        "test_compressor": "Pressures that lean together can be the valve or the compressor.",
        "standing_pressure": "Standing pressure over its temperature's saturation is air inside.",
        "ask_if_opened": "Air gets in only where something let it in.",
        "look_for_leak": "What is missing went somewhere.",
        "swap_probes": "A number that moves with its probe was the probe.",
    }
)
"""The checks that part suspects in heating too, with their reason there."""
_ONLY_THERE = (
    "prove_low_probes",
    "place_true_suction",
    "drive_valve",
    "see_strips_off",
    "force_defrost",
    "look_for_ice",
    "feel_check_valve",
    "read_true_suction",
    "read_liquid_in_heating",
    "read_rise",
    "read_outdoor_drop",
    "walk_liquid_in_heating",
)
_SIGNS: Mapping[str, tuple[str, ...]] = MappingProxyType(
    {
        "measure_airflow": ("airflow", "heat_delivered"),
        "read_outdoor_air": ("evaporator_difference", "heat_delivered", "heating_power"),
    }
)
"""What a check measures in heating, where that is another thing than in summer."""


def _turned(key: str, why: str) -> Check:
    row = CHECKS[key]
    return replace(row, why=why, signs=_SIGNS.get(key, row.signs))


JUDGED_IN_HEATING: Mapping[str, Check] = MappingProxyType(
    {
        **{key: CHECKS[key] for key in _ONLY_THERE},
        **{key: _turned(key, why) for key, why in _WHY.items()},
    }
)
