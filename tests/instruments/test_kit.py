import unittest
from random import Random
from statistics import mean, stdev

from nudge.core.language.errors import CoreError
from nudge.instruments.kit import KINDS, KIT, Ails, fits, new_kit
from nudge.instruments.troubles import TROUBLES

TRUTH = {
    "suction_pressure": 880.0,
    "liquid_pressure": 2500.0,
    "suction_line_temp": 13.0,
    "liquid_line_temp": 38.0,
    "discharge_line_temp": 75.0,
    "liquid_line_temp_indoor": 37.5,
    "evaporator_outlet_temp": 12.0,
    "outdoor_air_temp": 33.0,
    "return_air_temp": 26.0,
    "return_air_wet_bulb": 18.5,
    "supply_air_temp": 14.5,
    "supply_air_wet_bulb": 13.5,
    "total_external_static": 125.0,
    "compressor_amps": 12.8,
    "outdoor_unit_watts": 2900.0,
    "condenser_leaving_air_temp": 43.0,
    "cylinder_weight": 9.5,
}


def after(kit, seconds=120, dt=2.0, truth=TRUTH, seed=5):
    rng, rows = Random(seed), {}
    for _ in range(int(seconds / dt)):
        kit, given = kit.read(truth, dt, rng)
        for key, value in given.items():
            rows.setdefault(key, []).append(value)
    return kit, rows


class KitTest(unittest.TestCase):
    def test_the_kit_has_what_a_technician_carries(self):
        kinds = [row.kind for row in KIT]
        self.assertEqual(kinds.count("pressure_probe"), 2)
        self.assertGreaterEqual(kinds.count("clamp"), 4)
        self.assertEqual(
            len({row.key.split("-wet")[0] for row in KIT if row.kind == "air_probe"}), 3
        )
        for kind in ("manometer", "scale", "vacuum_gauge", "clamp_meter", "power_meter"):
            self.assertIn(kind, kinds)

    def test_values_are_near_the_truth_with_the_noise_of_their_kind(self):
        kit, rows = after(new_kit(Random(2)))
        for held in kit.held:
            if not held.point:
                continue
            kind, settled = KINDS[held.row.kind], rows[held.row.key][30:]
            with self.subTest(held.row.key):
                self.assertLess(
                    abs(mean(settled) - TRUTH[held.point]), 4 * kind.error + kind.resolution
                )
                self.assertLess(stdev(settled), 2 * kind.noise + kind.resolution)

    def test_a_clamp_follows_late(self):
        kit, _ = after(new_kit(Random(2)), 60)
        warmer = TRUTH | {"suction_line_temp": 23.0}
        _, rows = after(kit, 6, truth=warmer)
        self.assertTrue(13.5 < rows["clamp-1"][0] < 18 < rows["clamp-1"][-1] < 22)

    def test_each_trouble_bends_the_truth_its_own_way(self):
        for channel, trouble, least, most in (
            ("low-probe", "wrong_zero", 50, 60),
            ("clamp-1", "dirt", 10, 14),
            ("air-1", "sun", 6, 8),
            ("air-1", "touching_coil", 6, 10),
            ("air-3", "mixed_air", 4, 7),
            ("clamp-1", "wrong_pipe", 23, 27),
            ("air-2-wet", "dry_wick", 6, 8),
        ):
            with self.subTest(trouble):
                healthy = after(new_kit(Random(2)))[1][channel]
                ill = after(new_kit(Random(2)).ail(channel, (Ails(trouble),)))[1][channel]
                moved = mean(ill[20:]) - mean(healthy[20:])
                self.assertTrue(least <= moved <= most, moved)

    def test_stuck_spiking_dropping_and_dead(self):
        for trouble, holds in (
            ("stuck", lambda rows: len(set(rows)) == 1),
            ("spiking", lambda rows: max(rows) - min(rows) > 8),
            ("dropping_out", lambda rows: 0 < len(rows) < 40),
            ("dead", lambda rows: not rows),
        ):
            with self.subTest(trouble):
                _, rows = after(new_kit(Random(2)).ail("clamp-2", (Ails(trouble),)))
                self.assertTrue(holds(rows.get("clamp-2", [])))
        self.assertEqual(len(TROUBLES), 11)

    def test_a_battery_runs_out(self):
        kit, _ = after(new_kit(Random(2)), seconds=240 * 3600, dt=3600.0)
        self.assertEqual(kit.read(TRUTH, 1.0, Random(0))[1], {})

    def test_zeroing_under_pressure_is_as_wrong_as_on_a_real_probe(self):
        open_to_air = {**TRUTH, "suction_pressure": 0.0}
        kit, _ = after(new_kit(Random(2)), 10, truth=open_to_air)
        right = kit.zero("low-probe", open_to_air)
        self.assertLess(abs(mean(after(right)[1]["low-probe"]) - 880), 1)
        wrong = kit.zero("low-probe", TRUTH)
        self.assertLess(mean(after(wrong)[1]["low-probe"]), 5)

    def test_an_instrument_goes_only_where_its_kind_goes(self):
        kit = new_kit(Random(2))
        self.assertEqual(
            kit.place("clamp-6", "drier_inlet_temp").channels[7].point, "drier_inlet_temp"
        )
        for channel, point in (
            ("clamp-1", "suction_pressure"),
            ("low-probe", "outdoor_air_temp"),
            ("clamp-9", "liquid_line_temp"),
            ("air-1", "nowhere"),
        ):
            with self.subTest(channel, point=point), self.assertRaises(CoreError):
                kit.place(channel, point)
        with self.assertRaises(CoreError):
            kit.ail("scale", (Ails("sun"),))
        self.assertTrue(fits("clamp", "liquid_line_temp_indoor"))
