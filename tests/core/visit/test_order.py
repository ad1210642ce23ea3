"""The order of work: where one is, what blocks, what must not be left open."""

import unittest
from dataclasses import replace

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.said import say
from nudge.core.visit.calls import CALLS, STAGES, call_named
from nudge.core.visit.facts import Facts, Ticked
from nudge.core.visit.order import check_tick, order_of
from nudge.core.visit.seasons import is_in_season
from nudge.core.visit.steps import STEPS

LOOKED = frozenset({"filter_clean", "evaporator_coil_clean", "condenser_coil_clean"})
READ = frozenset(
    {
        "suction_pressure",
        "liquid_pressure",
        "suction_line_temp",
        "liquid_line_temp",
        "outdoor_air_temp",
        "return_air_temp",
        "return_air_wet_bulb",
    }
)
JUDGED = Facts(
    observations=LOOKED,
    points=READ,
    has_gauges=True,
    is_running=True,
    is_judged=True,
    advice="add",
    decision="add",
    stage="act",
    connection="hose_manifold",
)


def stage(facts, key, call="cooling_complaint"):
    return next(one for one in order_of(call_named(call), facts).stages if one.stage == key)


def steps(facts, key, call="cooling_complaint"):
    return {one.row.key: one for one in stage(facts, key, call).steps}


