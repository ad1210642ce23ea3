"""A heat pump called by its thermostat: it holds its set point, helps itself, locks out, remembers."""

import unittest
from dataclasses import replace
from itertools import pairwise

from nudge.core.language.units import fahrenheit
from nudge.plant.acts import forced, standing, switched
from nudge.plant.defrost import DefrostBoard
from nudge.plant.faults import Present
from nudge.plant.kept import scene_data, scene_of, state_data, state_of
from nudge.plant.presets import preset_machine
from nudge.plant.room import Room, Weather
from nudge.plant.running import advance
from nudge.plant.scene import PlantState, Scene, charged
from nudge.plant.thermostat import Called, Thermostat, call
from nudge.plant.wet_air import air_of

PRESET = "heat-pump-3-410"
MACHINE = preset_machine(PRESET)
SET = Thermostat(set_c=21.0, usual_c=21.0, circuits_kw=(4.8, 4.8))


def scene(
    set_to: Thermostat = SET, outdoor_c: float = 4.0, *faults: Present, ua: float = 0.3
) -> Scene:
    return Scene(
        MACHINE,
        Room(4400.0, ua, 0.3, 600.0, 0.0),
        Weather(outdoor_c, relative_humidity=70.0),
        faults,
        heating=True,
        board=DefrostBoard("time", every_s=5400.0),
        thermostat=set_to,
    )


def played(of: Scene, minutes: float, indoor_c: float = 20.0) -> list[PlantState]:
    """Switched on, and met every minute from then on."""
    state = standing(of, air_of(indoor_c, 35), charged(MACHINE, of.faults))
    state, met = switched(of, state, True), []
    for _ in range(round(minutes)):
        state = advance(of, state, 60)
        met.append(state)
    return met


class CallsTest(unittest.TestCase):
    def after(self, set_to: Thermostat, indoor_c: float, outdoor_c: float, **was: float) -> Called:
        return call(set_to, replace(Called(), **was), indoor_c, outdoor_c, False, 0.0, 2.0)

    def test_strips_help_a_pump_that_was_called_long_and_is_still_short(self):
        self.assertEqual(self.after(SET, 19.8, 0, pump=True, called_s=300.0).circuits, 0)
        self.assertEqual(self.after(SET, 19.8, 0, pump=True, called_s=900.0).circuits, 1)
        self.assertEqual(self.after(SET, 19.0, 0, pump=True, called_s=900.0).circuits, 2)
        self.assertEqual(self.after(SET, 20.9, 0, pump=True, called_s=900.0).circuits, 0)

    def test_a_lockout_keeps_strips_off_in_mild_weather_and_the_memory_says_so(self):
        locked = replace(SET, strips_off_over_c=fahrenheit(40))
        mild = self.after(locked, 19.0, fahrenheit(45), pump=True, called_s=900.0)
        self.assertEqual((mild.circuits, mild.memory[-1].what), (0, "strips_locked"))
        cold = self.after(locked, 19.0, fahrenheit(30), pump=True, called_s=900.0)
        self.assertEqual(cold.circuits, 2)
        emergency = self.after(locked.asks("emergency"), 19.0, fahrenheit(45))
        self.assertEqual((emergency.pump, emergency.circuits), (False, 2))

    def test_crossed_lockouts_leave_the_house_to_itself(self):
        crossed = replace(
            SET, strips_off_over_c=fahrenheit(30), compressor_off_under_c=fahrenheit(40)
        )
        between = self.after(crossed, 17.0, fahrenheit(35))
        self.assertEqual((between.pump, between.circuits), (False, 0))
        self.assertEqual(
            {one.what for one in between.memory}, {"compressor_locked", "strips_locked"}
        )
        self.assertTrue(self.after(crossed, 17.0, fahrenheit(45)).pump)
        self.assertEqual(self.after(crossed, 17.0, fahrenheit(25)).circuits, 2)

    def test_off_calls_nothing_and_test_mode_the_pump_alone(self):
        off = self.after(SET.asks("off"), 12.0, 0)
        self.assertEqual((off.pump, off.circuits), (False, 0))
        test = self.after(SET.asks("test"), 25.0, 0, called_s=5000.0)
        self.assertEqual((test.pump, test.circuits), (True, 0))

    def test_a_compressor_that_stopped_rests(self):
        self.assertFalse(self.after(SET, 19.0, 0, rested_s=60.0).pump)
        self.assertTrue(self.after(SET, 19.0, 0, rested_s=200.0).pump)


