"""A vehicle's three tests: the least air drop by humidity, and each test against its window."""

import unittest

from nudge.core.language.units import degrees_f, fahrenheit
from nudge.core.physics.air.moist_air import moist_air
from nudge.core.physics.vehicle.three_tests import air_drop, least_air_drop, three_tests
from nudge.core.physics.vehicle.workings import vehicle_workings


def wet_bulb(dry_f: float, humidity: float) -> float:
    return moist_air(fahrenheit(dry_f), 0, relative_humidity=humidity).wet_bulb_c


def reads(condenser=44.0, air=39.0, over=-1.4, dry=92.0, humidity=20.0, **more):
    """Readings from the three differences [°F]."""
    vent = dry - air
    found = {
        "condenser_inlet_line_temp": 160.0,
        "condenser_outlet_line_temp": 160.0 - condenser,
        "condenser_entering_air_temp": dry,
        "vent_air_temp": vent,
        "evaporator_outlet_temp": vent + over,
        **more,
    }
    read = {point: fahrenheit(value) for point, value in found.items()}
    return read | {"return_air_wet_bulb": wet_bulb(dry, humidity)}


class HumidityTest(unittest.TestCase):
    def test_the_same_heat_cools_humid_air_less(self):
        # °F worked out apart, by enthalpy with air leaving at 95 %.
        for dry, humidity, drop in ((99, 12, 36.0), (99, 30, 35.4), (99, 40, 29.5), (88, 50, 24.7)):
            with self.subTest(dry, humidity=humidity):
                found = air_drop(fahrenheit(dry), wet_bulb(dry, humidity), 0)
                self.assertAlmostEqual(found * 1.8, drop, delta=0.15)

    def test_the_least_drop_is_thirty_in_dry_air_and_scales_with_it(self):
        dry = least_air_drop(fahrenheit(99), wet_bulb(99, 12), 0)
        self.assertAlmostEqual(dry * 1.8, 30.0, delta=0.15)
        humid = least_air_drop(fahrenheit(88), wet_bulb(88, 50), 0)
        self.assertAlmostEqual(humid * 1.8, 30 * 24.7 / 36, delta=0.2)

    def test_two_bulbs_that_are_no_air_give_none(self):
        self.assertIsNone(least_air_drop(20.0, 26.0, 0))


class TestsTest(unittest.TestCase):
    def test_the_plants_own_figures_stand_where_the_trade_says(self):
        # (condenser, air, over vent) in °F off the simulated plant, and the three places.
        for name, figures, places in (
            ("healthy", (44, 39, -1.4), ("in", "in", "in")),
            ("30 % short", (39, 37, 1.4), ("in", "in", "in")),
            ("45 % short", (69, 32, 17.5), ("over", "in", "over")),
            ("24 % over", (65, 41, -2.3), ("over", "in", "under")),
            ("valve wide open", (0, 36, -5.7), ("under", "in", "under")),
        ):
            with self.subTest(name):
                found = three_tests(reads(*figures), 0)
                self.assertEqual(found.places, places)
                self.assertEqual(found.passes, places == ("in", "in", "in"))

    def test_healthy_on_a_humid_day_is_not_failed_by_humidity_alone(self):
        humid = three_tests(reads(air=27.0, dry=88.0, humidity=55.0), 0)
        self.assertEqual(humid.coils[0].air, "in")
        dry = three_tests(reads(air=27.0, dry=99.0, humidity=12.0), 0)
        self.assertEqual(dry.coils[0].air, "under")

    def test_without_a_wet_bulb_there_is_no_least_drop(self):
        read = reads()
        del read["return_air_wet_bulb"]
        found = three_tests(read, 0)
        self.assertEqual(found.coils[0].air, "unread")
        self.assertFalse(found.all_read)

    def test_an_inlet_line_that_can_be_clamped_is_better_than_the_vent(self):
        found = three_tests(reads(over=12.0, evaporator_inlet_line_temp=58.0), 0)
        self.assertTrue(found.coils[0].by_inlet)
        self.assertAlmostEqual(found.coils[0].over_vent_k, degrees_f(53 + 12 - 58))

    def test_every_number_opens_to_what_went_in(self):
        read = reads(humidity=50.0)
        opened = vehicle_workings(three_tests(read, 0), read, 0)
        self.assertEqual(
            set(opened),
            {"condenser_drop", "vehicle_air_drop", "outlet_over_vent", "least_air_drop"},
        )
        drop = opened["condenser_drop"]
        self.assertAlmostEqual(drop.value * 1.8, 44.0)
        self.assertIn("160.0 °F − 116.0 °F = 44.0 °F", drop.today.text("ip"))
        self.assertGreater(opened["least_air_drop"].uncertainty, 0.1)


if __name__ == "__main__":
    unittest.main()
