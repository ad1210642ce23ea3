"""A laid-out drawing's units on a page: places scaled, letters at their size."""

from dataclasses import dataclass

from fpdf import FPDF

from nudge.presenters.drawing.shapes import Letters

Hue = tuple[int, int, int]
POINT = 25.4 / 72
"""A point of a letter's size [mm]."""


@dataclass(frozen=True, slots=True)
class Scaled:
    """A drawing's corner on the page [mm], and how long its unit is there [mm]."""

    pdf: FPDF
    left: float
    top: float
    scale: float

    def at(self, x: float, y: float) -> tuple[float, float]:
        return self.left + x * self.scale, self.top + y * self.scale

    def letters(self, one: Letters, hue: Hue) -> None:
        self.text(one.text, self.at(one.x, one.y), one.size, one.is_bold, hue, one.anchor)

    def text(
        self,
        words: str,
        place: tuple[float, float],
        size: float,
        is_bold: bool,
        hue: Hue,
        anchor: str = "start",
    ) -> None:
        """Words at a place of the page [mm]; `size` in the drawing's units."""
        x, y = place
        self.pdf.set_font("text", "B" if is_bold else "", size * self.scale / POINT)
        self.pdf.set_text_color(*hue)
        wide = self.pdf.get_string_width(words)
        back = {"start": 0.0, "middle": wide / 2, "end": wide}[anchor]
        self.pdf.text(x - back, y, words)
