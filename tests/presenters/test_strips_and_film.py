"""Drawings of tests with time: the film of tightness, the proof of a valve, the defrost strip.

Curves are written by hand; places are worked out apart from the scales that drew them.
"""

import math
import unittest
from datetime import UTC, datetime, timedelta

from nudge.core.language.units import PA_PER_MICRON, Quantity, from_si
from nudge.core.tests.defrost import FAN, LIQUID, VAPOUR
from nudge.core.tests.table import judged
from nudge.core.tests.table import test_named as row_named
from nudge.presenters.drawing.defrost_layout import LANES, defrosts_of
from nudge.presenters.drawing.film_layout import KINDS, films_of
from nudge.presenters.drawing.frames import text_width
from nudge.presenters.drawing.proof_layout import proofs_of
from nudge.services.timed_tests import Tested
from tests.core.tests.test_judges import flat, run

NOON = datetime(2026, 7, 14, 12, 0, tzinfo=UTC)
UNITS = ("ip", "si", "si_bar")


def shown(key, minutes, marks=(), settings=None, typed=(), **laws):
    one = run(key, minutes, marks, settings, typed, **laws)
    ends = NOON + timedelta(minutes=minutes)
    return Tested(f"{key}-1", row_named(key), one, judged(one), NOON, ends)


def nitrogen(minutes=20):
    return shown(
        "nitrogen", minutes, settings={"gas": "nitrogen", "litres": 11.0},
        test_pressure=flat(1_034.0), suction_line_temp=flat(21.0), outdoor_air_temp=flat(21.0),
    )  # fmt: skip


def evacuation(minutes=30):
    return shown(
        "evacuation", minutes, suction_line_temp=flat(21.0),
        vacuum_level=lambda t: 90_000 * math.exp(-t / 2.5) + 300 * PA_PER_MICRON,
    )  # fmt: skip


def decay(minutes=22):
    return shown(
        "decay", minutes, suction_line_temp=flat(21.0),
        vacuum_level=lambda t: (300 + 4 * t) * PA_PER_MICRON,
    )  # fmt: skip


def dose(answers=True):
    def superheat(t):
        return 14.0 - (6.0 * math.exp(-((t - 4) ** 2)) if answers and t > 2 else 0.0)

    return shown(
        "test_dose", 8, [("dose_given", 2.0)], suction_pressure=flat(690.0),
        liquid_pressure=flat(2_300.0), suction_line_temp=lambda t: 3.0 + superheat(t),
    )  # fmt: skip


def defrost(*missing):
    """Begun at 2 min, over at 6: the valve turns, the fan stops, the line goes cold, the fan is
    back.
    """

    def inside(t):
        return 2.0 < t < 6.0

    def vapour(t):
        return 45.0 if not inside(t) or "valve" in missing else 45.0 - 40.0 * min(t - 2.0, 1.0)

    def fan(t):
        return 0.0 if inside(t) and "fan_off" not in missing else 1.4

    return shown(
        "defrost", 10, [("forced", 2.0)],
        **{VAPOUR: vapour, LIQUID: flat(30.0), FAN: fan},
    )  # fmt: skip


def box(letter):
    """Left and right of a letter, by its anchor; the width is the one drawings are laid out by."""
    wide = text_width(letter.text, letter.size, letter.is_bold)
    left = letter.x - {"start": 0.0, "middle": wide / 2, "end": wide}[letter.anchor]
    return left, left + wide


class Drawn(unittest.TestCase):
    def inside(self, drawing, letters=True):
        for stroke in drawing.strokes:
            for x, y in stroke.points:
                self.assertTrue(-0.1 <= x <= drawing.width + 0.1, (stroke.role, x))
                self.assertTrue(-0.1 <= y <= drawing.height + 0.1, (stroke.role, y))
        for letter in drawing.letters if letters else ():
            left, right = box(letter)
            self.assertGreaterEqual(left, -1.0, letter.text)
            self.assertLessEqual(right, drawing.width + 1.0, letter.text)
            self.assertTrue(0 < letter.y <= drawing.height, letter.text)


