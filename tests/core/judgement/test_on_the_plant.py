"""The judge against the simulated plant, on systems its table was not made from.

A small draw of what `make judge` measures in full; the floors are well under its figures, so
that only a real loss of judgement fails here.
"""

import unittest
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from random import Random
from typing import ClassVar

from nudge.core.physics.refrigerant.table import load_table
from nudge.plant.faults import Present
from tools import judge_study
from tools.cousins import FAMILIES
from tools.decision_cases import not_low
from tools.judge_study import calibration_error, paired, single
from tools.judged_case import Asked, Judged, judge, met
from tools.sweep import FIVE, STEADY_FAULTS, read, site, swept
from tools.troubles_at_rest import PROBE_TROUBLES
from tools.ways import WAYS

FEW_SITES = range(1000, 1005)


def _judged(asked: Asked) -> Judged | None:
    judge_study.SITES = FEW_SITES
    return judge(asked)


class OnThePlantTest(unittest.TestCase):
    pool: ClassVar[ProcessPoolExecutor]

    @classmethod
    def setUpClass(cls):
        cls.pool = ProcessPoolExecutor()  # kept, so that each system is sized once
        cls.addClassCleanup(cls.pool.shutdown)

    def all_judged(self, asked: list[Asked]) -> list[Judged]:
        return [j for j in self.pool.map(_judged, asked, chunksize=4) if j is not None]

    def test_full_instruments_name_the_fault(self):
        found = self.all_judged(single("", ("moderate", "severe"), "full", 60))
        self.assertGreater(len(found), 50)
        self.assertGreater(sum(j.first for j in found) / len(found), 0.85)
        self.assertGreater(sum(j.in_two for j in found) / len(found), 0.92)

    def test_five_numbers_leave_it_among_the_first_two(self):
        found = self.all_judged(single("", ("severe",), "five", 40))
        self.assertGreater(sum(j.in_two for j in found) / len(found), 0.62)

    def test_both_of_two_are_named(self):
        found = self.all_judged(paired(44))
        self.assertGreater(sum(j.in_two for j in found) / len(found), 0.75)

    def test_its_own_checks_bring_it_nearer(self):
        found = self.all_judged(single("", ("moderate", "severe"), "five", 30, follows=True))
        before = sum(j.first for j in found)
        after = sum(j.after[0][0] in j.suspects for j in found)
        self.assertGreater(after, before)
        self.assertTrue(all(len(j.checks) <= judge_study.FOLLOWED for j in found))

    def test_nothing_is_added_where_charge_is_not_low(self):
        found = [met for met in self.pool.map(not_low, range(120), chunksize=4) if met is not None]
        self.assertGreater(len(found), 60)
        self.assertEqual([one for one in found if one.first == "add"], [])

    def test_truly_low_is_not_left_alone(self):
        asked = [
            Asked(
                f"low test {n}", ("valve", "orifice")[n % 2], ("undercharge",), "moderate", "looked"
            )
            for n in range(20)
        ]
        ready = [j for j in self.all_judged(asked) if j.is_ready]
        said = sum(j.advice in ("add", "find_leak") for j in ready)
        self.assertGreater(len(ready), 12)
        self.assertGreater(said / len(ready), 0.85)


class SweepTest(unittest.TestCase):
    def test_sites_for_judging_are_not_those_of_the_table(self):
        sizes = [WAYS["cooling"].size(family) for family in FAMILIES]
        self.assertLess(max(size.sites for size in sizes), min(FEW_SITES))
        self.assertNotEqual(site(1, "valve").machine, site(1000, "valve").machine)

    def test_a_site_is_left_near_its_plate(self):
        for kind in ("valve", "strange valve"):
            for number in (1000, 1001, 1002):
                of = site(number, kind)
                self.assertAlmostEqual(of.machine.charge_kg / of.right_kg, 1, delta=0.12)
                case = swept(of, (), Random(1))
                assert case is not None
                table = load_table(of.plate.refrigerant)
                kpa = case.truth["liquid_pressure"] + 101.325 * (1 if kind == "valve" else 0.9)
                bubble = table.bubble.temperature(kpa)
                # Left within about 3 °F of the plate, in any weather within about 6.
                subcooling = bubble - case.truth["liquid_line_temp"]
                self.assertAlmostEqual(
                    subcooling, of.plate.target_subcooling_k or 0, delta=4 if kind == "valve" else 9
                )

    def test_the_same_number_is_the_same_site_and_the_same_seed_the_same_case(self):
        one = Asked("again", "orifice", ("overcharge",), "severe", "full")
        first, second = met(one), met(replace(one, instruments="five"))
        assert first is not None
        assert second is not None
        self.assertEqual(first.truth, second.truth)
        self.assertEqual(first.suspects, ("overcharge",))
        self.assertGreater(first.charge_share, 1.2)

    def test_instruments_err_by_their_kind(self):
        case = swept(site(1000, "valve"), (Present("filter_dirty", 0.6),), Random(3))
        assert case is not None
        drawn = [read(case, Random(n))["liquid_line_temp"] for n in range(400)]
        mean = sum(drawn) / len(drawn)
        spread = (sum((v - mean) ** 2 for v in drawn) / len(drawn)) ** 0.5
        # A clamp's ±1 °F holds 19 of 20: half of it, 0.28 K, is one standard deviation.
        self.assertAlmostEqual(spread, 0.278, delta=0.04)
        self.assertAlmostEqual(mean, case.truth["liquid_line_temp"], delta=0.05)
        self.assertTrue(set(FIVE) <= set(read(case, Random(0))))

    def test_each_trouble_moves_its_one_reading(self):
        case = swept(site(1001, "valve"), (), Random(4))
        assert case is not None
        clean = read(case, Random(5))
        for name, spoil in PROBE_TROUBLES.items():
            with self.subTest(name):
                spoiled = dict(clean)
                spoil(spoiled, 0.8, Random(6))
                moved = [point for point in clean if clean[point] != spoiled[point]]
                self.assertEqual(len(moved), 1)

    def test_every_steady_fault_of_the_plant_is_swept(self):
        asked = {a.faults[0] for a in single("", ("severe",), "full", 40)}
        self.assertEqual(asked, set(STEADY_FAULTS))

    def test_calibration_by_hand(self):
        # Said 0.9 twice and right once: off by 0.4 in a bin that holds everything.
        self.assertAlmostEqual(calibration_error([(0.9, True), (0.9, False)]), 0.4)
        # Half the cases perfectly said, half off by 0.5.
        self.assertAlmostEqual(calibration_error([(1.0, True), (0.5, False)]), 0.25)


if __name__ == "__main__":
    unittest.main()
