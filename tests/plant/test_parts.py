"""Each part of the plant by itself: worked by hand, at its limits, and in its directions."""

import unittest
from dataclasses import replace
from math import sqrt

from nudge.core.physics.refrigerant.states import load_states
from nudge.plant.compressor import compress
from nudge.plant.condenser import condense
from nudge.plant.evaporator import evaporate
from nudge.plant.fluid import load_fluid
from nudge.plant.lines import liquid_line, station, suction_rise
from nudge.plant.machine import Coil, Compressor, Device
from nudge.plant.metering import opening_at, passed, resting, seek
from nudge.plant.presets import preset_machine
from nudge.plant.wet_air import air_of

R410A = load_fluid("R-410A")
STATES = load_states("R-410A")
COIL = Coil(0.004, 1.2, 3.6, 0.6, 1.5, 1.0)


class CompressorTest(unittest.TestCase):
    def stroke(self, low=1000.0, high=2600.0, superheat=8.0, **changes):
        compressor = replace(Compressor(0.002), **changes)
        at_low, at_high = R410A.at(low), R410A.at(high)
        gas = R410A.vapour(low, at_low.dew_c + superheat, at_low)
        return compress(compressor, R410A, (low, at_low), (high, at_high), gas.enthalpy, 1.0)

    def test_flow_is_swept_volume_times_density_by_hand(self):
        # 0.97 - 0.035 (2.6^(1/1.12) - 1) = 0.9228 of 2 L/s of gas at its tabulated density.
        rho = STATES.vapour(1000.0, R410A.at(1000).dew_c + 8).density
        self.assertAlmostEqual(self.stroke().flow / (0.002 * 0.9228 * rho), 1, delta=0.01)

    def test_an_ideal_stroke_ends_at_its_own_entropy(self):
        stroke = self.stroke(isentropic=1.0, shell_loss=0.0, best_ratio=2.6)
        start_s = STATES.vapour(1000.0, R410A.at(1000).dew_c + 8).entropy
        end = STATES.vapour_at_entropy(2600.0, start_s)
        self.assertAlmostEqual(stroke.discharge_h, end.enthalpy, delta=1.2)

    def test_wear_and_ratio_cost_flow_and_wet_gas_brings_more(self):
        base = self.stroke()
        self.assertLess(self.stroke(leak=0.3).flow, 0.75 * base.flow)
        self.assertLess(self.stroke(high=3600.0).flow, base.flow)
        self.assertGreater(self.stroke(high=3600.0).discharge_h, base.discharge_h)
        self.assertGreater(self.stroke(superheat=0.0).flow, base.flow)

    def test_power_with_a_leak_is_what_is_not_done_again(self):
        # Of the swept work 1 − leak × (1 − again) is left: 0.5 leaking, 0.925 past rings, 0.525
        # past a reed.
        whole = self.stroke()
        for again, left in ((0.85, 0.925), (0.05, 0.525)):
            worn = self.stroke(leak=0.5, leak_again=again)
            self.assertAlmostEqual(worn.power / whole.power, left, places=6)
            self.assertAlmostEqual(worn.flow / whole.flow, 0.5, places=6)
        hot, cool = (self.stroke(leak=0.5, leak_again=again) for again in (0.85, 0.05))
        self.assertGreater(hot.discharge_h, cool.discharge_h + 20)

    def test_gas_warmed_in_the_shell_is_less_gas(self):
        warmed, none = self.stroke(suction_heat=0.2), self.stroke()
        self.assertEqual(warmed.suction_h, none.suction_h)  # what enters the shell is as it was
        self.assertLess(warmed.flow, 0.97 * none.flow)
        self.assertGreater(warmed.discharge_h, none.discharge_h)

    def test_gas_leaking_across_a_reversing_valve_comes_back_hot(self):
        at_low, at_high = R410A.at(1000), R410A.at(2600)
        gas = R410A.vapour(1000, at_low.dew_c + 8, at_low)
        pair = ((1000.0, at_low), (2600.0, at_high))
        none = compress(Compressor(0.002), R410A, *pair, gas.enthalpy, 1.0)
        some = compress(Compressor(0.002), R410A, *pair, gas.enthalpy, 1.0, 0.2)
        self.assertEqual(none.suction_h, gas.enthalpy)
        # By mass and heat: h = h_s + 0.2/0.8 of the work per kilogram.
        per_kg = some.power / (some.flow / 0.8)
        self.assertAlmostEqual(some.suction_h - gas.enthalpy, 0.25 * per_kg, delta=1.0)
        self.assertLess(some.flow, 0.8 * none.flow)


