"""The target map of the screen, stroked on paper: same lines, same letters."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.presenters.drawing.shapes import DrawnMap, Letters
from nudge.reports.paper import INK, RULE, SOFT
from nudge.reports.scaled import Hue, Scaled


@dataclass(frozen=True, slots=True)
class _Pen:
    thick: float
    hue: Hue
    dash: float = 0.0


_PENS: Mapping[str, _Pen] = MappingProxyType(
    {
        "grid": _Pen(0.1, RULE),
        "window": _Pen(0.2, SOFT, 0.8),
        "corner": _Pen(0.7, INK),
        "path": _Pen(0.4, SOFT),
        "arrow": _Pen(0.5, INK),
    }
)
NOW_MM, BEFORE_MM = 1.5, 1.1


def draw_map(page: Scaled, drawn: DrawnMap) -> None:
    """Stroke it; suspects are left out, for nobody speaks of one on paper."""
    pdf = page.pdf
    for stroke in drawn.strokes:
        pen = _PENS[stroke.role]
        pdf.set_draw_color(*pen.hue)
        pdf.set_line_width(pen.thick)
        if pen.dash:
            pdf.set_dash_pattern(dash=pen.dash, gap=pen.dash)
        pdf.polyline([page.at(*point) for point in stroke.points])
        pdf.set_dash_pattern()
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.4)
    for step in drawn.steps:
        pdf.set_fill_color(*(INK if step.is_now else (255, 255, 255)))
        pdf.circle(*page.at(step.x, step.y), NOW_MM if step.is_now else BEFORE_MM, style="FD")
    for one in drawn.letters:
        page.letters(one, _hue(one))


def _hue(one: Letters) -> Hue:
    return SOFT if one.role == "tick" else INK
