"""Adjusting a valve turn by turn, on valves written by hand: how it is brought to its target."""

import math
import unittest

from nudge.core.language.errors import CoreError
from nudge.core.language.units import degrees_f
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.trace import Trace
from nudge.core.tests.adjusting import (
    EIGHTH,
    MOST_K_TURN,
    MOST_TURN,
    NEAR_K,
    SETTLES_MIN,
    TURNS,
    guard,
    next_turn,
)
from nudge.core.tests.run import Run, TestMark
from nudge.core.tests.table import judged
from tests.core.field import plate
from tests.core.tests.test_judges import PLATE, words

EVAPORATES_C = 7.0
SUCTION_KPA = load_table("R-410A").dew.pressure(EVAPORATES_C) - 101.325
EVERY_S, TARGET_K = 10.0, degrees_f(10)
LAG_MIN = 4.0


def valve(began_k, per_turn_k, turned=(), minutes=16.0):
    """A run of the test on a valve of which a turn in does so much, each way settling in time.

    `turned` are (minute, mark); superheat follows with a lag of four minutes.
    """

    def superheat(minute):
        found = began_k
        for at, kind in turned:
            if minute > at:
                found += TURNS[kind] * per_turn_k * (1 - math.exp(-(minute - at) / LAG_MIN))
        return found

    seconds = [n * EVERY_S for n in range(int(minutes * 60 / EVERY_S) + 1)]

    def trace(law):
        return Trace(tuple(seconds), tuple(law(s / 60) for s in seconds))

    return Run(
        "valve_adjust",
        PLATE,
        0.0,
        minutes * 60,
        {"adjustable": "yes", "target": TARGET_K},
        {
            "suction_pressure": trace(lambda _: SUCTION_KPA),
            "suction_line_temp": trace(lambda m: EVAPORATES_C + superheat(m)),
        },
        {},
        tuple(TestMark(kind, at * 60) for at, kind in turned),
    )


def mark_for(turns):
    """The mark nearest to the turn that is asked for."""
    return min(TURNS, key=lambda kind: abs(TURNS[kind] - turns))


class NextTurnTest(unittest.TestCase):
    def test_within_one_kelvin_of_its_target_nothing_is_turned(self):
        for off in (0.0, 0.9, -0.9):
            self.assertIsNone(next_turn(5.0, [(0.0, 5.0 + off)]))
        self.assertIsNotNone(next_turn(5.0, [(0.0, 5.0 + NEAR_K + 0.1)]))

    def test_in_is_more_superheat(self):
        self.assertGreater(next_turn(6.0, [(0.0, 3.0)]).turns, 0)
        self.assertLess(next_turn(6.0, [(0.0, 9.0)]).turns, 0)

    def test_it_is_always_a_whole_number_of_eighths_and_never_none(self):
        for now in (0.0, 3.3, 3.9, 6.1, 9.7, 20.0):
            turn = next_turn(5.0, [(0.0, now)])
            with self.subTest(now):
                self.assertEqual(turn.turns / EIGHTH, round(turn.turns / EIGHTH))
                self.assertGreaterEqual(abs(turn.turns), EIGHTH)

    def test_the_first_turn_is_at_most_one_and_a_later_one_a_turn_and_a_half(self):
        self.assertEqual(next_turn(5.0, [(0.0, 25.0)]).turns, -1.0)
        later = next_turn(5.0, [(0.0, 25.0), (-1.0, 24.0)])
        self.assertEqual(later.turns, -MOST_TURN)

    def test_what_a_turn_did_here_counts_more_than_the_trade_s_figure(self):
        # One turn out took 6 K: the 3 K that are left want half a turn, not one and a half.
        turn = next_turn(5.0, [(0.0, 14.0), (-1.0, 8.0)])
        self.assertAlmostEqual(turn.k_per_turn, 6.0, delta=0.2)
        self.assertEqual(turn.turns, -0.5)

    def test_a_stem_that_does_nothing_or_leaps_is_kept_in_bounds(self):
        stuck = next_turn(5.0, [(0.0, 14.0), (-1.0, 14.0)])
        self.assertGreater(stuck.k_per_turn, 0.5)
        leaps = next_turn(5.0, [(0.0, 40.0), (-1.0, 10.0)])
        self.assertEqual(leaps.k_per_turn, MOST_K_TURN)


