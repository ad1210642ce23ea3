"""The axes of the settling strips: ranges and figures up, moments across, marks in rows.

Up, a strip is stroked from `low` to `high`; whoever strokes it may widen that to a value that has
come since, so the figures go on beyond both ends. Across, moments are served for a span on either
side as well, for a drawing that glides or is dragged before it is asked for again.
"""

from collections.abc import Iterable, Sequence
from datetime import UTC, datetime, tzinfo
from math import ceil, floor

from pydantic import BaseModel

from nudge.presenters.drawing.frames import SMALL, Frame, text_width
from nudge.presenters.drawing.scales import ticks

ROOM, LEAST_RANGE, LEAST_ROOM = 0.12, 2.0, 0.05
"""Room over and under a trace as a share of its range; the least a strip shows, in its unit."""
FIGURES = 3
"""About as many figures as a strip shows."""
TIME_ROOM = 110.0
"""What one moment takes along the foot [units of the frame]."""
DAYS_FROM_MS = 36 * 3_600_000
"""Longer spans are marked by dates."""
MARK_ROWS = 3
"""Rows a mark's word may stand in; where all are taken it is left out, its line stays."""
MARK_GAP = 10.0
MINUTE_MS = 60_000
DAY = 1440
TIME_STEPS = (1, 2, 5, 10, 15, 30, 60, 120, 240, 480, DAY, 2 * DAY, 7 * DAY, 14 * DAY, 30 * DAY)
"""Minutes between two moments."""


class ValueTick(BaseModel):
    """A figure up a strip."""

    value: float
    text: str


class TimeTick(BaseModel):
    """A moment [ms] along the foot, as the reader's clock shows it."""

    at: int
    text: str


def value_axis(values: Sequence[float], around: Sequence[float]) -> tuple[float, float]:
    """Lowest and highest of a strip: all its values and its window, with room."""
    every = [*values, *around]
    low, high = (min(every), max(every)) if every else (0.0, 1.0)
    room = max((high - low) * ROOM, (LEAST_RANGE - (high - low)) / 2, LEAST_ROOM)
    return round(low - room, 3), round(high + room, 3)


def value_ticks(low: float, high: float) -> list[ValueTick]:
    """Round figures of a strip and one range beyond it on either side."""
    inside = ticks(low, high, FIGURES)
    step = inside[1] - inside[0] if len(inside) > 1 else high - low
    reach = ceil((high - low) / step)
    steps = range(-reach, len(inside) + reach)
    found = [round(inside[0] + n * step, 6) for n in steps]
    return [ValueTick(value=v, text=f"{v:.0f}" if step >= 1 else f"{v:.1f}") for v in found]


def time_ticks(since: int, until: int, frame: Frame, zone: tzinfo | None) -> list[TimeTick]:
    """Moments on round times of the reader's clock, over the span and one more on either side."""
    span = max(until - since, 1)
    wanted = span / (frame.width / TIME_ROOM) / MINUTE_MS
    years = ceil(wanted / (365 * DAY)) * 365 * DAY
    step = next((s for s in TIME_STEPS if s >= wanted), years) * MINUTE_MS
    moment = datetime.fromtimestamp(since / 1000, UTC).astimezone(zone)
    shift = round((moment.utcoffset() or moment - moment).total_seconds() * 1000)
    first, last = since - span + shift, until + span + shift
    found = [n * step - shift for n in range(ceil(first / step), floor(last / step) + 1)]
    form = "%H:%M" if span < DAYS_FROM_MS else "%-d %b"
    return [TimeTick(at=at, text=_local(at, zone).strftime(form)) for at in found]


def _local(at_ms: int, zone: tzinfo | None) -> datetime:
    return datetime.fromtimestamp(at_ms / 1000, UTC).astimezone(zone)


def mark_rows(marks: Iterable[tuple[int, str]], since: int, until: int, frame: Frame) -> list[int]:
    """The row each mark's word stands in, so that none stands on another; -1: in none."""
    per_ms = frame.width / max(until - since, 1)
    ends = [float("-inf")] * MARK_ROWS
    rows = []
    for at, label in marks:
        x = at * per_ms
        row = next((n for n, end in enumerate(ends) if x >= end), -1)
        rows.append(row)
        if row >= 0:
            ends[row] = x + text_width(label, SMALL) + MARK_GAP
    return rows
