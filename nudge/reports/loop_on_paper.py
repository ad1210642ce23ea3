"""The Loop of the screen, stroked on paper: same lines, same letters, scaled to the page."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from fpdf import FPDF

from nudge.presenters.drawing.frames import LINE, SMALL, WIDE_DIGIT, text_width
from nudge.presenters.drawing.loop_blocks import NAME_OFF, UNIT_SIZE
from nudge.presenters.drawing.shapes import DrawnLoop, Line, LineRole, NumberBlock
from nudge.reports.paper import HIGH_HUE, INK, LOW_HUE, RULE, SOFT
from nudge.reports.scaled import Hue, Scaled

ALARM_HUE: Hue = (154, 36, 20)


@dataclass(frozen=True, slots=True)
class _Pen:
    """How a role is stroked: thickness [mm], dash and gap [mm], in its side's hue or its own."""

    thick: float
    dash: float = 0.0
    gap: float = 0.0
    hue: Hue | None = None


_PENS: Mapping[LineRole, _Pen] = MappingProxyType(
    {
        "tick": _Pen(0.15, hue=RULE),
        "base": _Pen(0.3, hue=SOFT),
        "part": _Pen(0.4, hue=INK),
        "air": _Pen(0.3, 0.6, 0.8, SOFT),
        "level": _Pen(0.35, 2.2, 1.4),
        "estimate": _Pen(0.5, 1.6, 1.6),
        "guess": _Pen(0.4, 0.4, 1.2),
        "sure": _Pen(1.0),
        "gap": _Pen(0.5, hue=INK),
        "bracket": _Pen(0.6, hue=INK),
        "leader": _Pen(0.4, hue=INK),
        "rung": _Pen(0.7),
    }
)
_LETTER_HUES: Mapping[str, Hue] = MappingProxyType(
    {"air": SOFT, "tick": SOFT, "part": SOFT, "restricted": ALARM_HUE}
)
_HUES: Mapping[str, Hue] = MappingProxyType({"high": HIGH_HUE, "low": LOW_HUE, "": INK})


def draw_loop(pdf: FPDF, left: float, top: float, width: float, drawn: DrawnLoop) -> float:
    """Draw it `width` wide [mm]; how high that came out [mm]."""
    scale = width / drawn.width
    page = _LoopPage(pdf, left, top, scale)
    for stroke in drawn.strokes:
        page.stroke(stroke)
    for mark in drawn.marks:
        pdf.set_fill_color(*_HUES[mark.side])
        pdf.circle(*page.at(mark.x, mark.y), 0.9, style="F")
    for letters in drawn.letters:
        page.letters(letters, _LETTER_HUES.get(letters.role, INK))
    for number in drawn.numbers:
        page.number(number)
    return drawn.height * scale


class _LoopPage(Scaled):
    def stroke(self, stroke: Line) -> None:
        if stroke.role == "restricted":
            self._restricted(stroke)
            return
        pen = _PENS.get(stroke.role)
        if pen is None:
            return
        self.pdf.set_draw_color(*(pen.hue or _HUES[stroke.side]))
        self.pdf.set_line_width(pen.thick)
        if pen.dash:
            self.pdf.set_dash_pattern(dash=pen.dash, gap=pen.gap)
        self.pdf.polyline([self.at(x, y) for x, y in stroke.points])
        self.pdf.set_dash_pattern()

    def _restricted(self, stroke: Line) -> None:
        """Two jagged lines across the pipe, where the step is."""
        x, y = stroke.points[0]
        self.pdf.set_draw_color(*ALARM_HUE)
        self.pdf.set_line_width(0.7)
        for off in (-6.0, 4.0):
            jag = [(x + off + (4 if n % 2 else 0), y - 16 + 8 * n) for n in range(5)]
            self.pdf.polyline([self.at(*point) for point in jag])

    def number(self, number: NumberBlock) -> None:
        text = number.text or "—"
        self.text(text, self.at(number.x, number.y + number.size * 0.86), number.size, True, INK)
        after = number.x + len(text) * number.size * WIDE_DIGIT
        base = number.y + number.size * 0.86
        if number.is_beside:
            small = number.size * UNIT_SIZE
            self.text(number.unit, self.at(after + 4, base), small, False, SOFT)
            beside = after + 12 + text_width(number.unit, small)
            self._lines(number.words, beside, number.y + SMALL, False)
        else:
            self._lines([number.label, number.unit], after + NAME_OFF, base - SMALL * LINE, False)
            self._lines(number.words, number.x, number.y + number.size + SMALL, True)

    def _lines(self, said: list[str], x: float, y: float, first_bold: bool) -> None:
        for n, line in enumerate(said):
            is_first = first_bold and n == 0
            place = self.at(x, y + n * SMALL * LINE)
            self.text(line, place, SMALL, is_first, INK if is_first else SOFT)
