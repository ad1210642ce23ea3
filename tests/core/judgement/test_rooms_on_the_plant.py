"""The judge in cold rooms on plants it was not made from: what leads, and what is never said."""

import unittest
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.behaviours.rows import behaviour_of
from nudge.core.judgement.assess import assess
from nudge.core.judgement.room_suspects import ROOM_SUSPECTS
from nudge.core.language.errors import OutOfRange
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, Plate
from nudge.plant.faults import FAULTS, Present
from tools.rooms import BOXES, may_have_in_room, read_room, room, swept_room

SEVERE: dict[str, tuple[str, tuple[str, ...]]] = {
    "room_coil_iced": ("evaporator_coil_iced", ("room_coil_iced",)),
    "room_fan": ("evaporator_fan", ("room_fan_stands",)),
    "receiver_short": ("receiver_short", ("receiver_low",)),
    "door_open": ("door_open", ()),
    "condenser_dirt": ("condenser_airflow", ("condenser_coil_dirty",)),
    "drier_restricted": ("liquid_line_restriction", ()),
    "metering_underfeed": ("metering_underfeed", ()),
    "metering_overfeed": ("metering_overfeed", ()),
    "compressor_reed": ("inefficient_compressor", ()),
    "head_held_high": ("head_pressure_control", ("head_control_sticks",)),
}
"""By what is wrong: what has to lead, and what somebody sees there."""
NEVER = ("add ", "top up", "remove", "recover the surplus")


class RoomsOnThePlantTest(unittest.TestCase):
    def judged(self, box, fault, number, seen=()):
        """A room of one of the families that the table is made of, with other constants."""
        rng = Random(f"{box}{fault}{number}")
        of = room(30_000 + number, "home", box)
        if fault and not may_have_in_room(of, fault):
            return None
        case = swept_room(of, [Present(fault, 0.85)] if fault else [], rng)
        if case is None:
            return None
        context = Context(60.0, 60.0, frozenset(seen))
        try:
            return assess(of.plate, read_room(case, rng), context)
        except OutOfRange:
            return None

    def test_a_severe_fault_leads_and_nobody_is_told_to_move_refrigerant(self):
        right = told = 0
        for box in BOXES:
            for fault, (suspect, seen) in SEVERE.items():
                for number in (1, 2):
                    found = self.judged(box, fault, number, seen)
                    if found is None:
                        continue
                    told += 1
                    right += suspect in [b.suspect.key for b in found.suspects[:2]]
                    said = f"{found.decision.headline} {found.decision.reason.text('ip')}".lower()
                    with self.subTest(fault, box=box, number=number):
                        self.assertIn(found.decision.advice, ("do_not_charge", "leave"))
                        for word in NEVER:
                            self.assertNotIn(word, said)
        self.assertGreaterEqual(told, 30)
        self.assertGreaterEqual(right / told, 0.85)

    def test_healthy_ones_near_set_point_are_left_alone(self):
        keys = [
            found.decision.key
            for box in BOXES
            for number in range(12)
            if (found := self.judged(box, "", number)) is not None
        ]
        self.assertGreaterEqual(len(keys), 20)
        self.assertGreaterEqual(keys.count("room_right") / len(keys), 0.9, keys)

    def test_every_suspect_of_a_room_has_a_row_and_beliefs_add_to_one(self):
        found = self.judged("cooler", "room_fan", 3)
        self.assertAlmostEqual(sum(b.belief for b in found.suspects), 1, places=6)
        rooms = {row.suspect for row in FAULTS.values() if row.only == "room" and row.suspect}
        self.assertLessEqual(rooms, set(ROOM_SUSPECTS))

    def test_without_a_receiver_or_a_set_point_nothing_is_weighed(self):
        def key_of(**plate):
            valve = MeteringDevice.TXV
            return behaviour_of(
                Plate("R-404A", valve, application=Application.REFRIGERATION, **plate)
            ).key

        self.assertEqual(key_of(box_set_point_c=-20.0, has_receiver="yes"), "freezer")
        self.assertEqual(key_of(box_set_point_c=2.0, has_receiver="yes"), "cooler")
        self.assertEqual(key_of(box_set_point_c=2.0, has_receiver="no"), "cold_room")
        self.assertEqual(key_of(has_receiver="yes"), "cold_room")
