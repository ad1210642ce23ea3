"""One target for all that is said, its edges, and what a collar, a trim and a blank cell change."""

import unittest
from dataclasses import replace
from typing import ClassVar

from nudge.core.behaviours.case import Context
from nudge.core.charging.advise import advise, decided
from nudge.core.charging.sizing import Dosed
from nudge.core.physics.chart.chart_text import read_chart
from nudge.core.physics.circuit.past import Moment, Past
from tests.core.field import case, celsius, judged, plate, readings, settled
from tests.core.judgement.test_ten_failures import LOW, SEEN, TICKS, VALVE


class OneTargetTest(unittest.TestCase):
    CHART = "outdoor, coil A\n70, 6\n80, 8\n90, 12\n100, 15"

    def test_a_chart_that_decides_is_what_the_suspects_expect(self):
        of = replace(
            plate(subcooling=None),
            charts=(read_chart("subcooling_by_outdoor", self.CHART, "ip"),),
            indoor_unit="coil A",
        )
        result = judged(of, SEEN, suct=120, liq=358, sl=52, ll=96.4, oa=90, ra=76, wb=63, sa=57)
        self.assertEqual(result.targets.deciding.key, "chart_subcooling")
        self.assertAlmostEqual(result.measured["subcooling"].expected * 1.8, 12, delta=0.01)

    def test_the_plates_own_head_is_never_corrected(self):
        of = plate(condensing_over_ambient_k=20 / 1.8, rated_seer=16)
        for outdoor in (75, 95, 108):
            one = judged(
                of, SEEN, suct=120, liq=356, sl=51, ll=98, oa=outdoor, ra=76, wb=60
            ).measured
            self.assertAlmostEqual(one["condensing_over_ambient"].expected * 1.8, 20, delta=1e-6)

    def test_a_guess_has_no_say_beside_a_makers_approach(self):
        of = plate(subcooling=None, approach_k=6 / 1.8)
        # Approach 12 of 6: low on charge. By a guess of 10, subcooling 8 would be "right".
        result = judged(
            of,
            settled(*TICKS, "readings_confirmed"),
            suct=108,
            liq=318,
            sl=56,
            ll=98,
            oa=86,
            ra=76,
            wb=63,
            sa=62,
        )
        self.assertEqual(result.decision.judged, "approach")
        self.assertNotEqual(result.decision.key, "contradicted")

    def test_one_figure_for_the_head_of_one_machine(self):
        result = judged(plate(rated_seer=13), SEEN, **LOW)
        from nudge.core.judgement.features import features

        mark = features(result.case, result.targets)["condensing_over_ambient"]
        self.assertAlmostEqual(
            (mark.low + mark.high) / 2, result.measured["condensing_over_ambient"].expected
        )


class EdgesTest(unittest.TestCase):
    def test_superheat_a_hair_over_its_band_with_nothing_wrong_is_no_restriction(self):
        result = judged(
            plate(rated_seer=14),
            SEEN,
            suct=120.6,
            liq=356,
            sl=57.3,
            ll=98,
            oa=88,
            ra=76,
            wb=63,
            sa=57,
        )
        self.assertAlmostEqual(result.case.derived.superheat * 1.8, 16, delta=0.5)
        self.assertEqual(result.suspects[0].suspect.key, "none")
        self.assertEqual(result.decision.advice, "leave")

    def test_in_its_window_and_leaning_low_is_not_called_no_fault(self):
        for line in (97.5, 98, 98.5, 99, 99.5):
            result = judged(
                plate(subcooling=11),
                SEEN,
                suct=116,
                liq=342,
                sl=52,
                ll=line,
                oa=88,
                ra=76,
                wb=63,
                sa=58,
            )
            leader = result.suspects[0]
            if (
                result.decision.state == "right"
                and leader.suspect.key == "undercharge"
                and leader.belief >= 0.5
            ):
                self.assertEqual(result.decision.key, "at_the_edge")
                self.assertNotIn("not the fault", result.decision.reason.text("ip"))


