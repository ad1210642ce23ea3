"""What a visit's instruments showed over its last settled window: mean, least and most."""

from collections.abc import Mapping
from dataclasses import dataclass

from nudge.core.language.units import Quantity
from nudge.services.series import Series, TraceRows

WINDOW_MS, LOOKED_AT_MS = 5 * 60_000, 20 * 60_000
COLUMNS = 400
SETTLES = ("superheat", "subcooling")


@dataclass(frozen=True, slots=True)
class Spread:
    """One quantity over the window [core unit]."""

    label: str
    quantity: Quantity
    mean: float
    least: float
    most: float


@dataclass(frozen=True, slots=True)
class SettledWindow:
    """The window [ms since 1970], and what was read in it, by key."""

    since_ms: int
    until_ms: int
    rows: Mapping[str, Spread]


def settled_window(series: Series, visit_id: str) -> SettledWindow | None:
    """The last five minutes in which superheat or subcooling stood still; None where no instrument
    shows any.

    Raises: NotFound.
    """
    ends = series.reach(visit_id)
    if ends is None:
        return None
    found = series.over(visit_id, ends[1] - LOOKED_AT_MS, ends[1], COLUMNS)
    spans = [span for trace in found.traces if trace.key in SETTLES for span in trace.steady]
    if not spans:
        return None
    until = max(end for _, end in spans)
    since = max(min(start for start, end in spans if end == until), until - WINDOW_MS)
    rows = {trace.key: _spread(trace, since, until) for trace in found.traces}
    return SettledWindow(since, until, {key: row for key, row in rows.items() if row is not None})


def _spread(trace: TraceRows, since: int, until: int) -> Spread | None:
    inside = [row for row in trace.rows if since <= row[0] <= until]
    if not inside:
        return None
    mean = sum(row[1] for row in inside) / len(inside)
    least, most = min(row[2] for row in inside), max(row[3] for row in inside)
    return Spread(trace.label, trace.quantity, mean, least, most)
