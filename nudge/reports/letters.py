"""The letters of a paper: a small font where it holds all of them, the whole one where it does not.

Reading a font of all scripts takes longer than writing a page, and nearly no page needs one.
"""

from collections.abc import Iterable
from pathlib import Path

from fpdf import FPDF

FONTS = Path(__file__).parent / "fonts"
SMALL: tuple[tuple[int, int, str], ...] = (
    (0x0020, 0x017F, "Latin with its accents"),
    (0x02B0, 0x02DD, "accents that stand alone"),
    (0x0300, 0x036F, "accents set over the letter before"),
    (0x0370, 0x03FF, "Greek, for Δ, µ and Ω"),
    (0x2010, 0x2040, "dashes, quotes, bullets"),
    (0x2070, 0x209C, "raised and lowered figures"),
    (0x20AC, 0x20AC, "the euro"),
    (0x2100, 0x2126, "℃, ℉, №, Ω"),
    (0x2190, 0x21FF, "arrows"),
    (0x2200, 0x2265, "minus, root, about, at most"),
    (0x25A0, 0x25CF, "squares, triangles, rounds"),
    (0x2605, 0x2606, "stars"),
    (0x2610, 0x2613, "boxes to tick"),
    (0x2713, 0x2718, "ticks and crosses"),
    (0x26A0, 0x26A0, "the sign of care"),
)
"""What the small fonts hold: first and last letter, and what they are. `tools.make_fonts` cuts
them from the whole ones."""
_OTHER_SCRIPTS = 0x2E80
"""From here on letters come from a font of their own; Arabic and the like are in the whole one."""
_JOINED = (0x0590, 0x08FF)


def is_small(letter: int) -> bool:
    """Whether the small fonts hold it."""
    return letter < 0x20 or any(first <= letter <= last for first, last, _ in SMALL)


def add_fonts(pdf: FPDF, everything: Iterable[str]) -> None:
    """The fonts that write `everything`: “text” in two weights, and “more” behind it if needed."""
    letters = {ord(letter) for text in everything for letter in text}
    size = "-small" if all(map(is_small, letters)) else ""
    pdf.add_font("text", "", FONTS / f"text{size}.ttf")
    pdf.add_font("text", "B", FONTS / f"text-bold{size}.ttf")
    if any(letter >= _OTHER_SCRIPTS for letter in letters):
        pdf.add_font("more", "", FONTS / "more-scripts.ttf")
        pdf.set_fallback_fonts(["more"], exact_match=False)
    if any(_JOINED[0] <= letter <= _JOINED[1] for letter in letters):
        pdf.set_text_shaping(True)
