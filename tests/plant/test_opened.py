"""An opened circuit: water, leaks and pumps against what handbooks say of them."""

import unittest

from nudge.plant.opened import (
    ATMOSPHERE_PA,
    Opened,
    PlantPump,
    filled,
    pressure_pa,
    step,
    vented,
    water_pa,
)

MICRON = 0.133322387


class OpenedTest(unittest.TestCase):
    def test_water_boils_where_the_tables_say(self):
        # IAPWS saturation: 611.7 Pa at the triple point, 2,339 at 20 °C; ice 259.9 at −10 °C.
        for celsius, over_ice, pascal in (
            (0.01, False, 611.7),
            (20, False, 2339),
            (-10, True, 259.9),
        ):
            with self.subTest(celsius):
                self.assertAlmostEqual(water_pa(celsius, over_ice) / pascal, 1, delta=0.003)

    def test_a_leak_lifts_a_vacuum_by_its_rate(self):
        # 0.012 mbar·L/s into 12 L is 0.001 mbar/s: 0.1 Pa/s, 6 Pa a minute, 45 micron.
        opened = Opened(12.0, leak=0.012)
        inside = filled(opened, 50.0, 20.0)
        later = step(opened, inside, 20.0, 600)
        self.assertAlmostEqual(pressure_pa(opened, later, 20.0) - 50.0, 60.0, delta=0.2)

    def test_the_same_leak_lets_nitrogen_out_by_the_squares(self):
        # Laminar: at 11.36 bar it passes (11.36² − 1.013²)/1.013² = 124.7 times as much.
        opened = Opened(12.0, leak=0.012)
        high = 11.36 * 1e5
        inside = filled(opened, high, 20.0)
        fell = high - pressure_pa(opened, step(opened, inside, 20.0, 60), 20.0)
        self.assertAlmostEqual(fell / (0.012 * 100 / 12 * 124.7 * 60), 1, delta=0.02)

    def test_water_freezes_under_its_triple_point_and_holds_its_pressure(self):
        opened = Opened(12.0, water_w_k=0.02)
        inside = step(opened, filled(opened, ATMOSPHERE_PA, 22.0, 3.0), 22.0, 900, PlantPump())
        self.assertGreater(inside.ice_g, 1.0)
        self.assertLess(inside.water_c, -5.0)
        stands = step(opened, inside, 22.0, 1800)
        # Ice that warms in a closed pipe stops at 0 °C, 4,588 micron, while any is left.
        self.assertAlmostEqual(pressure_pa(opened, stands, 22.0) / MICRON, 4588, delta=120)
        self.assertAlmostEqual(
            stands.water_g + stands.vapour_mol * 18.015,
            inside.water_g + inside.vapour_mol * 18.015,
            places=6,
        )

    def test_narrow_hoses_and_cores_cost_what_conductance_says(self):
        # 6 ft at 500 micron: 1/4 in. (0.48 cm) 0.034 L/s, 3/8 in. 0.465 L/s.
        narrow, wide = (PlantPump(bore_cm=bore, length_cm=183) for bore in (0.483, 0.954))
        pascal = 500 * MICRON
        self.assertAlmostEqual(narrow.conductance(pascal), 0.034, delta=0.001)
        self.assertAlmostEqual(wide.conductance(pascal), 0.465, delta=0.005)
        cored = PlantPump(bore_cm=0.954, length_cm=183, cores_in=True)
        self.assertLess(cored.conductance(pascal), 0.8 * wide.conductance(pascal))

    def test_dry_nitrogen_in_and_out_leaves_the_water(self):
        opened = Opened(12.0)
        inside = filled(opened, 60.0, 20.0, 2.0)
        swept = vented(opened, inside, 20.0, 115_000)
        self.assertAlmostEqual(pressure_pa(opened, swept, 20.0), 115_000, delta=1)
        self.assertEqual(swept.water_g, 2.0)
