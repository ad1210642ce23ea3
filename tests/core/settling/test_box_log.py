"""A box's log tells of itself: its thermostat's swing is nothing, a defrost, a door, a pull-down."""

import unittest
from math import exp, pi, sin
from random import Random

from nudge.core.settling.box_log import RULES, box_events, clear_of
from nudge.core.settling.trace import Trace

MINUTE = 60.0


def log(hours, shape, every_s=30.0, seed=1):
    """A box [°C] by a function of minutes, as a probe reads it."""
    rng = Random(seed)
    seconds = tuple(n * every_s for n in range(int(hours * 3600 / every_s)))
    return Trace(seconds, tuple(shape(s / MINUTE) + rng.gauss(0, 0.05) for s in seconds))


def swing(minute):
    return -20 + 0.9 * sin(2 * pi * minute / 40)


def kinds(events):
    return [event.kind for event in events]


class BoxLogTest(unittest.TestCase):
    def test_a_thermostats_swing_is_no_event(self):
        coil = log(4, lambda m: swing(m) - 5)
        self.assertEqual(box_events(log(4, swing), coil, -20.0), [])
        self.assertEqual(box_events(log(4, swing), None, -20.0), [])

    def test_a_coil_over_its_box_is_a_defrost_from_its_beginning_to_the_cold(self):
        def coil(m):
            return min(8.0, -25 + 3 * (m - 120)) if 120 <= m < 140 else swing(m) - 5

        (found,) = box_events(log(4, swing), log(4, coil), -20.0)
        self.assertEqual(found.kind, "defrost")
        self.assertAlmostEqual(found.begins_s / MINUTE, 122, delta=3)
        self.assertAlmostEqual(found.ends_s / MINUTE, 140, delta=2)
        events = [found]
        self.assertEqual(
            clear_of(events, "defrost", 150 * MINUTE), (150 * MINUTE - found.ends_s) / 60
        )
        self.assertIsNone(clear_of(events, "door", 150 * MINUTE))

    def test_a_defrost_under_way_at_the_end_has_no_end(self):
        def coil(m):
            return min(8.0, -25 + 3 * (m - 220)) if m >= 220 else swing(m) - 5

        (found,) = box_events(log(4, swing), log(4, coil), -20.0)
        self.assertIsNone(found.ends_s)
        self.assertEqual(clear_of([found], "defrost", 4 * 3600), 0.0)

    def test_a_box_alone_shows_a_defrost_by_a_rise_well_over_its_swing(self):
        def box(m):
            if 160 <= m < 185:
                return -20 + 0.15 * (m - 160)
            return -20 + 3.75 * exp(-(m - 185) / 15) if m >= 185 else swing(m)

        (found,) = box_events(log(5, box), None, -20.0)
        self.assertEqual(found.kind, "defrost")
        self.assertAlmostEqual(found.begins_s / MINUTE, 155, delta=12)

    def test_a_door_warms_a_box_faster_than_anything_else(self):
        def box(m):
            over = 0.6 * (m - 90) if 90 <= m < 95 else 3 * exp(-(m - 95) / 8) if m >= 95 else 0
            return swing(m) + over

        found = box_events(log(4, box), log(4, lambda m: swing(m) - 5), -20.0)
        self.assertEqual(kinds(found), ["door"])
        self.assertAlmostEqual(found[0].begins_s / MINUTE, 90, delta=4)

    def test_a_pull_down_ends_near_the_set_point(self):
        def box(m):
            return -20 + 14 * exp(-m / 60)

        (found,) = box_events(log(4, box), None, -20.0)
        self.assertEqual((found.kind, found.begins_s < 120), ("pull_down", True))
        # 14 e^(-m/60) falls to 2.78 K (5 °F) at 60 ln(5.04) = 97 min.
        self.assertAlmostEqual(found.ends_s / MINUTE, 97, delta=3)
        self.assertEqual(box_events(log(4, box), None, None), [])

    def test_too_little_of_a_log_shows_nothing(self):
        self.assertEqual(box_events(Trace((0.0,), (1.0,)), None, 1.0), [])

    def test_every_rule_has_its_reason(self):
        self.assertTrue(all(row.reason and row.value > 0 for row in RULES.values()))
