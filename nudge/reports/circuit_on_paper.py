"""An opened circuit on paper: the way it went, what went out and in, its machine's settings."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.presenters.circuit import CircuitOut
from nudge.presenters.drawing.way_layout import DrawnWay
from nudge.presenters.machine_settings import SettingsOut
from nudge.reports.attached import Subject
from nudge.reports.paper import INK, MARGIN, RULE, SOFT, Paper
from nudge.reports.scaled import Hue, Scaled

WIDE_MM = 110.0
_PENS: Mapping[str, tuple[float, Hue, float]] = MappingProxyType(
    {
        "air": (0.1, RULE, 0.0),
        "behind": (0.6, INK, 0.0),
        "passed_over": (0.4, INK, 0.6),
        "ahead": (0.3, SOFT, 1.4),
    }
)
BECAME = {"new": "new", "changed": "changed", "gone": "not written down", "same": "as last time"}


def circuit_on_paper(pdf: Paper, subject: Subject) -> None:
    """The circuit of a visit that opened it, and the settings its machine was left with."""
    if subject.circuit is not None and any(one.at for one in subject.circuit.way):
        _way(pdf, subject, subject.circuit)
    if subject.settings is not None and subject.settings.settings:
        _settings(pdf, subject.settings)


def _way(pdf: Paper, subject: Subject, circuit: CircuitOut) -> None:
    pdf.head("The circuit, opened")
    scale = WIDE_MM / circuit.drawn.width
    pdf.keep(circuit.drawn.height * scale + 4)
    _draw(Scaled(pdf, MARGIN, pdf.get_y() + 1, scale), circuit.drawn)
    pdf.set_y(pdf.get_y() + circuit.drawn.height * scale + 3)
    pdf.rows(
        ("When", "State", ""),
        [
            (
                subject.at(one.at),
                one.label,
                " ".join(
                    words
                    for words in (
                        "on an earlier visit" if one.elsewhere else "",
                        f"because: {one.reason}" if one.reason else "",
                    )
                    if words
                ),
            )
            for one in circuit.way
            if one.at is not None
        ],
        (60, 60, 58),
    )
    passed = [one.label.lower() for one in circuit.way if one.stands == "passed_over"]
    if passed:
        pdf.care(f"Passed over: {', '.join(passed)}.")
    pairs = [
        ("Recovered", circuit.recovered),
        ("What becomes of it", circuit.fate.said if circuit.fate else ""),
        ("First fill", circuit.fill.said if circuit.fill else ""),
        ("In it by the scale", circuit.weighed_in),
        ("Written inside the door", circuit.sum),
    ]
    pdf.pairs([(label, words) for label, words in pairs if words])


def _settings(pdf: Paper, found: SettingsOut) -> None:
    pdf.head("The machine's settings, as they were left")
    pdf.rows(
        ("Setting", "Value", "Its maker's", "Against last time, and why"),
        [
            (
                f"{one.name} {one.mode_label if one.mode else ''}".strip(),
                one.value or f"({one.before})",
                one.usual,
                ". ".join(
                    words
                    for words in (
                        BECAME[one.became]
                        + (f" from {one.before}" if one.became == "changed" else "")
                        if found.has_before
                        else "",
                        one.reason,
                    )
                    if words
                ),
            )
            for one in found.settings
        ],
        (42, 30, 30, 76),
    )


def _draw(page: Scaled, drawn: DrawnWay) -> None:
    pdf = page.pdf
    for stroke in drawn.strokes:
        thick, hue, dash = _PENS[stroke.role]
        pdf.set_draw_color(*hue)
        pdf.set_line_width(thick)
        if dash:
            pdf.set_dash_pattern(dash=dash, gap=dash)
        pdf.polyline([page.at(*point) for point in stroke.points])
        pdf.set_dash_pattern()
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.3)
    for dot in drawn.dots:
        is_past = dot.stands in ("behind", "here")
        pdf.set_fill_color(*(INK if is_past else (255, 255, 255)))
        pdf.circle(*page.at(dot.x, dot.y), 1.6 if dot.stands == "here" else 1.0, style="FD")
    for one in drawn.letters:
        page.letters(one, INK)
