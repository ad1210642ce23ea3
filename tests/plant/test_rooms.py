"""Cold rooms on the plant: a receiver's surface is free, the head is held, a box lives in time."""

import unittest
from dataclasses import replace

from nudge.plant.acts import standing
from nudge.plant.box import (
    PUMPED_S,
    REST_S,
    Box,
    Boxed,
    Door,
    goods_after,
    held,
    standing_points,
    walls_of,
)
from nudge.plant.faults import Present, spoiled
from nudge.plant.fluid import load_fluid
from nudge.plant.kept import scene_data, scene_of, state_data, state_of
from nudge.plant.lines import receiver_level
from nudge.plant.machine import Conditions, HeadControl
from nudge.plant.presets import preset, preset_machine
from nudge.plant.room import Weather
from nudge.plant.running import advance
from nudge.plant.scene import Scene, charged
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of

FREEZER, COOLER = "freezer-404a", "walk-in-449a"


def at(key, outdoor_c, *faults):
    machine = preset_machine(key)
    air = Conditions(air_of(*preset(key).rating.indoor), air_of(outdoor_c, 50.0), machine.charge_kg)
    return steady(*spoiled(machine, air, [Present(*f) for f in faults]))


def level(found):
    return receiver_level(load_fluid(found.machine.fluid), found.operating.line.leaving)


def condensing(found):
    return load_fluid(found.machine.fluid).at(found.operating.discharge_kpa).middle_c


class ReceiverTest(unittest.TestCase):
    def test_charge_shows_only_once_the_outlet_is_uncovered(self):
        # A receiver's liquid lies under its own vapour: any level is saturated, so a little less
        # of it changes nothing; with gas in the outlet the coil starves.
        whole = at(COOLER, 30.0)
        machine = replace(whole.machine, lost_kg=0.6 * whole.machine.stock_kg)
        some_gone = steady(machine, whole.conditions)
        empty = at(COOLER, 30.0, ("receiver_short", 0.9))
        self.assertGreater(level(whole), level(some_gone) + 0.15)
        k = some_gone.operating.superheat_k - whole.operating.superheat_k
        self.assertAlmostEqual(k, 0.0, delta=0.3)
        self.assertLess(level(empty), 0.02)
        self.assertGreater(empty.operating.superheat_k, whole.operating.superheat_k + 4)
        self.assertGreater(empty.operating.line.before_device.quality, 0.03)

    def test_its_mass_is_kept(self):
        found = at(COOLER, 30.0)
        self.assertAlmostEqual(found.operating.mass, found.machine.charge_kg, delta=0.01)

    def test_charge_that_is_gone_is_gone_when_the_scene_is_set(self):
        machine = preset_machine(COOLER)
        left = charged(machine, (Present("receiver_short", 1.0),))
        self.assertLess(left, machine.charge_kg - machine.stock_kg)


class HeadTest(unittest.TestCase):
    def test_a_control_holds_the_head_over_a_cold_day_and_leaves_a_warm_one_alone(self):
        cold, warm = at(COOLER, 4.0), at(COOLER, 32.0)
        loose = at(COOLER, 4.0, ("head_held_low", 1.0))
        set_c = warm.machine.head.set_c
        self.assertGreater(condensing(cold), set_c - 4)
        self.assertLess(condensing(loose), condensing(cold) - 4)
        self.assertAlmostEqual(warm.operating.fan_share, 1.0, delta=0.01)
        self.assertLess(cold.operating.fan_share, 0.7)
        freer = running_truth(warm)["condenser_fan_amps"]
        self.assertLess(running_truth(cold)["condenser_fan_amps"], freer)

    def test_a_flooding_valve_takes_liquid_from_the_receiver(self):
        cold, warm = at(FREEZER, 5.0), at(FREEZER, 32.0)
        self.assertLess(level(cold), level(warm) - 0.05)
        self.assertEqual(cold.operating.fan_share, 1.0)

    def test_it_gives_way_over_its_band_and_never_shuts_all(self):
        control = HeadControl("cycling", 32.0, 2.0, least=0.1)
        self.assertAlmostEqual(control.share(20.0), 0.1, delta=0.001)
        self.assertAlmostEqual(control.share(40.0), 1.0, delta=0.001)
        self.assertEqual(replace(control, works=0.0).share(20.0), 1.0)


