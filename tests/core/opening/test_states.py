"""The opened circuit: which move leads where, what is never done, and where it stands."""

import unittest

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.opening.followed import Happening, follow
from nudge.core.opening.moves import MOVES, NEVER, check_move, next_moves, passed_over
from nudge.core.opening.states import STATES
from nudge.core.visit.steps import STEP_KEYS

BEGAN, HOUR = 1_780_000_000.0, 3600.0
RIGHT_WAY = tuple(STATES)[1:]


def happened(*what, every=10):
    """States, or (kind, kg), ten minutes apart."""
    found = []
    for number, one in enumerate(what):
        at = BEGAN + 60 * every * number
        key, kg = one if isinstance(one, tuple) else (one, 0.0)
        found.append(Happening(key, at, kg))
    return found


def state(*what, whole=3.0, first=2.85, begins="charged"):
    return follow(happened(*what), whole, first, begins).state


class MovesTest(unittest.TestCase):
    def test_the_right_way_passes_nothing_over(self):
        for now, to in zip(STATES, RIGHT_WAY, strict=False):
            self.assertEqual(check_move(now, to, ""), (), f"{now} to {to}")

    def test_a_state_skipped_by_hand_is_named_and_wants_a_reason(self):
        with self.assertRaises(CoreError) as caught:
            check_move("recovered", "evacuating", "")
        self.assertIn("open, under nitrogen, let down", caught.exception.text("ip"))
        self.assertIn("say why", caught.exception.text("ip"))
        self.assertEqual(
            check_move("recovered", "evacuating", "only the gauge port leaked"),
            ("opened", "pressurised", "released"),
        )

    def test_what_nobody_s_reason_excuses(self):
        for never in NEVER:
            with self.subTest(never.source, to=never.to), self.assertRaises(CoreError):
                check_move(never.source, never.to, "I know what I do")

    def test_back_is_always_a_way(self):
        self.assertEqual(check_move("isolated", "opened", ""), ())  # it leaks after all
        self.assertEqual(passed_over("isolated", "pressurised"), ())

    def test_nonsense_is_refused_in_words(self):
        for to, words in (("isolated", "already"), ("charged", "weighed in")):
            with self.assertRaisesRegex(CoreError, words):
                check_move("isolated", to, "")
        with self.assertRaises(UnknownName):
            check_move("isolated", "empty", "")

    def test_every_guard_is_a_step_of_the_visit_and_every_state_can_be_left(self):
        for move in MOVES.values():
            for guard in move.guards:
                self.assertIn(guard, STEP_KEYS)
        for key in STATES:
            if key != "trimmed":
                self.assertTrue(next_moves(key), key)
        self.assertEqual(next_moves("isolated")[0].to, "broken")


class FollowTest(unittest.TestCase):
    def test_weights_move_it_where_words_do_not(self):
        taken = ("refrigerant_removed", 2.4)
        self.assertEqual(state(("refrigerant_removed", 0.5)), "charged")
        self.assertEqual(state(taken), "recovered")
        on_the_pump = (taken, "opened", "pressurised", "released", "evacuating", "isolated")
        self.assertEqual(state(*on_the_pump), "isolated")
        self.assertEqual(state(*on_the_pump, ("refrigerant_added", 1.0)), "broken")
        filled = (*on_the_pump, ("refrigerant_added", 2.0), ("refrigerant_added", 0.8))
        self.assertEqual(state(*filled), "weighed")
        way = follow(happened(*filled), 3.0, 2.85)
        self.assertAlmostEqual(way.in_kg, 2.8)
        self.assertAlmostEqual(way.out_kg, 2.4)

    def test_put_back_and_never_opened_it_is_charged(self):
        self.assertEqual(state(("refrigerant_removed", 2.9), ("refrigerant_added", 2.9)), "charged")

    def test_a_trim_or_a_test_dose_opens_nothing(self):
        self.assertEqual(state(("refrigerant_added", 0.1), ("refrigerant_removed", 0.2)), "charged")

    def test_taken_up_on_another_day(self):
        first = [
            Happening("refrigerant_removed", BEGAN, 2.8, visit="monday"),
            Happening("opened", BEGAN + HOUR, visit="monday"),
        ]
        later = [
            Happening("pressurised", BEGAN + 24 * HOUR, visit="tuesday"),
            Happening("released", BEGAN + 25 * HOUR, visit="tuesday"),
        ]
        way = follow([*later, *first], 3.0, 2.85)
        self.assertEqual(way.state, "released")
        self.assertTrue(way.begun_on_another("tuesday"))
        self.assertFalse(way.begun_on_another("monday"))
        self.assertEqual(way.since("opened"), BEGAN + HOUR)

    def test_what_was_passed_over_stays_on_record(self):
        way = follow(
            [
                Happening("recovered", BEGAN),
                Happening("evacuating", BEGAN + HOUR, reason="a port’s core only"),
            ],
            3.0,
            2.85,
        )
        last = way.entered[-1]
        self.assertEqual(last.skipped, ("opened", "pressurised", "released"))
        self.assertEqual(last.reason, "a port’s core only")

    def test_opened_again_after_filling_counts_from_nothing(self):
        again = (
            ("refrigerant_removed", 2.9), "opened", "evacuating", "isolated",
            ("refrigerant_added", 2.9), ("refrigerant_removed", 2.9), "recovered", "opened",
            "evacuating", "isolated", ("refrigerant_added", 1.0),
        )  # fmt: skip
        way = follow(happened(*again), 3.0, 2.85)
        self.assertEqual((way.state, round(way.in_kg, 3)), ("broken", 1.0))

    def test_a_new_installation_begins_open(self):
        self.assertEqual(state(begins="opened"), "opened")
        self.assertEqual(
            state("pressurised", "released", "evacuating", "isolated", begins="opened"), "isolated"
        )


if __name__ == "__main__":
    unittest.main()
