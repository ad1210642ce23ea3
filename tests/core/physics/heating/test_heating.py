"""Heating by hand: the figures a technician can check on paper."""

import unittest

from nudge.core.language.errors import OutOfRange
from nudge.core.physics.air.moist_air import moist_air
from nudge.core.physics.heating.delivered import expected_rise, heat_delivered, power_drawn
from nudge.core.physics.heating.expected import (
    HeatingPlate,
    btu_h,
    cop,
    expected_heat,
    expected_power,
)
from nudge.core.physics.heating.house import balance_point, loss_from_duty, loss_per_kelvin
from nudge.core.physics.heating.thermistor import Thermistor

W, CFM = 0.29307107, 0.4719474
PLATE = HeatingPlate(36_000 * W, 22_500 * W, 3_000.0, 2_600.0)


def c(f):
    return (f - 32) / 1.8


class DeliveredTest(unittest.TestCase):
    def test_by_the_density_where_the_flow_was_measured(self):
        # 1,150 CFM at 92 °F from 69 °F, 40 %: 14.04 ft³/lb, 0.2427 Btu/lb°F, 23 °F: 27,430 Btu/h.
        found = heat_delivered(moist_air(c(69), 0.0, relative_humidity=40), c(92), 1_150 * CFM)
        self.assertAlmostEqual(btu_h(found.value), 27_430, delta=60)
        self.assertLess(
            btu_h(found.value), 1.08 * 1_150 * 23
        )  # what the rule for standard air says
        self.assertAlmostEqual(found.uncertainty / found.value, 0.094, delta=0.01)

    def test_cop_and_power_without_a_meter(self):
        self.assertAlmostEqual(cop(27_430 * W, 2_480.0), 3.24, delta=0.01)
        self.assertAlmostEqual(power_drawn(240.0, 10.9, 0.95), 2_485, delta=1)
        with self.assertRaises(OutOfRange):
            cop(1_000.0, 0.0)

    def test_the_rise_follows_the_weather(self):
        standard = moist_air(20.0, 0.0, relative_humidity=0.0)
        for outdoor, rise in ((17, 18), (38, 23), (47, 29), (60, 34)):
            heat = expected_heat(PLATE, c(outdoor))
            found = expected_rise(heat, standard, 1_150 * CFM)
            self.assertAlmostEqual(found.value * 1.8, rise, delta=0.6)


class ExpectedTest(unittest.TestCase):
    def test_its_own_points_come_back(self):
        for outdoor, heat, power in ((17, 22_500, 2_600), (47, 36_000, 3_000)):
            self.assertAlmostEqual(btu_h(expected_heat(PLATE, c(outdoor)).value), heat, delta=1)
            self.assertAlmostEqual(expected_power(PLATE, c(outdoor)).value, power, delta=0.1)

    def test_the_frosted_stretch(self):
        # 35 °F: 0.90 of 22,500 + 0.6 x 13,500 = 27,540; 38 °F on the way on: 28,380 and 2,830 W.
        self.assertAlmostEqual(btu_h(expected_heat(PLATE, c(35)).value), 27_540, delta=5)
        heat, power = expected_heat(PLATE, c(38)), expected_power(PLATE, c(38))
        self.assertAlmostEqual(btu_h(heat.value), 28_380, delta=5)
        self.assertAlmostEqual(power.value, 2_830, delta=1)
        self.assertAlmostEqual(cop(heat.value, power.value), 2.94, delta=0.01)
        self.assertGreater(expected_heat(PLATE, c(45)).value, expected_heat(PLATE, c(44)).value)

    def test_a_silent_plate_is_a_guess_and_wide(self):
        bare = HeatingPlate(36_000 * W)
        self.assertTrue(bare.is_guessed)
        self.assertFalse(PLATE.is_guessed)
        found = expected_heat(bare, c(17))
        self.assertAlmostEqual(btu_h(found.value), 21_600, delta=5)
        self.assertGreater(found.uncertainty, 2 * expected_heat(PLATE, c(17)).uncertainty)
        self.assertAlmostEqual(cop(found.value, expected_power(bare, c(17)).value), 2.5, delta=0.01)
        self.assertIn("assumed", {one.source for one in found.inputs})

    def test_beyond_any_rating_it_says_nothing(self):
        for outdoor in (-40, 90):
            with self.assertRaises(OutOfRange):
                expected_heat(PLATE, c(outdoor))


class HouseTest(unittest.TestCase):
    def test_where_heat_and_loss_meet(self):
        # 500 Btu/h°F at 70 in: at 17 out it loses 26,500, the plate gives 22,500; at 25 out 22,500
        # against 22,500 + 8/18 x 5,040 = 24,740. They meet where 22,500 + 280 x = 26,500 - 500 x.
        loss = 500 * W * 1.8
        found = balance_point(PLATE, loss, c(70))
        self.assertAlmostEqual(found * 1.8 + 32, 17 + 4_000 / 780, delta=0.1)

    def test_a_house_it_always_holds_or_never(self):
        self.assertIsNone(balance_point(PLATE, 10.0, c(70)))
        self.assertAlmostEqual(loss_per_kelvin(9_000.0, 21.0, 1.0), 450.0)
        with self.assertRaises(OutOfRange):
            loss_per_kelvin(9_000.0, 21.0, 20.0)

    def test_its_loss_from_how_long_it_ran(self):
        heat = expected_heat(PLATE, c(38)).value
        self.assertAlmostEqual(
            loss_from_duty(PLATE, c(38), c(70), 0.5, strips_w=1_000.0),
            (0.5 * heat + 1_000) / (32 / 1.8),
            places=3,
        )


class ThermistorTest(unittest.TestCase):
    def test_in_an_ice_bath_and_back(self):
        sensor = Thermistor()
        self.assertAlmostEqual(sensor.ohms(0.0) / 1000, 33.9, delta=0.1)
        self.assertAlmostEqual(sensor.ohms(25.0), 10_000.0, places=6)
        for temp in (-20.0, 0.0, 13.3, 40.0):
            self.assertAlmostEqual(sensor.celsius(sensor.ohms(temp)), temp, places=9)


if __name__ == "__main__":
    unittest.main()
