"""Every kind of call and every step of the order of work, row by row."""

import unittest
from dataclasses import replace

from nudge.core.checks.forms import FORMS
from nudge.core.language.errors import CoreError
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.tests.table import FACTS
from nudge.core.visit.calls import CALLS, GAUGED, STAGES, call_named
from nudge.core.visit.facts import Facts, Ticked
from nudge.core.visit.order import check_tick, order_of, standing_before
from nudge.core.visit.step_row import BLOCKED
from nudge.core.visit.steps import STEPS

NOTHING_DONE = Facts()
READ = Facts(
    points=frozenset({"suction_pressure", "liquid_pressure", "suction_line_temp"}),
    has_gauges=True,
    is_running=True,
    is_judged=True,
)
"""Gauges are on and it was read, and nobody has looked at anything."""
OPENS = {"repair", "commissioning", "new_installation"}
"""Calls on which the circuit is open for a while."""
NEVER_CHARGED = {"heating_check", "no_heat", "vehicle_after_repair", "multi_zone_log"}
"""Calls on which no charge is judged: heating, a label, a log."""


def steps_of(order):
    return [step for stage in order.stages for step in stage.steps]


class CallsTest(unittest.TestCase):
    def test_each_goes_forward_through_stages_there_are_and_ends_by_closing(self):
        place = {stage: n for n, stage in enumerate(STAGES)}
        for call in CALLS.values():
            with self.subTest(call.key):
                at = [place[s] for s in call.stages if call.key not in OPENS or s != "air"]
                self.assertEqual(at, sorted(set(at)))  # a new machine's air follows its filling
                self.assertEqual((call.stages[0], call.stages[-1]), ("arrive", "close"))
                self.assertLessEqual(set(call.if_needed), set(call.stages))
                self.assertTrue(call.reason.endswith("."))

    def test_what_is_read_on_it_is_something_nudge_reads(self):
        for call in CALLS.values():
            self.assertLessEqual(set(call.probes), POINTS.keys(), call.key)
            self.assertEqual(len(call.probes), len(set(call.probes)), call.key)

    def test_air_is_placed_before_any_gauge(self):
        """Gauges cost refrigerant and tell least: they come last."""
        for call in CALLS.values():
            gauges = [n for n, p in enumerate(call.probes) if p.endswith("_pressure")]
            air = [n for n, p in enumerate(call.probes) if "air" in p]
            if gauges and air:
                self.assertLess(max(air), min(gauges), call.key)

    def test_charge_is_judged_only_where_it_can_be(self):
        for call in CALLS.values():
            judges = "judge" in call.stages
            self.assertEqual(judges, call.key not in NEVER_CHARGED, call.key)

    def test_where_charge_is_judged_air_was_looked_at_before(self):
        for call in CALLS.values():
            if "judge" in call.stages:
                order = call.stages
                self.assertLess(order.index("air"), order.index("judge"), call.key)
                self.assertLess(order.index("settle"), order.index("read"), call.key)
                self.assertLess(order.index("read"), order.index("judge"), call.key)
                self.assertLess(order.index("judge"), order.index("act"), call.key)

    def test_a_circuit_that_was_open_is_proven_before_it_is_filled(self):
        for call in CALLS.values():
            self.assertEqual("prove" in call.stages, call.key in OPENS, call.key)
            if "fill" in call.stages:
                self.assertLess(call.stages.index("prove"), call.stages.index("fill"), call.key)

    def test_a_look_with_caps_on_needs_gauges_only_where_something_is_off(self):
        for key in ("yearly_check", "nothing_found"):
            self.assertEqual(set(CALLS[key].if_needed), set(GAUGED))
            order = order_of(call_named(key), Facts(look="leave_caps_on"))
            asked = {one.stage for one in order.stages if one.state in ("open", "here")}
            self.assertFalse(asked & {"connect", "judge"}, key)

    def test_a_heating_call_runs_in_heating_and_no_other_says_so(self):
        said = {call.key for call in CALLS.values() if call.mode == "heating"}
        self.assertEqual(said, {"heating_check", "no_heat"})

    def test_one_that_names_no_kind_is_a_cooling_complaint(self):
        self.assertEqual(call_named("").key, "cooling_complaint")


class StepsTest(unittest.TestCase):
    def test_each_has_a_name_of_its_own_a_stage_and_forms_there_are(self):
        self.assertEqual(len({row.key for row in STEPS}), len(STEPS))
        for row in STEPS:
            with self.subTest(row.key):
                self.assertIn(row.stage, STAGES)
                self.assertLessEqual(row.calls, CALLS.keys())
                self.assertIn(row.blocks, {"", *BLOCKED})
                if row.check:
                    self.assertIn(row.check, FORMS)
                if row.proven_by:
                    self.assertIn(row.proven_by, FACTS)

    def test_each_is_on_some_call(self):
        """At a plant that has everything: a step nobody ever meets is a promise not kept."""
        met = set()
        for call in CALLS.values():
            for row in STEPS:
                if row.stage in call.stages and (not row.calls or call.key in row.calls):
                    met.add(row.key)
        self.assertEqual({row.key for row in STEPS} - met, set())

    def test_done_by_hand_it_is_done_and_taken_back_it_is_open(self):
        for row in STEPS:
            with self.subTest(row.key):
                check_tick(row.key, "done", "")
                check_tick(row.key, "", "")
        for call in CALLS.values():
            for step in steps_of(order_of(call, NOTHING_DONE)):
                if step.state != "open":
                    continue
                with self.subTest(step.row.key, call=call.key):
                    ticked = replace(NOTHING_DONE, ticks={step.row.key: Ticked("done")})
                    self.assertEqual(self.again(call, ticked, step.row.key).state, "done")
                    back = replace(NOTHING_DONE, ticks={step.row.key: Ticked("")})
                    self.assertEqual(self.again(call, back, step.row.key).state, "open")

    def again(self, call, facts, key):
        return next(s for s in steps_of(order_of(call, facts)) if s.row.key == key)

    def test_skipped_it_keeps_its_reason_and_what_blocks_takes_one(self):
        for row in STEPS:
            with self.subTest(row.key):
                check_tick(row.key, "skipped", "no access until Monday")
                if row.blocks:
                    with self.assertRaisesRegex(CoreError, "Say why"):
                        check_tick(row.key, "skipped", "  ")
                else:
                    check_tick(row.key, "skipped", "")
        for call in CALLS.values():
            for step in standing_before(call, NOTHING_DONE):
                why = Ticked("skipped", "no access until Monday")
                ticked = replace(NOTHING_DONE, ticks={step.row.key: why})
                again = self.again(call, ticked, step.row.key)
                self.assertEqual((again.state, again.reason), ("skipped", why.reason))
                left = {s.row.key for s in standing_before(call, ticked)}
                self.assertNotIn(step.row.key, left)

    def test_a_reason_is_a_line_and_no_letter(self):
        with self.assertRaisesRegex(CoreError, "under 300"):
            check_tick("filter", "skipped", "x" * 301)

    def test_what_stands_before_judging_stands_before_it_on_every_call_that_judges(self):
        for call in CALLS.values():
            if "judge" not in call.stages or call.begins != "charged":
                continue
            with self.subTest(call.key):
                before = {step.row.key for step in standing_before(call, NOTHING_DONE)}
                self.assertIn("filter", before)
                order = order_of(call, READ)
                judge = next(one for one in order.stages if one.stage == "judge")
                self.assertEqual(judge.state, "blocked")
                self.assertIn("ilter", judge.why.text("ip"))


if __name__ == "__main__":
    unittest.main()
