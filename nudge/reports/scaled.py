"""A laid-out drawing's units on a page: places scaled, letters at their size."""

from collections.abc import Sequence
from dataclasses import dataclass

from fpdf import FPDF

from nudge.presenters.drawing.shapes import XY, Letters

Hue = tuple[int, int, int]
POINT = 25.4 / 72
"""A point of a letter's size [mm]."""


NOW_MM, EARLIER_MM = 1.5, 1.0
"""How large a dot of today is, and one of an earlier day or reading."""


@dataclass(frozen=True, slots=True)
class ScaledPen:
    """How a role is stroked: thickness, its hue, dash and gap [mm]."""

    thick: float
    hue: Hue
    dash: float = 0.0


@dataclass(frozen=True, slots=True)
class Scaled:
    """A drawing's corner on the page [mm], and how long its unit is there [mm]."""

    pdf: FPDF
    left: float
    top: float
    scale: float

    def at(self, x: float, y: float) -> tuple[float, float]:
        return self.left + x * self.scale, self.top + y * self.scale

    def line(self, points: Sequence[XY], pen: ScaledPen) -> None:
        """A line through points of the drawing."""
        self.pdf.set_draw_color(*pen.hue)
        self.pdf.set_line_width(pen.thick)
        if pen.dash:
            self.pdf.set_dash_pattern(dash=pen.dash, gap=pen.dash)
        self.pdf.polyline([self.at(*point) for point in points])
        self.pdf.set_dash_pattern()

    def dot(self, x: float, y: float, is_now: bool, ink: Hue) -> None:
        """A reading: full where it is today's."""
        self.pdf.set_draw_color(*ink)
        self.pdf.set_line_width(0.4)
        self.pdf.set_fill_color(*(ink if is_now else (255, 255, 255)))
        self.pdf.circle(*self.at(x, y), NOW_MM if is_now else EARLIER_MM, style="FD")

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
