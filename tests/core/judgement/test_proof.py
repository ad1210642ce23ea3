"""Every row of both proofs, broken one at a time: no look-alike slips through alone."""

import unittest

from nudge.core.circuit.case import Context
from nudge.core.judgement.charge import judge_charge
from nudge.core.judgement.features import features
from nudge.core.judgement.proof import ADD_PROOF, REMOVE_PROOF
from nudge.core.judgement.suspect_table import SUSPECTS
from nudge.core.targets.choose import choose_targets
from nudge.core.units import KPA_PER_PSI
from tests.core.field import case, judged, plate, settled

SEEN = settled("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
LOW = {"suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86, "ra": 76, "wb": 63}
HIGH = {"suct": 122, "liq": 400, "sl": 52, "ll": 96, "oa": 88, "ra": 76, "wb": 63}
ORIFICE_HIGH = {"suct": 135, "liq": 380, "sl": 50, "ll": 92, "oa": 88, "ra": 76, "wb": 67, "sa": 57}


def _without(readings, *names):
    return {name: value for name, value in readings.items() if name not in names}


class AddProofTest(unittest.TestCase):
    def test_the_whole_proof_is_enough(self):
        self.assertEqual(judged(plate(), SEEN, **LOW).charge.advice, "add")

    def test_each_missing_measurement_is_asked_for(self):
        for name, readings, context, asks in (
            ("liquid side", _without(LOW, "ll"), SEEN, "liquid pressure and liquid line"),
            ("suction line", _without(LOW, "sl"), SEEN, "suction pressure and suction line"),
            ("return air", _without(LOW, "ra", "wb"), SEEN, "return air"),
            ("outdoor air", _without(LOW, "oa"), SEEN, "outdoor air"),
            ("run time", LOW, Context(None, None, SEEN.observations), "when the system was started"),
        ):  # fmt: skip
            with self.subTest(name):
                charge = judged(plate(), context, **readings).charge
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
            ("drier step", {"di": 96, "do": 90}, "drier drops"),
            ("large split", {"sa": 50}, "split is large"),
        ):
            with self.subTest(name):
                charge = judged(plate(), SEEN, **{**LOW, **changed}).charge
                self.assertNotEqual(charge.advice, "add")
                self.assertIn(says.lower(), charge.reason.text("ip").lower())

    def test_each_thing_seen_wrong_stops_it(self):
        for seen in ("filter_dirty", "evaporator_coil_dirty", "condenser_coil_dirty",
                     "blower_capacitor_weak", "ice_on_coil"):  # fmt: skip
            with self.subTest(seen):
                self.assertEqual(
                    judged(plate(), settled(seen), **LOW).charge.advice, "do_not_charge"
                )

    def test_oil_at_a_joint_is_a_leak_to_find(self):
        self.assertEqual(
            judged(plate(), settled("oil_seen_at_joint"), **LOW).charge.advice, "find_leak"
        )

    def test_unsettled_is_never_add(self):
        for context in (Context(9, 9), Context(60, 2), Context(14.9, 30), Context()):
            with self.subTest(context):
                self.assertEqual(judged(plate(), context, **LOW).charge.advice, "do_not_charge")

    def test_a_guessed_target_needs_superheat_to_agree(self):
        guess = plate(subcooling=None)
        charge = judged(guess, SEEN, **LOW).charge
        self.assertEqual(charge.advice, "add")
        self.assertIn("is a guess", charge.reason.text("ip"))
        held = judged(guess, SEEN, **{**LOW, "sl": 48}).charge
        self.assertEqual((held.state, held.advice), ("low", "do_not_charge"))
        self.assertIn("on the plate", held.reason.text("ip"))
        self.assertEqual(judged(plate(), SEEN, **{**LOW, "sl": 48}).charge.advice, "add")

    def test_a_likelier_suspect_has_the_last_word(self):
        low = case(plate(), SEEN, **LOW)
        targets = choose_targets(low)
        marks = features(low, targets)
        for leader, advice in (("undercharge", "add"), ("metering_overfeed", "do_not_charge")):
            verdict = judge_charge(low, targets, marks, [], [], SUSPECTS[leader])
            self.assertEqual(verdict.advice, advice)

    def test_every_row_says_what_to_do(self):
        for row in (*ADD_PROOF, *REMOVE_PROOF):
            self.assertTrue(row.told_apart_by)
            self.assertTrue(row.if_missing or row.if_contradicted, row)


class RemoveProofTest(unittest.TestCase):
    def test_the_whole_proof_is_enough(self):
        charge = judged(plate(), SEEN, **HIGH).charge
        self.assertEqual((charge.state, charge.advice), ("high", "remove"))
        self.assertIn("never to air", charge.reason.text("ip"))

    def test_each_missing_look_is_asked_for(self):
        for seen, asks in (
            (("condenser_fan_ok",), "outdoor coil"),
            (("condenser_coil_clean",), "outdoor fan"),
        ):
            with self.subTest(asks):
                charge = judged(plate(), settled(*seen), **HIGH).charge
                self.assertEqual((charge.state, charge.advice), ("high", "do_not_charge"))
                self.assertIn(asks, charge.reason.text("ip"))

    def test_high_superheat_with_a_full_line_is_a_restriction_not_an_overcharge(self):
        charge = judged(plate(), SEEN, **{**HIGH, "suct": 90, "sl": 62}).charge
        self.assertEqual((charge.state, charge.advice), ("unknown", "do_not_charge"))
        self.assertIn("not getting through", charge.reason.text("ip"))

    def test_an_orifice_needs_its_air_seen_before_anything_is_removed(self):
        orifice = plate("fixed_orifice", subcooling=None)
        charge = judged(orifice, SEEN, **ORIFICE_HIGH).charge
        self.assertEqual((charge.state, charge.advice), ("high", "remove"))
        without_split = _without(ORIFICE_HIGH, "sa")
        charge = judged(orifice, SEEN, **without_split).charge
        self.assertEqual(charge.advice, "do_not_charge")
        self.assertIn("rule out low indoor air", charge.reason.text("ip"))


class ValveNeedTest(unittest.TestCase):
    def test_a_starved_valve_is_never_judged_however_full_it_looks(self):
        charge = judged(plate(), SEEN, suct=110, liq=250, sl=62, ll=70, oa=72, ra=76).charge
        self.assertEqual((charge.state, charge.advice), ("unknown", "do_not_charge"))
        self.assertIn("needs about 160 psi", charge.reason.text("ip"))
        self.assertIn(f"{160 * KPA_PER_PSI:.0f} kPa", charge.reason.text("si"))
