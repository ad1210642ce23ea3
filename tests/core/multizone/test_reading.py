"""Logs of plants no table was made from: read as what is wrong with them, and never dosed."""

import unittest
from dataclasses import replace
from functools import cache
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.checks.table import CHECKS
from nudge.core.judgement.assess import assess
from nudge.core.multizone.patterns import NONE, PATTERNS
from nudge.core.multizone.reading import ZoneDecision, ZoneReading, decided, read_log
from nudge.core.multizone.signs import ZoneSigns
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, Plate
from nudge.plant.zones.built import FAMILIES, built, oversubscribed
from nudge.plant.zones.faults import Wrong
from nudge.plant.zones.running import RunningZones
from nudge.plant.zones.watched import drawn, watched

PLATE = Plate("R-410A", MeteringDevice.EEV, Application.MULTI_ZONE)


@cache
def reading(key="", amount=0.0, unit=-1, serves="cooling", seed=901, rooms=7, charge=0.0):
    rng = Random(f"test {seed}")
    plant = built(rng, serves, FAMILIES["home"], rooms)
    if key == "capacity_short":
        plant = oversubscribed(plant, amount)
    wrong = [Wrong(key, amount, unit)] if key else []
    wrong += [Wrong("low_charge", charge)] if charge else []
    running = RunningZones(plant, wrong, rng, 12 * 3600.0)
    return read_log(watched(running, 3.0, 30.0, rng), drawn(plant)), plant


class ReadingTest(unittest.TestCase):
    def test_what_is_wrong_is_first_and_where(self):
        for key, amount, unit, serves in (
            ("low_charge", 0.36, -1, "cooling"),
            ("overcharge", 0.45, -1, "cooling"),
            ("hot_gas_bypass", 0.2, -1, "cooling"),
            ("reversing_valve_leaking", 0.2, -1, "cooling"),
            ("compressor_not_pumping", 0.5, -1, "cooling"),
            ("capacity_short", 0.5, -1, "cooling"),
            ("valve_stuck_shut", 0.0, 2, "cooling"),
            ("strainer_clogged", 0.8, 3, "cooling"),
            ("indoor_coil_dirty", 0.6, 1, "cooling"),
            ("outdoor_coil", 0.6, -1, "heating"),
        ):
            with self.subTest(key):
                found, plant = reading(key, amount, unit, serves)
                part = "outdoor" if unit < 0 else plant.units[unit].name
                self.assertIn((key, part), found.beliefs[0].carried)
                self.assertAlmostEqual(sum(one.belief for one in found.beliefs), 1.0, delta=1e-9)

    def test_a_charge_and_a_valve_at_once_are_both_named(self):
        """Seven in ten are (`make zones`): of six, four at the least."""
        both = 0
        for n, (key, amount, unit, serves) in enumerate(
            (
                ("valve_stuck_shut", 0.0, 2, "cooling"),
                ("valve_stuck_shut", 0.0, 2, "mixed"),
                ("valve_lost_steps", 0.45, 4, "cooling"),
                ("valve_lost_steps", 0.45, 4, "mixed"),
                ("strainer_clogged", 0.8, 3, "cooling"),
                ("strainer_clogged", 0.8, 3, "mixed"),
            )
        ):
            found, plant = reading(key, amount, unit, serves, 921 + n, charge=0.32)
            carried = {("low_charge", "outdoor"), (key, plant.units[unit].name)}
            both += carried <= set(found.named)
            self.assertFalse(found.decision.moves_refrigerant)
        self.assertGreaterEqual(both, 4)

    def test_healthy_plants_are_left_alone(self):
        # Two or three in a hundred are called ill (`make zones`): of six, one at the most.
        ways = ("cooling", "heating", "mixed") * 2
        found = [reading(serves=way, seed=911 + n)[0] for n, way in enumerate(ways)]
        self.assertLessEqual(sum(one.decision.state == "named" for one in found), 1)

    def test_one_decision_says_it_and_never_moves_refrigerant(self):
        found, _ = reading("low_charge", 0.36)
        decision = assess(PLATE, {}, Context(zones=found)).decision
        self.assertEqual((decision.key, decision.headline), ("zones_named", "Low charge."))
        self.assertFalse(decision.moves_refrigerant)
        text = decision.reason.text("ip")
        self.assertIn("recover", text.lower())
        self.assertIn("smallest room", text)
        self.assertEqual(decision.hangs_on.key, "zone_one_mode")

    def test_every_state_has_its_rule_and_none_advises_a_dose(self):
        signs = ZoneSigns("cooling", {}, {})
        for state, key in (
            ("not_an_hour", "zones_not_an_hour"), ("cannot_tell", "zones_open"),
            ("named", "zones_named"), ("well", "zones_well"),
        ):  # fmt: skip
            zones = ZoneReading(signs, (), ZoneDecision(state, "Said so.", "Because {of} it."))
            for readings in ({}, {"suction_pressure": 500.0, "suction_line_temp": 30.0}):
                decision = assess(PLATE, readings, Context(zones=zones)).decision
                self.assertEqual((decision.key, decision.advice), (key, "do_not_charge"))
        without = assess(PLATE, {"suction_pressure": 800.0}, Context()).decision
        self.assertIn("by its log", without.reason.text("ip"))

    def test_a_charge_is_acted_on_only_with_its_look_alikes_excluded(self):
        found, _ = reading("low_charge", 0.36)
        best = found.beliefs[0]
        unsure = replace(best, belief=0.65)
        like = replace(best, carried=(("accumulator_full", "outdoor"),), belief=0.35)
        self.assertEqual(decided([unsure, like], None).act, "")
        self.assertIn("Full bands", decided([unsure, like], None).reason)
        self.assertIn("leak first", decided([replace(best, belief=0.97)], None).act)

    def test_every_row_stands_on_others_that_are_there(self):
        for row in PATTERNS.values():
            self.assertLessEqual(set(row.look_alikes), set(PATTERNS), row.key)
            self.assertTrue(row.key == NONE or row.check in CHECKS, row.key)
        self.assertAlmostEqual(sum(row.prior for row in PATTERNS.values()), 1.2, delta=0.25)
