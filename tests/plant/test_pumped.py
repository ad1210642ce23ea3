"""Behind a valve that lets nothing through: the low side is empty, a dose only bumps it."""

import unittest

from nudge.plant.acts import dosed, standing, start, stop
from nudge.plant.faults import Present
from nudge.plant.kept import scene_data, scene_of, state_data, state_of
from nudge.plant.presets import preset_machine
from nudge.plant.room import Weather, room_for
from nudge.plant.running import advance
from nudge.plant.scene import Scene
from nudge.plant.wet_air import air_of

PSI = 6.894757


class ShutValveTest(unittest.TestCase):
    def setUp(self):
        machine, air, weather = preset_machine("split-3-410-valve"), air_of(25, 50), Weather(32)
        room = room_for(machine.nominal_kw, air, weather.at(0))
        faults = (Present("valve_shut", 1.0),)
        self.scene = Scene(machine, room, weather, faults, low_switch=None)
        self.state = advance(self.scene, start(standing(self.scene, air)), 120)

    def psig(self, state, point="suction_pressure"):
        return state.truth[point] / PSI

    def test_it_pumps_the_low_side_under_the_air_and_stays_there(self):
        self.assertLess(self.psig(self.state), -5)
        later = advance(self.scene, self.state, 120)
        self.assertAlmostEqual(self.psig(later), self.psig(self.state), delta=0.3)
        # The head stands at the refrigerant's own pressure: R-410A at 90 °F is 274 psig.
        self.assertAlmostEqual(self.psig(self.state, "liquid_pressure"), 274, delta=4)

    def test_a_dose_bumps_and_is_gone_within_two_minutes(self):
        before = self.psig(self.state)
        dose = advance(self.scene, dosed(self.state, 0.17, 0.02), 10)
        self.assertGreater(self.psig(dose), before + 5)
        after = advance(self.scene, dose, 110)
        self.assertAlmostEqual(self.psig(after), before, delta=0.5)
        lifted = self.psig(after, "liquid_pressure") - self.psig(self.state, "liquid_pressure")
        self.assertTrue(0.5 < lifted < 1.8, lifted)

    def test_stopped_it_holds_for_nothing_comes_through(self):
        held = advance(self.scene, stop(self.state), 600)
        self.assertLess(self.psig(held), 0)

    def test_its_low_switch_is_a_plate_choice(self):
        scene = Scene(self.scene.machine, self.scene.room, self.scene.weather, self.scene.faults)
        tripped = advance(scene, start(standing(scene, air_of(25, 50))), 120)
        self.assertFalse(tripped.is_running)
        self.assertIn("low-pressure switch", tripped.tripped)

    def test_it_is_kept_and_brought_back(self):
        scene = scene_of(scene_data("split-3-410-valve", self.scene))
        state = state_of(state_data(self.state))
        self.assertEqual((scene.low_switch, state.pumped), (None, self.state.pumped))
