"""Headings as plants write them: whose a column is, which point, what has to be asked."""

import unittest

from nudge.core.language.errors import CoreError
from nudge.core.multizone.headings import code_of, guess_headings, left_out
from tools.zone_styles import STYLES

UNSEEN = {
    "Fan coil 12 room temperature": ("12", "room_temp"),
    "Fan coil 12 setpoint": ("12", "set_point"),
    "Fan coil 12 inlet air": ("12", "return_air"),
    "Fan coil 12 liquid pipe": ("12", "coil_inlet"),
    "Fan coil 12 gas pipe": ("12", "coil_outlet"),
    "Fan coil 12 expansion valve pulses": ("12", "valve_steps"),
    "Fan coil 12 thermo on": ("12", "calls"),
    "Fan coil 12 operating mode": ("12", "room_mode"),
    "System high pressure": ("outdoor", "high_pressure"),
    "System low pressure": ("outdoor", "low_pressure"),
    "Inverter frequency": ("outdoor", "compressor_hz"),
    "Hot gas temperature": ("outdoor", "discharge_temp"),
    "Suction pipe": ("outdoor", "accumulator_inlet_temp"),
    "Compressor shell": ("outdoor", "shell_temp"),
    "Liquid pipe": ("outdoor", "liquid_temp"),
    "Outside air": ("outdoor", "outdoor_air"),
    "Low pressure target": ("outdoor", "evaporating_target"),
    "Operation": ("outdoor", "mode"),
    "Remarks": ("", ""),
    "Fan coil 12 filter hours": ("", ""),
}
"""A style no word list was made from."""


class HeadingsTest(unittest.TestCase):
    def test_in_the_three_styles_every_column_is_told(self):
        for style in STYLES.values():
            told = [(name, "outdoor", point) for point, name in style.outdoor.items()]
            for room in ("1.1", "2.3", "10.2"):
                told += [(h.replace("{n}", room), room, point) for point, h in style.room.items()]
            found = guess_headings([name for name, _, _ in told]).columns
            wrong = [
                column
                for column, (_, part, point) in zip(found, told, strict=True)
                if (column.part, column.point) != (part, point)
            ]
            self.assertEqual(wrong, [], style.key)

    def test_in_a_style_never_seen_nine_in_ten_are(self):
        found = guess_headings(list(UNSEEN)).columns
        right = sum((c.part, c.point) == UNSEEN[c.name] for c in found)
        self.assertGreaterEqual(right, 0.9 * len(UNSEEN))

    def test_doubled_headings_are_refused_and_nameless_ones_asked_about(self):
        with self.assertRaises(CoreError) as refused:
            guess_headings(["Time", "IU1 Room", "IU1 Room"])
        self.assertIn("IU1 Room", str(refused.exception))
        found = guess_headings(["Time", "IU1 Room", "", ""])
        self.assertIn("2 columns have no heading", found.questions[-1])

    def test_units_in_brackets_and_in_a_row(self):
        found = guess_headings(["IU1 Room [°F]", "IU1 Set"], ["", "°C"]).columns
        self.assertEqual([c.unit for c in found], ["°F", "°C"])

    def test_what_no_column_is_is_named(self):
        found = left_out(guess_headings(["IU1 Room", "IU2 Room", "OU Mode"]).columns)
        self.assertIn("Set point of 1, 2", found)
        self.assertNotIn("Mode", found)

    def test_codes_and_words(self):
        for point, word, code in (
            ("mode", "Cooling", 1), ("mode", "H", 2), ("mode", "oil return", 3),
            ("room_mode", "2", 2), ("calls", "yes", 1), ("calls", "OFF", 0),
        ):  # fmt: skip
            self.assertEqual(code_of(point, word), code, word)
        self.assertIsNone(code_of("mode", "Z7"))
