import unittest
from dataclasses import replace

from nudge.core.behaviours.case import Context
from nudge.core.language.said import say
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
    def test_each_gate_shuts_just_past_its_limit_and_not_at_it(self):
        orifice, sized = plate("fixed_orifice"), plate(nominal_capacity_w=10_550.0)
        moving = Context(20, 15, unsettled=say("About 3 min more to settle."))
        early = replace(moving, passed={"not_settled": "the shop closes"})
        for key, effect, shut, stays_open in (
            ("indoor_below_70", "blocks", {"ra": 69.9}, {"ra": 70}),
            ("outdoor_below_70", "blocks", {"oa": 69.9}, {"oa": 70}),
            ("valve_pressure_low", "warns", {"suct": 118, "liq": 277}, {"suct": 118, "liq": 279}),
            # It blocks where liquid stacks: subcooling over its window and superheat high.
            ("valve_starved", "blocks", {"suct": 100, "liq": 250, "sl": 52, "ll": 66, "oa": 72},
             {"suct": 100, "liq": 250, "sl": 44, "ll": 66, "oa": 72}),
            ("valve_starved", "blocks", {"suct": 100, "liq": 250, "sl": 44, "ll": 76, "oa": 64},
             {"suct": 100, "liq": 250, "sl": 52, "ll": 80, "oa": 64}),
            ("condenser_wet", "blocks", {"context": settled("condenser_wet")},
             {"context": settled("condenser_dry")}),
            ("collar_air_unread", "blocks", {"context": settled("collar_on")},
             {"context": settled("collar_on"), "cea": 78}),
            ("wet_bulb_out_of_range", "blocks", {"of": orifice, "wb": 76.1},
             {"of": orifice, "wb": 75.9}),
            ("outdoor_out_of_range", "blocks", {"of": orifice, "oa": 115.2},
             {"of": orifice, "oa": 114.8}),
            ("superheat_target_too_low", "blocks", {"of": orifice, "wb": 59, "oa": 88},
             {"of": orifice, "wb": 60, "oa": 88}),
            ("run_short", "blocks", {"context": Context(14)}, {"context": Context(15)}),
            ("run_short", "blocks", {"of": plate("eev"), "context": Context(29)},
             {"of": plate("eev"), "context": Context(30)}),
            ("just_changed", "blocks", {"context": Context(60, 9)}, {"context": Context(60, 10)}),
            ("just_changed", "blocks", {"of": orifice, "context": Context(60, 5)},
             {"of": orifice, "context": Context(60, 6)}),
            ("not_running", "blocks", {"suct": 170, "liq": 172}, {}),
            ("filter_dirty", "blocks", {"context": settled("filter_dirty")}, {}),
            ("ice_on_coil", "blocks", {"context": settled("ice_on_coil")}, {}),
            ("blower_capacitor_weak", "blocks", {"context": settled("blower_capacitor_weak")}, {}),
            ("condenser_coil_dirty", "blocks", {"context": settled("condenser_coil_dirty")}, {}),
            ("evaporator_coil_dirty", "blocks", {"context": settled("evaporator_coil_dirty")}, {}),
            ("duct_unmeasured", "blocks", {"tesp": 0.81}, {"tesp": 0.79}),
            ("duct_unmeasured", "blocks", {"of": sized, "tesp": 0.9},
             {"of": sized, "tesp": 0.9, "cfm": 1200, "ra": 76, "wb": 64, "sa": 57}),
            ("duct_trouble", "warns", {"of": sized, "tesp": 0.9, "cfm": 1200, "ra": 76, "wb": 64, "sa": 57}, {"tesp": 0.9}),
            ("duct_unmeasured", "blocks", {"fd": 0.21}, {"fd": 0.19}),
            ("duct_trouble", "warns", {"tesp": 0.6}, {"tesp": 0.45}),
            ("not_settled", "blocks", {"context": moving},
             {"context": replace(moving, unsettled=None)}),
            ("not_settled", "warns", {"context": early}, {"context": replace(early, unsettled=None)}),
            ("running_unknown", "warns", {"context": Context()}, {}),
            ("air_unseen", "warns", {}, {"context": settled("airflow_ok")}),
            ("condenser_unseen", "warns", {}, {"context": settled("condenser_coil_clean")}),
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
