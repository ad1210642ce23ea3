"""A vehicle after a repair: three tests or no verdict, the caveat beside a pass, never a dose."""

import itertools
import unittest
from dataclasses import replace

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import assess
from nudge.core.language.units import fahrenheit
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, Plate
from nudge.core.physics.vehicle.three_tests import three_tests
from nudge.core.physics.vehicle.workings import vehicle_workings
from tests.core.physics.test_vehicle import reads

VAN = Plate("R-1234yf", MeteringDevice.TXV, Application.VEHICLE)


def rear(air=38.0, over=1.0, dry=92.0):
    """The rear evaporator's own readings [°F differences]."""
    vent = dry - air
    return {
        "rear_vent_air_temp": fahrenheit(vent),
        "rear_evaporator_outlet_temp": fahrenheit(vent + over),
    }


def decided(readings, plate=VAN, seen=("vehicle_ready",), minutes=12.0):
    context = Context(minutes_running=minutes, observations=frozenset(seen))
    return assess(plate, readings, context).decision


class VehicleTest(unittest.TestCase):
    def test_a_pass_prints_what_passes_as_well(self):
        for figures in ((44, 39, -1.4), (39, 37, 1.4)):
            found = decided(reads(*figures))
            self.assertEqual(found.key, "vehicle_passes")
            self.assertIn("a third short passes all three", found.reason.text("ip").lower())
            self.assertIn("weigh", found.reason.text("ip"))

    def test_each_failure_is_named_with_what_looks_like_it(self):
        for figures, key, check in (
            ((69, 32, 17.5), "vehicle_starved", "look_for_leak"),
            ((65, 41, -2.3), "vehicle_overfed", "see_condenser_air"),
            ((0, 36, -5.7), "vehicle_overfed", "see_condenser_air"),
            ((62, 39, 3.0), "vehicle_hot", "see_condenser_air"),
            ((12, 35, 3.0), "vehicle_idle", "see_clutch_hold"),
            ((40, 20, 3.0), "vehicle_warm", "see_blend_door"),
        ):
            with self.subTest(key):
                found = decided(reads(*figures))
                self.assertEqual((found.key, found.hangs_on.key), (key, check))

    def test_fewer_than_three_are_no_verdict(self):
        whole = reads()
        for point in whole:
            few = {key: value for key, value in whole.items() if key != point}
            found = decided(few)
            self.assertEqual(found.key, "vehicle_unread", point)

    def test_two_evaporators_are_both_tested_and_one_alone_is_its_own_valve(self):
        twin = replace(VAN, second_evaporator="yes")
        whole = {**reads(), **rear()}
        self.assertEqual(decided(whole, twin).key, "vehicle_passes")
        self.assertIn("Rear: air 38.0 °F", decided(whole, twin).reason.text("ip"))
        for point in rear():
            few = {key: value for key, value in whole.items() if key != point}
            self.assertEqual(decided(few, twin).key, "vehicle_unread", point)
        for front, back, key, headline, check in (
            (-1.4, 16.0, "vehicle_starved", "The rear evaporator is starved.", "feel_evaporator_feed"),
            (16.0, 2.0, "vehicle_starved", "The front evaporator is starved.", "feel_evaporator_feed"),
            (16.0, 18.0, "vehicle_starved", "Too little gets through.", "look_for_leak"),
            (2.0, -6.0, "vehicle_overfed", "The rear evaporator gets too much.", "feel_evaporator_feed"),
            (-6.0, -5.0, "vehicle_overfed", "Too much gets through.", "see_condenser_air"),
        ):  # fmt: skip
            with self.subTest(front=front, back=back):
                found = decided({**reads(over=front), **rear(over=back)}, twin)
                self.assertEqual((found.key, found.headline), (key, headline))
                self.assertEqual(found.hangs_on.key, check)
        warm = decided({**reads(), **rear(air=18.0)}, twin)
        self.assertEqual(warm.key, "vehicle_warm")
        self.assertIn("The rear air drops 18.0 °F", warm.reason.text("ip"))
        opened = vehicle_workings(three_tests(whole, 0, True), whole, 0)
        self.assertAlmostEqual(opened["rear_vehicle_air_drop"].value * 1.8, 38.0)

    def test_it_is_made_ready_first_and_warm_and_steady(self):
        self.assertEqual(decided(reads(), seen=()).hangs_on.key, "make_vehicle_ready")
        self.assertEqual(decided(reads(), minutes=2.0).key, "vehicle_not_yet")
        cold = decided(reads() | {"coolant_temp": fahrenheit(120)})
        self.assertEqual((cold.key, "engine is cold" in cold.reason.text("ip")),
                         ("vehicle_not_yet", True))  # fmt: skip

    def test_exchanged_clamps_are_asked_about_and_an_orifice_is_not_tested_so(self):
        self.assertEqual(decided(reads(condenser=-30.0)).key, "vehicle_exchanged")
        tube = replace(VAN, metering_device=MeteringDevice.FIXED_ORIFICE)
        self.assertEqual(decided(reads(), tube).key, "vehicle_orifice")

    def test_a_vent_far_warmer_than_its_coil_is_another_outlet(self):
        found = decided(reads(40, 12, -25.0))
        self.assertEqual((found.key, found.hangs_on.key), ("vehicle_foot_outlet", "vent_air_temp"))
        self.assertIn("foot outlet", found.reason.text("ip"))

    def test_whatever_is_read_nobody_is_told_to_move_refrigerant(self):
        for condenser, air, over, humidity in itertools.product(
            (-20, 0, 15, 35, 55, 80), (5, 22, 32, 45), (-8, -1, 5, 14, 25), (10, 35, 60)
        ):
            found = decided(reads(condenser, air, over, humidity=humidity))
            self.assertFalse(found.moves_refrigerant, found.key)


if __name__ == "__main__":
    unittest.main()
