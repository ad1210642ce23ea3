"""Traces of a visit over any span: thinned, with their extremes kept, and what was done."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from nudge.core.language.units import Quantity, atmospheric_kpa
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.box_log import LABELS, box_events
from nudge.core.settling.stability import SHORTEST_S, SLOW, USUAL_TAU_S, WINDOW_S
from nudge.core.settling.trace import Trace, running_slopes
from nudge.services.errors import NotFound
from nudge.store.database import Database
from nudge.store.repositories import live
from nudge.store.repositories import visits as repository
from nudge.store.repositories.live import Placed
from nudge.store.tables import Visit

BOX_POINTS = ("box_air_temp", "evaporator_outlet_temp")
FINEST_MS = 1_000
COARSEST_JUDGED_MS, LONGEST_GAP_MS = 20_000, 15_000
MARKS = {
    "system_started": "started",
    "system_stopped": "stopped",
} | dict.fromkeys(ACTIONS, "changed")
_ORDER = {key: number for number, key in enumerate(POINTS)}

Column = tuple[int, float, float, float]
"""Moment [ms], mean, least, most."""


@dataclass(frozen=True, slots=True)
class TraceRows:
    """One trace in core units."""

    key: str
    label: str
    side: str
    quantity: Quantity
    rows: tuple[Column, ...]
    steady: tuple[tuple[int, int], ...] = ()
    """Spans [ms] over which it was near where it settled; only of what has to settle."""


@dataclass(frozen=True, slots=True)
class Mark:
    """Something done, at a moment."""

    at_ms: int
    kind: str
    label: str


@dataclass(frozen=True, slots=True)
class SpanSeen:
    """Something a log shows over a span [ms]."""

    kind: str
    label: str
    since_ms: int
    until_ms: int


@dataclass(frozen=True, slots=True)
class Traces:
    """What there is over a span, and the ends of all there is."""

    since_ms: int
    until_ms: int
    first_ms: int | None
    last_ms: int | None
    traces: tuple[TraceRows, ...]
    marks: tuple[Mark, ...]
    spans: tuple[SpanSeen, ...] = ()
    """What a box's log shows by itself, over its whole reach that is asked for."""


class Series:
    """The use case of looking at traces."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def over(
        self,
        visit_id: str,
        since_ms: int | None,
        until_ms: int | None,
        width: int,
        points: Sequence[str] | None = None,
    ) -> Traces:
        """Traces over a span (all there is, where an end is open) in at most `width` columns.

        Every column keeps the least and the most in it, so no spike is lost by thinning.
        Superheat and subcooling are worked out of the means. Raises: NotFound.
        """
        with self._database.reading() as session:
            row = repository.visit(session, visit_id)
            if row is None:
                raise NotFound("visit", visit_id)
            placed = live.channels(session, visit_id)
            ends = live.reach(session, [p.channel.id for p in placed])
            if ends is None:
                return Traces(since_ms or 0, until_ms or 0, None, None, (), _marks(row))
            since = ends[0] if since_ms is None else since_ms
            until = ends[1] if until_ms is None else until_ms
            bucket = max((until - since) // width, FINEST_MS)
            wanted = [p for p in placed if _wanted(p, points)]
            found = live.bucketed(session, [p.channel.id for p in wanted], since, until, bucket)
        columns = _by_point(wanted, found, bucket)
        spans = _spans(row, columns, until)
        if points:
            columns = {key: rows for key, rows in columns.items() if key in points}
        traces = [
            TraceRows(key, POINTS[key].label, POINTS[key].side, POINTS[key].quantity, tuple(rows))
            for key, rows in sorted(columns.items(), key=lambda item: _ORDER[item[0]])
        ]
        found_all = (*_worked_out(row, columns), *traces)
        shaded = tuple(replace(t, steady=_steady(t, bucket)) for t in found_all)
        return Traces(since, until, *ends, shaded, _marks(row), spans)

    def reach(self, visit_id: str) -> tuple[int, int] | None:
        """The first and the last moment that an instrument sent [ms]; None where none did.

        Raises: NotFound.
        """
        with self._database.reading() as session:
            if repository.visit(session, visit_id) is None:
                raise NotFound("visit", visit_id)
            placed = live.channels(session, visit_id)
            return live.reach(session, [p.channel.id for p in placed])

    def weights(self, visit_id: str, since_ms: int) -> Trace:
        """What the scale showed from a moment on [kg, gross]. Raises: NotFound."""
        with self._database.reading() as session:
            if repository.visit(session, visit_id) is None:
                raise NotFound("visit", visit_id)
            scales = [
                placed
                for placed in live.channels(session, visit_id)
                if placed.now is not None
                and placed.now.counts
                and placed.now.point == "cylinder_weight"
            ]
            if not scales:
                return Trace((), ())
            offset = scales[0].now.offset if scales[0].now else 0.0
            rows = live.raw(session, [scales[0].channel.id], since_ms)
        return Trace(tuple(at / 1000 for _, at, _ in rows), tuple(v + offset for *_, v in rows))


def _spans(
    row: Visit, columns: Mapping[str, Sequence[Column]], until_ms: int
) -> tuple[SpanSeen, ...]:
    """Defrosts, doors and pull-downs of a box; none where nobody hung a probe in one."""
    box, coil = (columns.get(point) for point in BOX_POINTS)
    if not box:
        return ()
    outlet, set_c = _trace_of(coil) if coil else None, row.system.box_set_point_c
    found = box_events(_trace_of(box), outlet, set_c)
    return tuple(
        SpanSeen(
            one.kind,
            LABELS[one.kind],
            round(1000 * one.begins_s),
            until_ms if one.ends_s is None else round(1000 * one.ends_s),
        )
        for one in found
    )


def _trace_of(rows: Sequence[Column]) -> Trace:
    return Trace(tuple(row[0] / 1000 for row in rows), tuple(row[1] for row in rows))


def _wanted(placed: Placed, points: Sequence[str] | None) -> bool:
    """What is asked for, and what shows a box's events whatever is."""
    asked = None if points is None else {*points, *BOX_POINTS}
    return asked is None or any(row.point in asked for row in placed.placements)


