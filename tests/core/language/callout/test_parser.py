import unittest

from nudge.core.language.callout.parser import NAMES, parse_callout
from nudge.core.language.errors import CoreError
from nudge.core.language.vocabulary.points import POINTS


def _heard(text, units="ip"):
    return {s.point.key: s.given_value for s in parse_callout(text, units).spoken}


class HeardTest(unittest.TestCase):
    FIVE = {  # noqa: RUF012
        "suction_pressure": 118,
        "liquid_pressure": 341,
        "suction_line_temp": 52,
        "liquid_line_temp": 96,
        "outdoor_air_temp": 88,
    }

    def test_the_same_five_numbers_however_they_are_said(self):
        for text in (
            "suct 118 liq 341 sl 52 ll 96 oa 88",
            "oa 88 ll 96 sl 52 liq 341 suct 118",
            "SUCT 118, LIQ 341; sl=52 ll:96 oa 88",
            "118 suct 341 liq 52 sl 96 ll 88 oa",
            "suct118 liq341 sl52 ll96 oa88",
            "suction pressure 118 liquid pressure 341 suction line 52 liquid line 96 outdoor 88",
            "suction_pressure 118 head 341 vl 52f ll 96 °f amb 88",
        ):
            with self.subTest(text):
                self.assertEqual(_heard(text), self.FIVE)

    def test_a_name_that_is_a_unit_says_its_unit_in_whatever_units_the_page_is(self):
        for text in (
            "cfm 1200",
            "cfm 1200 cfm",
            "airflow 1200 cfm",
            "airflow 1,200 CFM suct 250",
            "1200 cfm",
            "250 suct 1200 cfm",
            "1200 cfm 250 suct",
            "cfm 1200 suct 250",
        ):
            for units in ("ip", "si", "si_bar"):
                with self.subTest(text, units=units):
                    line = parse_callout(
                        text.replace("250", "2") if units == "si_bar" else text, units
                    )
                    flow = next(s for s in line.spoken if s.point.key == "airflow")
                    self.assertEqual(line.misheard, ())
                    self.assertAlmostEqual(flow.value_si, 566.337, places=2)
        self.assertEqual(parse_callout("flow 560", "si").spoken[0].value_si, 560)

    def test_units_are_heard_and_converted(self):
        for text, key, core in (
            ("suct 250kpa", "suction_pressure", 250),
            ("liq 24.1 bar", "liquid_pressure", 2410),
            ("suct 100 psi", "suction_pressure", 689.4757),
            ("sl 12c", "suction_line_temp", 12),
            ("sl 53.6", "suction_line_temp", 12),
            ("oa -5", "outdoor_air_temp", -20.5556),
            ("cfm 1,200", "airflow", 566.337),
            ("tesp .5", "total_external_static", 124.5445),
            ("vac 500 microns", "vacuum_level", 66.6612),
            ("cyl 400oz", "cylinder_weight", 11.33981),
        ):
            with self.subTest(text):
                (spoken,) = parse_callout(text, "ip").spoken
                self.assertEqual(spoken.point.key, key)
                self.assertAlmostEqual(spoken.value_si, core, 3)

    def test_bare_numbers_follow_the_readers_own_units(self):
        (spoken,) = parse_callout("suct 814", "si").spoken
        self.assertAlmostEqual(spoken.value_si, 814)

    def test_fix_marks_a_correction(self):
        self.assertTrue(parse_callout("fix ll 97", "ip").corrects)
        self.assertFalse(parse_callout("ll 97", "ip").corrects)

    def test_every_short_form_means_one_point(self):
        spoken = [name for row in POINTS.values() for name in row.short]
        self.assertEqual(len(spoken), len(set(spoken)))
        for row in POINTS.values():
            self.assertIs(NAMES[row.short[0]], row)


class MisheardTest(unittest.TestCase):
    def test_each_is_explained_and_the_rest_is_still_heard(self):
        for text, says in (
            ("suckt 118 ll 96", "Did you mean suct"),
            ("suct", "no number"),
            ("ll 96 12", "has no name"),
            ("suct 12c", "not read in “c”"),
            ("suct 800", "800 psig is outside"),
            ("ra 300", "300.0 °F is outside"),
            ("suct 118 suct 119", "said twice"),
            ("ll nan", "no number"),
            ("ll infinity", "no number"),
        ):
            with self.subTest(text):
                messages = " ".join(m.message for m in parse_callout(text, "ip").misheard)
                self.assertIn(says, messages)
        self.assertEqual(_heard("suckt 118 ll 96"), {"liquid_line_temp": 96})

    def test_the_stretch_is_marked(self):
        text = "suct 118 lik 341"
        (wrong,) = parse_callout(text, "ip").misheard
        self.assertEqual(text[wrong.start : wrong.end], "lik 341")
        self.assertIn("liq", wrong.nearest)

    def test_a_million_characters_are_refused_at_once(self):
        with self.assertRaises(CoreError) as caught:
            parse_callout("suct 118 " * 111_112, "ip")
        self.assertIn("1,000,008 characters", str(caught.exception))

    def test_nothing_raises_on_noise(self):
        for text in ("", "   ", "+ - . , ; = :", "°°° %% 12 %%", "٣٤ suct", "suct 1e9", "💧 118"):
            with self.subTest(text):
                parse_callout(text, "ip")
