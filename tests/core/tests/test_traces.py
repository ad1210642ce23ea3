"""What a trace says at a moment and between two, and where it was silent."""

import unittest

from nudge.core.settling.trace import Trace
from nudge.core.tests.run import at, between, holes, merged

RISE = Trace((0.0, 10.0, 30.0), (1.0, 2.0, 6.0))
NOTHING = Trace((), ())


class TraceTest(unittest.TestCase):
    def test_between_its_values_it_is_straight_and_past_them_held(self):
        for second, value in ((-5, 1), (0, 1), (5, 1.5), (10, 2), (20, 4), (30, 6), (99, 6)):
            self.assertEqual(at(RISE, second), value)
        self.assertIsNone(at(NOTHING, 5))
        self.assertEqual(at(Trace((7.0,), (3.0,)), 100), 3.0)

    def test_of_two_values_of_one_moment_it_stays_between_both(self):
        twice = Trace((0.0, 10.0, 10.0, 20.0), (0.0, 4.0, 8.0, 8.0))
        self.assertIn(at(twice, 10), (4.0, 8.0))
        self.assertEqual(at(twice, 15), 8.0)

    def test_a_part_holds_both_its_ends(self):
        self.assertEqual(between(RISE, 0, 10), Trace((0.0, 10.0), (1.0, 2.0)))
        self.assertEqual(between(RISE, 10, 10), Trace((10.0,), (2.0,)))
        self.assertEqual(between(RISE, 11, 29), NOTHING)
        self.assertEqual(between(RISE, 30, 0), NOTHING)

    def test_of_two_traces_the_first_counts_at_one_moment(self):
        typed = Trace((10.0, 20.0), (9.0, 9.0))
        self.assertEqual(merged(RISE, typed), Trace((0.0, 10.0, 20.0, 30.0), (1.0, 2.0, 9.0, 6.0)))

    def test_a_hole_is_longer_than_a_channel_may_be_silent(self):
        silent = Trace((0.0, 90.0, 180.5, 200.0), (1.0, 1.0, 1.0, 1.0))
        self.assertEqual(holes(silent), [(90.0, 180.5)])
        self.assertEqual(holes(RISE, 15), [(10.0, 30.0)])
