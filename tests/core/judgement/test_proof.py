"""Every row of both proofs, broken one at a time: no look-alike slips through alone."""

import unittest
from dataclasses import replace

from nudge.core.behaviours.case import Context
from nudge.core.judgement.beliefs import Told, weigh
from nudge.core.judgement.decision import Ground, decide
from nudge.core.judgement.departures import departures
from nudge.core.judgement.features import Feature, features
from nudge.core.judgement.proof import ADD_PROOF, REMOVE_PROOF
from nudge.core.language.units import KPA_PER_PSI
from nudge.core.physics.circuit.past import Moment, Past
from nudge.core.targets.choose import choose_targets
from tests.core.field import VALVE, case, judged, plate, settled

SEEN = settled("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
CONFIRMED = settled(*SEEN.observations, "readings_confirmed")
LOW = {"suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86, "ra": 76, "wb": 63, "sa": 62}
HIGH = {"suct": 122, "liq": 375, "sl": 52, "ll": 91, "oa": 88, "ra": 76, "wb": 63}
ORIFICE_HIGH = {"suct": 135, "liq": 380, "sl": 50, "ll": 92, "oa": 88, "ra": 76, "wb": 67, "sa": 57}


def _without(readings, *names):
    return {name: value for name, value in readings.items() if name not in names}


def _ground(spoken, told=None):
    """A valve's case as it is decided on, with what somebody told beside its readings."""
    of = case(plate(), SEEN, **spoken)
    targets = choose_targets(of)
    weighing = weigh(VALVE, departures(of), told or Told())
    return Ground(of, targets, marks=features(of, targets), weighing=weighing)


def _with_mark(ground, mark):
    return replace(ground, marks={**ground.marks, mark.key: mark})


class AddProofTest(unittest.TestCase):
    def test_the_whole_proof_is_enough(self):
        self.assertEqual(judged(plate(), SEEN, **LOW).decision.advice, "add")

    def test_each_missing_measurement_is_asked_for(self):
        for name, readings, context, asks in (
            ("liquid side", _without(LOW, "ll"), SEEN, "liquid pressure and liquid line"),
            ("suction line", _without(LOW, "sl"), SEEN, "suction pressure and suction line"),
            ("return air", _without(LOW, "ra", "wb"), SEEN, "return air"),
            ("outdoor air", _without(LOW, "oa"), SEEN, "outdoor air"),
            (
                "run time",
                LOW,
                Context(None, None, SEEN.observations),
                "when the system was started",
            ),
        ):
            with self.subTest(name):
                charge = judged(plate(), context, **readings).decision
                self.assertEqual(charge.advice, "do_not_charge")
                self.assertIn(asks, charge.reason.text("ip"))

    def test_each_contradiction_stops_it(self):
        for name, changed, says in (
            ("metering_overfeed", {"sl": 41}, "metering device"),
            ("liquid at the coil", {"sl": 48, "eo": 36.5}, "reaching the compressor"),
            ("low_indoor_load", {"ra": 69}, "Return air"),
            ("low_ambient_stacking", {"oa": 64}, "Outdoor air"),
            ("condenser_airflow", {"oa": 71, "liq": 325, "ll": 98}, "outdoor coil"),
            ("inefficient_compressor", {"suct": 140, "sl": 68}, "compressor"),
            ("liquid line step", {"lli": 91}, "liquid line drops"),
            ("drier step", {"di": 96, "do": 90}, "drier"),
            ("large split", {"sa": 50}, "split is large"),
        ):
            with self.subTest(name):
                charge = judged(plate(), SEEN, **{**LOW, **changed}).decision
                self.assertNotEqual(charge.advice, "add")
                self.assertIn(says.lower(), charge.reason.text("ip").lower())

    def test_each_thing_seen_wrong_stops_it(self):
        for seen in (
            "filter_dirty",
            "evaporator_coil_dirty",
            "condenser_coil_dirty",
            "blower_capacitor_weak",
            "ice_on_coil",
        ):
            with self.subTest(seen):
                self.assertEqual(
                    judged(plate(), settled(seen), **LOW).decision.advice, "do_not_charge"
                )

    def test_oil_at_a_joint_is_a_leak_to_find(self):
        self.assertEqual(
            judged(plate(), settled("oil_seen_at_joint"), **LOW).decision.advice, "find_leak"
        )

    def test_unsettled_is_never_add(self):
        for context in (Context(9, 9), Context(60, 2), Context(14.9, 30), Context()):
            with self.subTest(context):
                self.assertEqual(judged(plate(), context, **LOW).decision.advice, "do_not_charge")

    def test_a_guessed_target_needs_superheat_to_agree(self):
        guess = plate(subcooling=None)
        charge = judged(guess, SEEN, **LOW).decision
        self.assertEqual(charge.advice, "add")
        self.assertIn("is a guess", charge.reason.text("ip"))
        held = judged(guess, CONFIRMED, **{**LOW, "sl": 48}).decision
        self.assertEqual((held.state, held.advice), ("low", "do_not_charge"))
        self.assertIn("on the plate", held.reason.text("ip"))

    def test_low_subcooling_alone_wants_another_instrument(self):
        # Superheat held, and no supply air: a clamp in the sun reads the same, and so does the
        # same clamp moved along the sunny wall. The line read indoors cannot be in that sun.
        held = {**_without(LOW, "sa"), "sl": 48, "liq": 330, "ll": 99}
        for context in (SEEN, CONFIRMED):
            alone = judged(plate(), context, **held).decision
            self.assertEqual(alone.key, "low_hangs")
            self.assertIn("hangs on the liquid clamp alone", alone.reason.text("ip"))
            self.assertEqual(
                (alone.hangs_on.kind, alone.hangs_on.key), ("reading", "liquid_line_temp_indoor")
            )
        for second in ({"lli": 98}, {"di": 98.5}):
            self.assertEqual(judged(plate(), SEEN, **held, **second).decision.advice, "add")
        apart = judged(plate(), SEEN, **held, di=92).decision  # the two clamps disagree
        self.assertNotEqual(apart.advice, "add")
        in_sun = judged(plate(), SEEN, **{**held, "oa": 94}, di=98.5).decision  # approach is right
        self.assertNotEqual(in_sun.advice, "add")

    def test_a_clamp_that_the_other_side_bears_out_is_moved_and_read_again(self):
        five = _without(LOW, "sa")  # subcooling low, and superheat over its window besides
        asked = judged(plate(), SEEN, **five).decision
        self.assertEqual((asked.key, asked.hangs_on.key), ("low_hangs", "liquid_line_temp"))
        self.assertIn("move it", asked.reason.text("ip"))
        self.assertEqual(judged(plate(), CONFIRMED, **five).decision.advice, "add")

    def test_a_gauge_the_rest_speaks_against_is_proved_at_rest(self):
        odd = {"suct": 116, "liq": 306, "sl": 50, "ll": 94, "oa": 86, "ra": 76, "wb": 64, "sa": 58}
        asked = judged(plate(subcooling=12), CONFIRMED, **odd).decision
        self.assertEqual((asked.hangs_on.kind, asked.hangs_on.key), ("look", "standing_pressure"))
        rested = settled(*CONFIRMED.observations, "standing_pressure_right")
        self.assertEqual(judged(plate(subcooling=12), rested, **odd).decision.advice, "add")

    def test_no_liquid_at_all_is_a_leak_though_one_reading_is_still_asked_for(self):
        dry = {**_without(LOW, "sa"), "sl": 48, "liq": 318, "ll": 99.5}
        found = judged(plate(), SEEN, **dry).decision
        self.assertEqual((found.key, found.advice, found.stage), ("no_liquid", "find_leak", "read"))
        self.assertIsNotNone(found.hangs_on)
        self.assertFalse(found.moves_refrigerant)
        # Less short than its own ±, or no likelier than nine in ten: nothing is said of a leak.
        self.assertEqual(
            judged(plate(), SEEN, **{**dry, "ll": 97}).decision.advice, "do_not_charge"
        )
        # Just proven tight and weighed in: what is missing was never put in.
        tight = Past(weighed_in=True, proven_tight=True)
        self.assertNotEqual(
            judged(plate(), replace(SEEN, past=tight), **dry).decision.advice, "find_leak"
        )

    def test_estimates_and_old_readings_prove_nothing(self):
        for point in (
            "liquid_pressure",
            "liquid_line_temp",
            "suction_line_temp",
            "return_air_temp",
            "outdoor_air_temp",
        ):
            for kind in ("estimated", "stale"):
                with self.subTest(point, kind=kind):
                    context = replace(SEEN, **{kind: frozenset({point})})
                    result = judged(plate(), context, **LOW)
                    self.assertEqual(result.decision.advice, "do_not_charge")
                    self.assertIn(f"readings_{kind}", [b.gate.key for b in result.breaches])

    def test_a_dose_in_vain_and_a_history_of_doses_end_adding(self):
        low = case(plate(), SEEN, **LOW)
        vain = Past((Moment(20, low.readings),), added_since_kg=0.2)
        charge = judged(plate(), replace(SEEN, past=vain), **LOW).decision
        self.assertEqual(charge.advice, "do_not_charge")
        self.assertIn("not getting through", charge.reason.text("ip"))
        for past in (Past(additions=2), Past(recovered_share=0.85)):
            charge = judged(plate(), replace(SEEN, past=past), **LOW).decision
            self.assertEqual(charge.advice, "find_leak")
        self.assertEqual(
            judged(plate(), replace(SEEN, past=Past(additions=1)), **LOW).decision.advice, "add"
        )

    def test_likelier_suspects_have_the_last_word(self):
        ground = _ground(LOW)
        self.assertGreater(ground.standing_low, 0.9)
        self.assertEqual(decide(ground).advice, "add")
        # The same numbers, once something else is made likelier: the door is shut.
        doubtful = weigh(VALVE, departures(ground.case), Told(likelier={"undercharge": 1e-4}))
        verdict = decide(replace(ground, weighing=doubtful))
        self.assertEqual(verdict.advice, "do_not_charge")
        self.assertIn("Settle that first", verdict.reason.text("ip"))

    def test_pressures_that_lean_together_say_nothing_once_the_compressor_is_weighed_away(self):
        # Low charge lowers the head, and so the ratio: only a compressor that is still believed
        # makes that a contradiction.
        ground = _ground(LOW)
        value = ground.marks["pressure_ratio"].value
        ground = _with_mark(ground, Feature("pressure_ratio", value, 3.0, 4.0))
        self.assertLess(ground.belief("inefficient_compressor"), 0.02)
        self.assertEqual(decide(ground).advice, "add")
        likelier = Told(likelier={"inefficient_compressor": 300.0})
        worn = weigh(VALVE, departures(ground.case), likelier)
        self.assertGreater(worn.suspects["inefficient_compressor"], 0.02)
        held = decide(replace(ground, weighing=worn))
        self.assertEqual(held.key, "contradicted")
        self.assertIn("lean towards each other", held.reason.text("ip"))

    def test_suction_at_the_edge_of_what_two_instruments_read_contradicts_nothing(self):
        ground = _ground(LOW)
        value = ground.marks["evaporator_difference"].value
        for over_f, key in ((1.2, "add"), (1.4, "contradicted")):
            edge = Feature("evaporator_difference", value, value + over_f / 1.8, value + 9)
            self.assertEqual(decide(_with_mark(ground, edge)).key, key)

    def test_every_row_says_what_to_do(self):
        for row in (*ADD_PROOF, *REMOVE_PROOF):
            self.assertTrue(row.told_apart_by)
            self.assertTrue(row.if_missing or row.if_contradicted, row)


class RemoveProofTest(unittest.TestCase):
    def test_the_whole_proof_is_enough(self):
        never = settled(*SEEN.observations, "circuit_never_opened")
        for context in (never, settled(*SEEN.observations, "standing_pressure_right")):
            charge = judged(plate(), context, **HIGH).decision
            self.assertEqual((charge.state, charge.advice), ("high", "remove"))
            self.assertIn("never to air", charge.reason.text("ip"))

    def test_air_in_the_system_is_parted_first(self):
        result = judged(plate(), SEEN, **HIGH)
        self.assertEqual(result.decision.advice, "do_not_charge")
        self.assertEqual(result.decision.hangs_on.key, "standing_pressure")
        self.assertIn("standing_pressure", [p.check.key for p in result.checks[:2]])
        opened = judged(plate(), settled(*SEEN.observations, "circuit_opened_recently"), **HIGH)
        self.assertEqual(opened.decision.advice, "do_not_charge")

    def test_each_missing_look_is_asked_for(self):
        for seen, asks in (
            (("condenser_fan_ok",), "outdoor coil"),
            (("condenser_coil_clean",), "outdoor fan"),
        ):
            with self.subTest(asks):
                charge = judged(plate(), settled(*seen), **HIGH).decision
                self.assertEqual((charge.state, charge.advice), ("high", "do_not_charge"))
                self.assertIn(asks, charge.reason.text("ip"))

    def test_high_superheat_with_a_full_line_is_a_restriction_not_an_overcharge(self):
        charge = judged(plate(), SEEN, **{**HIGH, "suct": 90, "sl": 62}).decision
        self.assertEqual((charge.state, charge.advice), ("unknown", "do_not_charge"))
        self.assertIn("not getting through", charge.reason.text("ip"))

    def test_an_orifice_needs_its_air_seen_before_anything_is_removed(self):
        orifice = plate("fixed_orifice", subcooling=None)
        never = settled(*SEEN.observations, "circuit_never_opened")
        charge = judged(orifice, never, **ORIFICE_HIGH).decision
        self.assertEqual((charge.state, charge.advice), ("high", "remove"))
        without_split = _without(ORIFICE_HIGH, "sa")
        charge = judged(orifice, never, **without_split).decision
        self.assertEqual(charge.advice, "do_not_charge")
        self.assertIn("rule out low indoor air", charge.reason.text("ip"))

    def test_a_large_split_asks_for_the_airflow_and_not_for_the_air_that_was_read(self):
        orifice = plate("fixed_orifice", subcooling=None)
        never = settled(*SEEN.observations, "circuit_never_opened")
        large = {**ORIFICE_HIGH, "sa": 50}
        asked = judged(orifice, never, **large).decision
        self.assertEqual((asked.key, asked.hangs_on.key), ("indoor_air_open", "airflow"))
        self.assertNotIn("measure supply air", asked.reason.text("ip"))
        sized = plate("fixed_orifice", subcooling=None, nominal_capacity_w=10_551.0)
        guessed = replace(never, estimated=frozenset({"airflow"}))
        for of, context, is_open in (
            (sized, never, False),
            (orifice, never, True),  # of what size? Then no airflow is known to be right
            (sized, guessed, True),
        ):
            found = judged(of, context, **large, cfm=1200).decision
            self.assertEqual(found.key == "indoor_air_open", is_open)

    def test_nothing_wrong_is_not_something_to_settle_first(self):
        said = decide(_ground(HIGH, Told(likelier={"overcharge": 1e-6, "none": 1e6})))
        self.assertEqual((said.key, said.moves_refrigerant), ("high_another_leads", False))
        self.assertNotIn("Settle that first", said.reason.text("ip"))


class ValveNeedTest(unittest.TestCase):
    def test_a_starved_valve_is_never_judged_however_full_it_looks(self):
        charge = judged(plate(), SEEN, suct=110, liq=250, sl=62, ll=70, oa=72, ra=76).decision
        self.assertEqual((charge.state, charge.advice), ("unknown", "do_not_charge"))
        self.assertIn("needs about 160 psi", charge.reason.text("ip"))
        self.assertIn(f"{160 * KPA_PER_PSI:.0f} kPa", charge.reason.text("si"))
