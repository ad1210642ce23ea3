"""State tables against thermodynamics itself: relations that hold whatever made the tables."""

import random
import unittest
from itertools import pairwise

from nudge.core.physics.refrigerant.catalogue import CATALOGUE
from nudge.core.physics.refrigerant.states import load_states

PURE = [name for name, fluid in CATALOGUE.items() if not fluid.is_blend]


class StatePhysicsTest(unittest.TestCase):
    def test_clausius_clapeyron(self):
        # dp/dT = (h_v - h_l) / (T (v_v - v_l)), pure fluids: joins the curve to the states.
        for name in PURE:
            states = load_states(name)
            table = states.saturation
            for temp_c in range(-30, int(min(50, table.critical_c - 15)), 7):
                slope = (table.dew.pressure(temp_c + 1.5) - table.dew.pressure(temp_c - 1.5)) / 3
                liquid, vapour = states.liquid(temp_c), states.vapour(table.dew.pressure(temp_c))
                volumes = 1 / vapour.density - 1 / liquid.density
                expected = (vapour.enthalpy - liquid.enthalpy) / ((temp_c + 273.15) * volumes)
                with self.subTest(fluid=name, temp_c=temp_c):
                    self.assertAlmostEqual(slope / expected, 1, delta=0.01)

    def test_boiling_entropy_is_boiling_heat_over_temperature(self):
        for name in PURE:
            states = load_states(name)
            for temp_c in (-20, 0, 20):
                liquid = states.liquid(temp_c)
                vapour = states.vapour(states.saturation.dew.pressure(temp_c))
                heat = (vapour.enthalpy - liquid.enthalpy) / (temp_c + 273.15)
                self.assertAlmostEqual(vapour.entropy - liquid.entropy, heat, delta=0.002)

    def test_vapour_grows_hotter_lighter_and_richer_with_superheat(self):
        chance = random.Random(5)
        for name in CATALOGUE:
            states = load_states(name)
            for _ in range(25):
                kpa = states.saturation.dew.pressure(chance.uniform(-45, 10))
                dew_c = states.saturation.dew.temperature(kpa)
                line = [states.vapour(kpa, dew_c + k) for k in (0, 5, 15, 40, 80)]
                for cool, hot in pairwise(line):
                    self.assertGreater(hot.enthalpy, cool.enthalpy)
                    self.assertGreater(hot.entropy, cool.entropy)
                    self.assertLess(hot.density, cool.density)

    def test_thin_vapour_is_nearly_an_ideal_gas(self):
        # Density x R T / p over molar mass is 1 - a little: between 0.9 and 1 at -40 °C dew.
        molar = {
            "R-22": 86.47,
            "R-32": 52.02,
            "R-134a": 102.03,
            "R-290": 44.10,
            "R-600a": 58.12,
            "R-744": 44.01,
            "R-1234yf": 114.04,
            "R-1234ze(E)": 114.04,
        }
        for name in PURE:
            states = load_states(name)
            kpa = max(states.saturation.dew.pressure(-45), states.saturation.low_kpa)
            state = states.vapour(kpa, 30.0)
            z = kpa * molar[name] / (state.density * 8.314463 * 303.15)
            with self.subTest(name):
                self.assertTrue(0.9 < z < 1.0, z)

    def test_liquid_hardly_cares_for_pressure(self):
        for name in sorted(set(CATALOGUE) - {"R-744"}):  # near its critical point already
            states = load_states(name)
            table = states.saturation
            saturated = states.liquid(10.0)
            pressed = states.liquid(10.0, table.bubble.pressure(20.0))
            self.assertAlmostEqual(pressed.density / saturated.density, 1, delta=0.02)
            self.assertAlmostEqual(pressed.enthalpy, saturated.enthalpy, delta=1.0)