class BoxTest(unittest.TestCase):
    box = Box(-20.0, 1.0, 500.0, 0.05, every_s=7200.0, most_s=1800.0, heater_kw=1.5)

    def follow(self, boxed, indoor_c, seconds, ice_kg=0.0, is_running=False, box=None):
        for _ in range(int(seconds / 10)):
            boxed, ice_kg = held(box or self.box, boxed, indoor_c, ice_kg, 2.2, is_running, 10.0)
        return boxed, ice_kg

    def test_it_calls_over_its_band_and_stops_under_it(self):
        warm, _ = self.follow(Boxed(-20.0, -20.0, calls=False), -18.5, REST_S + 10)
        self.assertTrue(warm.may_start)
        cold, _ = self.follow(replace(warm, calls=True), -21.5, 10.0)
        self.assertFalse(cold.may_run)

    def test_a_defrost_melts_its_ice_before_the_coil_warms_and_ends_by_the_coil(self):
        begun = Boxed(-20.0, -26.0, since_s=7200.0)
        boxed, ice = self.follow(begun, -19.0, PUMPED_S, 0.3)
        self.assertIsNotNone(boxed.defrost_s)
        while ice > 0:
            boxed, ice = self.follow(boxed, -18.0, 10.0, ice)
            self.assertLessEqual(boxed.coil_c, 0.6)
        took = boxed.defrost_s
        while boxed.defrost_s is not None:
            boxed, _ = self.follow(boxed, -17.0, 10.0)
        self.assertGreaterEqual(boxed.coil_c, self.box.ends_c - 1)
        self.assertLess(took, self.box.most_s)
        self.assertFalse(boxed.may_run)  # it drips
        dry, _ = self.follow(boxed, -17.0, self.box.drips_s + REST_S)
        self.assertTrue(dry.may_start)

    def test_much_ice_is_not_melted_in_time_and_the_clock_ends_it(self):
        weak = replace(self.box, heater_kw=0.2)
        boxed, ice = self.follow(
            Boxed(-20.0, -26.0, since_s=7200.0), -18.0, weak.most_s + 60, 2.0, box=weak
        )
        self.assertIsNone(boxed.defrost_s)
        self.assertGreater(ice, 1.0)

    def test_goods_give_their_heat_slowly(self):
        boxed = Boxed(-5.0, -20.0)
        for _ in range(360):
            boxed = goods_after(self.box, boxed, -20.0, 10.0)
        # One time constant is 500 / 0.05 s; after 3600 s exp(-0.36) of 15 K is left.
        self.assertAlmostEqual(boxed.goods_c, -20 + 15 * 0.6977, delta=0.05)

    def test_pumped_down_its_low_side_stays_low_and_creeps_up(self):
        just = standing_points(self.box, Boxed(-20.0, -20.0, rested_s=0.0))["suction_pressure"]
        later = standing_points(self.box, Boxed(-20.0, -20.0, rested_s=900.0))["suction_pressure"]
        self.assertEqual(just, self.box.low_cut_kpa)
        self.assertGreater(later, just)

    def test_it_pulls_down_and_is_kept_and_brought_back(self):
        machine = preset_machine(COOLER)
        kw = machine.nominal_kw
        box = Box(2.0, 1.0, 300 * kw, 0.03 * kw, "off_cycle", low_cut_kpa=90.0,
                  doors=(Door(300.0, 60.0),))  # fmt: skip
        scene = Scene(machine, walls_of(kw, 2.0, 24.0), Weather(24.0), low_switch=None, box=box)
        state = replace(standing(scene, air_of(9.0, 75.0)), boxed=Boxed(9.0, 9.0))
        state = advance(scene, state, 240.0)
        self.assertTrue(state.is_running)
        self.assertLess(state.indoor.temp_c, 8.6)
        again = scene_of(scene_data(COOLER, scene))
        self.assertEqual(again.box, box)
        self.assertEqual(state_of(state_data(state)).boxed, state.boxed)
        shut = advance(scene, state, 60.0).indoor.temp_c - state.indoor.temp_c
        opened = replace(scene, box=replace(box, doors=(Door(0.0, 900.0),)))
        open_ = advance(opened, state, 60.0).indoor.temp_c - state.indoor.temp_c
        self.assertGreater(open_, shut + 0.1)
