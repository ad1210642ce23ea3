"""The packaged state tables against their source between the nodes, and against published points."""

import random
import unittest

import CoolProp

from nudge.core.language.errors import OutOfRange
from nudge.core.physics.refrigerant.catalogue import CATALOGUE
from nudge.core.physics.refrigerant.states import load_states
from tools.make_tables import reference_state

BELOW_CRITICAL_K = 8.0


class BetweenNodesTest(unittest.TestCase):
    def test_liquid_and_vapour_are_near_the_source(self):
        chance = random.Random(20)
        for name, fluid in CATALOGUE.items():
            states = load_states(name)
            table = states.saturation
            gas, liquid = reference_state(fluid), reference_state(fluid)
            gas.specify_phase(CoolProp.iphase_gas)
            liquid.specify_phase(CoolProp.iphase_liquid)
            liquid.update(CoolProp.PT_INPUTS, table.bubble.pressure(0) * 1e3, 273.15)
            zero_h, zero_s = liquid.hmass() / 1e3 - 200, liquid.smass() / 1e3 - 1
            top = min(65.0, table.critical_c - BELOW_CRITICAL_K)
            with self.subTest(name):
                for _ in range(150):
                    temp_c = chance.uniform(-50, top)
                    dew_kpa, bubble_kpa = table.dew.pressure(temp_c), table.bubble.pressure(temp_c)
                    hot, cold = temp_c + chance.uniform(0.1, 100), temp_c - chance.uniform(0.1, 38)
                    for found, reference, kpa, at_c in (
                        (states.vapour(dew_kpa, hot), gas, dew_kpa, hot),
                        (states.liquid_grid.at(bubble_kpa, cold), liquid, bubble_kpa, cold),
                    ):
                        reference.update(CoolProp.PT_INPUTS, kpa * 1e3, at_c + 273.15)
                        self.assertLess(abs(found.density / reference.rhomass() - 1), 0.01)
                        self.assertLess(abs(found.enthalpy - reference.hmass() / 1e3 + zero_h), 0.5)
                        self.assertLess(
                            abs(found.entropy - reference.smass() / 1e3 + zero_s), 0.0015
                        )


class PublishedPointsTest(unittest.TestCase):
    def test_saturated_states_of_r134a(self):
        # ASHRAE Fundamentals 2017, chapter 30, R-134a at 0 and 40 °C (IIR reference).
        states = load_states("R-134a")
        for temp_c, density, h_liquid, h_vapour, s_vapour in (
            (0.0, 1294.8, 200.00, 398.60, 1.7271),
            (40.0, 1146.7, 256.41, 419.43, 1.7111),
        ):
            liquid = states.liquid(temp_c)
            vapour = states.vapour(states.saturation.dew.pressure(temp_c))
            self.assertAlmostEqual(liquid.density, density, delta=0.6)
            self.assertAlmostEqual(liquid.enthalpy, h_liquid, delta=0.1)
            self.assertAlmostEqual(vapour.enthalpy, h_vapour, delta=0.15)
            self.assertAlmostEqual(vapour.entropy, s_vapour, delta=0.0006)


class BehaviourTest(unittest.TestCase):
    def test_the_wrong_side_of_saturation_is_refused(self):
        states = load_states("R-410A")
        kpa = states.saturation.dew.pressure(5.0)
        with self.assertRaises(OutOfRange) as wet:
            states.vapour(kpa, 4.0)
        self.assertIn("R-410A vapour", wet.exception.text("ip"))
        with self.assertRaises(OutOfRange):
            states.liquid(40.0, states.saturation.bubble.pressure(30.0))
        for temp_c in (200.0, float("nan")):
            with self.assertRaises(OutOfRange):
                states.vapour(kpa, temp_c)

    def test_compressing_without_loss_heats_and_keeps_entropy(self):
        for name in ("R-410A", "R-22", "R-290", "R-454B"):
            states = load_states(name)
            table = states.saturation
            start = states.vapour(table.dew.pressure(5.0), 12.0)
            end = states.vapour_at_entropy(table.dew.pressure(45.0), start.entropy)
            self.assertAlmostEqual(end.entropy, start.entropy, delta=1e-6)
            self.assertGreater(end.temp_c, 45.0)
            self.assertGreater(end.enthalpy, start.enthalpy + 15)
            with self.assertRaises(OutOfRange):
                states.vapour_at_entropy(table.dew.pressure(45.0), 9.0)
