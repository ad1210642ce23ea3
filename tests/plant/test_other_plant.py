"""Plant other than comfort cooling, run in time: a heat pump heating, a cold room, an inverter."""

import unittest
from dataclasses import replace

from nudge.plant.acts import standing, start
from nudge.plant.presets import preset_machine
from nudge.plant.room import Room, Weather
from nudge.plant.running import advance
from nudge.plant.scene import Scene
from nudge.plant.wet_air import air_of
from tests.plant.test_running import begun, superheat


class HeatingTest(unittest.TestCase):
    def test_it_warms_the_house_and_the_vapour_line_is_the_hot_one(self):
        machine, air = preset_machine("heat-pump-3-410"), air_of(19.0, 40)
        room = Room(4400.0, 0.25, 0.5, 600.0, 0.0)
        scene = Scene(machine, room, Weather(6.0, relative_humidity=75), heating=True)
        state = advance(scene, start(standing(scene, air)), 1500)
        self.assertTrue(state.is_running, state.tripped)
        self.assertGreater(state.indoor.temp_c, 19.3)
        truth = state.truth
        # The trade's rise without strips: 18 °F in the cold to 34 on a mild day.
        self.assertTrue(10 <= truth["supply_air_temp"] - truth["return_air_temp"] <= 19)
        self.assertGreater(truth["suction_line_temp"], truth["supply_air_temp"] + 10)
        self.assertLess(truth["true_suction_temp"], 6.0)
        self.assertGreater(truth["condenser_leaving_air_temp"], -5)
        self.assertLess(truth["condenser_leaving_air_temp"], 6.0)


class ColdRoomTest(unittest.TestCase):
    def test_a_box_is_pulled_down_without_icing_up_the_numbers(self):
        machine, air = preset_machine("walk-in-449a"), air_of(6.0, 85)
        room = Room(1500.0, 0.02, 0.8, 200.0, 0.0)
        scene = Scene(machine, room, Weather(30.0))
        state = advance(scene, start(standing(scene, air)), 1200)
        self.assertTrue(state.is_running, state.tripped)
        self.assertLess(state.truth["box_air_temp"], 4.5)
        self.assertNotIn("return_air_wet_bulb", state.truth)
        self.assertEqual(state.ice_kg, 0.0)
        self.assertGreater(superheat(scene, state), 2)


class InverterTest(unittest.TestCase):
    def test_slower_it_takes_less_and_condenses_nearer_its_air(self):
        scene, state = begun("inverter-3-410")
        state = advance(scene, start(state), 1500)
        slower = advance(replace(scene, speed=0.5), state, 1500)
        self.assertLess(slower.truth["compressor_amps"], 0.6 * state.truth["compressor_amps"])
        self.assertLess(slower.truth["liquid_pressure"], state.truth["liquid_pressure"] - 150)
        self.assertGreater(slower.truth["suction_pressure"], state.truth["suction_pressure"] + 40)
        self.assertAlmostEqual(slower.coil_superheat_k, 4.0, delta=1.0)
