"""What a part was fitted with is judged by its points, and says what was done."""

import unittest

from nudge.core.checks.fitting import FIT_PARTS
from nudge.core.checks.forms import judge_form
from nudge.core.checks.opening_forms import planned
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.vocabulary.actions import OPENS
from tests.core.field import plate


def judge(key, **entries):
    return judge_form(key, plate(), entries)


def words(found):
    return " ".join(said.text("ip") for said in found.said)


GOOD_VALVE = {
    "bulb": "right",
    "equaliser": "fitted",
    "rings": "yes",
    "tightness": "quarter_turn",
    "trickle": "yes",
    "drier": "yes",
    "screen": "yes",
}


class FittingTest(unittest.TestCase):
    def test_a_valve_fitted_by_its_points_renews_its_drier_too(self):
        found = judge("fit_valve", **GOOD_VALVE, fitted="3 ton, external, with check")
        self.assertEqual(found.state, "good")
        self.assertEqual(found.events, ("metering_renewed", "drier_renewed"))
        self.assertIn("3 ton, external, with check", words(found))

    def test_every_point_that_makes_trouble_later_is_said(self):
        for point, answer, state, said in (
            ("bulb", "bottom", "bad", "10 or 2"),
            ("equaliser", "capped", "bad", "starves"),
            ("tightness", "by_feel", "watch", "quarter turn"),
            ("trickle", "no", "bad", "Scale"),
            ("drier", "no", "watch", "every opening"),
        ):
            with self.subTest(point):
                found = judge("fit_valve", **{**GOOD_VALVE, point: answer})
                self.assertEqual(found.state, state)
                self.assertIn(said, words(found))

    def test_a_compressor_is_not_done_with_its_old_drier(self):
        entries = {
            point.key: point.answers[0].key
            for part in FIT_PARTS
            if part.key == "compressor"
            for point in part.points
        }
        self.assertEqual(judge("fit_compressor", **entries).state, "good")
        kept = judge("fit_compressor", **{**entries, "drier": "kept"})
        self.assertEqual((kept.state, kept.events), ("bad", ("compressor_renewed",)))
        self.assertIn("cut it out", words(kept))
        burnt = judge("fit_compressor", **{**entries, "old_oil": "dark", "contactor": "no"})
        self.assertEqual(burnt.state, "watch")
        self.assertIn("acid", words(burnt).casefold())

    def test_what_renews_a_part_opens_the_circuit(self):
        for part in FIT_PARTS:
            self.assertIn(part.event, OPENS)
            self.assertNotEqual(part.caution, "")

    def test_words_are_one_short_line_and_points_have_their_answers(self):
        with self.assertRaisesRegex(CoreError, "at most 120 letters"):
            judge("fit_valve", **GOOD_VALVE, fitted="x" * 121)
        with self.assertRaises(CoreError):
            judge("fit_valve", **GOOD_VALVE, fitted="two\nlines")
        with self.assertRaises(UnknownName):
            judge("fit_valve", **{**GOOD_VALVE, "bulb": "somewhere"})
        with self.assertRaisesRegex(CoreError, "Its equaliser"):
            judge("fit_valve", bulb="right")


class OtherFormsTest(unittest.TestCase):
    def test_the_plan_names_what_is_renewed(self):
        found = judge("repair_plan", valve="yes", drier="yes", coil="no")
        self.assertEqual(words(found), "To be renewed: metering valve, drier.")
        self.assertEqual(planned({"valve": "yes", "coil": "no"}), {"valve"})
        with self.assertRaisesRegex(CoreError, "at least one"):
            judge("repair_plan", valve="no")

    def test_acid_decides_what_becomes_of_oil_and_refrigerant(self):
        self.assertEqual(
            [judge("acid_test", acid=one).state for one in ("none", "slight", "strong")],
            ["good", "watch", "bad"],
        )
        self.assertIn("marked burnt", words(judge("acid_test", acid="strong")))

    def test_a_heater_that_was_on_too_short_is_no_start(self):
        short = judge("crankcase_heater", has="yes", hours=6.0)
        self.assertEqual(short.state, "bad")
        self.assertIn("6 h on, 12 h asked", words(short))
        self.assertEqual(judge("crankcase_heater", has="yes", hours=6.0, asked=4.0).state, "good")
        self.assertEqual(judge("crankcase_heater", has="no").state, "good")
        with self.assertRaisesRegex(CoreError, "how many hours"):
            judge("crankcase_heater", has="yes")


if __name__ == "__main__":
    unittest.main()
