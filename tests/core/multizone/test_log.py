"""Which of a log counts, and what is read off it: against logs whose every number is known."""

import json
import unittest

from nudge.core.language.errors import CoreError
from nudge.core.multizone.measuring import signs_of
from nudge.core.multizone.reading import read_log
from nudge.core.physics.zones.log import ZoneLog
from nudge.services.zone_packing import signs_data, signs_from
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

    def test_how_far_a_coil_is_filled_and_what_its_valve_passes_a_step(self):
        # 5 of 20.2 K are left to the outlet; half open: ln(0.752 × 20.2 ÷ 0.5).
        rooms = signs_of(flat(90, r2__coil_outlet=24.2), PARTS).rooms
        for key, value in (("fill", 0.7525), ("fed", 3.4144), ("fed_beside", 1.3607)):
            self.assertAlmostEqual(rooms["1"][key], value, delta=1e-3, msg=key)
        # It starves: 1 K of 20.2 is left; beside two that are fed, ln 1/0.5 less theirs.
        for key, value in (("fill", 0.0495), ("fed", 0.6931), ("fed_beside", 0.6931 - 3.4144)):
            self.assertAlmostEqual(rooms["2"][key], value, delta=1e-3, msg=key)
        wide = signs_of(flat(90, r2__coil_inlet=24.0, r2__coil_outlet=24.0), PARTS).rooms["2"]
        self.assertAlmostEqual(wide["fill"], 0.02)  # a coil at the room's air does nothing

    def test_holes_and_columns_that_are_not_there_leave_it_unread(self):
        nan = float("nan")
        holed = signs_of(flat(90, r1__coil_outlet=lambda i: nan if i < 100 else 10.0), PARTS)
        self.assertAlmostEqual(holed.rooms["1"]["fill"], 0.7525, delta=1e-3)
        log = flat(90)
        del log.columns["1", "coil_outlet"]
        self.assertNotIn("fed", signs_of(log, PARTS).rooms["1"])

    def test_a_room_that_heats_beside_others_that_cool_is_weighed_as_such(self):
        warm = {"r3__room_mode": 2.0, "r3__coil_outlet": 35.0, "r3__coil_inlet": 44.0}
        found = signs_of(flat(90, **warm), PARTS)
        self.assertEqual((found.way, found.warm), ("mixed", frozenset({"3"})))
        self.assertAlmostEqual(found.rooms["3"]["fill"], 1 - 10 / 19.8, delta=1e-3)
        self.assertEqual(set(found.of_room("3")), {f"warm {sign}" for sign in found.rooms["3"]})
        self.assertEqual(found.of_room("1"), found.rooms["1"])
        back, kept_s = signs_from(json.loads(json.dumps(signs_data(found, 60.0))))
        self.assertEqual((back, kept_s), (found, 60.0))

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
