"""A cold room's rungs: where it boils and condenses against its design, and what is looked at then."""

import unittest
from dataclasses import replace

from nudge.core.checks.table import CHECKS
from nudge.core.language.units import degrees_f, fahrenheit
from tests.core.judgement.test_cold_rooms import FREEZER, decided, read

RIGHT_BOILS_F, RIGHT_HEAD_F = -15.0, 97.0
"""By the plate: ten under a box at −5 °F, twenty-five over air of 72 °F."""
NEVER = ("add", "remove")


class RungsTest(unittest.TestCase):
    def test_on_both_rungs_it_is_right(self):
        found = decided(read(boils=RIGHT_BOILS_F, head=RIGHT_HEAD_F)).decision
        self.assertEqual(found.key, "room_right")

    def test_head_far_over_its_design_looks_at_the_condenser(self):
        found = decided(read(head=RIGHT_HEAD_F + 22)).decision
        self.assertEqual(found.hangs_on.key, "look_at_condenser")
        words = found.reason.text("ip")
        self.assertIn("119.0 °F", words)
        self.assertIn("22.0 °F over its design", words)

    def test_head_far_under_its_design_asks_for_the_level_before_anything(self):
        found = decided(read(head=RIGHT_HEAD_F - 22, liquid=73.5)).decision
        self.assertIn("22.0 °F under its design", found.reason.text("ip"))
        self.assertEqual(found.hangs_on.key, "read_receiver_level")
        self.assertNotIn(found.advice, NEVER)

    def test_a_head_that_is_held_is_not_measured_against_the_day(self):
        for control in ("cycling", "flooded"):
            held = replace(FREEZER, head_pressure_control=control)
            found = decided(read(head=RIGHT_HEAD_F - 15), held).decision
            self.assertNotIn("under its design", found.reason.text("ip"), control)

    def test_boiling_low_with_the_coil_fed_right_is_the_air(self):
        found = decided(read(boils=RIGHT_BOILS_F - 14)).decision
        self.assertIn("fans, ice", found.reason.text("ip"))
        self.assertIn(found.hangs_on.key, CHECKS)

    def test_boiling_high_with_the_coil_fed_right_is_the_compressor(self):
        found = decided(read(boils=-6.5, box=-5.0)).decision
        words = found.reason.text("ip")
        self.assertIn("the compressor takes less than the coil gives", words)
        self.assertEqual(found.hangs_on.key, "read_compressor_amps")

    def test_a_coil_that_starves_with_the_receiver_short_is_a_leak_and_never_a_dose(self):
        found = decided(read(boils=-22.0, coil=14.0, comes=30.0), seen=("receiver_low",)).decision
        self.assertEqual(found.headline, "The receiver runs short.")
        self.assertEqual(found.hangs_on.key, "look_for_leak")
        self.assertNotIn(found.advice, NEVER)

    def test_what_gauge_and_clamp_may_err_is_no_flooding(self):
        self.assertEqual(decided(read(coil=2.4, comes=15.0)).decision.key, "room_right")
        flooded = decided(read(coil=0.5, comes=3.0)).decision
        self.assertEqual(flooded.key, "room_floods")

    def test_a_coil_overfed_without_a_clamp_at_the_compressor_asks_for_that_clamp(self):
        found = decided(read(coil=1.0, comes=None)).decision
        self.assertEqual(
            (found.hangs_on.kind, found.hangs_on.key), ("reading", "suction_line_temp")
        )

    def test_whatever_is_read_no_refrigerant_moves(self):
        for boils in (-40.0, -15.0, -6.0):
            for head in (60.0, 97.0, 130.0):
                for coil in (0.0, 5.0, 25.0):
                    for seen in ((), ("receiver_low",), ("receiver_right",)):
                        with self.subTest(boils=boils, head=head, coil=coil, seen=seen):
                            found = decided(
                                read(boils=boils, head=head, coil=coil, comes=coil + 12), seen=seen
                            ).decision
                            self.assertNotIn(found.advice, NEVER)

    def test_a_warmer_box_is_judged_by_its_own_design(self):
        cooler = replace(
            FREEZER,
            refrigerant="R-134a",
            box_set_point_c=fahrenheit(36),
            coil_class_k=degrees_f(12),
        )
        found = decided(read(box=36.0, boils=24.0), cooler)
        self.assertNotIn(
            "by design at this box", found.decision.reason.text("si").replace("°F", "")
        )
        self.assertNotIn(found.decision.advice, NEVER)


if __name__ == "__main__":
    unittest.main()
