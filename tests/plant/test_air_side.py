"""The blower, the room and the small things of the plant."""

import unittest
from dataclasses import replace

from nudge.core.language.errors import UnknownName
from nudge.plant.acts import start
from nudge.plant.blower import blow
from nudge.plant.kept import scene_data, scene_of, state_data, state_of, without_fault
from nudge.plant.newton import solve
from nudge.plant.presets import PRESETS, preset, preset_machine
from nudge.plant.room import Room, Weather, room_for, stepped
from nudge.plant.running import advance
from nudge.plant.wet_air import air_of
from tests.plant.test_running import begun


class BlowerTest(unittest.TestCase):
    PSC = preset_machine("split-3-410-valve").blower
    ECM = preset_machine("inverter-3-410").blower

    def test_a_psc_fan_moves_where_its_curve_meets_the_duct(self):
        # Made so that half its pressure is left at the rated flow: K = P/2 / m².
        found = blow(self.PSC, 230)
        self.assertAlmostEqual(found.kg_s, self.PSC.set_kg_s, delta=0.001 * self.PSC.set_kg_s)
        self.assertAlmostEqual(
            found.return_pa + found.supply_pa + self.PSC.coil_resistance * found.kg_s**2,
            0.5 * self.PSC.most_pa,
            delta=0.5,
        )

    def test_amps_fall_with_a_choked_duct_on_a_psc_and_rise_on_an_ecm(self):
        for blower, sign in ((self.PSC, -1), (self.ECM, 1)):
            choked = replace(blower, filter_resistance=blower.filter_resistance * 5)
            self.assertGreater(sign * (blow(choked, 230).amps - blow(blower, 230).amps), 0)

    def test_an_ecm_holds_its_air_until_it_runs_out_of_pressure(self):
        tight = replace(self.ECM, filter_resistance=self.ECM.filter_resistance * 4)
        self.assertAlmostEqual(blow(tight, 230).kg_s, self.ECM.set_kg_s)
        shut = replace(self.ECM, filter_resistance=self.ECM.filter_resistance * 40)
        self.assertLess(blow(shut, 230).kg_s, 0.8 * self.ECM.set_kg_s)

    def test_half_speed_is_half_the_air_and_a_quarter_of_the_static(self):
        slow, whole = blow(replace(self.PSC, speed=0.5), 230), blow(self.PSC, 230)
        self.assertAlmostEqual(slow.kg_s / whole.kg_s, 0.5, delta=0.01)
        self.assertAlmostEqual(slow.supply_pa / whole.supply_pa, 0.25, delta=0.01)


class RoomTest(unittest.TestCase):
    def test_an_hour_of_heat_by_hand(self):
        # 2 kW more out than in, 4,000 kJ/K: 2 × 3600 / 4000 = 1.8 K.
        room = Room(4000.0, 0.1, 1.0, 600.0, 0.0)
        inside, outside = air_of(25, 50), air_of(35, 40)
        after = stepped(room, inside, outside, 4.0, 0.0, 3600)
        self.assertAlmostEqual(after.temp_c, 25 - 1.8)

    def test_a_room_made_for_a_system_balances_its_share_of_it(self):
        inside, outside = air_of(26, 50), air_of(34, 40)
        room = room_for(10.0, inside, outside, share=0.8)
        after = stepped(room, inside, outside, 0.75 * 8.0, 0.25 * 8.0, 3600)
        self.assertAlmostEqual(after.temp_c, 26, places=6)
        self.assertAlmostEqual(after.ratio, inside.ratio, places=6)

    def test_air_never_holds_more_water_than_it_can(self):
        wet = Room(4000.0, 0.0, 0.0, 1.0, 1.0)
        self.assertLessEqual(
            stepped(wet, air_of(20, 90), air_of(20, 90), 0, 0, 3600).relative_humidity, 98.1
        )

    def test_the_day_is_warmest_at_four_and_keeps_its_water(self):
        weather = Weather(28.0, 6.0, 45.0, start_hour=0.0)
        by_hour = [weather.at(hour * 3600) for hour in range(24)]
        self.assertEqual(max(range(24), key=lambda h: by_hour[h].temp_c), 16)
        self.assertAlmostEqual(by_hour[16].temp_c, 34.0)
        self.assertAlmostEqual(by_hour[4].temp_c, 22.0)
        self.assertEqual(len({round(a.ratio, 9) for a in by_hour}), 1)


class SmallThingsTest(unittest.TestCase):
    def test_three_equations_by_newton_and_a_start_that_helps(self):
        calls = []

        def residuals(x):
            calls.append(x)
            a, b, c = x
            return a * a + b - 3, b * c - 2, a + c - 3  # a = 1, b = 2 ... c = 1 or 2

        def held(x):
            return x[0], x[1], x[2]

        root = solve(residuals, (0.8, 2.2, 2.1), held)
        self.assertLess(max(abs(v) for v in residuals(root.x)), 1e-6)
        first, calls[:] = len(calls), []
        solve(residuals, root.x, held, root.inverse)
        self.assertLess(len(calls), first)
        self.assertIsNone(solve(lambda x: (x[0] ** 2 + 1, x[1], x[2]), (1.0, 1.0, 1.0), held))

    def test_presets_cover_the_sizes_devices_and_refrigerants_that_are_met(self):
        ratings = [row.rating for row in PRESETS.values()]
        self.assertGreaterEqual(len(ratings), 10)
        self.assertEqual({r.device for r in ratings}, {"fixed_orifice", "txv", "eev"})
        self.assertLessEqual(
            {"R-410A", "R-22", "R-32", "R-454B", "R-407C", "R-449A"}, {r.fluid for r in ratings}
        )
        tons = [r.nominal_kw / 3.517 for r in ratings if r.application == "comfort_cooling"]
        self.assertAlmostEqual(min(tons), 1.5, delta=0.01)
        self.assertAlmostEqual(max(tons), 5.0, delta=0.01)
        self.assertTrue(any(r.is_heat_pump for r in ratings))
        for key, row in PRESETS.items():
            # Splits of these sizes hold about 0.15 to 0.35 kg a kW; a receiver more.
            per_kw = preset_machine(key).charge_kg / row.rating.nominal_kw
            self.assertTrue(0.15 <= per_kw <= (1.6 if row.rating.receiver_l else 0.35), key)
        with self.assertRaises(UnknownName):
            preset("split-3")

    def test_a_running_plant_is_kept_and_goes_on_as_it_would_have(self):
        scene, state = begun("split-3-410-valve", ("undercharge", 0.3), ("filter_dirty", 0.4))
        state = advance(scene, start(state), 400)
        again = state_of(state_data(state))
        other = scene_of(scene_data("split-3-410-valve", scene))
        self.assertEqual(
            (other, again.charge_kg, again.truth), (scene, state.charge_kg, state.truth)
        )
        one, two = advance(scene, state, 60), advance(other, again, 60)
        for key, value in one.truth.items():
            self.assertAlmostEqual(two.truth[key], value, delta=0.02 * abs(value) + 0.05, msg=key)
        self.assertEqual(
            [f.key for f in without_fault(scene, "filter_dirty").faults], ["undercharge"]
        )
