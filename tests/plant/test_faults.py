"""Every documented fault against every reading that marks it: which way it goes.

The signs are the trade's (docs/method.md, suspects). `+` and `-` must be at least the least
change a technician could read; `0` must stay inside it.
"""

import unittest
from dataclasses import replace

from nudge.core.language.errors import CoreError
from nudge.plant.faults import FAULTS, Present, spoiled
from nudge.plant.presets import preset_machine
from nudge.plant.sizing import heating_conditions
from nudge.plant.steady import steady
from nudge.plant.wet_air import air_of
from tests.plant.systems import at_rest, numbers

VALVE, ORIFICE, REVERSIBLE = "split-3-410-valve", "split-3-410-orifice", "heat-pump-3-410"

LEAST = {
    "suction_pressure": 14, "liquid_pressure": 20, "superheat": 1.0, "subcooling": 0.8,
    "over_ambient": 0.8, "split": 0.6, "compressor_amps": 0.25, "capacity": 0.15,
    "airflow": 30, "total_external_static": 20, "drier_drop": 1.5, "line_drop": 1.5, "ratio": 0.12,
    "discharge_line_temp": 2.5, "across_reversing": 2.5, "approach": 1.0,
    "filter_pressure_drop": 15, "capacitor_microfarads": 0.5, "condenser_fan_amps": 0.1,
}  # fmt: skip

NEVER_AT_REST = {"valve_shut", "joint_leak", "wet_circuit", "defrost_valve_stuck",
                 "defrost_fan_runs", "defrost_sensor", "defrost_board"}  # fmt: skip
"""They have no steady running point: `test_opened.py`, `test_pumped.py` and `test_winter.py` play
them."""

SIGNS: dict[tuple[str, str, float], str] = {
    (VALVE, "undercharge", 0.7): "suction_pressure- liquid_pressure- superheat+ subcooling- "
    "over_ambient- split- compressor_amps- capacity-",
    (VALVE, "undercharge", 0.45): "subcooling- superheat+ liquid_pressure-",
    (ORIFICE, "undercharge", 0.3): "suction_pressure- liquid_pressure- superheat+ subcooling- split-",
    (VALVE, "overcharge", 0.6): "liquid_pressure+ subcooling+ over_ambient+ superheat0 "
    "compressor_amps+ suction_pressure0",
    (ORIFICE, "overcharge", 0.4): "liquid_pressure+ subcooling+ over_ambient+ superheat-",
    (VALVE, "condenser_dirt", 0.7): "liquid_pressure+ over_ambient+ compressor_amps+ capacity- ratio+",
    (ORIFICE, "condenser_dirt", 0.7): "liquid_pressure+ over_ambient+ superheat- subcooling0",
    (VALVE, "condenser_fan", 0.7): "liquid_pressure+ over_ambient+ compressor_amps+ condenser_fan_amps-",
    (VALVE, "recirculating", 0.8): "liquid_pressure+ compressor_amps+ capacity-",
    (VALVE, "non_condensables", 0.6): "liquid_pressure+ over_ambient+ subcooling+ approach0 superheat0",
    (VALVE, "filter_dirty", 0.7): "suction_pressure- split+ airflow- total_external_static+ "
    "filter_pressure_drop+ superheat0 subcooling0",
    (ORIFICE, "filter_dirty", 0.7): "suction_pressure- split+ airflow- superheat-",
    (VALVE, "second_filter", 0.8): "suction_pressure- split+ airflow- total_external_static+",
    (VALVE, "evaporator_dirt", 0.7): "suction_pressure- split+ airflow- superheat0",
    (VALVE, "weak_capacitor", 0.7): "suction_pressure- split+ airflow- capacitor_microfarads- "
    "total_external_static-",
    (VALVE, "low_load", 0.7): "suction_pressure- split- airflow0",
    (ORIFICE, "low_load", 0.5): "suction_pressure- superheat-",
    (VALVE, "high_load", 0.8): "suction_pressure+ airflow0",
    (ORIFICE, "high_load", 0.6): "suction_pressure+ superheat+",
    (VALVE, "drier_restricted", 0.9): "suction_pressure- superheat+ subcooling+ drier_drop+ split- line_drop0",
    (VALVE, "line_kinked", 0.9): "suction_pressure- superheat+ line_drop+ drier_drop0 split-",
    (ORIFICE, "drier_restricted", 0.8): "suction_pressure- superheat+ drier_drop+ subcooling+",
    (VALVE, "metering_underfeed", 0.5): "suction_pressure- superheat+ drier_drop0 line_drop0 split- "
    "liquid_pressure- discharge_line_temp+",
    (ORIFICE, "metering_underfeed", 0.5): "suction_pressure- superheat+ drier_drop0 split-",
    (VALVE, "metering_overfeed", 0.5): "suction_pressure+ superheat- subcooling-",
    (ORIFICE, "metering_overfeed", 0.5): "suction_pressure+ superheat- subcooling-",
    (VALVE, "bulb_loose", 0.8): "superheat- suction_pressure+",
    (VALVE, "hunting", 0.8): "drier_drop0",
    (VALVE, "compressor_worn", 0.6): "suction_pressure+ liquid_pressure- ratio- capacity- "
    "discharge_line_temp+",
    (VALVE, "compressor_reed", 0.6): "suction_pressure+ liquid_pressure- ratio- compressor_amps- capacity-",
    (VALVE, "service_valve", 0.9): "suction_pressure- superheat+ split- drier_drop0 line_drop0",
    (REVERSIBLE, "reversing_valve_leak", 0.7): "suction_pressure+ liquid_pressure- ratio- "
    "across_reversing+ capacity-",
    (VALVE, "low_ambient", 1.0): "liquid_pressure- superheat+ subcooling+ suction_pressure-",
    (VALVE, "collar", 0.6): "liquid_pressure+ ratio+",
    (VALVE, "face_blocked", 0.5): "liquid_pressure+ over_ambient+",
}  # fmt: skip

