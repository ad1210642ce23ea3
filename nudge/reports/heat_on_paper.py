"""The heating line of the screen on paper, under the numbers it is made of."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.presenters.drawing.heat_layout import DrawnHeat, HeatRole
from nudge.presenters.heat import HeatOut
from nudge.reports.paper import INK, MARGIN, RULE, SOFT, WIDTH, Paper
from nudge.reports.scaled import Hue, Scaled

HIGH_MM = 98.0
NOW_MM, EARLIER_MM = 1.5, 1.0


@dataclass(frozen=True, slots=True)
class _HeatPen:
    """How a role is stroked: thickness, dash and gap [mm]."""

    thick: float
    hue: Hue
    dash: float = 0.0


_PENS: Mapping[HeatRole, _HeatPen] = MappingProxyType(
    {
        "grid": _HeatPen(0.1, RULE),
        "plate": _HeatPen(0.6, INK),
        "house": _HeatPen(0.4, INK, 1.6),
        "balance": _HeatPen(0.3, SOFT, 0.5),
        "lockout": _HeatPen(1.2, SOFT),
        "whisker": _HeatPen(0.5, INK),
    }
)


def write_heat(pdf: Paper, heat: HeatOut) -> None:
    """What it delivers against what is expected, the lockouts, and the heating line."""
    pdf.head("Heat", 30)
    rows = [
        (
            row.label,
            row.now.text if row.now else f"{row.text} {row.expected.unit if row.expected else ''}",
            row.expected.text if row.expected else "",
        )
        for row in heat.rows
        if row.now or row.text
    ]
    if rows:
        pdf.rows(("", "Measured", "Expected"), rows, (60, 50, 68))
    if heat.balance_point:
        pdf.line_of(f"The pump alone holds the house down to {heat.balance_point}.")
    pdf.listed([*heat.asides, *heat.lockouts])
    if heat.line:
        drawn = heat.line[-1]
        pdf.head("The heating line", HIGH_MM)
        page = Scaled(pdf, MARGIN, pdf.get_y() + 1, WIDTH / drawn.width)
        _draw(page, drawn)
        pdf.set_y(page.top + drawn.height * page.scale + 3)
        pdf.ink()


def _draw(page: Scaled, drawn: DrawnHeat) -> None:
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
    for dot in drawn.dots:
        pdf.set_fill_color(*(INK if dot.is_now else (255, 255, 255)))
        pdf.circle(*page.at(dot.x, dot.y), NOW_MM if dot.is_now else EARLIER_MM, style="FD")
    for one in drawn.letters:
        page.letters(one, SOFT if one.role == "tick" else INK)
