import unittest

import CoolProp.CoolProp as reference
import psychrolib

from nudge.plant.fluid import load_fluid
from nudge.plant.inventory import two_phase_rho
from nudge.plant.wet_air import WetAir, air_of, saturated_enthalpy, surface_of


class FluidTest(unittest.TestCase):
    def test_quick_properties_agree_with_the_reference(self):
        for name, pseudo in [("R-22", "R22"), ("R-32", "R32"), ("R-134a", "R134a")]:
            fluid = load_fluid(name)
            zero_h = reference.PropsSI("H", "T", 273.15, "Q", 0, pseudo) / 1000 - 200
            for kpa in (350.0, 930.0, 2150.0):
                with self.subTest(name, kpa=kpa):
                    at = fluid.at(kpa)
                    dew_k = reference.PropsSI("T", "P", kpa * 1000, "Q", 1, pseudo)
                    self.assertAlmostEqual(at.dew_c + 273.15, dew_k, delta=0.05)
                    gas = fluid.vapour(kpa, at.dew_c + 25, at)
                    h = reference.PropsSI("H", "P", kpa * 1000, "T", dew_k + 25, pseudo) / 1000
                    rho = reference.PropsSI("D", "P", kpa * 1000, "T", dew_k + 25, pseudo)
                    self.assertAlmostEqual(gas.enthalpy, h - zero_h, delta=1.0)
                    self.assertAlmostEqual(gas.rho / rho, 1, delta=0.015)

    def test_an_enthalpy_or_entropy_leads_back_to_its_vapour(self):
        fluid = load_fluid("R-454B")
        at = fluid.at(2400)
        gas = fluid.vapour(2400, at.dew_c + 31, at)
        self.assertAlmostEqual(fluid.vapour_by_enthalpy(2400, gas.enthalpy, at).temp_c, gas.temp_c)
        self.assertAlmostEqual(fluid.vapour_by_entropy(2400, gas.entropy, at).temp_c, gas.temp_c)

    def test_void_fraction_lies_between_equal_speed_and_all_vapour(self):
        at = load_fluid("R-410A").at(1000)
        mean = two_phase_rho(at, 0.2, 1.0)
        self.assertGreater(mean, at.vapour_rho)
        self.assertLess(mean, at.liquid_rho / 4)
        self.assertAlmostEqual(two_phase_rho(at, 1, 1), at.vapour_rho, places=6)
        self.assertAlmostEqual(two_phase_rho(at, 0, 0), at.liquid_rho, places=6)
        # By hand at x = 0.5: alpha = 1/(1 + (38.5/1140)^(2/3)) = 0.9054.
        slip = (at.vapour_rho / at.liquid_rho) ** (2 / 3)
        by_hand = at.liquid_rho - (at.liquid_rho - at.vapour_rho) / (1 + slip)
        self.assertAlmostEqual(two_phase_rho(at, 0.5, 0.5), by_hand, places=6)


class WetAirTest(unittest.TestCase):
    def test_air_agrees_with_the_published_formulas(self):
        psychrolib.SetUnitSystem(psychrolib.SI)
        for dry, humidity in [(26.7, 51), (35, 40), (2, 85), (21, 30), (-8, 70)]:
            with self.subTest(dry=dry, humidity=humidity):
                air = air_of(dry, humidity)
                ratio = psychrolib.GetHumRatioFromRelHum(dry, humidity / 100, 101_325)
                self.assertAlmostEqual(air.ratio / ratio, 1, delta=0.003)
                wet = psychrolib.GetTWetBulbFromRelHum(dry, humidity / 100, 101_325)
                self.assertAlmostEqual(air.wet_bulb_c, wet, delta=0.1)
                self.assertAlmostEqual(air.relative_humidity, humidity, delta=1e-6)

    def test_a_surface_is_found_back_from_its_enthalpy(self):
        for temp_c in (-5.0, 4.0, 14.0, 27.0):
            held = saturated_enthalpy(temp_c, 101.325)
            self.assertAlmostEqual(surface_of(held, 101.325), temp_c, places=3)
        self.assertLess(WetAir(30, 0.01, 85).relative_humidity, air_of(30, 50).relative_humidity)
