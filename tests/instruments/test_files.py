"""Logs as devices and people write them: read right, asked about, or refused with the line."""

import tempfile
import unittest
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

from nudge.core.language.errors import CoreError
from nudge.instruments.file_look import look_at
from nudge.instruments.files import LogFile, read_pieces
from nudge.instruments.guessing import Column


class FilesTest(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "log"

    def write(self, text: str) -> Path:
        self.path.write_text(text, "utf-8")
        return self.path

    def read(self, look=None, **changes):
        mapping = replace((look or look_at(self.path)).mapping, **changes)
        pieces = list(read_pieces(self.path, mapping))
        samples = [s for piece in pieces for s in piece.samples]
        return samples, pieces[-1]

    def test_headings_and_units_are_understood(self):
        self.write(
            "Time,Suction pressure (psig),Liquid line °F,Suction Line (C),Return Air RH %,Note\n"
            "2026-07-14T12:00:00Z,118,96.8,11.5,52,ok\n2026-07-14T12:00:02Z,119,96.9,11.6,52,\n"
        )
        look = look_at(self.path)
        found = {c.name: (c.point, c.unit) for c in look.mapping.columns}
        self.assertEqual(found["Suction pressure (psig)"], ("suction_pressure", "psig"))
        self.assertEqual(found["Liquid line °F"], ("liquid_line_temp", "°F"))
        self.assertEqual(found["Suction Line (C)"], ("suction_line_temp", "°C"))
        self.assertEqual(found["Return Air RH %"], ("return_air_rh", "%"))
        self.assertEqual(found["Note"], ("", ""))
        self.assertEqual(look.questions, ())
        samples, end = self.read(look)
        self.assertEqual((len(samples), end.refused), (8, 0))
        self.assertEqual(len(LogFile(self.path, look.mapping).channels), 4)
        first = next(s for s in samples if s.channel.startswith("Suction pressure"))
        self.assertAlmostEqual(first.value, 118 * 6.894757, places=3)
        noon = datetime(2026, 7, 14, 12, tzinfo=UTC).timestamp() * 1000
        self.assertEqual(first.at_ms, noon)

    def test_titles_sep_units_in_a_row_of_their_own_and_decimal_commas(self):
        # One file with all that people's programs put around a table, in both encodings.
        text = (
            "sep=;\r\nNet Loft, roof unit\r\nexported at noon;;\r\n\r\n"
            "Elapsed;Suction pressure;Liquid line\r\n[s];(kPa);[°C]\r\n"
            "0;812,5;36,1\r\n10;813,0;36,2\r\n20;813,5;36,2\r\n"
        )
        begins = round(datetime(2026, 7, 14, 12, tzinfo=UTC).timestamp() * 1000)
        for encoding in ("utf-8", "utf-8-sig", "utf-16", "utf-16-le"):
            with self.subTest(encoding):
                self.path.write_bytes(text.encode(encoding))
                look = look_at(self.path)
                self.assertEqual(look.heading, ("Elapsed", "Suction pressure", "Liquid line"))
                self.assertEqual(look.titles[0], "Net Loft, roof unit")
                self.assertEqual(
                    (look.mapping.time_form, look.mapping.time), ("elapsed", "Elapsed")
                )
                self.assertEqual([c.unit for c in look.mapping.columns], ["", "kPa", "°C"])
                self.assertIn("When did it start?", look.questions[0])
                samples, end = self.read(look, starts_ms=begins)
                self.assertEqual((len(samples), end.refused), (6, 0))
                self.assertAlmostEqual(samples[0].value, 812.5)
                self.assertEqual(samples[-1].at_ms - begins, 20_000)

    def test_elapsed_hours_count_as_well_and_clock_times_do_not(self):
        self.write("Time,Liquid line (F)\n00:00:00,96\n00:00:30,97\n01:10:00,98\n")
        look = look_at(self.path)
        self.assertEqual(look.mapping.time_form, "elapsed")
        samples, _ = self.read(look)
        self.assertEqual([s.at_ms for s in samples], [0, 30_000, 4_200_000])
        self.write("Time,Liquid line (F)\n30,96\n20,97\n10,98\n")
        with self.assertRaises(CoreError):
            look_at(self.path)

    def test_a_table_under_a_long_preamble_is_found_by_its_width(self):
        lines = ["Report", "Site,Seed Library", "", "Time,Suction pressure psig,Suction line F"]
        lines += [f"2026-07-14 12:00:{s:02d},118,52" for s in range(0, 50, 10)]
        self.write("\n".join(lines))
        look = look_at(self.path)
        self.assertEqual(len(look.heading), 3)
        samples, end = self.read(look)
        self.assertEqual((len(samples), end.refused), (10, 0))

    def test_units_left_out_are_guessed_by_size_and_asked(self):
        self.write(
            "time;low side;liquid line\n2026-07-14 12:00;8,2;36,1\n2026-07-14 12:01;8,3;36,2\n"
        )
        look = look_at(self.path)
        self.assertEqual([c.unit for c in look.mapping.columns if c.point], ["bar", "°C"])
        self.assertEqual(len([q for q in look.questions if "Guessed from its size" in q]), 2)
        self.assertTrue(any("time zone" in q for q in look.questions))
        samples, _ = self.read(look, zone_minutes=120)
        self.assertAlmostEqual(samples[0].value, 820)
        self.assertEqual(samples[0].at_ms, datetime(2026, 7, 14, 10, tzinfo=UTC).timestamp() * 1000)

    def test_dates_that_read_both_ways_are_asked_about(self):
        self.write("date,ll\n03/04/2026 14:00,96\n04/04/2026 14:00,97\n")
        look = look_at(self.path)
        self.assertTrue(any("day first" in q for q in look.questions))
        by_month, _ = self.read(look, time_form="month_first")
        by_day, _ = self.read(look, time_form="day_first")
        self.assertEqual(datetime.fromtimestamp(by_month[0].at_ms / 1000, UTC).month, 3)
        self.assertEqual(datetime.fromtimestamp(by_day[0].at_ms / 1000, UTC).month, 4)
        self.write("date,ll\n13/04/2026 2:05 PM,96\n14/04/2026 2:06 PM,97\n")
        sure = look_at(self.path)
        self.assertFalse(any("day first" in q for q in sure.questions))
        self.assertEqual(datetime.fromtimestamp(self.read(sure)[0][0].at_ms / 1000, UTC).hour, 14)

    def test_json_lines_with_nesting_and_seconds_since_1970(self):
        self.write(
            '{"ts": 1784030400, "low": {"pressure_kpa": 815}}\n'
            '{"ts": 1784030401, "low": {"pressure_kpa": 816}}\n{"ts": 17840304'
        )
        look = look_at(self.path)
        self.assertEqual((look.mapping.shape, look.mapping.time_form), ("ndjson", "epoch_s"))
        samples, end = self.read(look)
        self.assertEqual([s.value for s in samples], [815, 816])
        self.assertEqual(end.refused, 1)

    def test_mixed_units_in_one_column_are_read_by_the_unit_in_the_cell(self):
        self.write(
            "time,suction pressure\n2026-07-14T12:00:00Z,118 psi\n2026-07-14T12:00:01Z,8.14 bar\n"
            "2026-07-14T12:00:02Z,9 furlongs\n"
        )
        samples, end = self.read()
        self.assertAlmostEqual(samples[0].value, 813.6, delta=0.1)
        self.assertAlmostEqual(samples[1].value, 814.0, delta=0.1)
        self.assertEqual(end.refused, 1)
        self.assertIn("Line 4", end.reasons[0])

    def test_gaps_half_lines_and_nonsense_are_counted_not_invented(self):
        self.write(
            "time,sl,ll\n2026-07-14T12:00:00Z,52,\n,53,97\n2026-07-14T12:00:02Z,abc,97\n"
            "2026-07-14T12:00:03Z,999,97\n2026-07-14T12:00:0"
        )
        samples, end = self.read()
        self.assertEqual(
            [(s.channel, round(s.value, 1)) for s in samples], [("sl", 11.1), ("ll", 36.1)]
        )
        self.assertEqual(end.refused, 4)
        self.assertTrue(any("999" in reason for reason in end.reasons))

    def test_what_is_no_log_is_refused_with_a_reason(self):
        for text, word in (
            ("", "fewer than two"),
            ("just one line\n", "fewer than two"),
            ("a,b\n1,2\n3,4\n", "No column"),
            ("x\n1\n2\n", "one column"),
            ("t,t\n2026-01-01,1\n", "same heading"),
        ):
            with self.subTest(text=text), self.assertRaises(CoreError) as caught:
                look_at(self.write(text))
            self.assertIn(word, str(caught.exception))
        self.path.write_bytes(b"PK\x03\x04\x00\x00")
        with self.assertRaises(CoreError):
            look_at(self.path)

    def test_a_mapping_that_cannot_be_is_refused(self):
        self.write("time,sl,ll\n2026-07-14T12:00:00Z,52,97\n")
        mapping = look_at(self.path).mapping
        for columns in (
            (),
            (Column("sl", "nowhere", "°F"),),
            (Column("sl", "suction_pressure", "°F"),),
            (Column("sl", "liquid_line_temp", "°F"), Column("ll", "liquid_line_temp", "°F")),
        ):
            with self.subTest(columns), self.assertRaises(CoreError):
                list(read_pieces(self.path, replace(mapping, columns=columns)))
