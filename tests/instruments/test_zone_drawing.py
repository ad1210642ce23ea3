"""A plant's drawing from a file: tables as planners write them, and what is wrong with one said."""

import unittest

from nudge.core.language.errors import CoreError
from nudge.instruments.zone_drawing import drawing_of


class ZoneDrawingTest(unittest.TestCase):
    def test_a_table_of_rooms_is_read_in_its_own_units(self):
        text = "Plan of the mill\nNumber;Name;Floor;Size [kBtu/h];Pipe [ft];Height [ft]\n"
        text += "2.1;Hall;2;24;50;-10,5\n2.2;Loft;2;12;80;-10,5\n"
        first, second = drawing_of(text)["rooms"]
        self.assertEqual((first["key"], first["name"], first["storey"]), ("2.1", "Hall", 2))
        self.assertAlmostEqual(first["capacity_w"], 7034, delta=1)
        self.assertAlmostEqual(second["length_m"], 24.38, delta=0.01)
        self.assertAlmostEqual(second["lift_m"], -3.2, delta=0.01)

    def test_json_is_taken_whole_or_as_a_list_of_rooms(self):
        rooms = [{"key": "1", "name": "Hall", "capacity_w": 3600.0}]
        self.assertEqual(
            drawing_of('[{"key": "1", "name": "Hall", "capacity_w": 3600.0}]'), {"rooms": rooms}
        )
        self.assertEqual(drawing_of('{"capacity_w": 14000, "rooms": []}')["capacity_w"], 14000)

    def test_what_is_wrong_is_named(self):
        for text, told in (
            ("Name,kW\nHall,3.6\nLoft,2\n", "Call it “number”"),
            ("Number,kW\n1,much\n2,3\n", "Line 1: “much”"),
            ("{nothing", "begins like JSON"),
            ("[" * 100_000, "begins like JSON"),
            (f'"{"a" * 200_000}\n1,2\n', "cannot be read"),
            ("number,storey\n1,1e400\n2,2\n", "Line 1"),
        ):
            with self.assertRaises(CoreError) as refused:
                drawing_of(text)
            self.assertIn(told, str(refused.exception.text("si")))
