import unittest

from nudge.core.behaviours.case import Context
from nudge.core.behaviours.loop import draw_loop
from nudge.core.language.errors import OutOfRange, UnknownName
from tests.core.field import case, plate


class DerivedTest(unittest.TestCase):
    def test_the_five_numbers_by_hand(self):
        # Pressure-temperature card, R-410A: 118 psig is 40 °F, 341 psig 105 °F.
        derived = case(suct=118, liq=341, sl=52, ll=96, oa=88).derived
        for key, fahrenheit in (
            ("superheat", 52 - 40),
            ("subcooling", 105 - 96),
            ("condensing_over_ambient", 105 - 88),
            ("approach", 96 - 88),
        ):
            with self.subTest(key):
                value = derived.get(key)
                assert value is not None
                self.assertAlmostEqual(value * 1.8, fahrenheit, delta=0.5)
        assert derived.pressure_ratio is not None
        self.assertAlmostEqual(derived.pressure_ratio, (341 + 14.7) / (118 + 14.7), 3)
        assert derived.valve_pressure_difference is not None
        self.assertAlmostEqual(derived.valve_pressure_difference / 6.894757, 341 - 118, 3)

    def test_superheat_counts_from_dew_and_subcooling_from_bubble(self):
        # R-407C at 500 kPa abs: dew 2.36 °C, bubble -3.85 °C. The other end is 6 K wrong.
        psig = (500 - 101.325) / 6.894757
        derived = case(
            plate(fluid="R-407C"), suct=psig, liq=psig, sl=7.36 * 1.8 + 32, ll=-8.85 * 1.8 + 32
        ).derived
        assert derived.superheat is not None
        assert derived.subcooling is not None
        self.assertAlmostEqual(derived.superheat, 5.0, delta=0.03)
        self.assertAlmostEqual(derived.subcooling, 5.0, delta=0.03)

    def test_wet_suction_is_negative_not_clamped(self):
        superheat = case(suct=118, sl=36).derived.superheat
        assert superheat is not None
        self.assertAlmostEqual(superheat * 1.8, -4, delta=0.4)

    def test_missing_readings_are_absent(self):
        derived = case(suct=118).derived
        self.assertIsNotNone(derived.evaporator_saturation)
        for key in ("superheat", "subcooling", "approach", "pressure_ratio", "capacity_total"):
            self.assertIsNone(derived.get(key))

    def test_pressure_off_the_refrigerants_table(self):
        with self.assertRaises(OutOfRange) as caught:
            case(plate(fluid="R-134a"), liq=700)
        self.assertIn("700 psig", caught.exception.text("ip"))

    def test_observations_are_checked(self):
        with self.assertRaises(UnknownName):
            Context(observations=frozenset({"filter_clen"}))
        both = Context(observations=frozenset({"filter_clean", "filter_dirty", "bulb_secure"}))
        self.assertEqual(both.observations, {"bulb_secure"})
        self.assertEqual(both.contradicted, {"filter_clean", "filter_dirty"})


class LoopTest(unittest.TestCase):
    def test_levels_and_gaps_are_what_superheat_and_subcooling_are(self):
        running = case(suct=118, liq=341, sl=52, ll=96, oa=88)
        loop = draw_loop(running)
        gaps = {gap.key: gap for gap in loop.gaps}
        self.assertAlmostEqual(
            gaps["superheat"].line_c - gaps["superheat"].level_c, running.derived.superheat
        )
        self.assertAlmostEqual(
            gaps["subcooling"].level_c - gaps["subcooling"].line_c, running.derived.subcooling
        )

    def test_nothing_unmeasured_is_drawn(self):
        loop = draw_loop(case(suct=118))
        self.assertEqual([level.side for level in loop.levels], ["low"])
        self.assertEqual(loop.gaps, ())
        self.assertTrue(all(station.temp_c is None for station in loop.stations))