class CondenserTest(unittest.TestCase):
    def condensed(self, coil=COIL, flow=0.05, air_c=35.0, air=1.5, kpa=2700.0):
        at = R410A.at(kpa)
        hot = R410A.vapour(kpa, at.dew_c + 30, at).enthalpy
        return condense(coil, R410A, kpa, at, flow, hot, air_c, air, 1.01), hot, at

    def test_heat_given_is_heat_taken_and_the_zones_fill_the_face(self):
        for flow in (0.03, 0.05, 0.08, 0.2):
            with self.subTest(flow=flow):
                found, hot, _ = self.condensed(flow=flow)
                self.assertAlmostEqual(found.heat, flow * (hot - found.enthalpy))
                self.assertAlmostEqual(found.air_out_c, 35 + found.heat / (1.5 * 1.01))
                self.assertAlmostEqual(sum(found.zones), 1.0)

    def test_subcooled_liquid_never_goes_under_the_air(self):
        found, _, at = self.condensed(flow=0.01)
        liquid_c = at.bubble_c - (at.liquid_h - found.enthalpy) / at.liquid_cp
        self.assertGreater(liquid_c, 35.0)
        self.assertLess(liquid_c, 36.5)

    def test_too_much_flow_leaves_some_uncondensed_and_less_mass_in_it(self):
        little, _, at = self.condensed(flow=0.03)
        much, _, _ = self.condensed(flow=0.12)
        self.assertGreater(at.quality(much.enthalpy), 0.05)
        self.assertLess(much.mass, little.mass)

    def test_dirt_less_air_and_warmer_air_take_heat_away(self):
        whole = self.condensed()[0].heat
        self.assertLess(self.condensed(replace(COIL, conductance=0.5))[0].heat, whole)
        self.assertLess(self.condensed(air=0.8)[0].heat, whole)
        self.assertLess(self.condensed(air_c=40.0)[0].heat, whole)


class EvaporatorTest(unittest.TestCase):
    COIL = Coil(0.0024, 0.9, 2.7, 0.22, 1.2, 0.68)

    def evaporated(self, flow=0.06, air=None, air_kg_s=0.68, kpa=1000.0):
        at = R410A.at(kpa)
        inlet = R410A.at(2600.0).liquid_h - 8
        return (
            evaporate(self.COIL, R410A, kpa, at, flow, inlet, air or air_of(26.7, 51), air_kg_s),
            at,
            inlet,
        )

    def test_the_air_loses_what_the_refrigerant_gains(self):
        for humidity in (20, 51, 75):
            with self.subTest(humidity=humidity):
                air = air_of(26.7, humidity)
                found, _, inlet = self.evaporated(air=air)
                self.assertAlmostEqual(
                    found.heat, 0.06 * (found.enthalpy - inlet), delta=0.01 * found.heat
                )
                lost = 0.68 * (air.enthalpy - found.air_out.enthalpy)
                self.assertAlmostEqual(lost, found.heat, delta=0.015 * found.heat)

    def test_dry_air_gives_no_water_and_damp_air_does(self):
        dry, damp = air_of(26.7, 15), air_of(26.7, 60)
        self.assertEqual(self.evaporated(air=dry)[0].air_out.ratio, dry.ratio)
        found = self.evaporated(air=damp)[0]
        self.assertLess(found.air_out.ratio, damp.ratio - 0.001)
        self.assertLess(found.sensible, 0.85 * found.heat)
        self.assertLess(found.air_out.relative_humidity, 100.01)

    def test_more_flow_floods_and_less_superheats_up_to_the_air(self):
        flooded, at, _ = self.evaporated(flow=0.12)
        self.assertLess(at.quality(flooded.enthalpy), 1.0)
        self.assertEqual(flooded.boiling, 1.0)
        starved, at, _ = self.evaporated(flow=0.01)
        gas = R410A.vapour_by_enthalpy(1000.0, starved.enthalpy, at)
        self.assertTrue(20 < gas.temp_c <= 26.71)


