"""The Loop laid out: height is temperature, nothing covers anything, everything is in the frame."""

import unittest
from itertools import combinations
from random import Random

from nudge.presenters.drawing.avoid import LabelRoom
from nudge.presenters.drawing.frames import FRAMES, SMALL, text_width
from nudge.presenters.drawing.loop_layout import lay_out_loop
from nudge.presenters.drawing.loop_numbers import FOUR, FourNumber, place_in_words
from nudge.presenters.drawing.stage import FIRST_CLAMP, NOTHING_IN_IT, stage_of
from nudge.presenters.loops import GapOut, LevelOut, LoopOut, StationOut

PARTS = (
    ("compressor_out", "Compressor", "high"),
    ("condenser", "Condenser", "high"),
    ("metering_device", "Metering device", "low"),
    ("evaporator", "Evaporator", "low"),
)
READ = {
    "liquid_line": ("Liquid line", "high"),
    "drier_in": ("Drier in", "high"),
    "drier_out": ("Drier out", "high"),
    "liquid_line_indoor": ("Liquid indoors", "high"),
    "evaporator_outlet": ("Coil outlet", "low"),
    "suction_line": ("Suction line", "low"),
}


def loop(high, low, lines, air=None, give=0.0):
    """A Loop between two saturations with these readings on the line."""
    stations = [
        StationOut(key=key, label=label, side=side, temperature=None, is_part=True)
        for key, label, side in PARTS
    ]
    stations += [
        StationOut(key=key, label=label, side=side, temperature=lines.get(key), is_part=False)
        for key, (label, side) in READ.items()
    ]
    levels = [
        LevelOut(side="high", label="Condenser saturation", enters=high, leaves=high, give=give),
        LevelOut(side="low", label="Evaporator saturation", enters=low, leaves=low, give=give),
    ]
    gaps = [
        GapOut(key=key, station=station, level=level, line=lines[station])
        for key, station, level in (
            ("subcooling", "liquid_line", high),
            ("superheat", "suction_line", low),
        )
        if station in lines
    ]
    return LoopOut(stations=stations, levels=levels, gaps=gaps, air=air or {})


def four(high, low, lines):
    texts = {"condenser_saturation": high, "evaporator_saturation": low}
    texts["subcooling"] = high - lines.get("liquid_line", high)
    texts["superheat"] = lines.get("suction_line", low) - low
    return [
        FourNumber(
            key,
            key.replace("_", " ").capitalize(),
            side,
            f"{texts[key]:.1f}",
            "°F",
            ("high side, at 332 psig",)
            if point
            else ("↑ 12.0 °F over", "6.0 to 15.0, healthy valve"),
            ("332 psig",) if point else ("↑ 12.0 °F over",),
        )
        for key, (side, point) in FOUR.items()
    ]


def random_loop(number):
    """Whatever a machine may show: gaps from none to thirty, some stations read, some not."""
    rng = Random(number)
    high, low = rng.uniform(80, 140), rng.uniform(20, 55)
    liquid = high - rng.uniform(0, 25)
    lines = {"liquid_line": liquid, "suction_line": low + rng.uniform(0, 35)}
    for key in ("drier_in", "drier_out", "liquid_line_indoor"):
        if rng.random() < 0.4:
            liquid -= rng.choice((0.2, 1.0, 9.0))
            lines[key] = liquid
    if rng.random() < 0.4:
        lines["evaporator_outlet"] = lines["suction_line"] - rng.uniform(0, 5)
    air = {"outdoor_air_temp": rng.uniform(65, 110), "return_air_temp": rng.uniform(66, 84)}
    if rng.random() < 0.6:
        air["supply_air_temp"] = air["return_air_temp"] - rng.uniform(12, 24)
    return high, low, lines, air


def laid_out(frame, number):
    high, low, lines, air = random_loop(number)
    windows = {"subcooling": (7.0, 13.0), "superheat": (6.0, 15.0)}
    given = loop(high, low, lines, air)
    return lay_out_loop(given, windows, four(high, low, lines), {}, "°F", FRAMES[frame])


