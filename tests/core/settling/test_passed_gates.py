"""A gate passed on purpose: the reason is printed, and refrigerant is never moved past it."""

import unittest
from dataclasses import replace

from nudge.core.language.errors import UnknownName
from nudge.core.settling.gate import NEVER_PASSED
from nudge.core.settling.gates import GATES, gate_to_pass
from tests.core.field import judged, plate, settled

LOW = {"suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86, "ra": 76, "wb": 63, "sa": 62}
HIGH = {"suct": 122, "liq": 375, "sl": 52, "ll": 91, "oa": 88, "ra": 76, "wb": 63}
SEEN = settled("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
WHY = "the owner wants a number today"


def passing(context, *gates):
    return replace(context, passed=dict.fromkeys(gates, WHY))


class PassedGatesTest(unittest.TestCase):
    def test_what_proves_low_charge_adds_nothing_past_any_gate(self):
        self.assertEqual(judged(plate(), SEEN, **LOW).decision.advice, "add")
        for row in GATES:
            if row.effect != "blocks" or row.key in NEVER_PASSED:
                continue
            shut = _shut(row.key)
            if shut is None:
                continue
            context, changed = shut
            with self.subTest(row.key):
                before = judged(plate(), context, **{**LOW, **changed})
                self.assertEqual(before.decision.advice, "do_not_charge")
                after = judged(plate(), passing(context, row.key), **{**LOW, **changed})
                self.assertNotIn(after.decision.advice, ("add", "remove"))
                mine = next(b for b in after.breaches if b.gate.key == row.key)
                self.assertEqual((mine.effect, mine.passed), ("warns", True))
                self.assertIn(f"because: {WHY}.", mine.message.text("ip"))

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


def _shut(gate):
    """A context and readings that shut a gate on an otherwise proven low charge."""
    clean = {
        "filter_dirty": "filter_clean",
        "condenser_coil_dirty": "condenser_coil_clean",
        "evaporator_coil_dirty": "evaporator_coil_clean",
        "condenser_fan_weak": "condenser_fan_ok",
    }
    ticked = {
        *clean,
        "ice_on_coil",
        "kink_found",
        "bulb_loose",
        "airflow_low",
        "blower_capacitor_weak",
        "discharge_air_returns",
        "standing_pressure_high",
        "reading_confirmed_wrong",
    }
    if gate in ticked:
        seen = SEEN.observations - {clean.get(gate)} | {gate}
        return replace(SEEN, observations=seen), {}
    by_context = {
        "run_short": {"minutes_running": 3.0},
        "just_changed": {"minutes_since_change": 2},
    }
    if gate in by_context:
        return replace(SEEN, **by_context[gate]), {}
    by_reading = {"indoor_below_70": {"ra": 66}, "outdoor_below_70": {"oa": 64}}
    return (SEEN, by_reading[gate]) if gate in by_reading else None


if __name__ == "__main__":
    unittest.main()
