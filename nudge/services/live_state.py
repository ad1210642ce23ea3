"""What the instruments of a visit say now: values, whether they have settled, who lies."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import TypedDict

from sqlalchemy.orm import Session

from nudge.core.language.errors import CoreError
from nudge.core.language.said import Said, difference, minutes, say
from nudge.core.language.units import atmospheric_kpa
from nudge.core.physics.refrigerant.table import SaturationTable, load_table
from nudge.core.settling.box_log import box_events, clear_of
from nudge.core.settling.probes import lying
from nudge.core.settling.seen import Lie, Seen
from nudge.core.settling.stability import Settling, settling, with_differences
from nudge.core.settling.trace import Trace
from nudge.core.tests.defrost import VAPOUR, clear_of_defrost
from nudge.core.visit.record.standing import void_ids
from nudge.services.modes import mode_of
from nudge.services.rows import si_value
from nudge.store.repositories import live
from nudge.store.repositories.live import Placed
from nudge.store.tables import Event, Visit

WINDOW_MS, BUCKET_MS = 300_000, 4_000
RAW_MS, PRESENT_MS = 120_000, 8_000
OLD_MS = 15 * 60_000
"""A probe silent for longer than this has no present value at all."""
LOOKED_BACK_MS = 25 * 60_000
"""A defrost that ended ten minutes ago, and the longest one, lie within this."""
BOX, COIL = "box_air_temp", "evaporator_outlet_temp"
BEFORE_START_MS = 45_000
STILL_KPA = 6.0
RUNNING_RATIO = 1.25


@dataclass(frozen=True, slots=True)
class LiveValue:
    """The present value at a point: who gives it, when it came, in core units."""

    channel: str
    label: str
    source: str
    value: float
    at_ms: int


class SeenOfBox(TypedDict):
    """What a box's probes say of its defrosts and doors [min]."""

    minutes_clear: float | None
    since_door: float | None


def seen_of_box(live: "LiveState | None") -> SeenOfBox:
    """As a context takes it; nothing where no probe hangs in a box."""
    if live is None:
        return SeenOfBox(minutes_clear=None, since_door=None)
    return SeenOfBox(minutes_clear=live.minutes_clear, since_door=live.since_door)


def box_over(visit: Visit, live: "LiveState | None") -> tuple[tuple[float, float], ...]:
    """A cold room's air over the visit [min, °C]: by its probe, else as it was typed."""
    if live is not None and live.box is not None:
        rows = zip(live.box.seconds, live.box.values, strict=True)
        return tuple((seconds / 60, temp) for seconds, temp in rows)
    void = void_ids(visit.readings)
    typed = [r for r in visit.readings if r.point == BOX and r.id not in void and not r.withdraws]
    typed.sort(key=lambda row: row.taken_at)
    return tuple((row.taken_at.timestamp() / 60, si_value(row)) for row in typed)


@dataclass(frozen=True, slots=True)
class LiveState:
    """Everything the instruments say about a visit at one moment."""

    now_ms: int
    placed: tuple[Placed, ...]
    values: Mapping[str, LiveValue]
    settling: Settling | None
    lies: tuple[Lie, ...]
    minutes_clear: float | None = None
    """Since the last defrost its vapour line or its coil shows; 0 in one, None where none."""
    since_door: float | None = None
    """Minutes since a door of its box stood open, by the box's air; 0 while one does."""
    box: Trace | None = None
    """A cold room's air over the last while; None where no probe hangs in one."""
    shows: Mapping[str, float] = field(default_factory=dict)
    """Every channel's present value by its key, counted or not, after its zero."""

    @property
    def unsettled(self) -> Said | None:
        """What still moves, in a sentence; None when settled or nothing slow is watched."""
        return None if self.settling is None else _unsettled(self.settling)

    @property
    def settles_in(self) -> float | None:
        """Minutes until it will have settled, by its own forecast; None where that is not known."""
        if self.settling is None or self.settling.seconds is None:
            return None
        return self.settling.seconds / 60

    @property
    def hunting_minutes(self) -> float | None:
        """The period at which the superheat swings; None while it does not."""
        found = self.settling.hunting if self.settling else None
        return None if found is None else found.period_s / 60


