"""The target map of the screen, stroked on paper: same lines, same letters."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.presenters.drawing.shapes import DrawnMap, Letters
from nudge.reports.paper import INK, RULE, SOFT
from nudge.reports.scaled import Hue, Scaled, ScaledPen

_PENS: Mapping[str, ScaledPen] = MappingProxyType(
    {
        "grid": ScaledPen(0.1, RULE),
        "window": ScaledPen(0.2, SOFT, 0.8),
        "corner": ScaledPen(0.7, INK),
        "path": ScaledPen(0.4, SOFT),
        "arrow": ScaledPen(0.5, INK),
    }
)


def draw_map(page: Scaled, drawn: DrawnMap) -> None:
    """Stroke it; suspects are left out, for nobody speaks of one on paper."""
    for stroke in drawn.strokes:
        page.line(stroke.points, _PENS[stroke.role])
    for step in drawn.steps:
        page.dot(step.x, step.y, step.is_now, INK)
    for one in drawn.letters:
        page.letters(one, _hue(one))


def _hue(one: Letters) -> Hue:
    return SOFT if one.role == "tick" else INK
