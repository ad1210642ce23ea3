"""Checks: what was entered means something, and goes where it belongs."""

import unittest

from nudge.core.checks.forms import FORMS, judge_form
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.physics.chart.chart_text import read_chart
from tests.core.field import plate

TABLE = read_chart("blower_airflow", "static, low, high\n0.2, 1000, 1300\n0.6, 800, 1100", "ip")
INCH = 249.0889
CFM = 0.4719474


class ChecksTest(unittest.TestCase):
    def judge(self, key, of=None, **entries):
        return judge_form(key, of or plate(nominal_capacity_w=36000 * 0.29307), entries)

    def words(self, found):
        return " ".join(said.text("ip") for said in found.said)

    def test_a_second_filter_counts_as_the_first(self):
        found = self.judge("filter", face="clean", second="dirty")
        self.assertEqual((found.state, found.observations), ("bad", ("filter_dirty",)))
        self.assertIn("second filter", self.words(found))
        asked = self.judge("filter", face="clean")
        self.assertIn("second filter in the same air path", self.words(asked))
        self.assertEqual(self.judge("filter", face="clean", second="none").state, "good")

    def test_a_capacitor_ten_percent_low_is_worn_out(self):
        found = self.judge("capacitor", motor="blower", rated=45, measured=40)
        self.assertEqual((found.state, found.observations), ("bad", ("blower_capacitor_weak",)))
        fan = self.judge("capacitor", motor="condenser_fan", rated=5, measured=4)
        self.assertEqual(fan.observations, ())  # the blower's is another one
        self.assertEqual(
            self.judge("capacitor", motor="blower", rated=45, measured=43).state, "good"
        )

    def test_statics_become_readings_and_blame_the_larger_half(self):
        found = self.judge("statics", supply=0.2 * INCH, **{"return": -0.7 * INCH})
        self.assertEqual(found.state, "bad")  # 0.9 in. w.c. in all
        self.assertAlmostEqual(found.readings["return_static"], -0.7 * INCH)
        self.assertIn("return side", self.words(found))

    def test_the_blower_table_is_read_between_its_rows(self):
        of = plate(nominal_capacity_w=36000 * 0.29307, blower_tap="high", charts=(TABLE,))
        found = self.judge("blower", of, static=0.4 * INCH)
        self.assertAlmostEqual(found.readings["airflow"], 1200 * CFM, delta=0.5)
        self.assertEqual(found.observations, ("airflow_ok",))  # 400 CFM a ton
        low = self.judge(
            "blower",
            plate(nominal_capacity_w=48000 * 0.29307, blower_tap="high", charts=(TABLE,)),
            static=0.4 * INCH,
        )
        self.assertEqual(low.observations, ("airflow_low",))
        with self.assertRaisesRegex(CoreError, "No blower table"):
            self.judge("blower", static=0.4 * INCH)

    def test_amps_stand_against_the_plate(self):
        self.assertEqual(self.judge("compressor_amps", rated=15, measured=12).state, "good")
        self.assertEqual(self.judge("compressor_amps", rated=15, measured=16.5).state, "bad")
        idle = self.judge("compressor_amps", rated=15, measured=5)
        self.assertIn("does not pump", self.words(idle))
        self.assertEqual(self.judge("compressor_amps", measured=12).state, "noted")

    def test_two_of_three_strips(self):
        # 5 kW at 240 V draw 20.8 A each; 41 A is two of them.
        found = self.judge("strips", strip_kw=5.0, strips=3, volts=240, measured=41)
        self.assertEqual(found.state, "bad")
        self.assertIn("About 2 of 3", self.words(found))

    def test_what_is_missing_or_cannot_be_is_named(self):
        with self.assertRaisesRegex(CoreError, "Measured"):
            self.judge("capacitor", motor="blower", rated=45)
        with self.assertRaises(UnknownName):
            self.judge("filter", face="greasy")
        with self.assertRaises(UnknownName):
            self.judge("filtre", face="clean")
        with self.assertRaises(UnknownName):
            self.judge("filter", face="clean", colour="blue")
        with self.assertRaisesRegex(CoreError, "4000.0 A is outside 0.1 to 200.0 A"):
            self.judge("compressor_amps", measured=4000)
        with self.assertRaises(CoreError):
            self.judge("statics")

    def test_every_check_that_opens_a_panel_has_a_caution(self):
        for key in ("filter", "coils", "capacitor", "compressor_amps", "strips"):
            self.assertTrue(FORMS[key].caution)


if __name__ == "__main__":
    unittest.main()