def live_state(session: Session, visit: Visit, now: datetime) -> LiveState | None:
    """The state of a visit's instruments; None when it is closed or has none that sent lately."""
    if visit.closed_at is not None:
        return None
    placed = [p for p in live.channels(session, visit.id) if p.channel.source != "imported"]
    if not placed:
        return None
    now_ms = round(now.astimezone(UTC).timestamp() * 1000)
    ids = [p.channel.id for p in placed]
    last = live.latest(session, ids)
    if not any(now_ms - at < OLD_MS for at, _ in last.values()):
        return None
    raw = _raw_traces(session, placed, ids, now_ms)
    values, shows = _present(placed, last, raw, now_ms)
    traces = _traces(session, placed, ids, now_ms - WINDOW_MS, now_ms)
    table = load_table(visit.system.refrigerant)
    atmosphere = atmospheric_kpa(visit.system.elevation_m)
    heats = mode_of(visit) == "heating"
    full = _with_saturations(traces, table, atmosphere, heats)
    started_ms, quiet_ms = _events(visit.standing_events)
    found = None
    if _is_running(values, atmosphere):
        found = settling(full, now_ms / 1000, (quiet_ms or 0) / 1000, heats)
    counted = _by_point(placed, raw)
    seen = Seen(
        visit.system.refrigerant,
        visit.system.elevation_m,
        counted,
        {
            point: value.value
            for point, value in values.items()
            if now_ms - value.at_ms < 2 * PRESENT_MS
        },
        frozenset(values),
        now_ms / 1000,
        _minutes_running(started_ms, traces, now_ms) if found is not None else None,
        _standing(session, placed, ids, started_ms),
        heats,
    )
    try:
        lies = tuple(lying(seen))
    except CoreError:
        lies = ()  # a pressure off the refrigerant's table: the assessment says so itself
    vapour = _looked_back(session, placed, VAPOUR, now_ms) if heats else None
    clear = None if vapour is None else clear_of_defrost(vapour, now_ms / 1000)
    box, door = _looked_back(session, placed, BOX, now_ms), None
    if box is not None:
        coil = _looked_back(session, placed, COIL, now_ms)
        seen_in_box = box_events(box, coil, None)
        clear, door = (clear_of(seen_in_box, kind, now_ms / 1000) for kind in ("defrost", "door"))
    return LiveState(now_ms, tuple(placed), values, found, lies, clear, door, box, shows)


def _looked_back(
    session: Session, placed: Sequence[Placed], point: str, now_ms: int
) -> Trace | None:
    """What a point read over the last while, further back than what settles; None unwatched."""
    there = [p for p in placed if p.now is not None and p.now.point == point]
    if not there:
        return None
    ids = [p.channel.id for p in there]
    return _traces(session, there, ids, now_ms - LOOKED_BACK_MS, now_ms).get(point)


def _raw_traces(
    session: Session, placed: Sequence[Placed], ids: Sequence[int], now_ms: int
) -> dict[int, list[tuple[int, float]]]:
    """The last minutes of every channel, zeroed: by channel id, (ms, value)."""
    by_id = {p.channel.id: p for p in placed}
    rows: dict[int, list[tuple[int, float]]] = {}
    for channel_id, at_ms, value in live.raw(session, ids, now_ms - RAW_MS):
        holds = by_id[channel_id].at(at_ms)
        rows.setdefault(channel_id, []).append((at_ms, value + (holds.offset if holds else 0.0)))
    return rows


def _present(
    placed: Sequence[Placed],
    last: Mapping[int, tuple[int, float]],
    raw: Mapping[int, Sequence[tuple[int, float]]],
    now_ms: int,
) -> tuple[dict[str, LiveValue], dict[str, float]]:
    """The mean of each channel's last seconds, by point where it counts, and by channel."""
    values, shows = {}, {}
    for row in placed:
        holds, newest = row.now, last.get(row.channel.id)
        if holds is None or newest is None or now_ms - newest[0] > OLD_MS:
            continue
        since = newest[0] - PRESENT_MS
        recent = [v for t, v in raw.get(row.channel.id, ()) if t > since and t >= holds.since_ms]
        value = sum(recent) / len(recent) if recent else newest[1] + holds.offset
        shows[row.channel.key] = value
        if holds.counts and holds.point and newest[0] >= holds.since_ms:
            values[holds.point] = LiveValue(
                row.channel.key, row.channel.label, row.channel.source, value, newest[0]
            )
    return values, shows


def _by_point(
    placed: Sequence[Placed], raw: Mapping[int, Sequence[tuple[int, float]]]
) -> dict[str, Trace]:
    """Raw traces by the point each channel counts at now."""
    found = {}
    for row in placed:
        holds = row.now
        rows = [r for r in raw.get(row.channel.id, ()) if holds and r[0] >= holds.since_ms]
        if holds is not None and holds.counts and holds.point and rows:
            found[holds.point] = Trace(tuple(t / 1000 for t, _ in rows), tuple(v for _, v in rows))
    return found


