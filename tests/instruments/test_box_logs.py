"""A box's own log: its columns are known by what loggers call them."""

import unittest

from nudge.instruments.guessing import guess_column


class BoxLogTest(unittest.TestCase):
    def test_a_box_and_its_coil_are_known_by_many_names(self):
        for name, point, unit in (
            ("Box air (°F)", "box_air_temp", "°F"),
            ("Room temp °C", "box_air_temp", "°C"),
            ("cold store", "box_air_temp", None),
            ("Freezer_temp_F", "box_air_temp", None),
            ("Coil outlet (°F)", "evaporator_outlet_temp", "°F"),
            ("coil end sensor", "evaporator_outlet_temp", None),
            ("Defrost probe", "evaporator_outlet_temp", None),
        ):
            with self.subTest(name):
                found = guess_column(name, ["1.5", "2.0"], set())
                self.assertEqual(found.point, point)
                if unit:
                    self.assertEqual(found.unit, unit)

    def test_a_set_point_or_a_boxs_humidity_is_no_air_temperature(self):
        for name in ("Set point", "Room setpoint °C", "Room RH %"):
            self.assertEqual(guess_column(name, ["1.5"], set()).point, "", name)
