"""Readings from instruments: taken in, placed, zeroed, swapped, ignored. Nothing is rewritten.

A placement holds from a moment on, and a later record may reach back over an earlier one:
swapping two clamps re-labels what they read since they were put there, and every sample
stays as it came.
"""

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from datetime import UTC, datetime
from typing import Any, Literal

from sqlalchemy.orm import Session

from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity, UnitSystem
from nudge.core.language.vocabulary.points import point
from nudge.instruments.source import ChannelInfo
from nudge.services.clock import Clock
from nudge.services.errors import Closed, NotFound
from nudge.services.samples import Given, Taken, clock_error, understood
from nudge.services.stream import Stream
from nudge.store.database import Database
from nudge.store.live_tables import Channel, Placement
from nudge.store.repositories import live
from nudge.store.repositories import visits as repository
from nudge.store.repositories.live import Placed

Source = Literal["live", "simulated"]
MOST_CHANNELS = 128
"""Instruments of one visit; a log file that is read in may have more columns."""
ZERO_LIMIT = {
    Quantity.PRESSURE: 70.0,
    Quantity.STATIC_PRESSURE: 60.0,
    Quantity.MASS: 1000.0,
    Quantity.CURRENT: 3.0,
}
"""How much a zero may take away, in core units: more is pressure on the probe, not an error."""


