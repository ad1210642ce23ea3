"""The strips' axes: ranges, round figures, moments of the reader's clock, marks that do not meet."""

import unittest
from datetime import UTC, datetime
from itertools import pairwise
from zoneinfo import ZoneInfo

from nudge.presenters.drawing.frames import FRAMES, SMALL, text_width
from nudge.presenters.drawing.scales import LinearScale, ticks
from nudge.presenters.drawing.strip_axes import mark_rows, time_ticks, value_axis, value_ticks

DESK = FRAMES["desk"]
MINUTE = 60_000


def at(*moment, zone=UTC):
    return round(datetime(*moment, tzinfo=zone).timestamp() * 1000)


class ScaleTest(unittest.TestCase):
    def test_an_axis_is_straight_and_may_run_backwards(self):
        up = LinearScale(0, 20, 300, 100)
        self.assertEqual([up(0), up(5), up(20), up(30)], [300, 250, 100, 0])
        self.assertEqual(LinearScale(7, 7, 0, 100)(7), 50)

    def test_figures_are_round(self):
        self.assertEqual(ticks(0, 10, 5), [0, 2, 4, 6, 8, 10])
        self.assertEqual(ticks(-3.2, 4.1, 4), [-2, 0, 2, 4])
        self.assertEqual(ticks(0.12, 0.31, 4), [0.15, 0.2, 0.25, 0.3])
        self.assertEqual(ticks(101, 480, 4), [200, 300, 400])
        self.assertEqual(ticks(5, 5, 3), [5])


class ValueAxisTest(unittest.TestCase):
    def test_a_strip_holds_its_values_and_its_window_with_room(self):
        low, high = value_axis([10, 20], [8, 15])
        self.assertEqual((round(low, 2), round(high, 2)), (6.56, 21.44))

    def test_a_flat_trace_is_not_blown_up_to_its_noise(self):
        low, high = value_axis([7.0, 7.02], [])
        self.assertAlmostEqual(high - low, 2.0, delta=0.01)

    def test_a_trace_without_a_value_still_has_an_axis(self):
        low, high = value_axis([], [])
        self.assertLess(low, high)

    def test_figures_go_on_beyond_both_ends(self):
        found = value_ticks(6.56, 21.44)
        values = [one.value for one in found]
        self.assertLess(values[0], 6.56 - 10)
        self.assertGreater(values[-1], 21.44 + 10)
        self.assertEqual(len({round(b - a, 6) for a, b in pairwise(values)}), 1)
        self.assertTrue(2 <= sum(6.56 < v < 21.44 for v in values) <= 6)
        self.assertTrue(all("." not in one.text for one in found))
        self.assertTrue(all("." in one.text for one in value_ticks(6.9, 7.9)))


class TimeTest(unittest.TestCase):
    def test_moments_are_round_from_twenty_minutes_to_a_season(self):
        noon = at(2026, 7, 14, 12)
        for minutes, step in ((20, 5), (60, 10), (24 * 60, 240), (90 * 1440, 14 * 1440)):
            for frame in FRAMES.values():
                with self.subTest(minutes=minutes, frame=frame.key):
                    until = noon + 7000 + minutes * MINUTE
                    found = time_ticks(noon + 7000, until, frame, UTC)
                    inside = [one for one in found if noon + 7000 <= one.at <= until]
                    self.assertTrue(2 <= len(inside) <= 9, len(inside))
                    gaps = {b.at - a.at for a, b in pairwise(found)}
                    self.assertEqual(len(gaps), 1)
                    self.assertTrue(all(one.at % MINUTE == 0 for one in found))
                    if frame.key == "desk":
                        self.assertEqual(gaps, {step * MINUTE})

    def test_they_go_on_for_a_span_on_either_side(self):
        noon = at(2026, 7, 14, 12)
        found = time_ticks(noon, noon + 20 * MINUTE, DESK, UTC)
        self.assertLessEqual(found[0].at, noon - 15 * MINUTE)
        self.assertGreaterEqual(found[-1].at, noon + 35 * MINUTE)

    def test_they_are_written_as_the_readers_clock_shows_them(self):
        # Nepal is 5 h 45 min ahead: noon by Greenwich is a quarter to six there.
        noon, nepal = at(2026, 7, 14, 12), ZoneInfo("Asia/Kathmandu")
        found = {one.at: one.text for one in time_ticks(noon, noon + 3 * 60 * MINUTE, DESK, nepal)}
        self.assertEqual(found[at(2026, 7, 14, 18, zone=nepal)], "18:00")
        self.assertTrue(all(text.endswith(("00", "30")) for text in found.values()))
        days = time_ticks(noon, noon + 20 * 1440 * MINUTE, DESK, nepal)
        midnight = at(2026, 7, 16, zone=nepal)
        self.assertIn((midnight, "16 Jul"), [(one.at, one.text) for one in days])

    def test_however_long_a_span_is_it_has_few_moments(self):
        for years in (1, 3, 40, 70):
            found = time_ticks(0, years * 365 * 1440 * MINUTE, DESK, UTC)
            self.assertLess(len(found), 40, years)

    def test_long_spans_are_marked_by_dates(self):
        noon = at(2026, 7, 14, 12)
        found = time_ticks(noon, noon + 40 * 1440 * MINUTE, DESK, UTC)
        self.assertRegex(found[0].text, r"^\d{1,2} [A-Z][a-z]{2}$")


class MarksTest(unittest.TestCase):
    def test_words_that_would_meet_go_to_rows_of_their_own_and_then_away(self):
        close = [(n * 1000, "changed") for n in range(5)]
        self.assertEqual(mark_rows(close, 0, 600_000, DESK), [0, 1, 2, -1, -1])

    def test_words_far_apart_share_the_first_row(self):
        wide = text_width("started", SMALL) / DESK.width * 600_000
        marks = [(0, "started"), (round(wide * 1.5), "changed"), (round(wide * 4), "stopped")]
        self.assertEqual(mark_rows(marks, 0, 600_000, DESK), [0, 0, 0])

    def test_a_span_of_nothing_is_no_trouble(self):
        self.assertEqual(mark_rows([(5, "started")], 5, 5, DESK), [0])


if __name__ == "__main__":
    unittest.main()
