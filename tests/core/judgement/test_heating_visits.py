"""A visit in heating: what it is told, and that it is never told to move refrigerant."""

import random
import unittest

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import assess
from nudge.core.judgement.zero_superheat import CHAIN, follow
from nudge.core.language.units import to_si
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, Plate

W = 0.29307107
TXV, EEV, ORIFICE = MeteringDevice.TXV, MeteringDevice.EEV, MeteringDevice.FIXED_ORIFICE
AIRS = {
    "return_air_temp": 69.0,
    "supply_air_temp": 92.0,
    "outdoor_air_temp": 38.0,
    "airflow": 1_150.0,
}
GAUGES = {
    "suction_pressure": 95.0,
    "liquid_pressure": 330.0,
    "true_suction_temp": 40.0,
    "liquid_line_temp": 85.0,
}
FLOODED = AIRS | GAUGES | {"true_suction_temp": 27.0}


def plate(device=TXV):
    return Plate(
        "R-410A",
        device,
        Application.HEAT_PUMP_HEATING,
        heat_47_w=36_000 * W,
        heat_17_w=22_500 * W,
        power_47_w=3_000.0,
        power_17_w=2_600.0,
    )


def judged(given, seen=(), minutes=40.0, device=TXV):
    readings = {key: to_si(value, POINTS[key].quantity, "ip") for key, value in given.items()}
    return assess(plate(device), readings, Context(minutes, observations=frozenset(seen)))


class DecisionTest(unittest.TestCase):
    def test_what_it_is_told(self):
        watts = {"outdoor_unit_watts": 2_480.0, "indoor_unit_watts": 350.0}
        for given, seen, key in (
            (AIRS | watts, (), "heat_right"),
            (AIRS | {"supply_air_temp": 84.0}, (), "heat_short"),
            (AIRS | {"supply_air_temp": 103.0}, (), "heat_over"),
            (AIRS | watts | {"outdoor_unit_watts": 3_900.0}, (), "heat_dear"),
            (AIRS, ("strips_on",), "heat_spoilt"),
            (AIRS | {"supply_air_temp": 55.0}, (), "heat_spoilt"),
            (AIRS, ("in_defrost",), "heat_not_yet"),
            (AIRS | {"outdoor_air_temp": 68.0}, (), "heat_not_yet"),
            ({"outdoor_air_temp": 38.0}, (), "heat_unread"),
            (FLOODED, (), "heat_no_superheat"),
            (AIRS | GAUGES | {"suction_pressure": 310.0}, (), "heat_gauge_on_hot_gas"),
            ({"suction_pressure": 180.0, "liquid_pressure": 185.0}, (), "standing"),
        ):
            with self.subTest(key, given=given):
                found = judged(given, seen).decision
                self.assertEqual(found.key, key)
                self.assertEqual(found.advice, "do_not_charge")

    def test_half_an_hour_at_its_stage(self):
        self.assertEqual(judged(AIRS, minutes=20.0).decision.key, "heat_not_yet")
        self.assertEqual(judged(AIRS, minutes=31.0).decision.key, "heat_right")

    def test_a_defrost_in_mid_reading_is_set_aside_whatever_was_read(self):
        self.assertEqual(judged(FLOODED, ("in_defrost",)).decision.key, "heat_not_yet")

    def test_short_heat_asks_for_what_settles_most_and_then_for_something_else(self):
        cold = AIRS | {"supply_air_temp": 84.0}
        first = judged(cold)
        self.assertEqual(first.decision.key, "heat_short")
        self.assertEqual(first.decision.hangs_on.key, first.checks[0].check.key)
        gauges = {key: GAUGES[key] for key in ("suction_pressure", "true_suction_temp")}
        after = judged(cold | gauges, ("filter_clean",))
        self.assertNotIn(after.decision.hangs_on.key, ("look_at_filter", "read_true_suction"))

    def test_an_iced_coil_is_named_and_its_own_look_asked_first(self):
        starved = (
            AIRS
            | GAUGES
            | {
                "supply_air_temp": 85.0,
                "suction_pressure": 62.0,
                "true_suction_temp": 22.0,
                "condenser_leaving_air_temp": 20.0,
            }
        )
        found = judged(starved)
        self.assertIn(found.suspects[0].suspect.key, ("outdoor_coil_iced", "condenser_airflow"))
        seen = judged(starved, ("outdoor_coil_ice",))
        self.assertEqual(seen.suspects[0].suspect.key, "outdoor_coil_iced")
        self.assertEqual(seen.decision.key, "heat_suspect")
        self.assertIn("Melt it", seen.decision.reason.text("ip"))

    def test_low_charge_is_named_and_weighed_never_added_to(self):
        starved = (
            AIRS
            | GAUGES
            | {
                "supply_air_temp": 84.0,
                "suction_pressure": 70.0,
                "true_suction_temp": 40.0,
                "liquid_pressure": 270.0,
                "liquid_line_temp": 88.0,
            }
        )
        found = judged(starved)
        self.assertEqual(found.suspects[0].suspect.key, "undercharge")
        self.assertEqual(found.decision.key, "heat_suspect")
        self.assertEqual(found.decision.advice, "do_not_charge")
        self.assertIn("weigh it", found.decision.reason.text("ip").lower())

    def test_nothing_ever_moves_refrigerant(self):
        rng = random.Random(3)
        points = [*AIRS, *GAUGES, "outdoor_unit_watts", "strip_amps", "discharge_line_temp"]
        seen = ("strips_on", "in_defrost", "low_probe_true", "bulb_loose", "filter_dirty")
        for _ in range(600):
            given = {
                "return_air_temp": rng.uniform(60, 76),
                "supply_air_temp": rng.uniform(60, 120),
                "outdoor_air_temp": rng.uniform(-5, 75),
                "airflow": rng.uniform(400, 2_000),
                "suction_pressure": rng.uniform(20, 320),
                "liquid_pressure": rng.uniform(150, 500),
                "true_suction_temp": rng.uniform(-20, 80),
                "liquid_line_temp": rng.uniform(60, 130),
                "outdoor_unit_watts": rng.uniform(1, 6_000),
                "strip_amps": rng.choice((0.0, 0.0, 20.0)),
                "discharge_line_temp": rng.uniform(90, 260),
            }
            kept = {key: given[key] for key in points if rng.random() < 0.8}
            found = judged(kept, [one for one in seen if rng.random() < 0.1], rng.uniform(1, 60))
            self.assertIn(found.decision.advice, ("do_not_charge", "leave"), kept)
            self.assertIsNone(found.decision.dose)
            said = f"{found.decision.headline} {found.decision.reason.text('ip')}".lower()
            self.assertNotIn("add refrigerant", said)


