"""The judge in heating on a plant it was not made from: what leads, and what is never said."""

import unittest
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import assess
from nudge.core.language.errors import OutOfRange
from nudge.plant.faults import FAULTS, Present
from tools.winter import pump, read_in_winter, swept_in_winter

SEVERE: dict[str, tuple[str, ...]] = {
    "undercharge": ("undercharge",),
    "overcharge": ("overcharge", "non_condensables"),
    "filter_dirty": ("low_indoor_airflow",),
    "weak_capacitor": ("electrical_blower",),
    "compressor_reed": ("inefficient_compressor",),
    "reversing_valve_leak": ("reversing_valve_leak",),
    "metering_underfeed": ("metering_underfeed",),
    "metering_overfeed": ("metering_overfeed", "idle_check_valve_leak"),
    "outdoor_coil_iced": ("outdoor_coil_iced", "condenser_airflow"),
    "strips_on": ("strips_on",),
}
"""What may lead where nobody has looked yet: two that read alike are told apart by a look."""
SUMMER = ("warm the house", "load", "ambient", "add ", "remove", "top up")


class WinterOnThePlantTest(unittest.TestCase):
    def judged(self, fault: str, number: int, seen: tuple[str, ...] = ()):
        of, rng = pump(30_000 + number, "home"), Random(f"{fault}{number}")
        faults = [Present(fault, 0.85)] if fault else []
        case = swept_in_winter(of, faults, rng)
        if case is None:
            return None
        readings = read_in_winter(case, rng)
        try:
            return assess(of.plate, readings, Context(40.0, 40.0, frozenset(seen), mode="heating"))
        except OutOfRange:
            return None  # a pressure off the refrigerant's table: said so, and nothing judged

    def test_a_severe_fault_leads_and_nothing_of_summer_is_said(self):
        right = told = 0
        for fault, may_lead in SEVERE.items():
            for number in (1, 2):
                found = self.judged(fault, number)
                if found is None:
                    continue
                told += 1
                right += found.suspects[0].suspect.key in may_lead
                said = f"{found.decision.headline} {found.decision.reason.text('ip')}".lower()
                with self.subTest(fault, number=number):
                    self.assertIn(found.decision.advice, ("do_not_charge", "leave"))
                    for word in SUMMER:
                        self.assertNotIn(word, said)
        self.assertGreaterEqual(told, 16)
        self.assertGreaterEqual(right / told, 0.85)

    def test_healthy_ones_are_left_alone(self):
        keys = [self.judged("", number).decision.key for number in range(12)]
        self.assertGreaterEqual(keys.count("heat_right"), 11, keys)

    def test_beliefs_add_to_one_and_every_suspect_of_the_plant_has_a_row(self):
        found = self.judged("undercharge", 3)
        self.assertAlmostEqual(sum(b.belief for b in found.suspects), 1, places=6)
        named = {b.suspect.key for b in found.suspects}
        winter = {row.suspect for row in FAULTS.values() if row.only == "heating" and row.suspect}
        self.assertLessEqual(winter, named)

    def test_a_look_settles_what_reads_alike(self):
        before = self.judged("outdoor_coil_iced", 1)
        iced = self.judged("outdoor_coil_iced", 1, ("outdoor_coil_ice",))
        clear = self.judged("outdoor_coil_iced", 1, ("outdoor_coil_frost_light",))
        belief = {
            name: {b.suspect.key: b.belief for b in one.suspects}["outdoor_coil_iced"]
            for name, one in (("before", before), ("iced", iced), ("clear", clear))
        }
        self.assertGreater(belief["iced"], max(belief["before"], 0.9))
        self.assertLess(belief["clear"], belief["before"] - 0.2)
