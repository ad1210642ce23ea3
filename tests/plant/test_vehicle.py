"""A vehicle on the plant shows what vehicles show: its three tests part what they can."""

import unittest

from nudge.core.language.units import degrees_f
from nudge.core.physics.vehicle.three_tests import FRONT, POINTS, three_tests
from nudge.plant.faults import Present, spoiled
from nudge.plant.machine import Conditions
from nudge.plant.presets import preset_machine
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of

VAN = "vehicle-134a"


def three(charge=1.0, humidity=20.0, speed=1.0, faults=()):
    machine = preset_machine(VAN)
    air = Conditions(
        air_of(37.0, humidity), air_of(35.0, humidity), machine.charge_kg * charge, speed=speed
    )
    truth = running_truth(steady(*spoiled(machine, air, [Present(*f) for f in faults])))
    found = three_tests({point: truth[point] for point in (*POINTS, *FRONT.points)}, 0.0)
    return found, found.coils[0]


class VehicleTest(unittest.TestCase):
    def test_healthy_passes_dry_and_humid_and_at_any_speed(self):
        for humidity, speed in ((12.0, 1.0), (35.0, 1.0), (55.0, 1.0), (20.0, 1.3)):
            with self.subTest(humidity=humidity, speed=speed):
                self.assertTrue(three(1.0, humidity, speed)[0].passes)

    def test_a_third_short_still_passes_and_nearly_half_is_starved(self):
        self.assertTrue(three(0.7)[0].passes)
        _, short = three(0.55)
        self.assertEqual(short.over_vent, "over")
        self.assertGreater(short.over_vent_k, degrees_f(14))

    def test_a_valve_wide_open_floods_and_leaves_the_condenser_little(self):
        found, coil = three(1.0, 20.0, 1.0, (("metering_overfeed", 1.0),))
        self.assertEqual((coil.over_vent, found.condenser), ("under", "under"))

    def test_more_than_it_holds_shows_in_the_condenser(self):
        self.assertEqual(three(1.25)[0].condenser, "over")

    def test_humid_air_is_cooled_less_and_asked_for_less(self):
        (_, dry), (_, humid) = three(1.0, 12.0), three(1.0, 55.0)
        self.assertGreater(dry.air_k, humid.air_k + 5)
        self.assertGreater(dry.least_air_k, humid.least_air_k + 5)
