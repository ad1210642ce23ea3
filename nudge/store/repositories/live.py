"""Channels, their placements and samples, and the journal of a visit."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import bindparam, delete, func, insert, select
from sqlalchemy.orm import Session, aliased

from nudge.store.live_tables import Channel, Import, Journal, Override, Placement, Rollup, SampleRow

HIDDEN = "importing"
"""Source of channels whose import is not done: nobody sees them yet."""


MINUTE_MS = 60_000
ROLLED_FROM_MS = 2 * MINUTE_MS
"""Columns at least this wide are read from whole minutes."""


@dataclass(frozen=True, slots=True)
class Placed:
    """A channel with its placements, oldest record first."""

    channel: Channel
    placements: tuple[Placement, ...]

    def at(self, at_ms: int) -> Placement | None:
        """The placement that holds for a moment: the last recorded that reaches back to it.

        Samples that come late, from before a channel was first heard of, sat where it began.
        """
        if len(self.placements) == 1:  # as most do: asked of every sample there is
            return self.placements[0]
        holds = [row for row in self.placements if row.since_ms <= at_ms]
        if not holds:
            return min(self.placements, key=lambda row: row.sequence, default=None)
        return max(holds, key=lambda row: row.sequence)

    @property
    def now(self) -> Placement | None:
        return max(self.placements, key=lambda row: row.sequence, default=None)


def channels(session: Session, visit_id: str) -> list[Placed]:
    """Every channel of a visit with its placements, in the order they came."""
    rows = session.scalars(
        select(Channel)
        .where(Channel.visit_id == visit_id, Channel.source != HIDDEN)
        .order_by(Channel.id)
    ).all()
    if not rows:
        return []
    found: dict[int, list[Placement]] = {row.id: [] for row in rows}
    query = (
        select(Placement)
        .join(Channel, Channel.id == Placement.channel_id)
        .where(Channel.visit_id == visit_id, Channel.source != HIDDEN)
        .order_by(Placement.sequence)
    )
    for placement in session.scalars(query):
        found[placement.channel_id].append(placement)
    return [Placed(row, tuple(found[row.id])) for row in rows]


def channel_ids(session: Session, visit_id: str) -> dict[str, int]:
    """The number of every channel of a visit by its key: all that most batches need of it."""
    found = session.execute(_CHANNEL_IDS, {"visit": visit_id})
    return {row.key: row.id for row in found}


_CHANNEL_IDS = (
    select(Channel.key, Channel.id)
    .where(Channel.visit_id == bindparam("visit"), Channel.source != HIDDEN)
    .order_by(Channel.id)
)


def last_placed(session: Session, visit_id: str) -> int:
    """The number of a visit's last placement, 0 where there is none: has anything been moved?"""
    return int(session.scalar(_LAST_PLACED, {"visit": visit_id}) or 0)


_LAST_PLACED = (
    select(func.max(Placement.sequence))
    .join(Channel, Channel.id == Placement.channel_id)
    .where(Channel.visit_id == bindparam("visit"))
)


