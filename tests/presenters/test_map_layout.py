"""The target map laid out: where things stand follows the two numbers, and names stay apart."""

import unittest
from itertools import combinations
from types import SimpleNamespace

from nudge.contract.answer_shapes import LandsOut, TargetOut
from nudge.presenters.drawing.frames import FRAMES, SMALL, text_width
from nudge.presenters.drawing.map_layout import LEFT, maps_of
from nudge.presenters.footprints import FootprintOut

WINDOWS = {"subcooling": (7.0, 13.0), "superheat": (8.0, 18.0)}


def step(superheat, subcooling, minutes_ago=0.0, done=""):
    return FootprintOut(
        superheat=superheat, subcooling=subcooling, minutes_ago=minutes_ago, done=done, added=0.0
    )


def lays_out(steps, windows=WINDOWS, suspects=(), advice=None, units="ip"):
    targets = {key: TargetOut(0.0, *ends, "", "") for key, ends in windows.items()}
    answer = SimpleNamespace(targets=targets, suspects=suspects)
    return {one.frame: one for one in maps_of(steps, answer, advice, units)}


def advised(amount, action="add", **expected):
    ranges = {key: SimpleNamespace(low=low, high=high) for key, (low, high) in expected.items()}
    return SimpleNamespace(action=action, amount=amount, amount_unit="oz", expected=ranges)


def suspect(fault, superheat, subcooling, spread=2.0):
    lands = LandsOut(superheat, spread, subcooling, spread)
    return SimpleNamespace(fault=fault, label=fault.capitalize(), lands=lands)


def box_of(letters):
    width = text_width(letters.text, letters.size, letters.is_bold)
    left = letters.x - {"start": 0, "middle": width / 2, "end": width}[letters.anchor]
    return left, letters.y - letters.size * 0.8, left + width, letters.y


def overlap(one, other):
    wide = min(one[2], other[2]) - max(one[0], other[0])
    high = min(one[3], other[3]) - max(one[1], other[1])
    return max(wide, 0) * max(high, 0)


