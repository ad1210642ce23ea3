"""The letters of the papers: every one that Nudge itself writes is in the small fonts."""

import unittest
from pathlib import Path

from fontTools.ttLib import TTFont
from fpdf import FPDF

from nudge.reports.letters import FONTS, add_fonts, is_small

NUDGE = Path(__file__).parents[2] / "nudge"


class LettersTest(unittest.TestCase):
    def fonts_for(self, *texts):
        pdf = FPDF()
        add_fonts(pdf, texts)
        return {key: Path(font.ttffile).name for key, font in pdf.fonts.items()}

    def test_every_letter_of_ours_is_in_the_small_fonts_that_ship(self):
        ours = {
            letter for file in NUDGE.rglob("*.py") for letter in file.read_text() if letter > " "
        }
        self.assertEqual([letter for letter in ours if not is_small(ord(letter))], [])
        for name in ("text", "text-bold"):
            whole = set(TTFont(FONTS / f"{name}.ttf").getBestCmap())
            small = set(TTFont(FONTS / f"{name}-small.ttf").getBestCmap())
            self.assertLessEqual({letter for letter in whole if is_small(letter)}, small)

    def test_a_letter_beyond_them_brings_in_the_whole_fonts_and_those_of_other_scripts(self):
        self.assertEqual(
            self.fonts_for("Öl, 3 °C − ok"),
            {"text": "text-small.ttf", "textB": "text-bold-small.ttf"},
        )
        self.assertEqual(self.fonts_for("Котельная")["text"], "text.ttf")
        self.assertEqual(self.fonts_for("冷房")["more"], "more-scripts.ttf")