def add_samples(session: Session, rows: Iterable[tuple[int, int, float]]) -> int:
    """Add (channel id, ms, value); one that is already there is left. How many were new."""
    batch = list(rows)
    if not batch:
        return 0
    added = session.connection().exec_driver_sql(
        "INSERT OR IGNORE INTO samples (channel_id, at_ms, value) VALUES (?, ?, ?)", batch
    )
    earliest: dict[int, int] = {}
    for channel_id, at_ms, _ in batch:
        earliest[channel_id] = min(at_ms, earliest.get(channel_id, at_ms))
    session.connection().exec_driver_sql(
        "DELETE FROM rollups WHERE channel_id = ? AND minute >= ?",
        [(channel_id, at_ms // MINUTE_MS) for channel_id, at_ms in earliest.items()],
    )
    return added.rowcount


def roll_up(session: Session, channel_ids: Sequence[int]) -> None:
    """Work out every whole minute of these channels that has not been yet."""
    if not channel_ids:
        return
    session.connection().exec_driver_sql(
        """
        INSERT INTO rollups (channel_id, minute, count, mean, low, high)
        SELECT channel_id, at_ms / 60000, count(*), avg(value), min(value), max(value)
        FROM samples
        WHERE channel_id = :channel
          AND at_ms >= 60000 * (
            SELECT coalesce(max(minute) + 1, 0) FROM rollups WHERE channel_id = :channel)
          AND at_ms < 60000 * (
            SELECT max(at_ms) / 60000 FROM samples WHERE channel_id = :channel)
        GROUP BY at_ms / 60000
        """,
        [{"channel": channel_id} for channel_id in channel_ids],
    )


def bucketed(
    session: Session, channel_ids: Sequence[int], since_ms: int, until_ms: int, bucket_ms: int
) -> list[tuple[int, int, float, float, float, int]]:
    """(channel id, bucket, mean, least, most, how many), by channel and time."""
    if not channel_ids:
        return []
    if bucket_ms >= ROLLED_FROM_MS:
        return _rolled(session, channel_ids, since_ms, until_ms, bucket_ms)
    bucket = SampleRow.at_ms // bucket_ms
    query = (
        select(
            SampleRow.channel_id,
            bucket,
            func.avg(SampleRow.value),
            func.min(SampleRow.value),
            func.max(SampleRow.value),
            func.count(),
        )
        .where(SampleRow.channel_id.in_(channel_ids))
        .where(SampleRow.at_ms.between(since_ms, until_ms))
        .group_by(SampleRow.channel_id, bucket)
        .order_by(SampleRow.channel_id, bucket)
    )
    return [(int(c), int(b), m, lo, hi, int(n)) for c, b, m, lo, hi, n in session.execute(query)]


def _rolled(
    session: Session, channel_ids: Sequence[int], since_ms: int, until_ms: int, bucket_ms: int
) -> list[tuple[int, int, float, float, float, int]]:
    """As `bucketed`, out of whole minutes (the last minute of a span may be missing)."""
    bucket = Rollup.minute * MINUTE_MS // bucket_ms
    query = (
        select(
            Rollup.channel_id,
            bucket,
            func.sum(Rollup.mean * Rollup.count) / func.sum(Rollup.count),
            func.min(Rollup.low),
            func.max(Rollup.high),
            func.sum(Rollup.count),
        )
        .where(Rollup.channel_id.in_(channel_ids))
        .where(Rollup.minute.between(since_ms // MINUTE_MS, until_ms // MINUTE_MS))
        .group_by(Rollup.channel_id, bucket)
        .order_by(Rollup.channel_id, bucket)
    )
    return [(int(c), int(b), m, lo, hi, int(n)) for c, b, m, lo, hi, n in session.execute(query)]


def raw(
    session: Session, channel_ids: Sequence[int], since_ms: int
) -> list[tuple[int, int, float]]:
    """(channel id, ms, value) from a moment on, by channel and time."""
    query = (
        select(SampleRow.channel_id, SampleRow.at_ms, SampleRow.value)
        .where(SampleRow.channel_id.in_(channel_ids), SampleRow.at_ms >= since_ms)
        .order_by(SampleRow.channel_id, SampleRow.at_ms)
    )
    return [(int(c), int(t), v) for c, t, v in session.execute(query)]


def latest(session: Session, channel_ids: Sequence[int]) -> dict[int, tuple[int, float]]:
    """The last sample of each channel: (ms, value)."""
    found = session.execute(_LATEST, {"channels": list(channel_ids)})
    return {int(channel_id): (int(at), float(value)) for channel_id, at, value in found}


_NEWEST = aliased(SampleRow)
_LATEST = (
    select(SampleRow.channel_id, SampleRow.at_ms, SampleRow.value)
    .select_from(Channel)
    .join(SampleRow, SampleRow.channel_id == Channel.id)
    .where(
        Channel.id.in_(bindparam("channels", expanding=True)),
        SampleRow.at_ms
        == select(func.max(_NEWEST.at_ms))
        .where(_NEWEST.channel_id == Channel.id)
        .correlate(Channel)
        .scalar_subquery(),
    )
)


def reach(session: Session, channel_ids: Sequence[int]) -> tuple[int, int] | None:
    """First and last moment there are samples for [ms]."""
    ends = []
    for channel_id in channel_ids:
        query = select(func.min(SampleRow.at_ms), func.max(SampleRow.at_ms)).where(
            SampleRow.channel_id == channel_id
        )
        first, last = session.execute(query).one()
        if first is not None:
            ends.append((int(first), int(last)))
    return (min(a for a, _ in ends), max(b for _, b in ends)) if ends else None


def add_to_journal(session: Session, entry: dict[str, Any]) -> None:
    """Write an entry of the journal at once, after whatever it tells of."""
    session.flush()
    session.connection().execute(_TO_JOURNAL, entry)


_TO_JOURNAL = insert(Journal)


def written(session: Session, visit_id: str, entry_id: str) -> bool:
    """Whether the journal of a visit has this entry."""
    query = select(Journal.sequence).where(Journal.visit_id == visit_id, Journal.id == entry_id)
    return session.scalar(query) is not None


def journal_after(
    session: Session, visit_ids: Sequence[str], sequence: int, most: int
) -> Sequence[Journal]:
    """The journal of some visits after an entry, oldest first, at most so many."""
    query = (
        select(Journal)
        .where(Journal.visit_id.in_(visit_ids), Journal.sequence > sequence)
        .order_by(Journal.sequence)
        .limit(most)
    )
    return session.scalars(query).all()


def whole_journal_end(session: Session) -> int:
    """The last entry's number over all visits, 0 where there is none."""
    return int(session.scalar(select(func.max(Journal.sequence))) or 0)


def last_written(session: Session, visit_id: str) -> int:
    """The number of the last entry that tells of somebody writing on the visit."""
    return int(session.scalar(_LAST_WRITTEN, {"visit": visit_id}) or 0)


_LAST_WRITTEN = select(func.max(Journal.sequence)).where(
    Journal.visit_id == bindparam("visit"), Journal.kind == "visit"
)


def overrides(session: Session, visit_id: str) -> Sequence[Override]:
    query = select(Override).where(Override.visit_id == visit_id).order_by(Override.sequence)
    return session.scalars(query).all()


def imports(session: Session, visit_id: str) -> Sequence[Import]:
    query = select(Import).where(Import.visit_id == visit_id).order_by(Import.started_at.desc())
    return session.scalars(query).all()


def cut_short(session: Session) -> Sequence[Import]:
    """Imports that were being read when the server stopped."""
    return session.scalars(select(Import).where(Import.state == "reading")).all()


def hidden_channels(session: Session, visit_id: str, prefix: str) -> Sequence[int]:
    """Channels of an import that nobody sees yet, by id."""
    query = select(Channel.id).where(
        Channel.visit_id == visit_id, Channel.source == HIDDEN, Channel.key.startswith(prefix)
    )
    return session.scalars(query).all()


def drop_channel(session: Session, channel_id: int) -> None:
    """Take a hidden channel out with all it holds."""
    session.execute(delete(SampleRow).where(SampleRow.channel_id == channel_id))
    session.execute(delete(Rollup).where(Rollup.channel_id == channel_id))
    session.execute(delete(Channel).where(Channel.id == channel_id))


def placements_of(session: Session, channel_id: int) -> Sequence[Placement]:
    """Where a channel sat, in order."""
    query = select(Placement).where(Placement.channel_id == channel_id)
    return session.scalars(query.order_by(Placement.sequence)).all()


def samples_of(session: Session, channel_id: int) -> Sequence[tuple[int, float]]:
    """Everything a channel sent: (ms, value), in time."""
    query = select(SampleRow.at_ms, SampleRow.value).where(SampleRow.channel_id == channel_id)
    return [(at, value) for at, value in session.execute(query.order_by(SampleRow.at_ms))]
