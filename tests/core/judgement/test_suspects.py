"""The textbook picture of each suspect puts it first, or level with its twin."""

import unittest
from math import prod

from nudge.core.judgement.next_checks import CHECKS
from nudge.core.judgement.suspect_table import OBSERVED, SUSPECTS
from nudge.core.judgement.workings import belief_workings
from nudge.core.units import Quantity
from nudge.core.vocabulary.observations import OBSERVATIONS
from nudge.core.vocabulary.points import POINTS
from tests.core.field import judged, plate, settled

# R-410A by the card: 95 psig 29 °F, 105 34, 118 40, 130 45, 145 50; 300 psig 96 °F, 341 105,
# 400 116, 455 126.
TEXTBOOK = (
    ("none", "txv", (), {"suct": 118, "liq": 341, "sl": 51, "ll": 95, "oa": 87, "ra": 76, "sa": 56}),
    ("undercharge", "txv", (), {"suct": 106, "liq": 300, "sl": 60, "ll": 94, "oa": 86, "ra": 76,
                                "sa": 63}),
    ("undercharge", "fixed_orifice", (), {"suct": 100, "liq": 300, "sl": 62, "ll": 94, "oa": 86,
                                          "ra": 76, "wb": 64}),
    ("overcharge", "txv", ("condenser_coil_clean", "condenser_fan_ok"),
     {"suct": 121, "liq": 400, "sl": 51, "ll": 95, "oa": 88, "ra": 76, "sa": 56}),
    ("condenser_airflow", "txv", (), {"suct": 126, "liq": 455, "sl": 54, "ll": 116, "oa": 88,
                                      "ra": 76}),
    ("low_indoor_airflow", "txv", (), {"suct": 92, "liq": 300, "sl": 36, "ll": 86, "oa": 84,
                                       "ra": 78, "sa": 48}),
    ("low_indoor_airflow", "fixed_orifice", (), {"suct": 88, "liq": 295, "sl": 29, "ll": 85,
                                                 "oa": 84, "ra": 78, "wb": 66, "sa": 48}),
    ("electrical_blower", "txv", ("blower_capacitor_weak",),
     {"suct": 92, "liq": 300, "sl": 36, "ll": 86, "oa": 84, "ra": 78, "sa": 48}),
    ("liquid_line_restriction", "txv", (), {"suct": 90, "liq": 300, "sl": 66, "ll": 85, "lli": 75,
                                            "oa": 80, "ra": 77, "sa": 64}),
    ("metering_underfeed", "txv", ("bulb_test_no_reaction", "no_kink_seen"),
     {"suct": 85, "liq": 300, "sl": 66, "ll": 85, "lli": 84, "di": 85, "do": 84, "oa": 80,
      "ra": 77}),
    ("metering_overfeed", "txv", ("bulb_loose",), {"suct": 145, "liq": 330, "sl": 52, "ll": 97,
                                                   "oa": 84, "ra": 76}),
    ("inefficient_compressor", "txv", (), {"suct": 165, "liq": 270, "sl": 75, "ll": 80, "oa": 79,
                                           "ra": 78, "sa": 70}),
    ("low_ambient_stacking", "txv", (), {"suct": 95, "liq": 190, "sl": 50, "ll": 50, "oa": 46,
                                         "ra": 72}),
    ("high_indoor_load", "txv", (), {"suct": 150, "liq": 400, "sl": 70, "ll": 107, "oa": 92,
                                     "ra": 88, "sa": 75}),
    ("sensor_suspect", "txv", (), {"suct": 118, "liq": 341, "sl": 51, "ll": 80, "oa": 90, "ra": 76}),
)  # fmt: skip
TWINS = {
    "low_indoor_airflow": {"electrical_blower", "low_indoor_load"},
    "inefficient_compressor": {"reversing_valve_leak"},
    "condenser_airflow": {"non_condensables"},
}