def _traces(
    session: Session, placed: Sequence[Placed], ids: Sequence[int], since_ms: int, until_ms: int
) -> dict[str, Trace]:
    """Means over a few seconds, by point, whoever sat there."""
    by_id = {p.channel.id: p for p in placed}
    rows: dict[str, dict[int, float]] = {}
    for channel_id, bucket, mean, _, _, _ in live.bucketed(
        session, ids, since_ms, until_ms, BUCKET_MS
    ):
        holds = by_id[channel_id].at(bucket * BUCKET_MS)
        if holds is not None and holds.counts and holds.point:
            rows.setdefault(holds.point, {})[bucket] = mean + holds.offset
    return {
        point: Trace(
            tuple(b * BUCKET_MS / 1000 for b in sorted(at)), tuple(at[b] for b in sorted(at))
        )
        for point, at in rows.items()
    }


def _with_saturations(
    traces: Mapping[str, Trace], table: SaturationTable, atmosphere: float, heats: bool
) -> dict[str, Trace]:
    """The traces, and what follows from them; in heating the vapour line says nothing of it."""
    full = dict(traces)
    if heats:
        full.pop("suction_line_temp", None)
    for point, key, curve in (
        ("suction_pressure", "evaporator_saturation", table.dew.temperature),
        ("liquid_pressure", "condenser_saturation", table.bubble.temperature),
    ):
        if point in traces:
            full[key] = _mapped(traces[point], curve, table, atmosphere)
    return with_differences(
        full,
        (
            (
                "superheat",
                "evaporator_saturation",
                "true_suction_temp" if heats else "suction_line_temp",
                1,
            ),
            ("subcooling", "condenser_saturation", "liquid_line_temp", -1),
        ),
    )


def _mapped(
    trace: Trace, curve: Callable[[float], float], table: SaturationTable, atmosphere: float
) -> Trace:
    rows = [
        (t, curve(v + atmosphere))
        for t, v in zip(trace.seconds, trace.values, strict=True)
        if table.low_kpa <= v + atmosphere <= table.high_kpa
    ]
    return Trace(tuple(t for t, _ in rows), tuple(v for _, v in rows))


def _is_running(values: Mapping[str, LiveValue], atmosphere: float) -> bool:
    low, high = values.get("suction_pressure"), values.get("liquid_pressure")
    if low is None or high is None:
        return bool(values)
    return (high.value + atmosphere) / max(low.value + atmosphere, 1.0) > RUNNING_RATIO


def _events(events: Sequence[Event]) -> tuple[int | None, int | None]:
    """When it was last started, and since when nothing was done to it [ms]."""
    started = quiet = None
    for event in events:
        at = round(event.happened_at.timestamp() * 1000)
        quiet = at
        if event.kind == "system_started":
            started = at
        elif event.kind == "system_stopped":
            started = None
    return started, quiet


def _minutes_running(started_ms: int | None, traces: Mapping[str, Trace], now_ms: int) -> float:
    if started_ms is not None:
        return (now_ms - started_ms) / 60_000
    first = min((trace.seconds[0] for trace in traces.values()), default=now_ms / 1000)
    return now_ms / 60_000 - first / 60


def _standing(
    session: Session, placed: Sequence[Placed], ids: Sequence[int], started_ms: int | None
) -> dict[str, float]:
    """What was read in the last half minute before it was started, if it stood still then."""
    if started_ms is None:
        return {}
    traces = _traces(session, placed, ids, started_ms - BEFORE_START_MS, started_ms - BUCKET_MS)
    for point in ("suction_pressure", "liquid_pressure"):
        trace = traces.get(point)
        if trace is not None and max(trace.values) - min(trace.values) > STILL_KPA:
            return {}
    return {point: trace.mean for point, trace in traces.items()}


def _unsettled(found: Settling) -> Said | None:
    if found.state == "settled":
        return None
    if found.hunting is not None:
        return say(
            "Superheat hunts: it swings {swing} every {period}. Find out why before you judge "
            "charge; an average of it proves nothing.",
            swing=difference(found.hunting.swing),
            period=minutes(found.hunting.period_s / 60),
        )
    if found.state == "unknown" or found.seconds is None:
        return say("An instrument it needs has stopped sending. Wake it or take it off.")
    slowest = found.slowest
    still = f" {slowest.row.label} still moves." if slowest and slowest.seconds > 0 else ""
    return say(f"About {{more}} more to settle.{still}", more=minutes(found.seconds / 60))
