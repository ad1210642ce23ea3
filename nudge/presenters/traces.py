"""Traces over the wire: columns with their extremes, and marks."""

from collections.abc import Mapping
from datetime import tzinfo

from pydantic import BaseModel

from nudge.contract.answer_shapes import TargetOut
from nudge.core.language.units import UnitSystem, decimals, from_si, unit_label
from nudge.presenters.drawing.frames import FRAMES, FrameKey
from nudge.presenters.drawing.strip_axes import (
    TimeTick,
    ValueTick,
    mark_rows,
    time_ticks,
    value_axis,
    value_ticks,
)
from nudge.services.series import TraceRows, Traces


class TraceOut(BaseModel):
    """One trace: for each column its moment [ms], mean, least and most."""

    key: str
    label: str
    side: str
    unit: str
    decimals: int
    rows: list[tuple[int, float, float, float]]
    steady: list[tuple[int, int]]
    low: float
    high: float
    """What its strip shows."""
    ticks: list[ValueTick]


class MarkOut(BaseModel):
    """Something that was done, at a moment [ms]."""

    at: int
    kind: str
    label: str
    row: int
    """Where its word stands, so that it stands on no other; -1: in none."""


class SpanOut(BaseModel):
    """Something a log shows over a span [ms]: a defrost, an open door, a pull-down."""

    kind: str
    label: str
    since: int
    until: int


class SeriesOut(BaseModel):
    """Traces over a span; `first` and `last` are the ends of everything there is."""

    since: int
    until: int
    first: int | None
    last: int | None
    traces: list[TraceOut]
    marks: list[MarkOut]
    spans: list[SpanOut]
    times: list[TimeTick]


def series_out(
    found: Traces,
    units: UnitSystem,
    frame: FrameKey = "desk",
    zone: tzinfo | None = None,
    windows: Mapping[str, TargetOut] | None = None,
) -> SeriesOut:
    """Traces with their axes laid out for a frame, on the clock of a `zone` (None: this machine's).

    `windows` in `units`: a strip shows its own as a whole.
    """
    since, until, drawn = found.since_ms, found.until_ms, FRAMES[frame]
    marks = [m for m in found.marks if since <= m.at_ms <= until]
    rows = mark_rows([(m.at_ms, m.label) for m in marks], since, until, drawn)
    return SeriesOut(
        since=found.since_ms,
        until=found.until_ms,
        first=found.first_ms,
        last=found.last_ms,
        traces=[_trace(trace, units, (windows or {}).get(trace.key)) for trace in found.traces],
        marks=[
            MarkOut(at=m.at_ms, kind=m.kind, label=m.label, row=row)
            for m, row in zip(marks, rows, strict=True)
        ],
        spans=[
            SpanOut(kind=s.kind, label=s.label, since=s.since_ms, until=s.until_ms)
            for s in found.spans
        ],
        times=time_ticks(since, until, drawn, zone),
    )


def _trace(trace: TraceRows, units: UnitSystem, window: TargetOut | None) -> TraceOut:
    def shown(value: float) -> float:
        return round(from_si(value, trace.quantity, units), 3)

    rows = [(at, shown(mean), shown(low), shown(high)) for at, mean, low, high in trace.rows]
    around = [window.low, window.high] if window else []
    low, high = value_axis([end for row in rows for end in row[2:]], around)
    return TraceOut(
        key=trace.key,
        label=trace.label,
        side=trace.side,
        unit=unit_label(trace.quantity, units),
        decimals=decimals(trace.quantity, units),
        rows=rows,
        steady=list(trace.steady),
        low=low,
        high=high,
        ticks=value_ticks(low, high),
    )
