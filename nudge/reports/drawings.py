"""The Loop, the Landing and the settling strips as vector drawings on paper."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

from fpdf import FPDF

from nudge.contract.answer_shapes import TargetOut
from nudge.presenters.traces import SeriesOut, TraceOut
from nudge.presenters.visits import FootprintOut, LevelOut, LoopOut
from nudge.reports.paper import HIGH_HUE, INK, LOW_HUE, RULE, SOFT

Box = tuple[float, float, float, float]
"""Left, top, width, height [mm]."""

PLACE = {
    "compressor_out": 0.015,
    "discharge_line": 0.075,
    "condenser": 0.19,
    "liquid_line": 0.34,
    "drier_in": 0.40,
    "drier_out": 0.44,
    "liquid_line_indoor": 0.49,
    "metering_device": 0.54,
    "evaporator": 0.64,
    "evaporator_outlet": 0.745,
    "suction_line": 0.815,
    "compressor_in": 0.985,
}
"""Where each station stands along the Loop, as a share of its width."""
_NAMED = {
    "liquid_line": "R",
    "drier_in": "R",
    "drier_out": "L",
    "liquid_line_indoor": "L",
    "evaporator_outlet": "R",
    "suction_line": "L",
    "compressor_in": "R",
}
"""Stations that are marked, and on which side their names stand."""
_AIR = {
    "outdoor_air_temp": ("Outdoor air", 0.11, 0.27),
    "condenser_leaving_air_temp": ("Leaving air", 0.11, 0.27),
    "return_air_temp": ("Return air", 0.56, 0.72),
    "supply_air_temp": ("Supply air", 0.56, 0.72),
}


@dataclass(frozen=True, slots=True)
class _Frame:
    """Where shares of the way round and temperatures lie on the page [mm]."""

    box: Box
    low: float
    high: float

    def x(self, share: float) -> float:
        return self.box[0] + share * self.box[2]

    def y(self, value: float) -> float:
        room = max(self.high - self.low, 10) * 0.13
        return self.box[1] + self.box[3] * (self.high + room - value) / (
            self.high - self.low + 2 * room
        )


def draw_loop(
    pdf: FPDF, box: Box, loop: LoopOut, targets: Mapping[str, TargetOut], unit: str
) -> None:
    """Height is temperature: the two saturations as levels, superheat and subcooling as gaps."""
    known = [
        s.temperature
        for s in loop.stations
        if s.temperature is not None and s.key != "discharge_line"
    ]
    known += [t for level in loop.levels for t in (level.enters, level.leaves)]
    known += list(loop.air.values())
    if len(known) < 2:
        return
    at = _Frame(box, min(known), max(known))
    for level in loop.levels:
        _level(pdf, at, level)
    for side, hue in (("high", HIGH_HUE), ("low", LOW_HUE)):
        _side(pdf, at, loop, side, hue)
    for gap in loop.gaps:
        place = at.x(PLACE.get(gap.station, 0.5))
        _gap(
            pdf,
            place,
            at.y(gap.level),
            at.y(gap.line),
            f"{gap.key.replace('_', ' ')} {abs(gap.line - gap.level):.1f} {unit}",
        )
        target = targets.get(gap.key)
        if target is not None:
            sign = -1 if gap.key == "subcooling" else 1
            _bracket(
                pdf,
                place + 2.4,
                at.y(gap.level + sign * target.low),
                at.y(gap.level + sign * target.high),
            )
    for key, value in loop.air.items():
        if key in _AIR:
            _air(pdf, at, key, value)


def _level(pdf: FPDF, at: _Frame, level: LevelOut) -> None:
    is_high = level.side == "high"
    hue, ends = (HIGH_HUE, (0.0, 0.525)) if is_high else (LOW_HUE, (0.555, 1.0))
    pdf.set_draw_color(*hue)
    pdf.set_line_width(0.35)
    pdf.set_dash_pattern(dash=2.2, gap=1.4)
    pdf.line(at.x(ends[0]), at.y(level.leaves), at.x(ends[1]), at.y(level.leaves))
    pdf.set_dash_pattern()
    pdf.set_line_width(1.1 if is_high else 1.5)
    coil = (0.11, 0.27) if is_high else (0.56, 0.72)
    pdf.line(at.x(coil[0]), at.y(level.enters), at.x(coil[1]), at.y(level.leaves))
    end = at.x(ends[0 if is_high else 1]) + (1 if is_high else -1)
    _text(
        pdf,
        end,
        at.y(level.leaves) - 1.2,
        f"{level.label} {level.leaves:.1f}",
        hue,
        "L" if is_high else "R",
    )


def _side(pdf: FPDF, at: _Frame, loop: LoopOut, side: str, hue: tuple[int, int, int]) -> None:
    """The line of one side, from its coil on, and the readings along it."""
    marks = [
        (s, PLACE[s.key], s.temperature)
        for s in loop.stations
        if s.side == side and s.temperature is not None and s.key in _NAMED
    ]
    line = [(at.x(share), at.y(value)) for _, share, value in marks]
    level = next((one for one in loop.levels if one.side == side), None)
    if level is not None and line:
        line.insert(0, (at.x(0.27 if side == "high" else 0.72), at.y(level.leaves)))
    pdf.set_draw_color(*hue)
    pdf.set_line_width(0.9)
    for (x0, y0), (x1, y1) in pairwise(line):
        pdf.line(x0, y0, x1, y1)
    for station, share, value in marks:
        pdf.set_fill_color(*hue)
        pdf.circle(at.x(share), at.y(value), 0.9, style="F")
        align = _NAMED[station.key]
        _text(
            pdf,
            at.x(share) + (1.8 if align == "L" else -1.8),
            at.y(value) + 3.2,
            f"{station.label} {value:.1f}",
            INK,
            align,
        )


def _air(pdf: FPDF, at: _Frame, key: str, value: float) -> None:
    label, start, end = _AIR[key]
    pdf.set_draw_color(*SOFT)
    pdf.set_line_width(0.3)
    pdf.set_dash_pattern(dash=0.6, gap=0.8)
    pdf.line(at.x(start), at.y(value), at.x(end), at.y(value))
    pdf.set_dash_pattern()
    _text(pdf, at.x((start + end) / 2), at.y(value) + 3, f"{label} {value:.1f}", SOFT, "C")


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


def _gap(pdf: FPDF, at: float, level: float, line: float, words: str) -> None:
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.6)
    pdf.line(at, level, at, line)
    if words.startswith("subcooling"):
        _text(pdf, at - 2.2, max(level, line) + 6.4, words, INK, "R")
    else:
        _text(pdf, at + 4.4, (level + line) / 2 + 1, words, INK, "L")


def _bracket(pdf: FPDF, at: float, one: float, other: float) -> None:
    """The target beside a gap: a bracket, open to it."""
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.5)
    pdf.line(at, one, at, other)
    pdf.line(at - 1.2, one, at, one)
    pdf.line(at - 1.2, other, at, other)


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
