"""What must hold for any system, whatever the numbers: directions, shifts, limits."""

import random
import unittest
from itertools import pairwise

from nudge.core.language.units import M_PER_FT
from nudge.core.physics.refrigerant.catalogue import CATALOGUE
from nudge.core.physics.refrigerant.saturation import pressures_at, saturation_at
from nudge.core.physics.refrigerant.table import load_table
from tests.core.field import case, plate


class DirectionsTest(unittest.TestCase):
    def test_superheat_and_subcooling_follow_their_readings_degree_for_degree(self):
        rng = random.Random(3)
        for _ in range(60):
            fluid = rng.choice(["R-22", "R-410A", "R-32", "R-407C", "R-454B"])
            base = {
                "suct": rng.uniform(50, 120),
                "liq": rng.uniform(180, 350),
                "sl": rng.uniform(40, 70),
                "ll": rng.uniform(70, 100),
            }
            first = case(plate(fluid=fluid), **base).derived
            warmer = case(
                plate(fluid=fluid), **{**base, "sl": base["sl"] + 5, "ll": base["ll"] + 5}
            )
            assert first.superheat is not None
            assert first.subcooling is not None
            assert warmer.derived.superheat is not None
            assert warmer.derived.subcooling is not None
            self.assertAlmostEqual((warmer.derived.superheat - first.superheat) * 1.8, 5, 6)
            self.assertAlmostEqual((warmer.derived.subcooling - first.subcooling) * 1.8, -5, 6)
            harder = case(
                plate(fluid=fluid), **{**base, "suct": base["suct"] + 4, "liq": base["liq"] + 4}
            )
            assert harder.derived.superheat is not None
            assert harder.derived.subcooling is not None
            self.assertLess(harder.derived.superheat, first.superheat)
            self.assertGreater(harder.derived.subcooling, first.subcooling)

    def test_the_same_gauge_means_a_colder_coil_on_a_mountain(self):
        low, high = (
            case(plate(elevation_m=feet * M_PER_FT), suct=118).derived.evaporator_saturation
            for feet in (0, 7000)
        )
        assert low is not None
        assert high is not None
        # 7,000 ft: 11.34 psia; R-410A near 40 °F moves about 0.43 °F a psi.
        self.assertAlmostEqual((low - high) * 1.8, (14.696 - 11.34) * 0.43, delta=0.15)

    def test_saturation_rises_with_pressure_everywhere(self):
        for name in CATALOGUE:
            table = load_table(name)
            low, span = table.low_kpa - 101.3, table.high_kpa - table.low_kpa - 0.1
            steps = [low + span * i / 60 for i in range(61)]
            states = [saturation_at(table, kpa) for kpa in steps]
            for below, above in pairwise(states):
                self.assertLess(below.dew_c, above.dew_c, name)
                self.assertLess(below.bubble_c, above.bubble_c, name)
            self.assertTrue(all(state.glide_k > -0.02 for state in states), name)

    def test_a_pure_fluid_has_no_glide_and_a_blend_keeps_its_order(self):
        for row in CATALOGUE.values():
            bubble_kpa, dew_kpa = pressures_at(load_table(row.name), 5.0)
            if row.is_blend:
                self.assertGreaterEqual(bubble_kpa, dew_kpa - 0.01, row.name)
            else:
                self.assertAlmostEqual(bubble_kpa, dew_kpa, 3, row.name)

    def test_mean_coil_temperatures_lie_between_the_ends(self):
        for name in ("R-407C", "R-448A", "R-454C", "R-410A"):
            state = saturation_at(load_table(name), 450)
            assert state.evaporator_mean_c is not None
            assert state.valve_outlet_c is not None
            self.assertTrue(state.bubble_c <= state.valve_outlet_c <= state.dew_c, name)
            self.assertTrue(state.bubble_c <= state.condenser_mean_c <= state.dew_c, name)
            self.assertGreater(state.evaporator_mean_c, state.condenser_mean_c, name)