class ChainTest(unittest.TestCase):
    """Zero superheat, followed to a named outcome."""

    def outcome(self, truth, device=TXV):
        """Make the proof that is asked for until there is an outcome; how many it took."""
        bad = {link.check: link for link in CHAIN}
        seen, made = [], 0
        while True:
            found = judged(FLOODED, seen, device=device)
            chain = follow(found.case)
            if chain.outcome is not None:
                return chain.outcome, made
            link = bad[chain.check.key]
            self.assertEqual(found.decision.hangs_on.key, chain.check.key)
            seen.append(link.found if link.found == truth else chain.check.look.no)
            made += 1

    def test_every_cause_comes_to_its_outcome(self):
        for device, truth, outcome, most in (
            (TXV, "low_probe_off", "probe", 1),
            (TXV, "true_suction_misplaced", "probe", 2),
            (TXV, "bulb_loose", "sensing", 3),
            (EEV, "thermistor_off", "sensing", 3),
            (TXV, "check_valve_leaks", "bypass", 4),
            (TXV, "bulb_test_no_reaction", "valve", 5),
            (EEV, "valve_steps_dead", "valve", 5),
            (TXV, "", "cannot_tell", 5),
            (EEV, "", "cannot_tell", 5),
            (ORIFICE, "", "cannot_tell", 3),
        ):
            with self.subTest(device=device, truth=truth):
                found, made = self.outcome(truth, device)
                self.assertEqual(found, outcome)
                self.assertLessEqual(made, most)

    def test_it_is_not_followed_where_superheat_is_there(self):
        self.assertEqual(judged(AIRS | GAUGES).decision.key, "heat_right")


if __name__ == "__main__":
    unittest.main()