class TextbookTest(unittest.TestCase):
    def test_each_picture_leads_to_its_suspect(self):
        for expected, device, seen, readings in TEXTBOOK:
            with self.subTest(expected, device=device):
                ranked = judged(plate(device), settled(*seen), **readings).suspects
                first = [b.suspect.key for b in ranked[: 1 + len(TWINS.get(expected, ()))]]
                self.assertIn(expected, first)
                self.assertEqual(first[0] in {expected, *TWINS.get(expected, ())}, True)

    def test_the_leader_can_say_why_and_its_rivals_why_not(self):
        ranked = judged(plate(), settled(), **TEXTBOOK[1][3]).suspects
        self.assertTrue(ranked[0].speaks_for)
        by_key = {b.suspect.key: b for b in ranked}
        against = " ".join(s.text("ip") for s in by_key["liquid_line_restriction"].speaks_against)
        self.assertRegex(against, r"Subcooling 1?\d\.\d °F is under 7\.0 to 13\.0 °F; .* in range")

    def test_a_look_moves_the_beliefs_the_right_way(self):
        pictures = {expected: readings for expected, _, _, readings in TEXTBOOK}
        for seen, suspect, up in (
            ("condenser_coil_clean", "condenser_airflow", False),
            ("condenser_coil_dirty", "condenser_airflow", True),
            ("airflow_ok", "low_indoor_airflow", False),
            ("filter_dirty", "low_indoor_airflow", True),
            ("bulb_test_reacts", "metering_underfeed", False),
            ("sight_glass_bubbles", "undercharge", True),
        ):
            with self.subTest(seen):
                readings = pictures[suspect]
                before, after = (
                    {b.suspect.key: b.belief for b in judged(plate(), settled(*s), **readings).suspects}
                    for s in ((), (seen,))
                )  # fmt: skip
                self.assertEqual(after[suspect] > before[suspect], up)

    def test_missing_readings_are_named_and_never_guessed(self):
        (leader, *_) = judged(plate(), suct=118, sl=50).suspects
        self.assertIn(
            "Subcooling is not measured.", judged(plate(), suct=118, sl=70).suspects[0].missing
        )
        self.assertLess(leader.belief, 0.8)


class TableTest(unittest.TestCase):
    def test_rows_can_be_read(self):
        for row in SUSPECTS.values():
            for odds in (*row.marks.values(), row.valve_superheat, row.orifice_superheat):
                self.assertAlmostEqual(sum(odds), 100, delta=0.5, msg=row.key)
                self.assertTrue(all(share >= 0 for share in odds))
        for seen, weights in OBSERVED.items():
            self.assertIn(seen, OBSERVATIONS)
            self.assertLessEqual(set(weights), set(SUSPECTS))

    def test_every_suspect_of_the_contract_is_there(self):
        self.assertLessEqual(
            {"undercharge", "overcharge", "condenser_airflow", "non_condensables",
             "low_indoor_airflow", "low_indoor_load", "liquid_line_restriction",
             "metering_underfeed", "metering_overfeed", "inefficient_compressor",
             "reversing_valve_leak", "low_ambient_stacking", "high_indoor_load",
             "sensor_suspect", "electrical_blower", "none", "something_else"},
            set(SUSPECTS),
        )  # fmt: skip


class NextChecksTest(unittest.TestCase):
    def test_what_is_done_is_not_asked_again(self):
        five = {"suct": 106, "liq": 300, "sl": 60, "ll": 94, "oa": 86}
        asked = [c.key for c in judged(plate(), **five).checks]
        self.assertIn("read_supply_air", asked)
        again = [c.key for c in judged(plate(), **five, sa=60).checks]
        self.assertNotIn("read_supply_air", again)

    def test_a_dirty_looking_condenser_is_looked_at_early(self):
        hot = {"suct": 126, "liq": 455, "sl": 54, "ll": 116, "oa": 88, "ra": 76}
        self.assertIn("look_at_condenser", [c.key for c in judged(plate(), **hot).checks][:2])

    def test_checks_that_can_hurt_carry_their_caution(self):
        cautions = {c.key: c.caution for c in CHECKS}
        for key, word in (
            ("look_at_condenser", "Disconnect off"),
            ("test_blower_capacitor", "discharge the capacitor"),
            ("read_compressor_amps", "Live terminals"),
            ("read_liquid_side", "gloves"),
        ):
            self.assertIn(word, cautions[key])

    def test_every_check_can_be_marked_done(self):
        for check in CHECKS:
            self.assertTrue(set(check.done_by) & (set(POINTS) | set(OBSERVATIONS)), check.key)
            self.assertLessEqual(set(check.separates), set(SUSPECTS))
            self.assertGreater(check.minutes, 0)


class BeliefWorkingTest(unittest.TestCase):
    def test_what_a_belief_opens_to_multiplies_out_to_it(self):
        seen = settled("filter_clean", "condenser_coil_dirty")
        for spoken in (
            {"suct": 118, "liq": 341, "sl": 52, "ll": 96, "oa": 88, "ra": 76, "wb": 64},
            {"suct": 95, "liq": 300, "sl": 65, "ll": 98, "oa": 90, "ra": 68},
        ):
            workings = belief_workings(judged(plate(), seen, **spoken))
            product = {
                key: prod(
                    i.measure.value / (100 if i.measure.quantity is Quantity.PERCENT else 1)
                    for i in working.inputs
                )
                for key, working in workings.items()
            }
            total = sum(product.values())
            for key, working in workings.items():
                self.assertAlmostEqual(working.value, 100 * product[key] / total, 6)
