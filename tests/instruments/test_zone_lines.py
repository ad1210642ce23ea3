"""A plant's log as it is sent while it runs: units, words, and what is refused by itself."""

import unittest

from nudge.instruments.zone_lines import ZoneLine, log_of_lines


class ZoneLinesTest(unittest.TestCase):
    def test_values_come_in_the_units_asked_for_and_codes_as_words(self):
        lines = [
            ZoneLine(
                1000.0, {"outdoor/mode": "cool", "2.1/room_temp": 77.0, "2.1/valve_steps": 240}
            ),
            ZoneLine(1020.0, {"outdoor/mode": 1.0, "2.1/room_temp": 76.1}),
        ]
        found = log_of_lines(lines, "ip")
        self.assertEqual((found.refused, found.reasons), (0, ()))
        self.assertEqual(list(found.log.columns["outdoor", "mode"]), [1.0, 1.0])
        self.assertAlmostEqual(found.log.columns["2.1", "room_temp"][1], 24.5)
        self.assertEqual(found.log.rooms, ("2.1",))

    def test_what_nobody_knows_or_no_sensor_shows_is_refused_by_itself(self):
        line = ZoneLine(
            5.0,
            {
                "2.1/room_temp": 25.0,
                "2.1/room_tmp": 25.0,
                "outdoor/set_point": 24.0,
                "2.2/coil_outlet": 900.0,
                "2.1/calls": "perhaps",
            },
        )
        found = log_of_lines([line], "si")
        self.assertEqual(found.refused, 4)
        told = " ".join(found.reasons)
        for word in ("room_tmp", "outdoor/set_point", "900", "perhaps"):
            self.assertIn(word, told)
        self.assertEqual(list(found.log.columns["2.1", "room_temp"]), [25.0])
