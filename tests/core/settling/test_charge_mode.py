"""An inverter is judged at the speed its maker's charge mode states, and at no other."""

import unittest
from dataclasses import replace

from tests.core.field import SETTLED, judged, plate

EEV = plate("eev", subcooling=10)
RIGHT = {"suct": 118, "liq": 341, "sl": 52, "ll": 94, "oa": 88, "ra": 76, "wb": 63}


def decision(mode="", minutes=None, **spoken):
    context = replace(SETTLED, minutes_running=60, charge_mode=mode, minutes_in_mode=minutes)
    return judged(EEV, context, **(spoken or RIGHT))


def words(found):
    return found.decision.headline + " " + found.decision.reason.text("ip")


class ChargeModeTest(unittest.TestCase):
    def test_without_its_mode_nothing_is_judged(self):
        found = decision("needed")
        self.assertEqual(found.decision.advice, "do_not_charge")
        self.assertIn("Start its charge mode.", words(found))
        self.assertEqual(found.decision.hangs_on.key, "charge_mode_full")

    def test_a_mode_that_ended_by_itself_counts_for_nothing(self):
        found = decision("lapsed", 4)
        self.assertIn("ended by itself", words(found))
        self.assertIn("30 min", words(found))

    def test_half_an_hour_at_its_speed_first(self):
        short = decision("full", 12)
        self.assertEqual((short.decision.key, short.decision.ready_in), ("wait", 18.0))
        self.assertIn("it wants 30 min at its speed", words(short))
        self.assertNotEqual(decision("full", 31).decision.key, "wait")

    def test_a_partial_speed_is_good_for_two_hours(self):
        self.assertNotIn("Partial speed for", words(decision("partial", 110)))
        self.assertIn("Partial speed for 121 min", words(decision("partial", 121)))
        self.assertNotIn("Partial speed for", words(decision("full", 300)))

    def test_superheat_is_watched_and_never_judged(self):
        self.assertNotIn("superheat", decision("full", 40).targets.windows)
        self.assertIn("superheat", decision().targets.windows)
        wild = decision("full", 40, **{**RIGHT, "sl": 64})
        self.assertNotIn("superheat", wild.decision.reason.text("ip"))
        self.assertIsNotNone(wild.case.derived.superheat)

    def test_where_nobody_asks_for_it_nothing_changes(self):
        self.assertNotIn("charge mode", words(decision("")).casefold())


if __name__ == "__main__":
    unittest.main()