class OrderTest(unittest.TestCase):
    def test_air_comes_before_charge(self):
        read_first = replace(JUDGED, observations=frozenset(), stage="")
        self.assertEqual(order_of(call_named(""), read_first).here, "air")
        self.assertEqual(order_of(call_named(""), JUDGED).here, "act")

    def test_what_the_visit_shows_needs_no_tick(self):
        self.assertEqual(steps(JUDGED, "air")["filter"].state, "done")
        self.assertFalse(steps(JUDGED, "air")["filter"].by_hand)
        self.assertEqual(stage(JUDGED, "read").state, "done")

    def test_a_step_ticks_itself_only_by_what_passes(self):
        for step, facts, state in (
            ("filter", {"observations": frozenset({"filter_dirty"})}, "open"),
            ("filter", {"findings": {"filter": "bad"}, "observations": frozenset()}, "open"),
            ("coils", {"observations": LOOKED - {"condenser_coil_clean"}}, "open"),
            ("capacitor", {"findings": {"capacitor": "bad"}}, "open"),
            ("capacitor", {"findings": {"capacitor": "good"}}, "done"),
            ("capacitor", {"observations": LOOKED | {"blower_capacitor_weak"}}, "open"),
            ("amps", {"findings": {"compressor_amps": "bad"}}, "open"),
            ("amps", {"findings": {"compressor_amps": "bad", "fan_amps": "good"}}, "done"),
            ("amps", {"points": READ | {"compressor_amps"}}, "done"),
            ("statics", {"points": READ | {"total_external_static"}}, "done"),
            (
                "statics",
                {"points": READ | {"total_external_static"}, "doubts": frozenset({"duct_trouble"})},
                "open",
            ),
            ("drain", {"findings": {"drain": "watch"}}, "done"),
        ):
            with self.subTest(step, facts=facts):
                self.assertEqual(steps(replace(JUDGED, **facts), "air")[step].state, state)

    def test_what_stands_before_judging_blocks_it(self):
        unseen = replace(JUDGED, observations=LOOKED - {"filter_clean"})
        found = stage(unseen, "judge")
        self.assertEqual(found.state, "blocked")
        self.assertEqual(
            found.why.text("ip"), "First: filter in your hand. Do it, or say why it is skipped."
        )
        skipped = replace(unseen, ticks={"filter": Ticked("skipped", "no ladder")})
        self.assertEqual(stage(skipped, "judge").state, "done")
        new = stage(JUDGED, "judge", "commissioning")
        self.assertIn("Evacuated", new.why.text("ip").replace("evacuated", "Evacuated"))

    def test_a_shut_gate_blocks_judging_and_says_why(self):
        cold = say("Too cold outdoors to judge charge.")
        facts = replace(
            JUDGED,
            shut={"outdoor_below_70": cold},
            reason=cold,
            stage="connect",
            advice="do_not_charge",
        )
        found = stage(facts, "judge")
        self.assertEqual((found.state, found.why), ("blocked", cold))
        self.assertEqual(stage(facts, "act").state, "blocked")

    def test_skipping_what_blocks_wants_a_reason(self):
        with self.assertRaisesRegex(CoreError, "Say why"):
            check_tick("filter", "skipped", " ")
        check_tick("filter", "skipped", "no access until Monday")
        check_tick("tools", "skipped", "")
        with self.assertRaises(UnknownName):
            check_tick("filtre", "done", "")
        ticks = {"filter": Ticked("skipped", "no access")}
        facts = replace(JUDGED, observations=frozenset(), ticks=ticks)
        self.assertEqual(steps(facts, "air")["filter"].reason, "no access")

    def test_ports_caps_panels_and_disconnect_are_dangers_until_done(self):
        facts = replace(JUDGED, findings={"capacitor": "good"})
        dangers = [one.text("ip") for one in order_of(call_named(""), facts).dangers]
        self.assertEqual(len(dangers), 4)
        done = {key: Ticked("done") for key in ("ports", "caps", "panels", "disconnect")}
        self.assertEqual(order_of(call_named(""), replace(facts, ticks=done)).dangers, ())
        caps_on = Facts(has_complaint=True, look="leave_caps_on")
        self.assertEqual(order_of(call_named("yearly_check"), caps_on).dangers, ())

    def test_liquid_at_the_compressor_is_a_danger_too(self):
        hazard = say("Superheat 1 °F: liquid may be reaching the compressor.")
        caps_on = Facts(hazards=(hazard,))
        self.assertEqual(order_of(call_named(""), caps_on).dangers, (hazard,))

    def test_a_yearly_check_asks_for_gauges_only_where_the_look_does(self):
        fine = Facts(has_complaint=True, look="leave_caps_on")
        self.assertEqual(stage(fine, "connect", "yearly_check").state, "if_needed")
        off = replace(fine, look="connect")
        self.assertEqual(stage(off, "connect", "yearly_check").state, "open")

    def test_each_kind_of_call_has_its_own_route(self):
        self.assertIn("vacuum", steps(JUDGED, "prove", "commissioning"))
        self.assertNotIn("vacuum", steps(JUDGED, "connect"))
        self.assertIn("collar", steps(replace(JUDGED, is_cold_call=True), "connect"))
        self.assertIn("defrost", steps(JUDGED, "read", "heating_check"))
        self.assertNotIn("judge", CALLS["heating_check"].stages)
        for call in CALLS.values():
            self.assertTrue(set(call.stages) <= set(STAGES))

    def test_a_dose_asks_for_final_readings_and_the_cylinder(self):
        facts = replace(
            JUDGED, has_acted=True, has_moved_charge=True, cylinders=("c",), unweighed=("Red tape",)
        )
        found = steps(facts, "close")
        self.assertEqual((found["final"].state, found["weighed"].state), ("open", "open"))
        after = replace(facts, read_after_last_change=True, unweighed=())
        found = steps(after, "close")
        self.assertEqual((found["final"].state, found["weighed"].state), ("done", "done"))

    def test_work_that_can_hurt_carries_its_caution(self):
        for key in ("filter", "coils", "capacitor", "amps", "purged", "ports", "panels"):
            row = next(one for one in STEPS if one.key == key)
            self.assertTrue(row.caution, key)

    def test_seasons(self):
        self.assertTrue(is_in_season("over_70", 7))
        self.assertFalse(is_in_season("over_70", 1))
        self.assertTrue(is_in_season("any", 1))


if __name__ == "__main__":
    unittest.main()
