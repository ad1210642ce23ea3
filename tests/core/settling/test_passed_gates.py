"""A gate passed on purpose: what is said then, and what no reason opens.

That nothing moves past any of them is held in `test_every_gate`.
"""

import unittest
from dataclasses import replace

from nudge.core.language.errors import UnknownName
from nudge.core.settling.gate import NEVER_PASSED
from nudge.core.settling.gates import gate_to_pass
from tests.core.field import judged, plate, settled

LOW = {"suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86, "ra": 76, "wb": 63, "sa": 62}
HIGH = {"suct": 122, "liq": 375, "sl": 52, "ll": 91, "oa": 88, "ra": 76, "wb": 63}
SEEN = settled("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
WHY = "the owner wants a number today"


def passing(context, *gates):
    return replace(context, passed=dict.fromkeys(gates, WHY))


class PassedGatesTest(unittest.TestCase):
    def test_past_the_clock_the_state_is_named_and_nothing_moved(self):
        context = passing(replace(SEEN, minutes_since_change=2.0), "just_changed")
        charge = judged(plate(), context, **LOW).decision
        self.assertEqual((charge.state, charge.advice), ("low", "do_not_charge"))
        self.assertIn("do not add", charge.headline)
        self.assertIn("no ground to move refrigerant", charge.reason.text("ip"))
        charge = judged(plate(), context, **HIGH).decision
        self.assertEqual((charge.state, charge.advice), ("high", "do_not_charge"))
        self.assertIn("do not remove", charge.headline)

    def test_one_gate_passed_leaves_the_others_shut(self):
        early = replace(SEEN, minutes_since_change=2.0)
        context = passing(
            replace(early, observations=early.observations - {"filter_clean"} | {"filter_dirty"}),
            "just_changed",
        )
        result = judged(plate(), context, **LOW)
        self.assertEqual(result.decision.headline, "Change the filter first.")

    def test_a_blank_reason_passes_nothing(self):
        context = replace(SEEN, minutes_since_change=2.0, passed={"just_changed": "  "})
        self.assertEqual(judged(plate(), context, **LOW).decision.headline, "Wait.")

    def test_what_cannot_be_judged_cannot_be_passed(self):
        standing = {**LOW, "suct": 200, "liq": 205}
        result = judged(plate(), passing(SEEN, "not_running"), **standing)
        self.assertEqual(result.decision.headline, "Start the system and let it run.")
        for name in (*NEVER_PASSED, "air_unseen", "outdoor_below_7"):
            with self.subTest(name), self.assertRaises(UnknownName):
                gate_to_pass(name)
        self.assertEqual(gate_to_pass("outdoor_below_70"), "outdoor_below_70")


if __name__ == "__main__":
    unittest.main()
