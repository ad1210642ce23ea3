"""A winter's forms, by figures a technician can check."""

import unittest

from nudge.core.checks.forms import judge_form
from nudge.core.language.errors import CoreError
from nudge.core.physics.air.filter_out import cost_w
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.electrical.feed import judge_feed

PLATE = Plate("R-410A", MeteringDevice.TXV, strips_kw=9.6)
IN_WC, CFM = 249.089, 0.4719474


def c(f):
    return (f - 32) / 1.8


def said(finding):
    return " ".join(one.text("ip") for one in finding.said)


class FeedTest(unittest.TestCase):
    def test_one_leg_counted_twice_names_the_clamp_to_move(self):
        adds_up, words = judge_feed(31.0, [16.0, 15.0, 15.0])
        self.assertFalse(adds_up)
        self.assertIn("Move clamp 3", words.text("ip"))

    def test_circuits_that_add_up(self):
        for branches in ([16.0, 15.0], [20.6, 10.2], [10.4, 10.2, 10.3]):
            self.assertTrue(judge_feed(31.0, branches)[0], branches)

    def test_one_in_no_clamp_and_something_else_in_one(self):
        self.assertIn("not in any clamp", judge_feed(41.0, [20.0, 10.0])[1].text("ip"))
        self.assertIn("something else runs", judge_feed(31.0, [16.0, 24.0])[1].text("ip"))

    def test_as_a_form_it_wants_two_circuits(self):
        found = judge_form("strips_feed", PLATE, {"feed": 31.0, "first": 16.0, "second": 15.0})
        self.assertEqual((found.state, found.readings), ("good", {"strip_amps": 31.0}))
        with self.assertRaisesRegex(CoreError, "Clamp 2"):
            judge_form("strips_feed", PLATE, {"feed": 31.0, "first": 16.0})


class FilterTest(unittest.TestCase):
    def test_what_a_fifth_of_an_inch_costs(self):
        # 0.2 in. w.c. x 1,150 CFM / 0.35 = 49.8 Pa x 0.543 m3/s / 0.35 = 77 W.
        self.assertAlmostEqual(cost_w(0.2 * IN_WC, 1_150 * CFM), 77, delta=0.5)

    def test_static_and_watts_by_kind_of_motor(self):
        static = {"static_in": 0.7 * IN_WC, "static_out": 0.5 * IN_WC, "airflow": 1_150 * CFM}
        found = judge_form("second_filter", PLATE, {"motor": "ecm"} | static)
        self.assertEqual(found.state, "bad")
        self.assertIn("0.20 in. w.c., about 77 W", said(found))
        for motor, watts_in, watts_out, state, words in (
            ("ecm", 420.0, 340.0, "bad", "fell by 80 W"),
            ("psc", 380.0, 410.0, "bad", "rose by 30 W"),
            ("psc", 380.0, 340.0, "good", "the wrong way"),
            ("ecm", 420.0, 415.0, "good", "hardly changed"),
        ):
            entries = {"motor": motor, "watts_in": watts_in, "watts_out": watts_out}
            found = judge_form("second_filter", PLATE, entries)
            self.assertEqual(found.state, state, (motor, said(found)))
            self.assertIn(words, said(found))

    def test_half_an_experiment_is_none(self):
        with self.assertRaisesRegex(CoreError, "with it in and with it out"):
            judge_form("second_filter", PLATE, {"motor": "psc", "watts_in": 380.0})


class LockoutsFormTest(unittest.TestCase):
    def test_crossed_is_bad_none_is_watched_usual_is_good(self):
        crossed = {"strips_off_over": c(30), "compressor_off_under": c(36)}
        self.assertEqual(judge_form("lockouts", PLATE, crossed).state, "bad")
        usual = {"strips_off_over": c(40), "compressor_off_under": c(20)}
        self.assertEqual(judge_form("lockouts", PLATE, usual).state, "good")
        none = judge_form("lockouts", PLATE, {"has": "none"})
        self.assertEqual(none.state, "watch")
        self.assertIn("Both lockouts off?", said(none))
        with self.assertRaisesRegex(CoreError, "it has none"):
            judge_form("lockouts", PLATE, {"has": "set"})


if __name__ == "__main__":
    unittest.main()
