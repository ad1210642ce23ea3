"""Families of cousins: they differ in laws, keep their rated point, and are left out for real."""

import unittest
from random import Random
from typing import ClassVar

from nudge.plant.blower import blow
from nudge.plant.faults import Present, spoiled
from nudge.plant.machine import Machine
from nudge.plant.presets import preset
from nudge.plant.rating import rated_conditions
from nudge.plant.sizing import sized
from nudge.plant.steady import steady
from tools.cousins import FAMILIES, family_of
from tools.sweep import HOUSE_C, load_of, site, swept

RATING = preset("split-3-410-valve").rating


class CousinsTest(unittest.TestCase):
    machines: ClassVar[dict[str, Machine]]

    @classmethod
    def setUpClass(cls):
        cls.machines = {
            key: sized(RATING, lambda m, row=row: row.shape(m, Random(5)))
            for key, row in FAMILIES.items()
        }

    def test_there_are_at_least_six_that_differ_in_laws(self):
        drawn = [
            self.machines,
            *(
                {"mixed": sized(RATING, lambda m, n=n: FAMILIES["mixed"].shape(m, Random(n)))}
                for n in range(3)
            ),
        ]
        differ = {key for some in drawn for key, m in some.items() if m != self.machines["home"]}
        self.assertGreaterEqual(len(differ), 6)
        self.assertNotIn("plates", differ)  # that one differs in what its plates say
        self.assertTrue(FAMILIES["plates"].plates_by_class)

    def test_each_does_at_its_rated_point_what_its_rating_says(self):
        for key, machine in self.machines.items():
            at = steady(machine, rated_conditions(RATING, machine.charge_kg))
            with self.subTest(key):
                blower_kw = at.airflow.watts / 1000
                heat = at.operating.evaporated.heat - blower_kw
                self.assertAlmostEqual(heat / RATING.nominal_kw, 1, delta=0.06)
                over = at.operating.superheat_k - RATING.superheat_k
                self.assertLess(abs(over), 2.5)

    def test_away_from_it_they_part(self):
        # Where both phases go at nearly one speed, the coils hold less liquid.
        home, circuits = (self.machines[key].charge_kg for key in ("home", "circuits"))
        self.assertLess(circuits, 0.98 * home)
        # The same worn stroke: what is warmed in the shell leaves hotter.
        worn = {
            key: spoiled(
                self.machines[key],
                rated_conditions(RATING, m.charge_kg),
                [Present("compressor_worn", 0.8)],
            )
            for key, m in self.machines.items()
            if key in ("home", "shell")
        }
        hot = {key: steady(*pair).operating.discharge_c for key, pair in worn.items()}
        self.assertGreater(hot["shell"] - hot["home"], 2, hot)

    def test_a_straight_curve_and_a_slack_motor_move_less_against_more(self):
        from dataclasses import replace

        home = self.machines["home"].blower
        straight = replace(home, straight=1.0)
        for fan in (home, straight):
            choked = replace(fan, filter_resistance=20 * fan.filter_resistance)
            self.assertLess(blow(choked, 230).kg_s, blow(fan, 230).kg_s)
            # Where they meet, both curves hold: pressure of the fan is that of the ducts.
            flow = blow(fan, 230).kg_s
            share = flow / fan.most_kg_s
            given = fan.most_pa * (1 - fan.straight * share - (1 - fan.straight) * share**2)
            whole = (
                fan.return_resistance
                + fan.filter_resistance
                + fan.coil_resistance
                + fan.supply_resistance
            )
            self.assertAlmostEqual(given, whole * flow * flow, places=6)
        constant = replace(home, kind="ecm", slackens=0.3)
        choked = replace(constant, filter_resistance=4 * constant.filter_resistance)
        self.assertLess(blow(choked, 230).kg_s, blow(replace(choked, slackens=0.0), 230).kg_s)

    def test_a_kind_names_its_family(self):
        self.assertEqual(family_of("valves/strange orifice")[1], "strange orifice")
        self.assertEqual(family_of("valves/orifice")[0].key, "valves")
        self.assertEqual(family_of("valve")[0].key, "home")

    def test_houses_are_ordinary_unless_the_case_is_of_their_load(self):
        of, warm = site(1000, "orifice"), []
        for number in range(12):
            case = swept(of, [Present("high_load", 0.9)] if number % 2 else [], Random(number))
            if case is None:
                continue
            dry, wet = case.truth["return_air_temp"], case.truth["return_air_wet_bulb"]
            is_high = dry > (82.5 - 32) / 1.8 or wet > (71.5 - 32) / 1.8
            self.assertEqual(is_high, bool(number % 2))
            self.assertGreaterEqual(dry, (69.5 - 32) / 1.8)
            warm.append(dry)
        self.assertGreater(max(warm) - min(warm), 2)
        self.assertAlmostEqual(HOUSE_C, (76 - 32) / 1.8)
        self.assertTrue(callable(load_of))


if __name__ == "__main__":
    unittest.main()