def box_of(letters):
    width = text_width(letters.text, letters.size, letters.is_bold)
    left = {"start": 0, "middle": width / 2, "end": width}[letters.anchor]
    return letters.x - left, letters.y - letters.size * 0.8, letters.x - left + width, letters.y


def covered(one, other):
    wide = min(one[2], other[2]) - max(one[0], other[0])
    high = min(one[3], other[3]) - max(one[1], other[1])
    return max(wide, 0) * max(high, 0)


class LayoutTest(unittest.TestCase):
    def test_height_is_temperature(self):
        for frame in FRAMES:
            for number in range(40):
                marks = laid_out(frame, number).marks
                for one, other in combinations(marks, 2):
                    if one.value > other.value + 1:
                        self.assertLess(one.y, other.y, (frame, number))

    def test_a_gap_ends_at_its_level_and_at_its_line(self):
        # by hand: from 100 down to 90 is as tall as from 50 up to 60, and a window of 5 to 15
        # under a level of 100 reaches from 95 to 85
        lines = {"liquid_line": 90.0, "suction_line": 60.0}
        windows = {"subcooling": (5.0, 15.0), "superheat": (5.0, 15.0)}
        given = loop(100.0, 50.0, lines)
        drawn = lay_out_loop(given, windows, four(100.0, 50.0, lines), {}, "°F", FRAMES["desk"])
        of = {(one.role, one.key): one.points for one in drawn.strokes}
        up = [y for _, y in of["gap", "superheat"]]
        down = [y for _, y in of["gap", "subcooling"]]
        self.assertAlmostEqual(up[0] - up[1], down[1] - down[0], delta=0.2)
        degree = (down[1] - down[0]) / 10
        bracket = [y for _, y in of["bracket", "subcooling"]]
        self.assertAlmostEqual(min(bracket), down[0] + 5 * degree, delta=0.2)
        self.assertAlmostEqual(max(bracket), down[0] + 15 * degree, delta=0.2)

    def test_numbers_never_cover_each_other_and_stay_in_the_frame(self):
        for frame, row in FRAMES.items():
            for number in range(150):
                boxes = [
                    (one.x, one.y, one.x + one.width, one.y + one.height)
                    for one in laid_out(frame, number).numbers
                ]
                self.assertEqual(len(boxes), 4)
                for one, other in combinations(boxes, 2):
                    self.assertEqual(covered(one, other), 0, (frame, number))
                for left, top, right, bottom in boxes:
                    self.assertGreaterEqual(min(left, top), 0, (frame, number))
                    self.assertLessEqual(right, row.width + 1, (frame, number))
                    self.assertLessEqual(bottom, row.height, (frame, number))

    def test_words_hardly_ever_touch_words_where_there_is_room(self):
        for frame, share in (("desk", 0.01), ("hand", 0.12)):
            touching = pairs = 0
            for number in range(150):
                drawn = laid_out(frame, number)
                words = [box_of(one) for one in drawn.letters if one.role != "tick"]
                blocks = [
                    (one.x, one.y, one.x + one.width, one.y + one.height) for one in drawn.numbers
                ]
                for one in words:
                    pairs += 1
                    others = [box for box in words if box is not one] + blocks
                    touching += any(covered(one, box) > 6 for box in others)
            self.assertLessEqual(touching / pairs, share, frame)

    def test_letters_are_never_small(self):
        for frame in FRAMES:
            for letters in laid_out(frame, 3).letters:
                self.assertGreaterEqual(letters.size, SMALL)

    def test_a_step_is_marked_half_way_with_its_words(self):
        lines = {"liquid_line": 90.0, "liquid_line_indoor": 78.0, "suction_line": 60.0}
        between = {("liquid_line_temp", "liquid_line_temp_indoor"): "restricted, 12.0 °F"}
        drawn = lay_out_loop(
            loop(100.0, 35.0, lines), {}, four(100.0, 35.0, lines), between, "°F", FRAMES["desk"]
        )
        found = {one.role: one for one in drawn.strokes}
        ends = {one.key: one for one in drawn.marks}
        x, y = found["restricted"].points[0]
        self.assertAlmostEqual(x, (ends["liquid_line"].x + ends["liquid_line_indoor"].x) / 2)
        self.assertAlmostEqual(y, (ends["liquid_line"].y + ends["liquid_line_indoor"].y) / 2)
        self.assertIn("restricted, 12.0 °F", [one.text for one in drawn.letters])

    def test_an_estimate_is_a_band_and_its_line_is_not_drawn_as_measured(self):
        lines = {"liquid_line": 90.0, "suction_line": 60.0}
        drawn = lay_out_loop(
            loop(100.0, 40.0, lines, give=3.0), {}, four(100.0, 40.0, lines), {}, "°F",
            FRAMES["desk"],
        )  # fmt: skip
        roles = [one.role for one in drawn.strokes]
        self.assertEqual(roles.count("band"), 2)
        self.assertNotIn("sure", roles)
        self.assertNotIn("level", roles)