class MapTest(unittest.TestCase):
    def test_nothing_is_drawn_while_there_is_nothing_to_put_on_it(self):
        self.assertEqual(maps_of([], SimpleNamespace(targets={}, suspects=()), None, "ip"), [])
        self.assertEqual(maps_of([step(10, 10)], None, None, "ip"), [])

    def test_right_is_more_subcooling_and_up_is_more_superheat(self):
        for drawn in lays_out([step(25, 3), step(10, 12)]).values():
            before, now = drawn.steps
            self.assertLess(before.x, now.x)
            self.assertLess(before.y, now.y)
            self.assertEqual([before.is_now, now.is_now], [False, True])

    def test_a_step_in_the_middle_of_both_windows_stands_in_the_middle_of_the_target(self):
        for drawn in lays_out([step(13, 10)]).values():
            window = next(one for one in drawn.strokes if one.role == "window").points
            xs, ys = [x for x, _ in window], [y for _, y in window]
            self.assertAlmostEqual(drawn.steps[0].x, (min(xs) + max(xs)) / 2, delta=0.2)
            self.assertAlmostEqual(drawn.steps[0].y, (min(ys) + max(ys)) / 2, delta=0.2)
            self.assertEqual(sum(one.role == "corner" for one in drawn.strokes), 4)

    def test_one_window_alone_is_a_band_of_two_lines(self):
        for key, axis in (("subcooling", 0), ("superheat", 1)):
            drawn = lays_out([step(13, 10)], {key: WINDOWS[key]})["desk"]
            edges = [one.points for one in drawn.strokes if one.role == "window"]
            self.assertEqual(len(edges), 2)
            for first, last in edges:
                self.assertEqual(first[axis], last[axis])
        self.assertFalse(
            [s for s in lays_out([step(9, 9)], {})["desk"].strokes if s.role != "grid"]
        )

    def test_everything_stands_inside_the_frame_however_far_off_the_reading_is(self):
        for superheat, subcooling in ((55, -6), (-4, 40), (0, 0), (90, 60)):
            steps = [step(12, 9, 40), step(superheat, subcooling, done="Refrigerant added")]
            around = [suspect("undercharge", superheat + 5, subcooling - 3)]
            for drawn in lays_out(steps, suspects=around).values():
                for dot in drawn.steps:
                    self.assertTrue(LEFT <= dot.x <= drawn.width and 0 <= dot.y <= drawn.height)
                for words in drawn.letters:
                    left, top, right, bottom = box_of(words)
                    self.assertTrue(left >= -1 and right <= drawn.width + 1, words.text)
                    self.assertTrue(top >= 0 and bottom <= drawn.height, words.text)

    def test_names_keep_off_each_other_and_off_the_present(self):
        walks = (
            [step(25 - n, 3 + n, 60 - n * 10, "Refrigerant added" if n else "") for n in range(6)],
            [step(13, 10, 50), step(13.2, 10.1, 25), step(13.1, 10, 0, "Filter changed")],
            [step(26, 3, 16), step(26.1, 14, 0, "Refrigerant added")],
        )
        for steps in walks:
            for drawn in lays_out(steps).values():
                named = [one for one in drawn.letters if one.role == "step"]
                self.assertEqual(sum(one.text.startswith("now") for one in named), 1)
                now = drawn.steps[-1]
                dot = (now.x - 9, now.y - 9, now.x + 9, now.y + 9)
                for one, other in combinations([*map(box_of, named), dot], 2):
                    self.assertLess(overlap(one, other), 8, (drawn.frame, named))

    def test_of_many_steps_only_those_with_work_before_them_are_named(self):
        steps = [step(20 - n, 4 + n, 120 - 10 * n, "Dose" if n == 5 else "") for n in range(12)]
        named = [one.text for one in lays_out(steps)["desk"].letters if one.role == "step"]
        self.assertEqual(named, ["now", "70 min ago: dose", "2 h ago"])

    def test_the_forecast_is_a_ring_over_its_ranges_with_an_arrow_to_it(self):
        dose = advised(4.5, subcooling=(3.6, 7.8), superheat=(16.1, 22.7))
        drawn = lays_out([step(24.9, 3.1)], advice=dose)["desk"]
        ring, window = drawn.ahead, next(s for s in drawn.strokes if s.role == "window").points
        per_degree = (max(x for x, _ in window) - min(x for x, _ in window)) / (13 - 7)
        self.assertAlmostEqual(ring.rx, (7.8 - 3.6) / 2 * per_degree, delta=0.2)
        self.assertEqual(ring.name.text, "after 4.5 oz")
        tip = next(one for one in drawn.strokes if one.role == "arrow").points[-1]
        self.assertEqual(tip, (ring.cx, ring.cy))
        near = advised(0.5, subcooling=(3.0, 3.4), superheat=(24.5, 25.0))
        self.assertFalse(
            [
                s
                for s in lays_out([step(24.9, 3.1)], advice=near)["desk"].strokes
                if s.role == "arrow"
            ]
        )

    def test_advice_that_moves_nothing_draws_no_forecast(self):
        for advice in (
            advised(0, "wait", subcooling=(3, 5), superheat=(10, 12)),
            advised(3, "add", subcooling=(3, 5)),
        ):
            self.assertIsNone(lays_out([step(20, 4)], advice=advice)["desk"].ahead)

    def test_a_suspect_rings_the_place_it_would_put_this_system(self):
        drawn = lays_out([step(13, 10)], suspects=[suspect("overcharge", 4, 22)])["desk"]
        ring = drawn.suspects[0]
        self.assertEqual((ring.key, ring.name.text), ("overcharge", "Overcharge would be here"))
        self.assertGreater(ring.cx, drawn.steps[0].x)
        self.assertGreater(ring.cy, drawn.steps[0].y)

    def test_the_same_visit_in_kelvin_is_drawn_alike(self):
        steps, kelvin = [step(24, 4), step(12, 9)], [step(24 / 1.8, 4 / 1.8), step(12 / 1.8, 5)]
        windows = {key: (low / 1.8, high / 1.8) for key, (low, high) in WINDOWS.items()}
        imperial, metric = lays_out(steps)["desk"], lays_out(kelvin, windows, units="si")["desk"]
        for one, other in zip(imperial.steps, metric.steps, strict=True):
            self.assertAlmostEqual(one.x, other.x, delta=1.5)
            self.assertAlmostEqual(one.y, other.y, delta=1.5)

    def test_it_is_read_out_step_by_step(self):
        words = lays_out([step(24.9, 3.1, 10), step(12, 9, 0, "Refrigerant added")])["desk"].words
        self.assertEqual(
            words,
            "The target map. superheat 24.9, subcooling 3.1 °F; Refrigerant added, then superheat "
            "12.0, subcooling 9.0 °F.",
        )

    def test_letters_are_never_smaller_than_the_frame_allows(self):
        for frame in FRAMES:
            drawn = lays_out([step(13, 10)], suspects=[suspect("starved", 30, 4)])[frame]
            every = [*drawn.letters, *(one.name for one in drawn.suspects)]
            self.assertGreaterEqual(min(one.size for one in every), SMALL)


if __name__ == "__main__":
    unittest.main()