class Instruments:
    """The use cases of live readings on a visit."""

    def __init__(self, database: Database, clock: Clock, stream: Stream) -> None:
        self._database, self._clock, self._stream = database, clock, stream

    def take(
        self,
        visit_id: str,
        batch_id: str,
        given: Sequence[Given],
        units: UnitSystem,
        source: Source = "live",
    ) -> Taken:
        """Take a batch of readings. The same id, or the same channel and moment, is taken once.

        A value no working instrument shows is refused by itself; the rest is kept. A device
        whose clock is off by more than two minutes has its batch moved to end now.

        Raises: NotFound, Closed.
        """
        now = self._clock()
        with self._on_open_visit(visit_id) as session:
            if live.written(session, visit_id, batch_id):
                return Taken(0, len(given), (), 0.0)
            values, refused = understood(given, units, now)
            moved = clock_error(values, now)
            ids = live.channel_ids(session, visit_id)
            if not ids.keys() >= {row.channel for row, _, _ in values}:
                known = {row.channel.key: row for row in live.channels(session, visit_id)}
                for row, _, at in values:
                    placed = self._channel(session, visit_id, known, row, source, at + moved)
                    ids[row.channel] = placed.channel.id
            rows: list[tuple[int, int, float]] = []
            told: dict[str, list[list[float]]] = {}
            for row, value, at in values:
                at_ms = _ms(at + moved)
                rows.append((ids[row.channel], at_ms, value))
                told.setdefault(row.channel, []).append([at_ms, value])
            kept = live.add_samples(session, rows)
            if kept:
                live.roll_up(session, list({channel_id for channel_id, _, _ in rows}))
                self._stream.note(session, visit_id, batch_id, "samples", {"channels": told}, now)
        self._stream.tell(visit_id)
        return Taken(kept, len(rows) - kept, tuple(refused), moved.total_seconds())

    def know(self, visit_id: str, channels: Sequence[ChannelInfo], source: Source) -> None:
        """List instruments that are there before they send, placed or not."""
        with self._on_open_visit(visit_id) as session:
            known = {row.channel.key: row for row in live.channels(session, visit_id)}
            for info in channels:
                given = Given(info.key, info.point, 0.0, label=info.label)
                self._channel(session, visit_id, known, given, source, self._clock())

    def points(self, visit_id: str) -> dict[str, str]:
        """Which point each channel is on now, by its key; taken off is ""."""
        with self._database.reading() as session:
            rows = live.channels(session, visit_id)
        return {row.channel.key: row.now.point if row.now else "" for row in rows}

    def place(self, visit_id: str, entry_id: str, channel: str, to: str) -> None:
        """Put an instrument on a point from now on, or take it off ("").

        Raises: NotFound, Closed, UnknownName; CoreError, when another one is there already.
        """
        with self._on_open_visit(visit_id) as session:
            rows = live.channels(session, visit_id)
            placed = _one(rows, channel)
            if to:
                point(to)
                holder = _holder(rows, to)
                if holder is not None and holder.channel.id != placed.channel.id:
                    raise CoreError(
                        "point",
                        f"{holder.channel.label} is already on {point(to).label.lower()}. Take it "
                        "off first, or swap the two.",
                    )
            self._record(
                session, visit_id, entry_id, placed, to, True, 0.0, self._now_ms(), "placed"
            )
        self._stream.tell(visit_id)

    def ignore(self, visit_id: str, entry_id: str, channel: str, ignored: bool) -> None:
        """Leave an instrument where it is but do not count it, or count it again."""
        with self._on_open_visit(visit_id) as session:
            rows = live.channels(session, visit_id)
            placed = _one(rows, channel)
            old = _placement(placed)
            if not ignored:
                holder = _holder(rows, old.point)
                if holder is not None and holder.channel.id != placed.channel.id:
                    raise CoreError(
                        "point",
                        f"{holder.channel.label} counts there now. Take it off or ignore it first.",
                    )
            how = "ignored" if ignored else "counted"
            self._record(
                session,
                visit_id,
                entry_id,
                placed,
                old.point,
                not ignored,
                old.offset,
                self._now_ms(),
                how,
            )
        self._stream.tell(visit_id)

    def swap(self, visit_id: str, entry_id: str, one: str, other: str) -> None:
        """Exchange two instruments, for all they read since they were put where they are."""
        with self._on_open_visit(visit_id) as session:
            rows = live.channels(session, visit_id)
            a, b = _one(rows, one), _one(rows, other)
            at_a, at_b = _placement(a), _placement(b)
            if point(at_a.point).quantity is not point(at_b.point).quantity:
                raise CoreError(
                    "channel",
                    f"{a.channel.label} and {b.channel.label} do not measure the same kind of "
                    "thing. Only two of a kind can be swapped.",
                )
            for number, (placed, mine, theirs) in enumerate(((a, at_a, at_b), (b, at_b, at_a))):
                self._record(
                    session,
                    visit_id,
                    f"{entry_id}:{number}",
                    placed,
                    theirs.point,
                    theirs.counts,
                    mine.offset,
                    mine.since_ms,
                    "swapped",
                )
        self._stream.tell(visit_id)

    def zero(self, visit_id: str, entry_id: str, channel: str) -> None:
        """Make what an instrument shows now its zero, from now on. It must be open to air.

        Raises: CoreError, when it shows more than a zero can be off, or has not sent lately.
        """
        now = self._clock()
        with self._on_open_visit(visit_id) as session:
            placed = _one(live.channels(session, visit_id), channel)
            old = _placement(placed)
            last = live.latest(session, [placed.channel.id]).get(placed.channel.id)
            if last is None or _ms(now) - last[0] > 30_000:
                raise CoreError(
                    "channel", f"{placed.channel.label} sends nothing now. Wake it first."
                )
            quantity = point(old.point).quantity if old.point else Quantity.PRESSURE
            limit = ZERO_LIMIT.get(quantity)
            if limit is None:
                raise CoreError("channel", f"{placed.channel.label} has no zero to set.")
            if abs(last[1]) > limit:
                raise Impossible(
                    "channel",
                    say(
                        f"{placed.channel.label} shows {{shown}}: that is a load on it, not an "
                        "error. Open it to air, or empty it, then zero it.",
                        shown=Measure(last[1], quantity),
                    ),
                )
            self._record(
                session,
                visit_id,
                entry_id,
                placed,
                old.point,
                old.counts,
                -last[1],
                self._now_ms(),
                "zeroed",
            )
        self._stream.tell(visit_id)

    def _channel(
        self,
        session: Session,
        visit_id: str,
        known: dict[str, Placed],
        given: Given,
        source: Source,
        at: datetime,
    ) -> Placed:
        """The channel a value belongs to; a new one is put on its point, if that is free."""
        placed = known.get(given.channel)
        if placed is not None:
            return placed
        if len(known) >= MOST_CHANNELS:
            raise CoreError(
                "channel",
                f"“{given.channel[:40]}” is one too many: {MOST_CHANNELS} instruments send to one "
                "visit. Take some off.",
            )
        channel = Channel(
            visit_id=visit_id,
            key=given.channel,
            label=given.label or given.channel,
            source=source,
            created_at=self._clock(),
        )
        session.add(channel)
        session.flush()
        is_free = not given.point or _holder(list(known.values()), given.point) is None
        row = Placement(
            id=f"{channel.id}-first",
            channel_id=channel.id,
            point=given.point,
            counts=is_free,
            offset=0.0,
            since_ms=_ms(at),
            how="placed" if is_free else "second",
            recorded_at=self._clock(),
        )
        session.add(row)
        session.flush()
        known[given.channel] = Placed(channel, (row,))
        return known[given.channel]

    def _record(
        self,
        session: Session,
        visit_id: str,
        entry_id: str,
        placed: Placed,
        to: str,
        counts: bool,
        offset: float,
        since_ms: int,
        how: str,
    ) -> None:
        if any(row.id == entry_id for row in placed.placements):
            return
        session.add(
            Placement(
                id=entry_id,
                channel_id=placed.channel.id,
                point=to,
                counts=counts,
                offset=offset,
                since_ms=since_ms,
                how=how,
                recorded_at=self._clock(),
            )
        )
        body: dict[str, Any] = {"channel": placed.channel.key, "point": to, "how": how}
        body["by"] = entry_id.partition(":")[0]
        self._stream.note(session, visit_id, entry_id, "placement", body, self._clock())

    def _now_ms(self) -> int:
        return _ms(self._clock())

    @contextmanager
    def _on_open_visit(self, visit_id: str) -> Iterator[Session]:
        with self._database.writing() as session:
            row = repository.head(session, visit_id)
            if row is None:
                raise NotFound("visit", visit_id)
            if row.closed_at is not None:
                raise Closed
            if row.opened_at is None:
                row.opened_at = self._clock()
            yield session


def _one(rows: Sequence[Placed], channel: str) -> Placed:
    for row in rows:
        if row.channel.key == channel:
            return row
    raise NotFound("instrument", channel)


def _placement(placed: Placed) -> Placement:
    row = placed.now
    if row is None or not row.point:
        raise CoreError("channel", f"{placed.channel.label} is on no point yet. Place it first.")
    return row


def _holder(rows: Sequence[Placed], at_point: str) -> Placed | None:
    """Who counts at a point now."""
    for row in rows:
        now = row.now
        if now is not None and now.counts and now.point == at_point:
            return row
    return None


def _ms(moment: datetime) -> int:
    return round(moment.astimezone(UTC).timestamp() * 1000)