class HouseTest(unittest.TestCase):
    def test_the_house_does_not_overheat_and_the_pump_comes_and_goes(self):
        met = played(scene(), 240)
        late = [one.indoor.temp_c for one in met[90:]]
        self.assertLess(max(late), 21.0 + 0.8)
        self.assertGreater(min(late), 21.0 - 0.8)
        changes = sum(a.is_running != b.is_running for a, b in pairwise(met))
        self.assertGreaterEqual(changes, 4)

    def test_on_emergency_heat_the_pump_stands_and_strips_carry_the_house(self):
        met = played(scene(SET.asks("emergency")), 40, indoor_c=19.0)
        last = met[20]
        self.assertFalse(any(one.is_running for one in met))
        truth = last.truth
        self.assertEqual(truth["compressor_amps"], 0.0)
        # 9.6 kW at 240 V draw 40 A; their rise is what they put into the air, and the blower's.
        self.assertAlmostEqual(truth["strip_amps"], 9_600 / MACHINE.volts, delta=0.1)
        kw = truth["indoor_unit_watts"] / 1000
        rise = truth["supply_air_temp"] - truth["return_air_temp"]
        kg_s = truth["airflow"] / 1000 * 1.2 * 294 / (273.15 + truth["supply_air_temp"])
        self.assertAlmostEqual(rise, kw / (1.01 * kg_s), delta=0.06 * rise)
        self.assertGreater(met[-1].indoor.temp_c, 19.5)

    def test_strips_warm_the_air_of_a_defrost(self):
        warm = replace(SET, set_c=30.0)  # it calls all the while, and strips are locked out else
        warm = replace(warm, strips_off_over_c=-20.0)
        supplies = []
        for circuits in ((), (4.8, 4.8)):
            of = scene(replace(warm, circuits_kw=circuits), 1.0)
            state = advance(of, forced(played(of, 25)[-1]), 70)
            self.assertTrue(state.frosting.is_defrosting)
            supplies.append(state.truth["supply_air_temp"] - state.truth["return_air_temp"])
        self.assertLess(supplies[0], 0)
        self.assertGreater(supplies[1], supplies[0] + 4)

    def test_a_trip_stays_until_its_disconnect_is_opened_and_is_remembered(self):
        choked = scene(
            replace(SET, set_c=35.0),
            17.0,
            Present("evaporator_dirt", 0.8),
            Present("second_filter", 0.5),
            ua=0.02,
        )
        met = played(choked, 12, indoor_c=23.0)
        self.assertTrue(met[-1].tripped)
        self.assertFalse(met[-1].is_running)
        self.assertEqual(met[-1].called.memory[-1].what, "high_pressure")
        again = switched(choked, switched(choked, met[-1], False), True)
        self.assertEqual(again.tripped, "")
        clean = replace(choked, faults=())
        self.assertTrue(advance(clean, again, 300).is_running)

    def test_a_defrost_that_its_clock_ended_is_remembered(self):
        of = scene(replace(SET, set_c=30.0), 1.0, Present("defrost_sensor", 0.8))
        state = advance(of, forced(played(of, 10)[-1]), 700)
        self.assertIn("defrost_by_clock", [one.what for one in state.called.memory])

    def test_it_is_kept_and_brought_back_whole(self):
        of = scene(replace(SET, strips_off_over_c=4.0))
        state = played(of, 12)[-1]
        state = replace(state, called=state.called.remembers("emergency", 3.0))
        self.assertEqual(scene_of(scene_data(PRESET, of)).thermostat, of.thermostat)
        self.assertEqual(state_of(state_data(state)).called, state.called)


if __name__ == "__main__":
    unittest.main()