def _by_point(
    placed: Sequence[Placed],
    found: Sequence[tuple[int, int, float, float, float, int]],
    bucket_ms: int,
) -> dict[str, list[Column]]:
    by_id = {p.channel.id: p for p in placed}
    columns: dict[str, dict[int, Column]] = {}
    for channel_id, bucket, mean, low, high, _ in found:
        at_ms = bucket * bucket_ms + bucket_ms // 2
        holds = by_id[channel_id].at(at_ms + bucket_ms // 2)
        if holds is not None and holds.counts and holds.point in POINTS:
            zero = holds.offset
            columns.setdefault(holds.point, {})[at_ms] = (
                at_ms,
                mean + zero,
                low + zero,
                high + zero,
            )
    return {key: [at[t] for t in sorted(at)] for key, at in columns.items()}


def _worked_out(row: Visit, columns: dict[str, list[Column]]) -> list[TraceRows]:
    """Superheat and subcooling wherever pressure and line share a column."""
    table = load_table(row.system.refrigerant)
    atmosphere = atmospheric_kpa(row.system.elevation_m)
    traces = []
    for key, label, side, pressure, line, curve, sign in (
        (
            "superheat",
            "Superheat",
            "low",
            "suction_pressure",
            "suction_line_temp",
            table.dew.temperature,
            1,
        ),
        (
            "subcooling",
            "Subcooling",
            "high",
            "liquid_pressure",
            "liquid_line_temp",
            table.bubble.temperature,
            -1,
        ),
    ):
        lines = {at: mean for at, mean, _, _ in columns.get(line, ())}
        rows = []
        for at, mean, _, _ in columns.get(pressure, ()):
            kpa = mean + atmosphere
            if at in lines and table.low_kpa <= kpa <= table.high_kpa:
                value = sign * (lines[at] - curve(kpa))
                rows.append((at, value, value, value))
        if rows:
            traces.append(TraceRows(key, label, side, Quantity.TEMPERATURE_DIFFERENCE, tuple(rows)))
    return traces


def _steady(trace: TraceRows, bucket_ms: int) -> tuple[tuple[int, int], ...]:
    """Where the slope over the last minutes, run on for a time constant, stays within limits."""
    limits = {slow.key: slow.within for slow in SLOW}
    if trace.key not in limits or bucket_ms > COARSEST_JUDGED_MS:
        return ()
    spans: list[tuple[int, int]] = []
    for first, last, slope in running_slopes(_trace_of(trace.rows), WINDOW_S / 2):
        at = trace.rows[last][0]
        if last - first < 3 or at - trace.rows[first][0] < SHORTEST_S * 500:
            continue
        if abs(slope) * USUAL_TAU_S > limits[trace.key]:
            continue
        if spans and at - spans[-1][1] <= max(2 * bucket_ms, LONGEST_GAP_MS):
            spans[-1] = (spans[-1][0], at)
        else:
            spans.append((at, at))
    return tuple(span for span in spans if span[1] - span[0] > 30_000)


def _marks(row: Visit) -> tuple[Mark, ...]:
    return tuple(
        Mark(round(e.happened_at.timestamp() * 1000), e.kind, MARKS.get(e.kind, e.kind))
        for e in row.standing_events
    )
