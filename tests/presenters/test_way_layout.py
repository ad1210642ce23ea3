"""The way of an opened circuit as a line of pressure: laid out once, for screen and paper."""

import unittest

from nudge.core.opening.followed import Happening, follow
from nudge.core.opening.states import STATES
from nudge.presenters.drawing.way_layout import HEIGHT, WIDTH, draw_way, stands_of


def way(*states, begins="charged"):
    return follow((Happening(s, 60.0 * n) for n, s in enumerate(states)), 3.0, 2.8, begins)


class WayLayoutTest(unittest.TestCase):
    def test_behind_here_ahead_and_passed_over(self):
        found = stands_of(way("recovered", "evacuating", "isolated"))
        self.assertEqual(
            list(found.values()),
            ["behind", "behind", "passed_over", "passed_over", "passed_over", "behind", "here",
             "ahead", "ahead", "ahead"],
        )  # fmt: skip

    def test_pressure_is_up_and_a_vacuum_is_under_the_air(self):
        drawn = draw_way(way())
        heights = {dot.state: dot.y for dot in drawn.dots}
        air = next(stroke for stroke in drawn.strokes if stroke.role == "air").points[0][1]
        self.assertEqual(heights["opened"], air)
        self.assertLess(heights["pressurised"], heights["charged"])
        for state in ("evacuating", "isolated"):
            self.assertGreater(heights[state], air)

    def test_the_line_says_what_was_done_and_what_was_not(self):
        drawn = draw_way(way("recovered", "opened", "evacuating"))
        roles = [stroke.role for stroke in drawn.strokes if stroke.role != "air"]
        self.assertEqual(
            roles,
            ["behind", "behind", "passed_over", "passed_over", "passed_over",
             "ahead", "ahead", "ahead", "ahead"],
        )  # fmt: skip
        self.assertIn("6 of 10: On the pump", drawn.words)

    def test_every_state_s_name_stays_in_the_picture(self):
        for key in STATES:
            drawn = draw_way(way(key, begins="opened") if key != "charged" else way())
            letter = drawn.letters[0]
            half = len(letter.text) * letter.size * 0.3
            left = {"start": 0.0, "middle": half, "end": 2 * half}[letter.anchor]
            with self.subTest(key):
                self.assertGreaterEqual(letter.x - left, -1)
                self.assertLessEqual(letter.x - left + 2 * half, WIDTH + 1)
                self.assertTrue(all(0 <= dot.y <= HEIGHT for dot in drawn.dots))


if __name__ == "__main__":
    unittest.main()
