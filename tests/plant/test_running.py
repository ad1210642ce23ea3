import unittest
from dataclasses import replace

from nudge.core.physics.refrigerant.table import load_table
from nudge.plant.acts import dosed, standing, start, stop
from nudge.plant.faults import Present
from nudge.plant.presets import preset_machine
from nudge.plant.room import Weather, room_for
from nudge.plant.running import advance
from nudge.plant.scene import PlantState, Scene, charged
from nudge.plant.wet_air import air_of

VALVE = "split-3-410-valve"


def begun(
    key: str = VALVE,
    *faults: tuple[str, float],
    outdoor_c: float = 33.0,
    indoor: tuple[float, float] = (26.0, 52.0),
) -> tuple[Scene, PlantState]:
    machine, air = preset_machine(key), air_of(*indoor)
    present = tuple(Present(k, s) for k, s in faults)
    weather = Weather(outdoor_c)
    scene = Scene(machine, room_for(machine.nominal_kw, air, weather.at(0)), weather, present)
    return scene, standing(scene, air, charged(machine, present))


def superheat(scene: Scene, state: PlantState) -> float:
    dew = load_table(scene.machine.fluid).dew
    return state.truth["suction_line_temp"] - dew.temperature(
        state.truth["suction_pressure"] + 101.325
    )


class RunningTest(unittest.TestCase):
    def test_standing_pressures_are_the_saturation_of_the_colder_end(self):
        scene, state = begun(outdoor_c=20.0)
        published = load_table("R-410A").bubble.pressure(20.0) - 101.325
        self.assertAlmostEqual(state.truth["suction_pressure"], published, delta=8)
        self.assertEqual(state.truth["suction_pressure"], state.truth["liquid_pressure"])
        gassy, airy = begun(VALVE, ("non_condensables", 0.8), outdoor_c=20.0)
        self.assertGreater(airy.truth["liquid_pressure"], published + 200)
        self.assertEqual(gassy.machine, scene.machine)

    def test_an_empty_system_stands_under_saturation(self):
        scene, state = begun()
        empty = standing(scene, state.indoor, 0.2)
        self.assertLess(empty.truth["suction_pressure"], 0.6 * state.truth["suction_pressure"])

    def test_pressures_settle_in_seconds_and_the_liquid_line_in_minutes(self):
        scene, state = begun()
        state = start(state)
        tracks = []
        for _ in range(20):
            state = advance(scene, state, 30)
            tracks.append(state.truth)
        end = tracks[-1]
        half_minute = tracks[0]
        self.assertLess(abs(half_minute["suction_pressure"] - end["suction_pressure"]), 100)
        self.assertGreater(abs(half_minute["discharge_line_temp"] - end["discharge_line_temp"]), 15)
        self.assertLess(abs(tracks[13]["liquid_line_temp"] - end["liquid_line_temp"]), 0.5)

    def test_the_house_cools_and_dries_while_it_runs_and_warms_when_it_stops(self):
        scene, state = begun()
        ran = advance(scene, start(state), 1800)
        self.assertLess(ran.indoor.temp_c, state.indoor.temp_c - 0.2)
        self.assertLess(ran.indoor.ratio, state.indoor.ratio)
        rested = advance(scene, stop(ran), 1800)
        self.assertGreater(rested.indoor.temp_c, ran.indoor.temp_c + 0.1)
        self.assertAlmostEqual(
            rested.truth["suction_pressure"], rested.truth["liquid_pressure"], delta=15
        )

    def test_charge_is_conserved_to_the_gram_whatever_is_done(self):
        scene, state = begun(VALVE, ("undercharge", 0.4))
        before = state.charge_kg
        state = advance(scene, start(state), 60)
        state = advance(scene, dosed(state, 0.123456, 0.01), 7)
        state = advance(scene, stop(state), 3)
        state = advance(scene, start(dosed(state, 0.2, 0.015)), 100)
        state = advance(scene, dosed(state, -0.05, 0), 33)
        self.assertAlmostEqual(state.charge_kg, before + 0.123456 + 0.2 - 0.05, places=9)
        self.assertEqual(state.to_add_kg, 0.0)

    def test_charge_added_raises_subcooling_and_a_long_burst_drowns_the_compressor(self):
        scene, state = begun(VALVE, ("undercharge", 0.16))
        state = advance(scene, start(state), 900)
        slow = advance(scene, dosed(state, 0.2, 0.002), 900)
        fast = advance(scene, dosed(state, 0.2, 0.1), 900)
        table = load_table("R-410A").bubble

        def subcooling(s: PlantState) -> float:
            bubble = table.temperature(s.truth["liquid_pressure"] + 101.325)
            return bubble - s.truth["liquid_line_temp"]

        self.assertGreater(subcooling(slow), subcooling(state) + 1.0)
        self.assertLess(slow.slug_kg - state.slug_kg, 0.005)
        self.assertGreater(fast.slug_kg - state.slug_kg, 0.1)

    def test_a_sound_valve_stands_still_and_an_eager_one_hunts(self):
        for fault, least, most in (((), 0, 0.15), ((("hunting", 0.8),), 4, 25)):
            scene, state = begun(VALVE, *fault)
            state = advance(scene, start(state), 900)
            seen = []
            for _ in range(60):
                state = advance(scene, state, 4)
                seen.append(superheat(scene, state))
            with self.subTest(fault):
                self.assertTrue(least <= max(seen) - min(seen) <= most, max(seen) - min(seen))

    def test_an_electronic_valve_finds_its_superheat(self):
        scene, state = begun("inverter-2-32")
        state = advance(scene, start(state), 1500)
        self.assertAlmostEqual(state.coil_superheat_k, 4.0, delta=0.4)

    def test_a_starved_coil_ices_and_loses_its_air(self):
        scene, state = begun("split-3-410-orifice", ("undercharge", 1.0), outdoor_c=27.0)
        state = advance(scene, start(state), 600)
        early = state.truth["airflow"]
        state = advance(scene, state, 5400)
        self.assertGreater(state.ice_kg, 0.1)
        self.assertLess(state.truth["airflow"], early - 10)

    def test_switches_stop_it_where_they_would(self):
        scene, state = begun(VALVE, ("condenser_fan", 1.0), outdoor_c=46.0)
        state = advance(scene, start(state), 900)
        self.assertFalse(state.is_running)
        self.assertIn("high-pressure", state.tripped)
        scene, state = begun(VALVE, ("metering_underfeed", 1.0), ("undercharge", 1.0), outdoor_c=20)
        state = advance(scene, start(state), 900)
        self.assertFalse(state.is_running)

    def test_what_was_wrong_can_be_put_right_while_it_runs(self):
        scene, state = begun(VALVE, ("filter_dirty", 0.9))
        state = advance(scene, start(state), 900)
        after = advance(replace(scene, faults=()), state, 600)
        self.assertGreater(after.truth["airflow"], state.truth["airflow"] + 100)
        self.assertGreater(after.truth["suction_pressure"], state.truth["suction_pressure"] + 20)