IN_A_ROOM: dict[tuple[str, str, float], str] = {
    ("walk-in-449a", "room_coil_iced", 0.8): "suction_pressure- coil_drop+ coil_superheat0",
    ("freezer-404a", "room_coil_iced", 0.8): "suction_pressure- coil_drop+",
    ("walk-in-449a", "room_fan", 0.8): "suction_pressure- coil_drop+ coil_superheat0",
    ("walk-in-449a", "door_open", 0.8): "box_air_temp+ suction_pressure+",
    ("walk-in-449a", "product_load", 0.8): "box_air_temp+ suction_pressure+",
    ("walk-in-449a", "head_held_high", 0.9): "liquid_pressure+",
    ("walk-in-449a", "receiver_short", 1.0): "suction_pressure- coil_superheat+ coil_drop-",
    ("walk-in-449a", "valve_frozen", 0.6): "suction_pressure- coil_superheat+ drier_drop0",
    ("freezer-404a", "valve_frozen", 0.5): "suction_pressure- coil_superheat+",
}
"""Signs in a cold room at its rated point: trade. `head_held_low` shows in the cold alone, and
`test_rooms.py` plays it there."""
LEAST_IN_A_ROOM = LEAST | {
    "coil_drop": 0.6, "coil_superheat": 1.2, "box_air_temp": 1.0, "suction_pressure": 8,
}  # fmt: skip


def in_a_room(key: str, *faults: tuple[str, float]) -> dict[str, float]:
    """What a cold room reads at rest, with what is worked out of it."""
    found = numbers(at_rest(key, *faults))
    return found | {
        "coil_drop": found["box_air_temp"] - found["supply_air_temp"],
        "coil_superheat": found["evaporator_outlet_temp"] - found["evaporating"],
    }


IN_HEATING: dict[tuple[str, float], str] = {
    ("outdoor_coil_iced", 0.8): "suction_pressure- rise- leaving_drop+ outdoor_unit_watts-",
    ("check_valve_leak", 1.0): "true_superheat- suction_pressure0 rise0",
    ("strips_on", 0.6): "rise+ indoor_unit_watts+ suction_pressure0 liquid_pressure0",
    ("recirculating", 0.9): "suction_pressure- leaving_drop+",
    ("condenser_fan", 0.9): "suction_pressure- leaving_drop+ rise-",
    ("filter_dirty", 0.8): "liquid_pressure+ rise+ airflow- total_external_static+",
    ("undercharge", 0.7): "suction_pressure- true_superheat+ rise- liquid_pressure-",
    ("metering_overfeed", 0.6): "true_superheat- liquid_pressure-",
    ("line_kinked", 0.9): "liquid_line_drop+ drier_drop0",
    ("reversing_valve_leak", 0.7): "true_superheat+ rise- discharge_line_temp+",
}
"""Signs in heating, at 35 °F outdoors: trade."""
LEAST_IN_HEATING = LEAST | {
    "rise": 1.2, "leaving_drop": 1.2, "true_superheat": 1.5, "outdoor_unit_watts": 80,
    "indoor_unit_watts": 80, "liquid_line_drop": 0.8, "suction_pressure": 10,
}  # fmt: skip