class MeteringTest(unittest.TestCase):
    VALVE = Device("txv", 2e-6)

    def through(self, subcooling=5.0, low=1000.0, high=2600.0, **changes):
        at = R410A.at(high)
        return passed(
            replace(self.VALVE, **changes),
            R410A,
            high,
            at.liquid_h - at.liquid_cp * subcooling,
            low,
            1.0,
        )

    def test_turbulent_flow_by_hand(self):
        # Throat: 0.55 of 5 K colder liquid's vapour pressure (2310 kPa) = 1270 > 1000 kPa.
        at = R410A.at(2600.0)
        throat = 0.55 * R410A.bubble_kpa(at.bubble_c - 5)
        by_hand = 2e-6 * 1.05 * sqrt(2 * at.liquid_rho) * sqrt((2600 - throat) * 1000)
        self.assertAlmostEqual(self.through() / by_hand, 1, delta=1e-6)

    def test_choked_flow_does_not_see_the_coil_but_does_see_flash_gas(self):
        self.assertEqual(self.through(low=700.0), self.through(low=1000.0))
        self.assertLess(self.through(low=2000.0), self.through(low=1000.0))
        self.assertLess(self.through(subcooling=-4.0), 0.9 * self.through(subcooling=0.0))
        self.assertGreater(self.through(subcooling=8.0), self.through(subcooling=0.0))
        self.assertAlmostEqual(self.through(plugged=0.5) / self.through(), 0.5)

    def test_a_valve_opens_with_superheat_between_its_ends(self):
        openings = [opening_at(self.VALVE, k) for k in (0, 3.3, 5.8, 8.3, 30)]
        self.assertEqual(openings[:2], [0.06, 0.06])
        self.assertAlmostEqual(openings[2], 0.5)
        self.assertEqual(openings[3:], [1.0, 1.0])
        self.assertEqual(opening_at(replace(self.VALVE, stuck_at=0.4), 30), 0.4)
        self.assertEqual(opening_at(Device("fixed_orifice", 1e-6), 0), 1.0)
        self.assertGreater(resting(replace(self.VALVE, bulb_contact=0.5), 5.8), 0.5)

    def test_an_electronic_valve_steps_towards_its_target(self):
        valve = Device("eev", 2e-6, target_superheat_k=6.0)
        self.assertGreater(seek(valve, 0.5, 9.0, 10), 0.5)
        self.assertLess(seek(valve, 0.5, 3.0, 10), 0.5)
        self.assertEqual(seek(valve, 0.5, 6.0, 10), 0.5)
        self.assertEqual(seek(valve, 0.99, 60.0, 1000), 1.0)


class LinesTest(unittest.TestCase):
    LINES = preset_machine("split-3-410-valve").lines

    def line(self, restriction=0.0, at="drier", subcooling=5.5, around=35.0):
        lines = replace(self.LINES, restriction=restriction, restricted_at=at)
        here = R410A.at(2600.0)
        return liquid_line(
            lines, R410A, 2600.0, here.liquid_h - here.liquid_cp * subcooling, 0.065, around
        )

    def test_a_sound_line_hardly_changes_what_is_in_it(self):
        found = self.line()
        self.assertLess(found.leaving.temp_c - found.before_device.temp_c, 0.4)
        self.assertLess(found.leaving.kpa - found.before_device.kpa, 60)
        self.assertLess(found.before_device.quality, 0)

    def test_the_drop_sits_where_the_restriction_is_and_only_once_it_flashes(self):
        severe = self.LINES.drier_resistance * 250
        drier, kink = self.line(severe), self.line(severe, "line")
        self.assertGreater(drier.drier_in.temp_c - drier.drier_out.temp_c, 4)
        self.assertLess(abs(drier.drier_out.temp_c - drier.before_device.temp_c), 2.5)
        self.assertEqual(kink.drier_in.temp_c, self.line().drier_in.temp_c)
        self.assertGreater(kink.drier_out.temp_c - kink.before_device.temp_c, 4)
        mild = self.line(self.LINES.drier_resistance * 20, subcooling=12)
        self.assertLess(mild.drier_in.temp_c - mild.drier_out.temp_c, 0.4)

    def test_flash_gas_empties_a_line(self):
        self.assertLess(self.line(subcooling=-5).mass, 0.7 * self.line().mass)

    def test_temperature_follows_pressure_only_inside_the_dome(self):
        liquid = R410A.at(2600.0).liquid_h - 20
        self.assertAlmostEqual(
            station(R410A, 2600.0, liquid).temp_c, station(R410A, 2400.0, liquid).temp_c, delta=0.6
        )
        wet = R410A.at(2600.0).liquid_h + 20
        self.assertGreater(
            station(R410A, 2600.0, wet).temp_c, station(R410A, 2400.0, wet).temp_c + 2
        )

    def test_suction_gas_warms_towards_its_surroundings_and_not_past_them(self):
        at = R410A.at(1000.0)
        gas = R410A.vapour(1000.0, at.dew_c + 5, at)
        warm = suction_rise(self.LINES, at, 0.065, gas.enthalpy, 35.0)
        self.assertGreater(warm, 0)
        long = replace(self.LINES, suction_ua=10.0)
        most = suction_rise(long, at, 0.065, gas.enthalpy, 35.0) / at.vapour_cp
        self.assertAlmostEqual(gas.temp_c + most, 35.0, delta=1.5)
