"""A heat pump through hours of frost: how it frosts, how it melts, and what a broken part does."""

import unittest

from nudge.plant.acts import forced, standing, start
from nudge.plant.defrost import DefrostBoard
from nudge.plant.faults import Present
from nudge.plant.presets import preset_machine
from nudge.plant.room import Room, Weather
from nudge.plant.running import advance
from nudge.plant.scene import PlantState, Scene, charged
from nudge.plant.wet_air import air_of

MACHINE = preset_machine("heat-pump-3-410")


def scene(*faults: str, humidity: float = 85.0, every_s: float = 5400.0) -> Scene:
    return Scene(
        MACHINE,
        Room(4400.0, 0.35, 0.5, 600.0, 0.0),
        Weather(1.0, relative_humidity=humidity),
        tuple(Present(fault, 0.7) for fault in faults),
        heating=True,
        board=DefrostBoard("time", every_s=every_s),
    )


def warmed(of: Scene, minutes: float) -> PlantState:
    state = standing(of, air_of(20, 40), charged(MACHINE, of.faults))
    return advance(of, start(state), 60 * minutes)


def defrosted(of: Scene, state: PlantState) -> tuple[PlantState, float, float]:
    """A defrost asked for and played: the state after it, its minutes, its warmest liquid line."""
    state = advance(of, forced(state), 4)
    began, warmest = state.seconds, -40.0
    while state.frosting.is_defrosting and state.seconds - began < 900:
        state = advance(of, state, 4)
        warmest = max(warmest, state.truth["liquid_line_temp"])
    return state, (state.seconds - began) / 60, warmest


class FrostTest(unittest.TestCase):
    def test_it_frosts_as_the_trade_weighs_it_and_wetter_air_frosts_more(self):
        dry, wet = (warmed(scene(humidity=h), 20).frosting.frost_kg for h in (70, 95))
        # 2.4 lb/h at 35 °F and 75 %, 8.5 at 95 % for three tons: between a half and twice that.
        self.assertTrue(0.35 <= dry / 0.4536 / (20 / 60) <= 4.8, dry)
        self.assertTrue(2.4 <= wet / 0.4536 / (20 / 60) <= 17, wet)
        self.assertGreater(wet, 1.5 * dry)

    def test_frost_costs_air_and_heat(self):
        of = scene(humidity=95)
        early, late = warmed(of, 10), warmed(of, 55)
        self.assertLess(late.truth["suction_pressure"], early.truth["suction_pressure"] - 20)
        rise = [s.truth["supply_air_temp"] - s.truth["return_air_temp"] for s in (early, late)]
        self.assertLess(rise[1], rise[0] - 0.4)

    def test_a_defrost_turns_everything_and_gives_it_back(self):
        of = scene()
        hot = warmed(of, 25)
        state = advance(of, forced(hot), 90)
        self.assertTrue(state.frosting.is_defrosting)
        self.assertEqual(state.truth["condenser_fan_amps"], 0.0)
        self.assertLess(state.truth["suction_line_temp"], 10)
        self.assertLess(state.truth["supply_air_temp"], state.truth["return_air_temp"])
        after, minutes, warmest = defrosted(of, hot)
        self.assertTrue(0.8 <= minutes <= 8, minutes)
        self.assertTrue(10 <= warmest <= 21, warmest)  # a coil ends it at 50 to 70 °F
        self.assertLess(after.frosting.frost_kg, 0.05)
        later = advance(of, after, 600)
        self.assertGreater(later.truth["suction_line_temp"], 50)
        self.assertGreater(later.truth["condenser_fan_amps"], 0.3)

    def test_each_broken_part_shows_as_the_trade_says(self):
        stuck = scene("defrost_valve_stuck")
        state = advance(stuck, forced(warmed(stuck, 10)), 180)
        self.assertLess(state.truth["condenser_fan_amps"], 0.2)
        self.assertGreater(state.truth["suction_line_temp"], 40)
        runs = scene("defrost_fan_runs")
        state = advance(runs, forced(warmed(runs, 10)), 180)
        self.assertGreater(state.truth["condenser_fan_amps"], 0.3)
        self.assertLess(state.truth["suction_line_temp"], 10)
        board = scene("defrost_board")
        state = advance(board, forced(warmed(board, 6)), 180)
        self.assertFalse(state.frosting.is_defrosting)
        _, minutes, warmest = defrosted(scene("defrost_sensor"), warmed(scene("defrost_sensor"), 8))
        self.assertGreaterEqual(minutes, 9.5)
        self.assertGreater(warmest, 29)  # it should have ended long before

    def test_the_clock_defrosts_by_itself(self):
        of = scene(every_s=1200.0)
        state = warmed(of, 5)
        while not state.frosting.is_defrosting and state.seconds < 2400:
            state = advance(of, state, 10)
        self.assertTrue(19 <= state.seconds / 60 <= 24, state.seconds)