class CollarTest(unittest.TestCase):
    # 45 °F outdoors; the collar warms what the condenser draws to 80 °F.
    COLD: ClassVar = {
        "suct": 118,
        "liq": 318,
        "sl": 52,
        "ll": 91,
        "oa": 45,
        "ra": 74,
        "wb": 62,
        "sa": 55,
    }

    def test_both_figures_held_lift_the_cold_gate(self):
        of = plate(rated_seer=15)
        bare = judged(of, SEEN, **self.COLD)
        self.assertEqual(bare.decision.hangs_on.key, "collar_on")
        on = settled(*TICKS, "collar_on")
        unread = judged(of, on, **self.COLD)
        self.assertEqual(unread.decision.hangs_on.key, "condenser_entering_air_temp")
        held = judged(of, on, **self.COLD, cea=80)
        self.assertNotIn("outdoor_below_70", [b.gate.key for b in held.breaches])
        self.assertAlmostEqual(held.case.derived.approach * 1.8, 11, delta=0.01)
        self.assertAlmostEqual(held.case.outdoor_c, celsius(45))
        early = replace(on, minutes_since_change=9.0)
        self.assertIn(
            "outdoor_below_70",
            [b.gate.key for b in judged(of, early, **self.COLD, cea=80).breaches],
        )
        slipped = judged(of, on, **{**self.COLD, "liq": 260}, cea=70)
        self.assertIn("outdoor_below_70", [b.gate.key for b in slipped.breaches])

    def test_doses_are_half_as_large_behind_a_collar(self):
        of = plate(rated_seer=15, nominal_capacity_w=10_550.0, factory_charge_kg=3.0)
        low = {**self.COLD, "suct": 108, "sl": 56, "ll": 97.5}
        confirmed = Context(40, 30, frozenset((*TICKS, "readings_confirmed")))
        warm = decided(of, readings(**{**low, "oa": 80}), confirmed).assessment.decision
        collared = replace(confirmed, observations=confirmed.observations | {"collar_on"})
        cold = decided(of, readings(**low, cea=80), collared).assessment.decision
        self.assertEqual((warm.advice, cold.advice), ("add", "add"))
        self.assertLess(cold.dose.amount_kg, 0.6 * warm.dose.amount_kg)

    def test_a_wet_coil_is_not_read(self):
        result = judged(plate(), settled(*TICKS, "condenser_wet"), **LOW)
        self.assertEqual(result.decision.hangs_on.key, "condenser_dry")


class TrimTest(unittest.TestCase):
    def test_inside_the_window_a_trim_is_a_choice_and_never_advice(self):
        of = plate(rated_seer=14, nominal_capacity_w=10_550.0, factory_charge_kg=3.0)
        first = {"suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86, "ra": 76, "wb": 63}
        then = {**first, "suct": 119, "liq": 345, "sl": 51, "ll": 97.6, "sa": 57}
        sure = frozenset((*TICKS, "readings_confirmed"))
        rows = [Dosed(0, 0, readings(**first)), Dosed(20, 0.25, readings(**then))]
        said = advise(of, rows, Context(40, 20, sure)).decision
        self.assertEqual((said.advice, said.dose, said.state), ("leave", None, "right"))
        self.assertIsNotNone(said.trim)
        self.assertLess(said.trim.amount_kg, 0.2)
        self.assertLessEqual(said.trim.expected_high_k * 1.8, 10 + 1.5)
        guess = advise(replace(of, target_subcooling_k=None), rows, Context(40, 20, sure)).decision
        self.assertIsNone(guess.trim)


class BlankCellTest(unittest.TestCase):
    def test_a_blank_cell_is_silent_and_no_other_school_takes_its_place(self):
        text = "outdoor, coil A\n70, 6\n80, 8\n90, \n100, 15"
        of = replace(
            plate(subcooling=None),
            indoor_unit="coil A",
            charts=(read_chart("subcooling_by_outdoor", text, "ip"),),
        )
        result = judged(of, SEEN, suct=120, liq=358, sl=52, ll=96.4, oa=90, ra=76, wb=63)
        self.assertIsNone(result.targets.deciding)
        self.assertEqual(result.decision.key, "no_target")


class EarlierMomentsTest(unittest.TestCase):
    def test_the_door_stays_open_while_doses_are_answered_and_shuts_on_a_correction(self):
        first = {**LOW, "suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86, "wb": 63}
        then = {**first, "suct": 113, "liq": 329, "sl": 53, "ll": 96.4}
        before = case(VALVE, SEEN, **first).record
        past = Past((Moment(15, before),), added_since_kg=0.2)
        context = replace(SEEN, past=past, observations=SEEN.observations | {"readings_confirmed"})
        self.assertEqual(judged(VALVE, context, **then).decision.key, "add")
        corrected = replace(context, past=replace(past, corrected=True))
        shut = judged(VALVE, corrected, **then).decision
        self.assertIn(shut.key, ("add", "low_hangs", "low_unsure", "contradicted"))
