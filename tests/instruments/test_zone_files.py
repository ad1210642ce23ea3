"""Logs of multi-zone plants as files: every style read back, and what is wrong with them said."""

import tempfile
import unittest
from array import array
from dataclasses import replace
from pathlib import Path

from nudge.core.language.errors import CoreError
from nudge.core.physics.zones.log import ZoneLog
from nudge.instruments.zone_files import in_order, laid_over, look_at_zones, read_zone_log
from tests.core.multizone.logs import flat
from tools.zone_styles import STYLES, written

BEGINS = 1_784_000_000.0
HEAD = "Time,OU Comp freq [Hz],OU Mode,IU1 Room [°C],IU1 Set [°C]"


def moved(log: ZoneLog) -> ZoneLog:
    return replace(log, times_s=[BEGINS + at for at in log.times_s])


class ZoneFilesTest(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "log.csv"

    def read(self, text, **changes):
        self.path.write_text(text, "utf-8")
        look = look_at_zones(self.path)
        return look, read_zone_log(self.path, replace(look.mapping, **changes))

    def test_every_style_is_read_back_to_what_was_written(self):
        log = moved(flat(5, r1__room_temp=lambda i: 20.0 + i, r2__calls=lambda i: float(i % 2)))
        for style in STYLES.values():
            with self.subTest(style.key):
                look, found = self.read(written(log, style))
                self.assertEqual(found.remarks, ())
                self.assertEqual([q for q in look.questions if "time zone" not in q], [])
                self.assertEqual(set(found.log.columns), set(log.columns))
                for address, column in log.columns.items():
                    for now, was in zip(found.log.columns[address], column, strict=True):
                        self.assertAlmostEqual(now, was, delta=0.06, msg=address)
                self.assertEqual(list(found.log.times_s), list(log.times_s))

    def test_temperatures_without_a_unit_are_told_by_the_rooms(self):
        _, found = self.read("Time,IU1 Room,IU1 Set\n2026-07-01 12:00:00,77,75\n")
        self.assertAlmostEqual(found.log.columns["1", "room_temp"][0], 25.0)

    def test_unknown_codes_are_asked_and_meant_once(self):
        rows = "\n2026-07-01 12:00:00,60,Z7,25,24\n2026-07-01 12:00:10,60,Z7,25,24\n"
        look, found = self.read(HEAD + rows)
        self.assertIn("Mode says Z7: what does it mean?", look.questions)
        self.assertIn("2 values of OU Mode were left out", " ".join(found.remarks))
        _, told = self.read(HEAD + rows, codes={"mode": {"z7": 1.0}})
        self.assertEqual(list(told.log.columns["outdoor", "mode"]), [1.0, 1.0])

    def test_a_clock_put_back_is_put_on_again_and_said(self):
        times = [3600.0 + 30 * i for i in range(4)] + [120.0 + 30 * i for i in range(4)]
        log = ZoneLog(times, {("1", "room_temp"): [float(i) for i in range(8)]})
        found, remarks = in_order(log)
        self.assertEqual(list(found.times_s)[:5], [3600, 3630, 3660, 3690, 3720])
        self.assertIn("put back by 1 h", remarks[0])

    def test_two_files_that_overlap_are_one_and_the_later_word_stands(self):
        first, second = moved(flat(3)), moved(flat(3, r1__room_temp=30.0))
        second = replace(second, times_s=[t + 60 for t in second.times_s])
        both = laid_over(first, second)
        self.assertEqual(len(both.times_s), 6 + 2)
        self.assertEqual(list(both.times_s), sorted(set(both.times_s)))
        self.assertEqual(list(both.columns["1", "room_temp"]), [25.0] * 2 + [30.0] * 6)

    def test_a_column_only_one_of_them_has_is_a_gap_in_the_other(self):
        first = ZoneLog(array("d", [1.0]), {("1", "room_temp"): [20.0]})
        second = ZoneLog(array("d", [2.0]), {("2", "room_temp"): [21.0]})
        column = list(laid_over(first, second).columns["2", "room_temp"])
        self.assertNotEqual(column[0], column[0])
        self.assertEqual(column[1], 21.0)

    def test_what_is_no_such_log_is_refused_with_what_to_do(self):
        for text, words in (
            ("Time,Suction\n2026-07-01 12:00:00,118\n", "number in their heading"),
            ("Time,IU1 Room,IU1 Room\n2026-07-01 12:00:00,25,25\n", "Two columns are headed"),
            ("x", "fewer than two lines"),
        ):
            with self.subTest(words), self.assertRaises(CoreError) as refused:
                self.read(text)
            self.assertIn(words, str(refused.exception))

    def test_values_no_sensor_shows_are_left_out_and_counted(self):
        _, found = self.read(
            "Time,IU1 Room [°C]\n2026-07-01 12:00:00,25\n2026-07-01 12:00:10,999\nnonsense,25\n"
        )
        self.assertEqual(found.refused, 1)
        self.assertIn("1 values of IU1 Room", found.remarks[0])
        self.assertEqual(len(found.log.times_s), 2)

    def test_what_the_time_leaves_open_is_asked_and_nameless_columns_are_left_out(self):
        look, found = self.read("Elapsed,IU1 Room,,\n0,25,7,8\n30,26,7,8\n", starts_ms=60_000)
        told = " ".join(look.questions)
        self.assertIn("When did it start?", told)
        self.assertIn("2 columns have no heading", told)
        self.assertEqual(list(found.log.times_s), [60.0, 90.0])
        look, _ = self.read("Date,IU1 Room\n1/2/2026 12:00,25\n")
        self.assertIn("day first or month first", look.questions[0])
