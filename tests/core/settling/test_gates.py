import unittest

from nudge.core.behaviours.case import Context
from nudge.core.settling.collar import valve_need_kpa
from nudge.core.settling.gates import open_gates
from nudge.core.settling.trust import distrust
from nudge.core.targets.choose import choose_targets
from tests.core.field import SETTLED, Application, case, plate, settled

GOOD = {"suct": 118, "liq": 341, "sl": 52, "ll": 96, "oa": 88, "ra": 76, "wb": 64}


def _shut(of=None, context=SETTLED, **changed):
    found = case(of, context, **{**GOOD, **changed})
    return {b.gate.key: b.effect for b in open_gates(found, choose_targets(found))}


class GatesTest(unittest.TestCase):
    def test_limits_that_depend_on_the_device_or_on_what_else_was_read(self):
        """Each gate's own limit is held in `test_every_gate`."""
        orifice, sized = plate("fixed_orifice"), plate(nominal_capacity_w=10_550.0)
        measured = {"of": sized, "tesp": 0.9, "cfm": 1200, "ra": 76, "wb": 64, "sa": 57}
        for key, effect, shut, stays_open in (
            # Cold air outdoors starves a valve too, but where subcooling is low nothing stacks.
            ("valve_starved", "blocks", {"suct": 100, "liq": 250, "sl": 44, "ll": 76, "oa": 64},
             {"suct": 100, "liq": 250, "sl": 52, "ll": 80, "oa": 64}),
            ("run_short", "blocks", {"of": plate("eev"), "context": Context(29)},
             {"of": plate("eev"), "context": Context(30)}),
            ("just_changed", "blocks", {"of": orifice, "context": Context(60, 5)},
             {"of": orifice, "context": Context(60, 6)}),
            ("duct_unmeasured", "blocks", {"of": sized, "tesp": 0.9}, measured),
            ("duct_trouble", "warns", measured, {"tesp": 0.9}),
            ("duct_unmeasured", "blocks", {"fd": 0.21}, {"fd": 0.19}),
            ("air_unseen", "warns", {}, {"context": settled("airflow_ok")}),
        ):  # fmt: skip
            with self.subTest(key, shut=shut):
                self.assertEqual(_shut(**shut).get(key), effect)
                self.assertNotIn(key, _shut(**stays_open))

    def test_unread_air_warns(self):
        found = case(suct=118, liq=341, sl=52, ll=96)
        keys = {b.gate.key for b in open_gates(found, choose_targets(found))}
        self.assertLessEqual({"return_air_unknown", "outdoor_air_unknown"}, keys)

    def test_an_approach_plate_may_be_judged_from_65(self):
        self.assertNotIn("outdoor_below_70", _shut(plate(approach_k=5.0), oa=66))
        self.assertIn("outdoor_below_70", _shut(plate(approach_k=5.0), oa=64))

    def test_only_comfort_cooling_is_judged(self):
        for application in Application:
            shut = _shut(plate(application=application))
            judged = application is Application.COMFORT_COOLING
            self.assertEqual("application_not_judged" not in shut, judged)

    def test_valve_need_scales_with_saturation_pressure(self):
        # At 40 °C: R-22 1534 kPa abs, R-407C about 1745 (bubble), R-134a 1017.
        for name, psi in (("R-22", 100), ("R-410A", 160), ("R-407C", 114), ("R-134a", 66)):
            self.assertAlmostEqual(valve_need_kpa(name) / 6.894757, psi, delta=1.5)


class TrustTest(unittest.TestCase):
    def test_each_impossibility_is_found_and_its_neighbour_is_not(self):
        for key, impossible, possible in (
            ("liquid_under_ambient", {"ll": 85.8}, {"ll": 86.2}),
            ("liquid_over_saturation", {"ll": 108}, {"ll": 106}),
            ("suction_under_saturation", {"sl": 37}, {"sl": 39}),
            ("clamps_exchanged", {"sl": 96, "ll": 52}, {}),
            ("pressures_exchanged", {"suct": 341, "liq": 118}, {}),
            ("wet_bulb_over_dry", {"wb": 78}, {"wb": 76.5}),
        ):
            with self.subTest(key):
                self.assertIn(key, [c.key for c, _ in distrust(case(**{**GOOD, **impossible}))])
                self.assertNotIn(key, [c.key for c, _ in distrust(case(**{**GOOD, **possible}))])

    def test_an_empty_system_is_not_called_a_bad_clamp(self):
        self.assertEqual(distrust(case(suct=60, liq=200, sl=80, ll=76, oa=75)), [])
