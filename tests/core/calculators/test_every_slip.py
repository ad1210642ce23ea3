"""Every slip of the Pocket, filled in every way it can be: it answers, asks, or says why not."""

import math
import unittest
from random import Random

from nudge.core.calculators.blanks import BLANKS
from nudge.core.calculators.pocket import SLIPS, fill_pocket, slip_named
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.units import from_si, to_si
from nudge.core.language.vocabulary.points import POINTS

WAYS = 60
MICRON_PA = 0.1333224


def number_of(blank, share):
    """A number so far between the least and the most of a blank, in field units."""
    return round(blank.low + (blank.high - blank.low) * share, 3)


def filled(slip, dice):
    """One way to fill a slip: some blanks left empty, each else anywhere in its range."""
    entries = {}
    for key in slip.blanks:
        blank = BLANKS[key]
        if dice.random() < 0.15:
            continue
        if blank.choices:
            entries[key] = dice.choice(blank.choices)[0]
        elif blank.quantity is not None:
            entries[key] = number_of(blank, dice.random())
    return entries


class EverySlipTest(unittest.TestCase):
    def test_however_it_is_filled_it_answers_asks_or_says_why_not(self):
        dice = Random(11)
        for slip in SLIPS:
            for _ in range(WAYS):
                entries = filled(slip, dice)
                with self.subTest(slip.key, entries=entries):
                    (found,) = fill_pocket(entries, "ip", [slip.key]).filled
                    outcome = found.outcome
                    shows = (*outcome.lines, *outcome.needs, *outcome.words)
                    self.assertTrue(shows or found.problem is not None)
                    for line in outcome.lines:
                        self.assertTrue(math.isfinite(line.working.value))
                        if line.reading is not None:
                            self.assertIn(line.reading, POINTS)
                    said = [*outcome.words, *([found.problem] if found.problem else [])]
                    for one in said:
                        for units in ("ip", "si", "si_bar"):
                            self.assertNotRegex(one.text(units), r"[{}]|nan|inf\b")

    def test_the_same_numbers_in_other_units_come_to_the_same(self):
        dice = Random(12)
        for slip in SLIPS:
            for _ in range(6):
                given = filled(slip, dice)
                other = {
                    key: value
                    if BLANKS[key].quantity is None
                    else from_si(
                        to_si(value, BLANKS[key].quantity, "ip"), BLANKS[key].quantity, "si"
                    )
                    for key, value in given.items()
                }
                with self.subTest(slip.key, given=given):
                    (one,) = fill_pocket(given, "ip", [slip.key]).filled
                    (same,) = fill_pocket(other, "si", [slip.key]).filled
                    self.assertEqual(
                        [line.working.formula.key for line in one.outcome.lines],
                        [line.working.formula.key for line in same.outcome.lines],
                    )
                    for a, b in zip(one.outcome.lines, same.outcome.lines, strict=True):
                        self.assertAlmostEqual(
                            a.working.value, b.working.value,
                            delta=1e-6 * max(abs(a.working.value), 1.0),
                        )  # fmt: skip

    def test_left_empty_it_asks_for_something_or_answers_by_what_is_usual(self):
        for slip in SLIPS:
            (found,) = fill_pocket({}, "ip", [slip.key]).filled
            with self.subTest(slip.key):
                self.assertIsNone(found.problem)
                self.assertTrue(found.outcome.needs or found.outcome.lines)

    def test_each_has_a_name_of_its_own_and_blanks_there_are(self):
        self.assertEqual(len({slip.key for slip in SLIPS}), len(SLIPS))
        for slip in SLIPS:
            self.assertLessEqual(set(slip.blanks), BLANKS.keys(), slip.key)
            self.assertLessEqual(set(slip.seldom), set(slip.blanks), slip.key)
            self.assertIs(slip_named(slip.key), slip)
        with self.assertRaises(UnknownName) as refused:
            slip_named("vacum")
        self.assertIn("vacuum", refused.exception.nearest)