class JudgeTest(unittest.TestCase):
    def test_nothing_is_said_before_it_has_settled(self):
        shown = judged(valve(10.0, 2.0, [(1.0, "out_half")], minutes=6.0))
        self.assertEqual((shown.state, shown.key), ("running", "settling"))
        self.assertIn("Let it settle: 10 min more", shown.headline.text("ip"))
        self.assertAlmostEqual(shown.ready_in, SETTLES_MIN - 5.0, delta=0.2)

    def test_settled_near_its_target_it_is_set(self):
        shown = judged(valve(TARGET_K + 0.5, 2.0))
        self.assertEqual((shown.state, shown.key), ("passed", "set"))
        self.assertEqual(shown.proves, ("valve_set",))

    def test_it_asks_for_a_turn_by_its_name_and_which_way(self):
        shown = judged(valve(TARGET_K + 4.0, 2.0))
        self.assertEqual(shown.key, "turn")
        self.assertIn("Turn the stem one turn out", shown.headline.text("ip"))
        low = judged(valve(TARGET_K - 1.2, 2.0))
        self.assertIn("in (clockwise)", low.headline.text("ip"))

    def test_low_superheat_is_a_hazard_at_once_whatever_has_settled(self):
        for minutes in (2.0, 16.0):
            shown = judged(valve(degrees_f(3.0), 2.0, minutes=minutes))
            self.assertIn("liquid may reach the compressor", words(shown.hazards))
        self.assertEqual(judged(valve(degrees_f(6.0), 2.0)).hazards, ())

    def test_any_ordinary_valve_is_brought_to_its_target_in_hardly_more_turns_than_it_is_off(self):
        for began in (degrees_f(4.0), degrees_f(18.0), degrees_f(26.0)):
            for per_turn in (1.2, 2.2, 3.5):
                turned, minute = [], 16.0
                with self.subTest(began=began, per_turn=per_turn):
                    for _ in range(9):
                        shown = judged(valve(began, per_turn, turned, minute))
                        if shown.key == "set":
                            break
                        self.assertEqual(shown.key, "turn")
                        made = [(made, k) for made, k in self.settled(began, per_turn, turned)]
                        turned.append((minute, mark_for(next_turn(TARGET_K, made).turns)))
                        minute += 16.0
                    self.assertEqual(shown.key, "set")
                    away = abs(TARGET_K - began) / per_turn / MOST_TURN
                    self.assertLessEqual(len(turned), math.ceil(away) + 2)
                    ended = began + per_turn * sum(TURNS[kind] for _, kind in turned)
                    self.assertAlmostEqual(ended, TARGET_K, delta=NEAR_K + 0.3)

    def settled(self, began, per_turn, turned):
        """What it stood at after each wait, worked out apart."""
        found, made, now = [(0.0, began)], 0.0, began
        for _, kind in turned:
            made += TURNS[kind]
            now += per_turn * TURNS[kind] * (1 - math.exp(-15.0 / LAG_MIN))
            found.append((made, now))
        return found

    def test_its_numbers_open_to_what_they_came_of(self):
        shown = judged(valve(TARGET_K + 6.0, 2.0, [(16.0, "out_turn")], minutes=32.0))
        numbers = {one.key: one for one in shown.numbers}
        self.assertAlmostEqual(numbers["per_turn"].measure.value, 2.0, delta=0.15)
        self.assertAlmostEqual(numbers["turns"].measure.value, -1.0)
        self.assertAlmostEqual(numbers["superheat"].measure.value, TARGET_K + 4.0, delta=0.15)

    def test_only_a_valve_with_a_stem_is_turned(self):
        for device in ("fixed_orifice", "eev"):
            with self.assertRaisesRegex(CoreError, "stem to turn"):
                guard(plate(device), {"adjustable": "yes"})
        with self.assertRaisesRegex(CoreError, "never opened"):
            guard(plate("txv"), {"adjustable": "no"})
        guard(plate("txv"), {"adjustable": "yes"})


if __name__ == "__main__":
    unittest.main()