class FilmTest(Drawn):
    def test_there_is_none_before_anything_is_read(self):
        self.assertEqual(films_of([], "ip"), [])
        self.assertEqual(films_of([dose()], "ip"), [])  # no test of tightness

    def test_everything_stands_in_every_frame_whatever_was_tested_and_in_every_unit(self):
        for found in ([nitrogen()], [decay(), evacuation()], [decay(), evacuation(), nitrogen()]):
            for units in UNITS:
                for film in films_of(found, units):
                    with self.subTest(film.frame, tests=len(found), units=units):
                        self.inside(film)
                        self.assertEqual(len(film.frames), len(found))

    def test_tests_stand_in_the_order_they_were_done_and_none_on_another(self):
        (*_, film) = films_of([decay(), evacuation(), nitrogen()], "ip")  # latest first, as kept
        self.assertEqual(
            [one.run_id for one in film.frames], ["nitrogen-1", "evacuation-1", "decay-1"]
        )
        ends = [one.x + one.width for one in film.frames]
        starts = [one.x for one in film.frames]
        self.assertTrue(all(end < start for end, start in zip(ends, starts[1:], strict=False)))

    def test_a_longer_test_is_wider_but_a_short_one_is_still_seen(self):
        (*_, film) = films_of([decay(120), nitrogen(15)], "ip")
        short, long = film.frames
        self.assertGreater(long.width, short.width)
        self.assertGreaterEqual(short.width, 50)

    def test_pressure_is_up_by_its_logarithm(self):
        (*_, film) = films_of([evacuation()], "si")
        line = next(s for s in film.strokes if s.role == "measured").points
        heights = [y for _, y in line]
        self.assertEqual(heights, sorted(heights))  # it falls: lower on the sheet is less pressure
        # From 90 kPa to 40 Pa in thirty minutes: an exponential falls on a straight line at first.
        early = line[6][1] - line[0][1], line[12][1] - line[6][1]
        self.assertAlmostEqual(early[0], early[1], delta=0.6)

    def test_what_leaked_in_and_what_boiled_off_lie_on_each_other(self):
        (*_, film) = films_of([decay()], "ip")
        roles = [shade.role for shade in film.shades]
        self.assertEqual(set(roles), {"outside", "within"})
        within = next(s for s in film.shades if s.role == "within").points
        outside = next(s for s in film.shades if s.role == "outside").points
        half = len(within) // 2
        self.assertEqual(within[half:][::-1], outside[: len(outside) // 2])

    def test_its_words_say_each_test_how_long_and_what_it_found(self):
        (*_, film) = films_of([nitrogen()], "ip")
        self.assertIn("20 minutes", film.words)
        self.assertIn(nitrogen().outcome.headline.text("ip"), film.words)

    def test_marks_are_what_the_instruments_show(self):
        (*_, film) = films_of([evacuation()], "ip")
        ticks = {letter.text for letter in film.letters if letter.role == "tick"}
        self.assertLessEqual({"500", "10,000"}, ticks)
        (*_, bar) = films_of([nitrogen()], "si_bar")
        axis = next(letter for letter in bar.letters if letter.role == "axis")
        self.assertIn("bar", axis.text)

    def test_the_newest_are_shown_where_there_are_many(self):
        many = [decay(20 + n) for n in range(9)]
        hand, *_, desk = films_of(many, "ip")
        self.assertEqual((len(hand.frames), len(desk.frames)), (4, 6))
        self.assertEqual(desk.frames[-1].minutes, 20.0)

    def test_every_kind_on_it_is_a_test_there_is(self):
        for key in KINDS:
            self.assertEqual(row_named(key).key, key)


class ProofTest(Drawn):
    def test_there_is_none_before_a_dose(self):
        before = shown("test_dose", 3, suction_pressure=flat(690.0), liquid_pressure=flat(2_300.0))
        self.assertEqual(proofs_of(before, "ip"), [])

    def test_everything_stands_in_every_frame(self):
        for units in UNITS:
            for answers in (True, False):
                for strip in proofs_of(dose(answers), units):
                    with self.subTest(strip.frame, units=units):
                        self.inside(strip)

    def test_the_dose_stands_before_the_moment_it_should_be_back_by(self):
        for strip in proofs_of(dose(), "ip"):
            at = {s.role: s.points[0][0] for s in strip.strokes if s.role in ("dose", "by")}
            self.assertLess(at["dose"], at["by"])

    def test_suction_head_and_superheat_each_have_a_row_that_says_where_it_is_now(self):
        (*_, strip) = proofs_of(dose(), "ip")
        names = [letter.text for letter in strip.letters if letter.is_bold]
        self.assertEqual(names, ["Dose", "Suction", "Head", "Superheat"])
        said = {letter.text for letter in strip.letters if not letter.is_bold}
        psi = f"{from_si(690.0, Quantity.PRESSURE, 'ip'):.1f} psig"
        self.assertIn(psi, said)
        self.assertEqual(sum(stroke.role == "trace" for stroke in strip.strokes), 3)

    def test_a_row_that_was_not_read_is_not_drawn(self):
        alone = shown(
            "test_dose", 8, [("dose_given", 2.0)], suction_pressure=flat(690.0),
            suction_line_temp=flat(17.0),
        )  # fmt: skip
        (*_, strip) = proofs_of(alone, "si")
        names = {letter.text for letter in strip.letters if letter.is_bold}
        self.assertNotIn("Head", names)

    def test_where_it_has_to_stay_lies_round_where_it_was(self):
        (*_, strip) = proofs_of(dose(False), "ip")
        suction = strip.boxes[0]
        trace = next(s for s in strip.strokes if s.role == "trace").points
        self.assertTrue(all(suction.y < y < suction.y + suction.height for _, y in trace))


class DefrostTest(Drawn):
    def test_there_is_none_before_one_began_or_was_asked_for(self):
        quiet = shown("defrost", 5, **{VAPOUR: flat(45.0), LIQUID: flat(30.0), FAN: flat(1.4)})
        self.assertEqual(defrosts_of(quiet, "ip"), [])

    def test_everything_stands_in_every_frame(self):
        for missing in ((), ("valve",), ("fan_off",), ("valve", "fan_off")):
            for units in UNITS:
                for strip in defrosts_of(defrost(*missing), units):
                    with self.subTest(strip.frame, units=units, missing=missing):
                        self.inside(strip)

    def test_each_event_that_was_seen_has_its_line_and_one_that_was_not_says_so(self):
        whole = {letter.text for letter in defrosts_of(defrost(), "ip")[-1].letters}
        for _, label in LANES:
            self.assertIn(label, whole)
        stuck = {letter.text for letter in defrosts_of(defrost("fan_off"), "ip")[-1].letters}
        self.assertIn("Fan stops: not seen", stuck)
        self.assertNotIn("Fan stops", stuck)

    def test_events_come_in_their_order(self):
        strip = defrosts_of(defrost(), "ip")[-1]
        lines = [s.points[0] for s in strip.strokes if s.role == "dose"]
        self.assertEqual([y for _, y in lines], sorted(y for _, y in lines))
        self.assertEqual(len(lines), 4)
        self.assertLess(lines[0][0], lines[-1][0])

    def test_its_words_are_what_the_test_found(self):
        one = defrost("valve")
        self.assertIn(one.outcome.headline.text("si"), defrosts_of(one, "si")[0].words)


if __name__ == "__main__":
    unittest.main()
