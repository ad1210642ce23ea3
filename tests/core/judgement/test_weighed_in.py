"""What the decision makes of a circuit that was opened, by the scale and by what it proved."""

import unittest
from dataclasses import replace

from nudge.core.charging.advise import decided as sized
from nudge.core.judgement.next_checks import open_checks
from nudge.core.language.said import say
from nudge.core.physics.circuit.past import Moment, Past
from tests.core.field import judged, plate, readings, settled

TICKS = ("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
PLATE = plate(nominal_capacity_w=10_551.0, rated_seer=14.0, factory_charge_kg=2.6)
SHORT = {"suct": 116, "liq": 330, "sl": 54, "ll": 98.5, "oa": 90, "ra": 77, "wb": 64, "sa": 58}
EMPTY = {"suct": 62, "liq": 240, "sl": 74, "ll": 82, "oa": 86, "ra": 76, "wb": 63, "sa": 70}


def decided(spoken, past=None, **more):
    context = replace(settled(*TICKS), past=past or Past(), **more)
    return judged(PLATE, context, **spoken).decision


def proven(left_kg=0.0):
    return Past(weighed_in=True, proven_tight=True, sheet_left_kg=left_kg, by_scale=True)


class OpenedTest(unittest.TestCase):
    def test_an_open_circuit_stands_before_all(self):
        found = decided(EMPTY, open_circuit=say("No refrigerant is in it."), open_stage="prove")
        self.assertEqual((found.key, found.advice, found.stage),
                         ("open_circuit", "do_not_charge", "prove"))  # fmt: skip

    def test_locked_out_to_be_opened_it_is_neither_started_nor_judged(self):
        found = decided(EMPTY, is_opened_next=True)
        self.assertEqual((found.key, found.stage), ("opened_next", "recover"))

    def test_half_filled_and_proven_tight_it_is_told_to_weigh_in(self):
        found = decided(EMPTY, proven(), to_weigh_kg=1.2)
        self.assertEqual((found.key, found.advice), ("weigh_the_rest", "weigh_in"))
        self.assertIn("2 lb 10.3 oz", found.reason.text("ip"))
        self.assertIsNone(found.dose)

    def test_not_proven_tight_the_same_numbers_find_a_leak(self):
        found = decided(EMPTY, Past(weighed_in=True), to_weigh_kg=1.2)
        self.assertNotEqual(found.advice, "weigh_in")
        self.assertNotEqual(found.advice, "add")


class ShortByTheScaleTest(unittest.TestCase):
    def test_at_the_edge_the_rest_of_the_sheet_is_no_riddle(self):
        alone = decided(SHORT)
        self.assertNotIn(alone.key, ("right", "add"), alone.reason.text("ip"))
        self.assertIn(decided(SHORT, proven(0.13)).key, ("right", "add"))

    def test_what_contradicts_it_still_stops_it(self):
        walked = {**SHORT, "lli": 86.0}  # a step of twelve degrees on the liquid's way
        self.assertNotIn(decided(walked, proven(0.13)).advice, ("add", "weigh_in"))

    def test_a_corrected_reading_shuts_the_door_again(self):
        past = replace(proven(0.13), corrected=True)
        self.assertEqual(decided(SHORT, past).key, decided(SHORT).key)

    def test_only_another_day_can_judge_it_the_sheet_is_filled(self):
        cold = {"suct": 105, "liq": 215, "sl": 52, "ll": 66, "oa": 55, "ra": 75, "wb": 61}
        found = decided(cold, proven(0.13))
        self.assertEqual((found.key, found.advice), ("rest_of_sheet", "weigh_in"))
        self.assertIn("4.6 oz of its sheet", found.reason.text("ip"))
        self.assertNotEqual(decided(cold, proven(0.0)).key, "rest_of_sheet")
        near_liquid = {**cold, "sl": 38}
        self.assertNotEqual(decided(near_liquid, proven(0.13)).key, "rest_of_sheet")


FAR_SHORT = {**EMPTY, "ll": 88}
INVERTER = plate("eev", nominal_capacity_w=10_551.0, rated_seer=16.0, factory_charge_kg=2.6)
LOW_BY_LITTLE = {"suct": 121, "liq": 332, "sl": 54, "oa": 88, "ra": 76, "wb": 64, "sa": 57}


class NewPartsTest(unittest.TestCase):
    def test_a_new_compressor_is_seldom_what_does_not_pump(self):
        weak = {"suct": 140, "liq": 300, "sl": 62, "ll": 90, "oa": 88, "ra": 76, "wb": 64, "sa": 62}
        old, new = (
            judged(PLATE, replace(settled(*TICKS), past=replace(proven(), renewed=parts)), **weak)
            for parts in (frozenset(), frozenset({"compressor"}))
        )
        before, after = (
            belief / (1 - belief)
            for one in (old, new)
            for belief in [one.weighing.suspects["inefficient_compressor"]]
        )
        self.assertAlmostEqual(after / before, 0.15, delta=0.01)  # odds, by its factor
        self.assertEqual([e.row.key for e in new.episodes], ["compressor_renewed"])

    def test_the_rest_of_its_sheet_counts_as_a_first_dose_that_was_proven(self):
        """An ounce over the sheet by now, answered, and still two degrees under its window."""
        first = Moment(20.0, readings(**{**SHORT, "ll": 99.5}), 0.0)
        given = replace(proven(-0.05), moments=(first,), added_since_kg=0.18)
        now = {**SHORT, "ll": 97.8}
        self.assertAlmostEqual(given.left_before(0), 0.13)
        self.assertEqual(decided(now, given).key, "add")
        # The same dose where the sheet was in already, with nothing else proven: no door.
        over = replace(given, sheet_left_kg=-0.18, proven_tight=False)
        self.assertNotEqual(decided(now, over).advice, "add")

    def test_over_its_band_and_short_by_the_scale_the_rest_of_the_sheet_comes_first(self):
        starved = {**SHORT, "ll": 95.3, "sl": 56}  # 7.2 °F and 17.0 °F
        self.assertEqual(decided(starved).key, "starves")
        self.assertNotEqual(decided(starved, proven(0.13)).key, "starves")
        self.assertEqual(decided(starved, proven(-0.13)).key, "starves")


class SheetAndWindowTest(unittest.TestCase):
    def test_tight_and_full_by_the_scale_it_is_the_sheet_that_is_doubted(self):
        found = decided(FAR_SHORT, proven(0.13))
        self.assertEqual((found.key, found.advice), ("sheet_doubted", "do_not_charge"))
        self.assertIn("5 lb 11.7 oz", found.reason.text("ip"))
        self.assertEqual((found.hangs_on.kind, found.hangs_on.key), ("work", "plate"))
        # Much of it still to go in explains it; and what was not proven tight may have leaked.
        for past in (proven(0.8), Past(), Past(weighed_in=True)):
            self.assertNotEqual(decided(FAR_SHORT, past).key, "sheet_doubted")

    def inverter(self, ll, past=None):
        seen = (*TICKS, "readings_confirmed", "blower_capacitor_ok", "circuit_never_opened")
        context = replace(settled(*seen), minutes_running=60, minutes_since_change=60)
        context = replace(context, past=past or Past())
        return judged(INVERTER, context, ll=ll, **LOW_BY_LITTLE).decision

    def test_outside_by_less_than_two_instruments_can_be_off_it_is_left(self):
        # Window 10 ± 1 °F: with 94.9 it reads 8.0 °F, with 97.0 5.9 °F.
        near, far = self.inverter(94.9), self.inverter(97.0)
        self.assertEqual((near.key, near.advice), ("near_enough", "leave"))
        self.assertIsNone(near.hangs_on)
        self.assertNotEqual(far.key, "near_enough")

    def test_sheet_in_and_proven_tight_it_is_brought_to_the_plates_subcooling(self):
        """The same two degrees beside the plate, but by scale, nitrogen and decay it is charge."""
        self.assertEqual(self.inverter(94.9, proven()).advice, "add")
        self.assertEqual(self.inverter(90.3, proven()).advice, "remove")  # 12.6 °F
        self.assertEqual(self.inverter(92.9, proven()).key, "right")  # 10.0 °F
        self.assertNotEqual(self.inverter(90.3).advice, "remove")
        ticked = replace(proven(), by_scale=False)  # said by hand: nothing was measured
        for past in (replace(proven(), corrected=True), Past(weighed_in=True), ticked):
            self.assertEqual(self.inverter(94.9, past).key, "near_enough")

    def test_the_first_dose_is_no_more_than_the_rest_of_the_sheet(self):
        """By the readings over half a pound is missing; by the scale two ounces are known to be."""
        low = {**SHORT, "ll": 102}
        for left_kg, is_all in ((0.06, True), (1.2, False)):
            context = replace(settled(*TICKS), past=proven(left_kg))
            dose = sized(PLATE, readings(**low), context).assessment.decision.dose
            self.assertEqual(dose.amount_kg == left_kg, is_all)
            self.assertLessEqual(dose.amount_kg, left_kg)

    def test_tight_by_nitrogen_no_leak_is_looked_for(self):
        for past, is_asked in ((Past(), True), (proven(0.13), False)):
            found = judged(PLATE, replace(settled(*TICKS), past=past), **{**SHORT, "ll": 100})
            open_ = {check.key for check in open_checks(found.case, found.weighing.model)}
            self.assertEqual("look_for_leak" in open_, is_asked)

    def test_what_can_only_be_found_is_not_what_a_decision_waits_for(self):
        found = judged(PLATE, settled(*TICKS), **{**SHORT, "ll": 99})
        hangs = found.decision.hangs_on
        self.assertTrue(hangs is None or hangs.key != "look_for_leak")


if __name__ == "__main__":
    unittest.main()
