"""The settling strips on paper: same axes and marks as the screen's."""

from fpdf import FPDF

from nudge.contract.answer_shapes import TargetOut
from nudge.presenters.drawing.frames import FRAMES, SMALL
from nudge.presenters.drawing.scales import LinearScale
from nudge.presenters.traces import SeriesOut, TraceOut
from nudge.reports.paper import HIGH_HUE, INK, LOW_HUE, RULE, SOFT
from nudge.reports.scaled import Scaled

Box = tuple[float, float, float, float]
"""Left, top, width, height [mm]."""
MOST = 5
LABELS, HEAD, FOOT, BETWEEN = 38.0, 9.0, 5.0, 3.0
"""Room for names and figures, for the marks' words, for moments, between strips [mm]."""
MARK_LINE = 2.8
SHADE = (238, 232, 216)


def draw_strips(pdf: FPDF, box: Box, series: SeriesOut, windows: dict[str, TargetOut]) -> None:
    """Short traces one under the other, shaded where steady, marked where work was done."""
    left, top, width, height = box
    traces = [trace for trace in series.traces if len(trace.rows) > 1][:MOST]
    if not traces:
        return
    page = Scaled(pdf, left, top, width / FRAMES["desk"].width)
    x = LinearScale(series.since, series.until, left + LABELS, left + width)
    each = (height - HEAD - FOOT) / len(traces)
    for number, trace in enumerate(traces):
        upper = top + HEAD + number * each
        y = LinearScale(trace.low, trace.high, upper + each - BETWEEN, upper)
        _strip(page, trace, x, y, windows.get(trace.key))
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.3)
    for mark in series.marks:
        words = top + 2.4 + max(mark.row, 0) * MARK_LINE
        pdf.set_dash_pattern(dash=0.8, gap=0.8)
        pdf.line(x(mark.at), words, x(mark.at), top + height - FOOT - BETWEEN)
        pdf.set_dash_pattern()
        if mark.row >= 0:
            page.text(mark.label, (x(mark.at) + 0.6, words), SMALL, False, SOFT)
    for tick in series.times:
        if series.since <= tick.at <= series.until:
            page.text(tick.text, (x(tick.at), top + height - 2), SMALL, False, SOFT, "middle")


def _strip(
    page: Scaled, trace: TraceOut, x: LinearScale, y: LinearScale, window: TargetOut | None
) -> None:
    pdf = page.pdf
    left, wide, high = x.start, x.end - x.start, y.start - y.end
    pdf.set_fill_color(*SHADE)
    for start, end in trace.steady:
        pdf.rect(x(start), y.end, max(x(end) - x(start), 0.2), high, style="F")
    pdf.set_draw_color(*RULE)
    pdf.set_line_width(0.15)
    pdf.rect(left, y.end, wide, high)
    free = float("inf")
    for tick in trace.ticks:
        if trace.low < tick.value < trace.high and free - y(tick.value) > MARK_LINE:
            free = y(tick.value)
            page.text(tick.text, (left - 1, free + 0.8), SMALL, False, SOFT, "end")
    if window is not None:
        pdf.set_draw_color(*INK)
        pdf.set_line_width(0.4)
        low, top, right = y(window.low), y(window.high), x.end - 0.8
        pdf.polyline([(right - 1.5, low), (right, low), (right, top), (right - 1.5, top)])
    pdf.set_draw_color(*{"low": LOW_HUE, "high": HIGH_HUE}.get(trace.side, INK))
    pdf.set_line_width(0.35)
    pdf.polyline([(x(row[0]), y(row[1])) for row in trace.rows])
    middle, name = (y.start + y.end) / 2, left - LABELS
    page.text(trace.label, (name, middle), SMALL, False, INK)
    last = f"{trace.rows[-1][1]:.{trace.decimals}f} {trace.unit}"
    page.text(last, (name, middle + 3.4), SMALL, False, SOFT)
