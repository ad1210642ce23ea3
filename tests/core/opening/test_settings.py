"""A machine's settings: what is one, and what became of it since last time."""

import unittest

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.opening.settings import (
    KeptSetting,
    against_last,
    check_setting,
    standing_settings,
)


def one(name, value, usual="", reason="", mode=""):
    return KeptSetting(name, mode, usual, value, reason)


class CheckTest(unittest.TestCase):
    def test_what_is_no_setting_is_refused_by_name(self):
        for setting, words in (
            (one("", "1"), "needs its name"),
            (one("  ", "1"), "needs its name"),
            (one("x" * 81, "1"), "at most 80"),
            (one("a", "1\n2"), "one line"),
            (one("a", "1", reason="x" * 301), "at most 300"),
            (one("F12", "45", "30"), "not 30 as its maker set it"),
        ):
            with self.subTest(words), self.assertRaisesRegex(CoreError, words):
                check_setting(setting)
        with self.assertRaises(UnknownName):
            check_setting(one("F12", "45", mode="cool"))

    def test_its_maker_s_own_value_wants_no_reason(self):
        for value, usual in (("30", "30.0"), ("30,0", "30"), ("On", "on"), (" a  b ", "A b")):
            self.assertTrue(check_setting(one("F12", value, usual)).is_usual)
        self.assertEqual(check_setting(one(" F12 ", " 45 ", "30", " duct ")).reason, "duct")


class AgainstLastTest(unittest.TestCase):
    def became(self, now, before):
        return {row.name: row.became for row in against_last(now, before)}

    def test_every_difference_is_found_and_nothing_else(self):
        before = [one("a", "1"), one("b", "2"), one("c", "3"), one("d", "4")]
        now = [one("A", "1.0"), one("b", "5"), one("e", "9"), one("c", "3"), one("c", "")]
        self.assertEqual(
            self.became(now, before),
            {"A": "same", "b": "changed", "e": "new", "c": "gone", "d": "gone"},
        )

    def test_the_same_name_in_another_mode_is_another_setting(self):
        before = [one("fan", "3", mode="cooling"), one("fan", "5", mode="heating")]
        now = [one("fan", "3", mode="cooling"), one("fan", "4", mode="heating")]
        found = [(row.now.mode, row.became) for row in against_last(now, before) if row.now]
        self.assertEqual(found, [("cooling", "same"), ("heating", "changed")])

    def test_the_last_word_counts_and_an_empty_one_takes_it_off(self):
        rows = [one("a", "1"), one("a", "2"), one("b", "3"), one("b", "")]
        self.assertEqual([row.value for row in standing_settings(rows).values()], ["2"])
        self.assertEqual(self.became([], []), {})


if __name__ == "__main__":
    unittest.main()
