"""Which of a log counts, and what is read off it: against logs whose every number is known."""

import unittest

from nudge.core.language.errors import CoreError
from nudge.core.multizone.measuring import signs_of
from nudge.core.multizone.reading import read_log
from nudge.core.physics.zones.log import ZoneLog
from tests.core.multizone.logs import PARTS, STEP_S, flat


class KeptTest(unittest.TestCase):
    def test_the_warm_up_is_cut_and_an_hour_of_the_rest_is_wanted(self):
        self.assertAlmostEqual(flat(40).kept_s / 60, 25, delta=1)  # 15 minutes are cut
        self.assertFalse(flat(74).is_an_hour)
        self.assertTrue(flat(76).is_an_hour)

    def test_rests_oil_returns_and_turns_do_not_count(self):
        rests = flat(100, compressor_hz=lambda i: 0.0 if 80 <= i < 120 else 60.0)
        self.assertEqual(len(rests.starts), 2)
        self.assertAlmostEqual(rests.kept_s / 60, 100 - 20 - 2 * 15, delta=1)
        oil = flat(100, mode=lambda i: 3.0 if 80 <= i < 88 else 1.0)
        self.assertAlmostEqual(oil.kept_s / 60, 100 - 15 - 4 - 4, delta=1)
        turned = flat(100, mode=lambda i: 2.0 if i >= 100 else 1.0)
        self.assertAlmostEqual(turned.kept_s / 60, 100 - 15 - 10, delta=1)

    def test_after_a_gap_it_is_a_start(self):
        whole = flat(120)
        times = [t + (3600.0 if t >= 3600 else 0.0) for t in whole.times_s]
        log = ZoneLog(times, whole.columns)
        self.assertEqual(log.gaps, ((3600.0 - STEP_S, 7200.0),))
        self.assertAlmostEqual(log.kept_s / 60, 120 - 30, delta=1)

    def test_columns_of_another_length_are_refused(self):
        with self.assertRaises(CoreError):
            ZoneLog([0.0, 1.0], {("1", "room_temp"): [20.0]})


class SignsTest(unittest.TestCase):
    def test_the_plants_numbers_are_what_a_hand_works_out(self):
        found = signs_of(flat(90), PARTS)
        self.assertEqual(found.way, "cooling")
        for key, value in (
            ("hz", 60.0), ("off_target", 1.0), ("liquid_gap", 18.0), ("shell_gap", 18.0),
            ("bands", 6.8), ("band_top", 7.0), ("inlet_gap", 7.0), ("outdoor_gap", 12.0),
            ("room_error", 1.0), ("steps", 0.5), ("coil_gap", 5.0), ("combination", 1.2),
            ("bypass_share", 3 / 42),
        ):  # fmt: skip
            self.assertAlmostEqual(found.plant[key], value, delta=1e-6, msg=key)

    def test_pressures_stand_in_for_what_boils_at_them(self):
        # R-410A: 7.0 bar over the air is 8.01 bar absolute, −0.0 °C by published tables.
        log = flat(90, low_pressure=700.0)
        del log.columns["outdoor", "evaporating_temp"]
        found = signs_of(log, PARTS)
        self.assertAlmostEqual(found.plant["off_target"], -1.0, delta=0.3)

    def test_a_room_is_taken_beside_the_others(self):
        log = flat(90, r2__room_temp=31.0, r2__return_air=31.2, r2__valve_steps=480.0)
        rooms = signs_of(log, PARTS).rooms
        self.assertAlmostEqual(rooms["2"]["error"], 6.0)
        self.assertAlmostEqual(rooms["2"]["steps"], 0.5)
        self.assertEqual(rooms["2"]["at_end"], 1.0)
        self.assertAlmostEqual(rooms["1"]["error"], 0.0 - 3.0)  # beside 31 and 25: median 4
        self.assertAlmostEqual(rooms["1"]["airs"], 0.2)

    def test_behind_a_shut_valve_it_counts_only_at_rest(self):
        rests = {"r3__calls": 0.0, "r3__valve_steps": 0.0}
        found = signs_of(flat(90, **rests), PARTS).rooms
        self.assertAlmostEqual(found["3"]["shut"], 25.2 - 10.0)
        self.assertAlmostEqual(found["3"]["pipes"], 5.0)
        self.assertNotIn("error", found["3"])
        self.assertAlmostEqual(found["1"]["others_shut"], 15.2)
        self.assertNotIn("shut", found["1"])

    def test_heating_turns_the_signs_round(self):
        warm = {f"r{n}__room_mode": 2.0 for n in (1, 2, 3)}
        warm |= {f"r{n}__coil_outlet": 35.0 for n in (1, 2, 3)}
        found = signs_of(flat(90, mode=2.0, condensing_target=49.0, **warm), PARTS)
        self.assertEqual(found.way, "heating")
        self.assertAlmostEqual(found.plant["room_error"], -1.0)  # a degree over what it wants
        self.assertAlmostEqual(found.plant["coil_gap"], 10.0)  # condensing − outlet
        self.assertAlmostEqual(found.plant["off_target"], 4.0)


class ShortTest(unittest.TestCase):
    def test_under_an_hour_nothing_is_judged_whatever_it_shows(self):
        log = flat(70, liquid_temp=45.0, r1__valve_steps=480.0, r1__room_temp=33.0)
        found = read_log(log, PARTS)
        self.assertFalse(found.is_judged)
        self.assertEqual((found.decision.state, list(found.beliefs)), ("not_an_hour", []))
        self.assertIn("55 minutes", found.decision.reason)