def heating(*faults: tuple[str, float]) -> dict[str, float]:
    """What a heat pump reads at rest in heating, with what is worked out of it."""
    machine = preset_machine(REVERSIBLE)
    winter = replace(heating_conditions(machine.charge_kg), outdoor=air_of(1.7, 80))
    found = numbers(steady(*spoiled(machine, winter, [Present(k, s) for k, s in faults])))
    return found | {
        "rise": found["supply_air_temp"] - found["return_air_temp"],
        "leaving_drop": found["outdoor_air_temp"] - found["condenser_leaving_air_temp"],
        "true_superheat": found["true_suction_temp"] - found["evaporating"],
        "liquid_line_drop": found["liquid_line_temp_indoor"] - found["liquid_line_temp"],
    }


class FaultSignsTest(unittest.TestCase):
    def test_every_fault_moves_every_reading_the_way_the_trade_says(self):
        for (key, name, severity), signs in SIGNS.items():
            healthy, ill = numbers(at_rest(key)), numbers(at_rest(key, (name, severity)))
            for word in signs.split():
                reading, sign = word[:-1], word[-1]
                moved, least = ill[reading] - healthy[reading], LEAST[reading]
                with self.subTest(key, fault=name, reading=reading, moved=round(moved, 2)):
                    if sign == "+":
                        self.assertGreater(moved, least)
                    elif sign == "-":
                        self.assertLess(moved, -least)
                    else:
                        self.assertLess(abs(moved), 2 * least)

    def test_faults_in_heating_move_readings_the_way_the_trade_says(self):
        healthy = heating()
        for (name, severity), signs in IN_HEATING.items():
            ill = heating((name, severity))
            for word in signs.split():
                reading, sign = word[:-1], word[-1]
                moved, least = ill[reading] - healthy[reading], LEAST_IN_HEATING[reading]
                with self.subTest(fault=name, reading=reading, moved=round(moved, 2)):
                    if sign == "+":
                        self.assertGreater(moved, least)
                    elif sign == "-":
                        self.assertLess(moved, -least)
                    else:
                        self.assertLess(abs(moved), 2 * least)

    def test_faults_in_a_cold_room_move_readings_the_way_the_trade_says(self):
        for (key, name, severity), signs in IN_A_ROOM.items():
            healthy, ill = in_a_room(key), in_a_room(key, (name, severity))
            for word in signs.split():
                reading, sign = word[:-1], word[-1]
                moved, least = ill[reading] - healthy[reading], LEAST_IN_A_ROOM[reading]
                with self.subTest(key, fault=name, reading=reading, moved=round(moved, 2)):
                    if sign == "0":
                        self.assertLess(abs(moved), 2 * least)
                    else:
                        self.assertGreater(moved if sign == "+" else -moved, least)

    def test_every_fault_has_its_signs(self):
        summer = {name for _, name, _ in SIGNS}
        winter = {name for name, _ in IN_HEATING}
        rooms = {name for _, name, _ in IN_A_ROOM} | {"head_held_low"}
        self.assertEqual(summer | winter | rooms, set(FAULTS) - NEVER_AT_REST)
        special = {key for key, row in FAULTS.items() if row.only}
        self.assertTrue(special <= winter | rooms | NEVER_AT_REST)

    def test_faults_combine_and_severity_zero_is_no_fault(self):
        both = numbers(at_rest(VALVE, ("filter_dirty", 0.6), ("undercharge", 0.6)))
        one = numbers(at_rest(VALVE, ("undercharge", 0.6)))
        self.assertLess(both["suction_pressure"], one["suction_pressure"])
        self.assertLess(both["airflow"], one["airflow"] - 30)
        healthy = numbers(at_rest(VALVE))
        for name in FAULTS:
            with self.subTest(name):
                none = numbers(at_rest(VALVE, (name, 0.0)))
                for reading, least in LEAST.items():
                    # An overfed valve is stuck where it stood; the rest change nothing.
                    self.assertAlmostEqual(none[reading], healthy[reading], delta=least / 2)

    def test_a_severity_or_a_name_that_is_none_is_refused(self):
        machine = preset_machine(VALVE)
        conditions = at_rest(VALVE).conditions
        for wrong in (Present("undercharge", 1.2), Present("undercharged", 0.5)):
            with self.subTest(wrong), self.assertRaises(CoreError):
                spoiled(machine, conditions, [wrong])
