"""The packaged tables against their source between the nodes, and against published points."""

import unittest

import CoolProp

from nudge.core.language.errors import OutOfRange, UnknownName
from nudge.core.physics.refrigerant.catalogue import CATALOGUE, refrigerant
from nudge.core.physics.refrigerant.saturation import pressures_at, saturation_at
from nudge.core.physics.refrigerant.table import load_table
from tools.make_tables import RowSolver, reference_state

LOW_C, HIGH_C, BELOW_CRITICAL_K = -51.11, 65.55, 2.222
WITHIN_K = 0.05 / 1.8


class BetweenNodesTest(unittest.TestCase):
    def test_saturation_is_within_a_twentieth_of_a_degree_f_of_the_source(self):
        for name, row in CATALOGUE.items():
            table = load_table(name)
            top = min(HIGH_C, table.critical_c - BELOW_CRITICAL_K)
            for curve, quality in ((table.bubble, 0.0), (table.dew, 1.0)):
                with self.subTest(fluid=name, quality=quality):
                    solver = RowSolver(reference_state(row), quality, row.is_blend)
                    checked = 0
                    temp_c = LOW_C
                    while temp_c < top:
                        point = solver.solve(temp_c)
                        if point is not None:
                            self.assertLess(abs(curve.temperature(point[1]) - point[0]), WITHIN_K)
                            checked += 1
                        temp_c += 2.137  # never a multiple of the table's own step
                    self.assertGreater(checked, 0.9 * (top - LOW_C) / 2.137)

    def test_every_fluid_reaches_over_the_stated_range(self):
        for name in CATALOGUE:
            table = load_table(name)
            with self.subTest(name):
                for curve in (table.bubble, table.dew):
                    self.assertLessEqual(curve.low_c, LOW_C)
                    self.assertGreaterEqual(
                        curve.high_c, min(HIGH_C, table.critical_c - BELOW_CRITICAL_K)
                    )

    def test_the_running_application_does_not_need_the_source(self):
        import subprocess
        import sys

        probe = "import sys, nudge.main; sys.exit('CoolProp' in sys.modules)"
        self.assertEqual(subprocess.run([sys.executable, "-c", probe], check=False).returncode, 0)
        self.assertIn(CoolProp.__version__, load_table("R-22").source)


class PublishedPointsTest(unittest.TestCase):
    def test_normal_boiling_points(self):
        # ASHRAE Standard 34, normal boiling points.
        for name, boils_c in (
            ("R-22", -40.8),
            ("R-32", -51.7),
            ("R-134a", -26.1),
            ("R-290", -42.1),
            ("R-600a", -11.7),
            ("R-1234yf", -29.5),
            ("R-1234ze(E)", -19.0),
        ):
            with self.subTest(name):
                if boils_c < load_table(name).bubble.low_c:
                    continue
                self.assertAlmostEqual(saturation_at(load_table(name), 0).dew_c, boils_c, delta=0.1)

    def test_pocket_card_points(self):
        # The trade's pressure-temperature cards: 40 °F and 105 °F, psig.
        for name, psig, fahrenheit in (
            ("R-22", 68.5, 40),
            ("R-22", 210.8, 105),
            ("R-410A", 118, 40),
            ("R-410A", 340, 105),
            ("R-134a", 35.0, 40),
            ("R-32", 121, 40),
        ):
            with self.subTest(name, psig=psig):
                bubble_c = saturation_at(load_table(name), psig * 6.894757).bubble_c
                self.assertAlmostEqual(bubble_c * 1.8 + 32, fahrenheit, delta=0.6)

    def test_a_gliding_blend_has_dew_over_bubble(self):
        # Multi-fluid model at 500 kPa absolute: dew 2.36 °C, bubble -3.85 °C.
        state = saturation_at(load_table("R-407C"), 500 - 101.325)
        self.assertAlmostEqual(state.dew_c, 2.36, delta=0.02)
        self.assertAlmostEqual(state.bubble_c, -3.85, delta=0.02)
        assert state.evaporator_mean_c is not None
        self.assertTrue(state.bubble_c < state.evaporator_mean_c < state.dew_c)


class BothWaysTest(unittest.TestCase):
    def test_pressure_and_temperature_undo_each_other(self):
        for name in CATALOGUE:
            table = load_table(name)
            for temp_c in (-40.0, -7.3, 4.4, 25.0):
                with self.subTest(name, temp_c=temp_c):
                    bubble_kpa, dew_kpa = pressures_at(table, temp_c)
                    self.assertAlmostEqual(saturation_at(table, bubble_kpa).bubble_c, temp_c, 6)
                    self.assertAlmostEqual(saturation_at(table, dew_kpa).dew_c, temp_c, 6)
                    self.assertGreaterEqual(bubble_kpa, dew_kpa)

    def test_altitude_moves_gauge_not_absolute(self):
        # 5,000 ft: standard atmosphere 12.23 psia, so the gauge reads 2.47 psi more.
        table = load_table("R-22")
        at_sea, high = pressures_at(table, 10)[0], pressures_at(table, 10, 1524)[0]
        self.assertAlmostEqual((high - at_sea) / 6.894757, 14.696 - 12.23, delta=0.01)

    def test_off_the_table_is_refused_with_its_limits(self):
        table = load_table("R-744")
        for kpa in (20_000, -500, float("nan"), float("inf")):
            with self.subTest(kpa), self.assertRaises(OutOfRange):
                saturation_at(table, kpa)
        with self.assertRaises(OutOfRange) as caught:
            pressures_at(table, 40)  # over critical, 31 °C
        self.assertIn("40.0 °C is outside", str(caught.exception))
        self.assertIn("104.0 °F", caught.exception.text("ip"))


class CatalogueTest(unittest.TestCase):
    def test_at_least_twenty_two_fluids_with_fractions_that_add_up(self):
        self.assertGreaterEqual(len(CATALOGUE), 22)
        for row in CATALOGUE.values():
            self.assertAlmostEqual(sum(row.mass_fractions.values()), 1, 9)

    def test_published_warming_potentials(self):
        # Published AR4 figures of the blends, not what the components were entered from.
        for name, ar4 in (("R-410A", 2088), ("R-404A", 3922), ("R-407C", 1774), ("R-454B", 466)):
            with self.subTest(name):
                self.assertAlmostEqual(refrigerant(name).gwp_ar4, ar4, delta=1.5)

    def test_every_blend_leaves_as_liquid_and_every_pure_fluid_either_way(self):
        self.assertEqual(refrigerant("R-454B").leaves_cylinder_as, "liquid")
        self.assertEqual(refrigerant("R-32").leaves_cylinder_as, "either")

    def test_spelling_is_forgiven_and_a_stranger_is_not(self):
        self.assertEqual(refrigerant("r410a").name, "R-410A")
        with self.assertRaises(UnknownName) as caught:
            refrigerant("R-410B")
        self.assertIn("R-410A", caught.exception.nearest)
        self.assertLess(len(str(caught.exception)), 300)
        with self.assertRaises(UnknownName) as caught:
            refrigerant("x" * 1_000_000)
        self.assertLess(len(str(caught.exception)), 300)