class StageTest(unittest.TestCase):
    def test_an_open_circuit_is_not_told_to_clamp_a_line(self):
        for drawn in stage_of(None, None, None, {}, {}, "ip", is_open=True):
            self.assertEqual([one.text for one in drawn.letters], [NOTHING_IN_IT])
            self.assertIn(NOTHING_IN_IT, drawn.words)

    def test_an_empty_visit_says_where_the_first_clamp_goes(self):
        for units in ("ip", "si"):
            for drawn in stage_of(None, None, None, {}, {}, units):
                self.assertTrue(drawn.is_empty)
                self.assertEqual([one.text for one in drawn.letters], [FIRST_CLAMP])
                self.assertEqual({one.text for one in drawn.numbers}, {""})
                self.assertNotIn("sure", {one.role for one in drawn.strokes})
                wide = text_width(FIRST_CLAMP, drawn.letters[0].size, True)
                self.assertLessEqual(drawn.letters[0].x + wide / 2, drawn.width)

    def test_air_alone_is_drawn_before_any_pressure(self):
        bare = LoopOut(stations=[], levels=[], gaps=[], air={"outdoor_air_temp": 88.0})
        for drawn in stage_of(bare, None, None, {}, {}, "ip"):
            self.assertFalse(drawn.is_empty)
            self.assertIn("air", {one.role for one in drawn.strokes})

    def test_words_say_a_level_in_degrees_and_a_gap_as_a_difference(self):
        given = loop(40.0, 5.0, {"liquid_line": 35.0, "suction_line": 12.0})
        said = stage_of(given, None, None, {}, {}, "si")[0].words
        self.assertIn("suction line 12.0 °C", said)


class PlaceInWordsTest(unittest.TestCase):
    def test_under_in_and_over_a_window(self):
        for value, words in (
            (5.0, "↓ 1.0 °F under"),
            (6.0, "✓ in the window"),
            (15.0, "✓ in the window"),
            (27.0, "↑ 12.0 °F over"),
        ):
            self.assertEqual(place_in_words(value, 6.0, 15.0, "°F"), words)


class LabelRoomTest(unittest.TestCase):
    def test_a_label_takes_the_first_place_that_covers_nothing(self):
        room = LabelRoom(100, 100)
        room.draw([(0, 50), (100, 50)])
        self.assertEqual(room.settle((20, 10), [(10, 45), (10, 20), (10, 70)]), (10, 20))
        # the same label again: its place is taken now
        self.assertEqual(room.settle((20, 10), [(10, 45), (10, 20), (10, 70)]), (10, 70))

    def test_outside_the_frame_is_worse_than_on_a_line(self):
        room = LabelRoom(100, 100)
        room.draw([(0, 50), (100, 50)])
        self.assertEqual(room.settle((20, 10), [(90, 20), (10, 45)]), (10, 45))


if __name__ == "__main__":
    unittest.main()
