"""The tightness film and the proof strip on paper: the screen’s own layouts, stroked."""

from nudge.presenters.drawing.film_layout import DrawnFilm
from nudge.presenters.drawing.proof_layout import DrawnProof
from nudge.reports.paper import HIGH_HUE, INK, LOW_HUE, RULE, SOFT
from nudge.reports.scaled import Hue, Scaled

WITHIN: Hue = (190, 214, 216)
OUTSIDE: Hue = (214, 160, 180)
_PENS: dict[str, tuple[float, Hue, float]] = {
    "grid": (0.1, RULE, 0.0),
    "mark": (0.2, SOFT, 0.8),
    "limit": (0.5, HIGH_HUE, 1.4),
    "frame": (0.3, INK, 0.0),
    "measured": (0.5, INK, 0.0),
    "fitted": (0.3, SOFT, 0.6),
    "trace": (0.45, INK, 0.0),
    "dose": (0.5, LOW_HUE, 0.0),
    "by": (0.3, SOFT, 0.9),
}
"""Thickness [mm], hue and dash of every stroke."""


def draw_film(page: Scaled, film: DrawnFilm) -> None:
    """Shades first, then lines, then words."""
    for shade in film.shades:
        page.pdf.set_fill_color(*(OUTSIDE if shade.role == "outside" else WITHIN))
        page.pdf.polygon([page.at(*p) for p in shade.points], style="F")
    for stroke in film.strokes:
        _stroke(page, stroke.role, stroke.points)
    for one in film.letters:
        page.letters(one, SOFT if one.role == "tick" else INK)


def draw_proof(page: Scaled, strip: DrawnProof) -> None:
    """Windows first, then traces, then words."""
    for box in strip.boxes:
        x, y = page.at(box.x, box.y)
        page.pdf.set_fill_color(*WITHIN)
        page.pdf.rect(x, y, box.width * page.scale, box.height * page.scale, style="F")
    for stroke in strip.strokes:
        _stroke(page, stroke.role, stroke.points)
    for one in strip.letters:
        page.letters(one, SOFT if one.role == "tick" else INK)


def _stroke(page: Scaled, role: str, points: list[tuple[float, float]]) -> None:
    if len(points) < 2:
        return
    thick, hue, dash = _PENS[role]
    page.pdf.set_draw_color(*hue)
    page.pdf.set_line_width(thick)
    if dash:
        page.pdf.set_dash_pattern(dash=dash, gap=dash)
    page.pdf.polyline([page.at(*point) for point in points])
    page.pdf.set_dash_pattern()
