"""The heating line of the screen on paper, under the numbers it is made of."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.presenters.drawing.heat_layout import DrawnHeat, HeatRole
from nudge.presenters.heat import HeatOut
from nudge.reports.paper import INK, MARGIN, RULE, SOFT, WIDTH, Paper
from nudge.reports.scaled import Scaled, ScaledPen

HIGH_MM = 98.0


_PENS: Mapping[HeatRole, ScaledPen] = MappingProxyType(
    {
        "grid": ScaledPen(0.1, RULE),
        "plate": ScaledPen(0.6, INK),
        "house": ScaledPen(0.4, INK, 1.6),
        "balance": ScaledPen(0.3, SOFT, 0.5),
        "lockout": ScaledPen(1.2, SOFT),
        "whisker": ScaledPen(0.5, INK),
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
    for stroke in drawn.strokes:
        page.line(stroke.points, _PENS[stroke.role])
    for dot in drawn.dots:
        page.dot(dot.x, dot.y, dot.is_now, INK)
    for one in drawn.letters:
        page.letters(one, SOFT if one.role == "tick" else INK)