class EveryBlankTest(unittest.TestCase):
    def test_its_ends_are_taken_and_what_is_beyond_them_is_refused_with_both(self):
        for blank in BLANKS.values():
            if blank.quantity is None:
                continue
            for end in (blank.low, blank.high):
                with self.subTest(blank.key, end=end):
                    self.assertEqual(fill_pocket({blank.key: end}, "ip", []).problems, {})
            beyond = blank.high + max(abs(blank.high), 1.0) * 0.01
            refused = fill_pocket({blank.key: beyond}, "ip", []).problems
            with self.subTest(blank.key, beyond=beyond):
                self.assertEqual(set(refused), {blank.key})
                self.assertIn("outside", refused[blank.key].text("ip"))

    def test_a_pick_that_is_none_is_refused_and_the_rest_stands(self):
        for blank in BLANKS.values():
            if not blank.choices:
                continue
            found = fill_pocket({blank.key: "perhaps", "temperature": 40.0}, "ip", [])
            with self.subTest(blank.key):
                self.assertEqual(set(found.problems), {blank.key})
                self.assertIn("temperature", found.entered)

    def test_words_are_no_number(self):
        found = fill_pocket({"temperature": "warm"}, "ip", [])
        self.assertIn("“warm” is not a number", found.problems["temperature"].text("ip"))

    def test_one_that_is_a_reading_takes_nothing_its_point_would_refuse(self):
        for blank in BLANKS.values():
            if blank.point is not None:
                point = POINTS[blank.point]
                self.assertLessEqual(point.low, blank.low, blank.key)
                self.assertLessEqual(blank.high, point.high, blank.key)

    def test_a_blank_nobody_knows_is_named(self):
        with self.assertRaises(CoreError):
            fill_pocket({"temprature": 40.0}, "ip")


class VacuumTest(unittest.TestCase):
    """Decays typed from a gauge, judged by sums done apart."""

    def said(self, **entries):
        (found,) = fill_pocket(entries, "ip", ["vacuum"]).filled
        return found.outcome, " ".join(one.text("ip") for one in found.outcome.words)

    def lines(self, outcome):
        return {line.working.formula.key: line.working.value for line in outcome.lines}

    def test_where_water_boils(self):
        # 4,579 micron is the triple point; 17,500 micron (23.4 mbar) boils water at 20 °C.
        for micron, celsius in ((4_600, 0.07), (17_500, 20.0)):
            outcome, _ = self.said(vacuum_level=micron)
            self.assertAlmostEqual(self.lines(outcome)["vacuum_boils"], celsius, delta=0.25)

    def test_two_points_are_no_decay(self):
        outcome, words = self.said(vacuum_start=300, vacuum_5=320)
        self.assertEqual(words, "")
        self.assertIn("three moments", outcome.needs[0])

    def test_a_dry_tight_one_holds_and_says_what_could_still_hide(self):
        _, words = self.said(
            vacuum_start=200, vacuum_5=204, vacuum_10=207, vacuum_15=209, vacuum_20=210,
            vacuum_30=211, vacuum_pipe_temp=70.0, inside_volume=300.0,
        )  # fmt: skip
        self.assertNotIn("leak:", words.lower().partition("could still hide")[0])
        self.assertIn("a leak that could still hide", words.lower())

    def test_a_straight_rise_is_a_leak(self):
        outcome, words = self.said(
            vacuum_start=300, vacuum_5=900, vacuum_10=1_500, vacuum_15=2_100, vacuum_20=2_700,
            vacuum_pipe_temp=70.0, inside_volume=300.0,
        )  # fmt: skip
        self.assertIn("leak", words.lower())
        a_minute = 120 * MICRON_PA
        rises = self.lines(outcome)["vacuum_rise"]
        self.assertAlmostEqual(rises, a_minute, delta=0.02 * a_minute)


if __name__ == "__main__":
    unittest.main()
