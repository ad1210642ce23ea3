import unittest
from dataclasses import replace
from itertools import pairwise
from unittest.mock import patch

from nudge.plant import circuit
from nudge.plant.circuit import NoOperatingPoint
from nudge.plant.faults import Present, spoiled
from nudge.plant.metering import resting
from nudge.plant.presets import PRESETS, preset, preset_machine
from nudge.plant.rating import rated_conditions
from nudge.plant.sizing import heating_conditions
from nudge.plant.steady import steady
from nudge.plant.wet_air import air_of
from tests.plant.systems import at_rest, numbers

COMFORT = [key for key, row in PRESETS.items() if row.rating.application == "comfort_cooling"]


class SteadyTest(unittest.TestCase):
    def test_every_preset_does_at_its_rated_point_what_its_class_does(self):
        # Bands of the trade for healthy comfort cooling at 80/67 °F, 95 °F out (kelvins).
        for key in COMFORT:
            with self.subTest(key):
                found, rated = numbers(at_rest(key)), preset(key).rating
                self.assertTrue(4 <= found["superheat"] <= 9, found["superheat"])
                self.assertAlmostEqual(found["subcooling"], 5.5, delta=0.3)
                self.assertTrue(5 <= found["evaporating"] <= 9)
                self.assertTrue(7 <= found["over_ambient"] <= 15)
                self.assertTrue(2.2 <= found["ratio"] <= 3.6)
                self.assertTrue(9.5 <= found["split"] <= 12)
                self.assertTrue(60 <= found["discharge_line_temp"] <= 107)
                self.assertAlmostEqual(found["capacity"] / rated.nominal_kw, 1, delta=0.05)
                power = (found["outdoor_unit_watts"] + found["indoor_unit_watts"]) / 1000
                self.assertTrue(2.3 <= rated.nominal_kw / power <= 4.6)

    def test_the_walk_in_holds_its_box_with_its_coil_well_under_it(self):
        found = numbers(at_rest("walk-in-449a"))
        self.assertTrue(5 <= found["box_air_temp"] - found["evaporating"] <= 9)
        self.assertTrue(11 <= found["over_ambient"] <= 17)

    def test_a_free_valve_stands_where_its_superheat_has_it_and_is_found_without_a_search(self):
        keys = [key for key in COMFORT if preset(key).rating.device != "fixed_orifice"]
        for key in keys:
            machine = preset_machine(key)
            base = rated_conditions(preset(key).rating, machine.charge_kg)
            for share in (0.8, 0.9, 1.0, 1.1, 1.2):
                with self.subTest(key, charge=share):
                    conditions = replace(base, charge_kg=share * machine.charge_kg)
                    with patch.object(circuit, "followed", wraps=circuit.followed) as trials:
                        point = steady(machine, conditions).operating
                    self.assertLess(trials.call_count, 90)  # bracketed, it is some hundreds
                    stands = resting(
                        machine.device, point.superheat_k, point.coil_out_c - point.superheat_k
                    )
                    self.assertAlmostEqual(point.opening, stands, delta=1e-3)

    def test_energy_is_closed_and_all_the_charge_is_somewhere(self):
        for key in PRESETS:
            for faults in (
                (),
                (("undercharge", 0.5),),
                (("condenser_dirt", 0.6), ("overcharge", 0.4)),
            ):
                with self.subTest(key, faults=faults):
                    at = at_rest(key, *faults)
                    point = at.operating
                    shell = at.machine.compressor.shell_loss
                    into = (
                        point.evaporated.heat
                        + point.suction_gain
                        + point.liquid_gain
                        + point.stroke.power * (1 - shell)
                    )
                    self.assertAlmostEqual(into / point.condensed.heat, 1, delta=0.001)
                    self.assertAlmostEqual(point.mass / at.conditions.charge_kg, 1, delta=1e-4)
                    air = at.operating.indoor_air_kg_s
                    taken = air * (
                        at.conditions.indoor.enthalpy - point.evaporated.air_out.enthalpy
                    )
                    self.assertAlmostEqual(taken / point.evaporated.heat, 1, delta=0.01)

    def test_nothing_jumps_over_a_fine_sweep_of_charge_or_weather(self):
        for key in ("split-3-410-valve", "split-2-22-orifice", "inverter-2-32"):
            machine = preset_machine(key)
            base = rated_conditions(preset(key).rating, machine.charge_kg)
            charges = [
                replace(base, charge_kg=machine.charge_kg * (0.6 + 0.004 * i)) for i in range(151)
            ]
            weather = [replace(base, outdoor=air_of(12 + 0.25 * i, 40)) for i in range(121)]
            for what, sweep in (("charge", charges), ("weather", weather)):
                with self.subTest(key, what=what):
                    rows = [numbers(steady(machine, conditions)) for conditions in sweep]
                    for name, most in [
                        ("suction_pressure", 30),
                        ("liquid_pressure", 60),
                        ("superheat", 1.6),
                        ("subcooling", 0.8),
                        ("supply_air_temp", 0.5),
                    ]:
                        steps = [abs(b[name] - a[name]) for a, b in pairwise(rows)]
                        self.assertLess(max(steps), most, name)

    def test_heating_makes_heat_and_reads_hot_on_the_vapour_line(self):
        machine = preset_machine("heat-pump-3-410")
        at = steady(machine, heating_conditions(machine.charge_kg))
        found = numbers(at)
        self.assertTrue(10 <= found["supply_air_temp"] - found["return_air_temp"] <= 18)
        self.assertGreater(found["suction_line_temp"], found["true_suction_temp"] + 30)
        self.assertTrue(2.5 <= at.operating.condensed.heat / at.operating.stroke.power <= 5)

    def test_a_circuit_that_cannot_run_says_so(self):
        machine = preset_machine("split-3-410-valve")
        conditions = rated_conditions(preset("split-3-410-valve").rating, 0.001)
        with self.assertRaises(NoOperatingPoint) as caught:
            steady(*spoiled(machine, conditions, [Present("condenser_fan", 1.0)]))
        self.assertIn("kg", str(caught.exception))

    def test_the_cold_is_met_by_collar_and_by_blocking_the_face_differently(self):
        # Both bring condensing up; at the same condensing the blocked face shows less
        # subcooling, which is how it leads hands to overcharge.
        machine = preset_machine("split-3-410-valve")
        cold = replace(
            rated_conditions(preset("split-3-410-valve").rating, machine.charge_kg),
            outdoor=air_of(5, 60),
        )
        free = numbers(steady(machine, cold))
        collar = numbers(steady(*spoiled(machine, cold, [Present("collar", 0.95)])))
        blocked = numbers(steady(*spoiled(machine, cold, [Present("face_blocked", 0.97)])))
        self.assertGreater(collar["liquid_pressure"], free["liquid_pressure"] + 700)
        self.assertAlmostEqual(collar["liquid_pressure"], blocked["liquid_pressure"], delta=120)
        self.assertGreater(collar["subcooling"], blocked["subcooling"] + 2)
        self.assertLess(collar["superheat"], free["superheat"] - 5)
