"""The Landing and the settling strips as vector drawings on paper."""

from collections.abc import Callable, Mapping, Sequence
from itertools import pairwise

from fpdf import FPDF

from nudge.contract.answer_shapes import TargetOut
from nudge.presenters.traces import SeriesOut, TraceOut
from nudge.presenters.visits import FootprintOut
from nudge.reports.paper import HIGH_HUE, INK, LOW_HUE, RULE, SOFT

Box = tuple[float, float, float, float]
"""Left, top, width, height [mm]."""


def draw_landing(
    pdf: FPDF,
    box: Box,
    footprints: Sequence[FootprintOut],
    targets: Mapping[str, TargetOut],
    unit: str,
) -> None:
    """Superheat up, subcooling to the right: readings are footprints, the target a window."""
    left, top, width, height = box
    xs, ys = [f.subcooling for f in footprints], [f.superheat for f in footprints]
    across, up = targets.get("subcooling"), targets.get("superheat")
    xs += [0.0, *((across.low, across.high) if across else ())]
    ys += [0.0, *((up.low, up.high) if up else ())]
    x0, x1, y0, y1 = min(xs) - 3, max(xs) + 3, min(ys) - 3, max(ys) + 3

    def x(value: float) -> float:
        return left + 10 + (width - 12) * (value - x0) / (x1 - x0)

    def y(value: float) -> float:
        return top + (height - 8) * (y1 - value) / (y1 - y0)

    pdf.set_draw_color(*RULE)
    pdf.set_line_width(0.3)
    pdf.line(x(x0), y(y0), x(x1), y(y0))
    pdf.line(x(x0), y(y0), x(x0), y(y1))
    pdf.set_fill_color(233, 226, 208)
    if across and up:
        pdf.rect(
            x(across.low),
            y(up.high),
            x(across.high) - x(across.low),
            y(up.low) - y(up.high),
            style="FD",
        )
    elif across:
        pdf.rect(x(across.low), y(y1), x(across.high) - x(across.low), y(y0) - y(y1), style="F")
    elif up:
        pdf.rect(x(x0), y(up.high), x(x1) - x(x0), y(up.low) - y(up.high), style="F")
    places = [(x(f.subcooling), y(f.superheat)) for f in footprints]
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.4)
    for (ax, ay), (bx, by) in pairwise(places):
        pdf.line(ax, ay, bx, by)
    for number, ((px, py), step) in enumerate(zip(places, footprints, strict=True)):
        last = number == len(places) - 1
        pdf.set_fill_color(*(INK if last else (255, 255, 255)))
        pdf.circle(px, py, 1.5 if last else 1.1, style="FD")
        words = "last" if last else f"{step.minutes_ago:.0f} min before"
        if step.done:
            words = f"{step.done.lower()}, {words}"
        if number in (0, len(places) - 1) or step.done:
            _text(pdf, px + 2.2, py - 1, words, SOFT, "L")
    _text(pdf, x(x1), y(y0) + 8, f"Subcooling, {unit}", HIGH_HUE, "R")
    _text(pdf, left, top - 1, f"Superheat, {unit}", LOW_HUE, "L")
    for value in _ticks(x0, x1):
        _text(pdf, x(value), y(y0) + 4, f"{value:g}", SOFT, "C")
    for value in _ticks(y0, y1):
        _text(pdf, x(x0) - 1, y(value) + 1, f"{value:g}", SOFT, "R")


def draw_strips(pdf: FPDF, box: Box, series: SeriesOut) -> None:
    """Short traces one under the other, shaded where steady, marked where work was done."""
    left, top, width, height = box
    traces = [trace for trace in series.traces if len(trace.rows) > 1][:5]
    if not traces:
        return
    span = max(series.until - series.since, 1)
    each = height / len(traces)

    def x(at: float) -> float:
        return left + 34 + (width - 36) * (at - series.since) / span

    for number, trace in enumerate(traces):
        _strip(pdf, trace, x, top + number * each, each - 3, left)
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.3)
    for mark in series.marks:
        if series.since <= mark.at <= series.until:
            pdf.set_dash_pattern(dash=0.8, gap=0.8)
            pdf.line(x(mark.at), top, x(mark.at), top + height - 3)
            pdf.set_dash_pattern()
            _text(pdf, x(mark.at) + 0.6, top + height, mark.label, SOFT, "L")


def _strip(
    pdf: FPDF,
    trace: TraceOut,
    place: Callable[[float], float],
    top: float,
    height: float,
    left: float,
) -> None:
    values = [row[1] for row in trace.rows]
    low, high = min(values), max(values)
    room = max(high - low, 1.0) * 0.15
    hue = LOW_HUE if trace.side == "low" else HIGH_HUE if trace.side == "high" else INK

    def y(value: float) -> float:
        return top + height * (high + room - value) / (high - low + 2 * room)

    pdf.set_fill_color(238, 232, 216)
    for start, end in trace.steady:
        pdf.rect(place(start), top, max(place(end) - place(start), 0.2), height, style="F")
    pdf.set_draw_color(*hue)
    pdf.set_line_width(0.35)
    points = [(place(row[0]), y(row[1])) for row in trace.rows]
    pdf.polyline(points)
    _text(pdf, left, top + height / 2, f"{trace.label}", INK, "L")
    _text(pdf, left, top + height / 2 + 3.4, f"{values[-1]:.1f} {trace.unit}", SOFT, "L")


def _text(
    pdf: FPDF, x: float, y: float, words: str, colour: tuple[int, int, int], align: str
) -> None:
    pdf.set_font("text", "", 7)
    pdf.set_text_color(*colour)
    width = pdf.get_string_width(words)
    pdf.text(x - (width if align == "R" else width / 2 if align == "C" else 0), y, words)


def _ticks(low: float, high: float) -> list[float]:
    step = next(s for s in (1, 2, 5, 10, 20, 50, 100, 1e9) if (high - low) / s <= 6)
    first = int(low // step) + 1
    return [first * step + n * step for n in range(int((high - first * step) // step) + 1)]
