"""Defrosts: every part a missing event names, and frost by figures worked out by hand."""

import unittest
from itertools import product

from nudge.core.checks.defrost import DefrostSeen, read_defrost
from nudge.core.checks.forms import judge_form
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.heating.frost import frost_rate, melt_minutes

TONS_3 = 10_550.6
PLATE = Plate("R-410A", MeteringDevice.TXV, nominal_capacity_w=TONS_3)
ALL = {"valve": "yes", "fan_off": "yes", "vapour": "yes", "fan_on": "yes"}
KG_PER_LB = 0.45359237


def c(f):
    return (f - 32) / 1.8


class FrostTest(unittest.TestCase):
    def test_how_fast_it_grows(self):
        for humidity, pounds in ((75, 2.4), (95, 8.5)):
            rate = frost_rate(c(35), humidity, TONS_3) * 3600 / KG_PER_LB
            self.assertAlmostEqual(rate, pounds, delta=0.35)
        self.assertEqual(frost_rate(c(45), 95, TONS_3), 0.0)
        self.assertEqual(frost_rate(c(20), 20, TONS_3), 0.0)  # drier than the coil's face holds

    def test_two_pounds_melt_in_about_a_minute(self):
        self.assertAlmostEqual(melt_minutes(2 * KG_PER_LB), 1.2, delta=0.15)


class EventsTest(unittest.TestCase):
    def test_which_part_a_missing_event_names(self):
        for off, key in (
            ({"valve": "no", "fan_off": "no", "vapour": "no", "fan_on": "no"}, "never_called"),
            ({"valve": "no", "vapour": "no"}, "valve_stuck"),
            ({"fan_off": "no"}, "fan_runs_on"),
            ({"vapour": "no"}, "no_heat_for_it"),
            ({"fan_on": "no"}, "does_not_end"),
        ):
            events = {name: value == "yes" for name, value in (ALL | off).items()}
            row, _ = read_defrost(DefrostSeen(events))
            self.assertEqual(row.key, key)
            self.assertEqual(judge_form("defrost", PLATE, ALL | off).state, "bad")

    def test_a_defrost_with_an_event_missing_always_names_a_part(self):
        for marks in product((True, False), repeat=4):
            row, _ = read_defrost(DefrostSeen(dict(zip(ALL, marks, strict=True))))
            self.assertEqual(row is None, all(marks), marks)

    def test_how_long_and_how_often_is_right_today(self):
        wet = {"outdoor": c(35), "humidity": 95.0, "every": 45.0}
        right = judge_form("defrost", PLATE, ALL | wet | {"minutes": 4.0})
        self.assertEqual(right.state, "good")
        # 8.5 lb an hour over three quarters of it: 6.4 lb, a good three and a half minutes.
        self.assertRegex(right.said[-1].text("ip"), r"about [34] min")
        often = judge_form("defrost", PLATE, ALL | wet | {"minutes": 10.0, "every": 30.0})
        self.assertEqual(often.state, "watch")
        self.assertIn("no weather asks for that", often.said[1].text("ip"))
        timed = judge_form("defrost", PLATE, ALL | {"minutes": 12.0})
        self.assertIn("by the clock", timed.said[1].text("ip"))
        dry = judge_form("defrost", PLATE, ALL | wet | {"humidity": 30.0, "minutes": 6.0})
        self.assertEqual(dry.state, "watch")
        self.assertIn("hardly any frost", dry.said[-1].text("ip"))

    def test_ice_between_the_fins_is_watched(self):
        found = judge_form("defrost", PLATE, ALL | {"ice": "between"})
        self.assertEqual(found.state, "watch")
        self.assertEqual(judge_form("defrost", PLATE, ALL | {"ice": "clear"}).state, "good")


if __name__ == "__main__":
    unittest.main()
