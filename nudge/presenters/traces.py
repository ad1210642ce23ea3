"""Traces over the wire: columns with their extremes, and marks."""

from pydantic import BaseModel

from nudge.core.language.units import UnitSystem, decimals, from_si, unit_label
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


class MarkOut(BaseModel):
    """Something that was done, at a moment [ms]."""

    at: int
    kind: str
    label: str


class SeriesOut(BaseModel):
    """Traces over a span; `first` and `last` are the ends of everything there is."""

    since: int
    until: int
    first: int | None
    last: int | None
    traces: list[TraceOut]
    marks: list[MarkOut]


def series_out(found: Traces, units: UnitSystem) -> SeriesOut:
    return SeriesOut(
        since=found.since_ms,
        until=found.until_ms,
        first=found.first_ms,
        last=found.last_ms,
        traces=[_trace(trace, units) for trace in found.traces],
        marks=[MarkOut(at=m.at_ms, kind=m.kind, label=m.label) for m in found.marks],
    )


def _trace(trace: TraceRows, units: UnitSystem) -> TraceOut:
    def shown(value: float) -> float:
        return round(from_si(value, trace.quantity, units), 3)

    return TraceOut(
        key=trace.key,
        label=trace.label,
        side=trace.side,
        unit=unit_label(trace.quantity, units),
        decimals=decimals(trace.quantity, units),
        rows=[(at, shown(mean), shown(low), shown(high)) for at, mean, low, high in trace.rows],
        steady=list(trace.steady),
    )
