"""What instruments send, and what is known about them. Core units throughout.

Samples, placements, the journal and overrides are append-only (triggers in the migration):
a clamp that turns out to be on the wrong pipe gets a new placement that reaches back, and
every number stays as it came.
"""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, Index, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from nudge.store.tables import Base, Written


class Channel(Base):
    """One line of numbers from one instrument on one visit."""

    __tablename__ = "channels"
    __table_args__ = (UniqueConstraint("visit_id", "key"),)

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"))
    key: Mapped[str]
    label: Mapped[str]
    source: Mapped[str]
    created_at: Mapped[datetime]


class Placement(Written):
    """Where a channel sits from a moment on, its zero, and whether it counts.

    The row recorded last among those that reach back to a moment holds for it.
    """

    __tablename__ = "placements"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    channel_id: Mapped[int] = mapped_column(ForeignKey("channels.id"), index=True)
    point: Mapped[str]
    counts: Mapped[bool]
    offset: Mapped[float]
    since_ms: Mapped[int]
    how: Mapped[str]
    recorded_at: Mapped[datetime]


class SampleRow(Base):
    """One value of one channel, before its zero. Milliseconds since 1970, UTC."""

    __tablename__ = "samples"
    __table_args__ = {"sqlite_with_rowid": False}  # noqa: RUF012  SQLAlchemy declares it so

    channel_id: Mapped[int] = mapped_column(ForeignKey("channels.id"), primary_key=True)
    at_ms: Mapped[int] = mapped_column(primary_key=True)
    value: Mapped[float]


class Rollup(Base):
    """One whole minute of one channel, so that a season opens as fast as an hour.

    Worked out of samples when a long span is first looked at; thrown away where samples come
    late.
    """

    __tablename__ = "rollups"
    __table_args__ = {"sqlite_with_rowid": False}  # noqa: RUF012  SQLAlchemy declares it so

    channel_id: Mapped[int] = mapped_column(ForeignKey("channels.id"), primary_key=True)
    minute: Mapped[int] = mapped_column(primary_key=True)
    count: Mapped[int]
    mean: Mapped[float]
    low: Mapped[float]
    high: Mapped[float]


class Journal(Base):
    """What happened on a visit, in order: what every window of it is told, once.

    `id` comes from whoever wrote, so the same batch sent twice is one row.
    """

    __tablename__ = "journal"
    __table_args__ = (UniqueConstraint("visit_id", "id"),)

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str]
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"))
    kind: Mapped[str]
    body: Mapped[dict[str, Any]]
    recorded_at: Mapped[datetime]


class Override(Written):
    """A gate somebody chose to pass, and why. Printed with the verdict."""

    __tablename__ = "overrides"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    gate: Mapped[str]
    reason: Mapped[str]
    given_at: Mapped[datetime]


class Import(Written):
    """A file being read into a visit, or read. `state`: reading, done, cancelled, failed."""

    __tablename__ = "imports"

    id: Mapped[str] = mapped_column(primary_key=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    file_name: Mapped[str]
    state: Mapped[str]
    message: Mapped[str] = mapped_column(default="")
    readings: Mapped[int] = mapped_column(default=0)
    refused: Mapped[int] = mapped_column(default=0)
    bytes_read: Mapped[int] = mapped_column(default=0)
    bytes_in_all: Mapped[int]
    started_at: Mapped[datetime]
    ended_at: Mapped[datetime | None]


class ColumnMapping(Base):
    """How a file with this heading was read last time."""

    __tablename__ = "column_mappings"

    heading: Mapped[str] = mapped_column(primary_key=True)
    mapping: Mapped[dict[str, Any]]
    updated_at: Mapped[datetime]


class Plant(Base):
    """The simulated system a visit stands at, as it was last known."""

    __tablename__ = "plants"

    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), primary_key=True)
    scene: Mapped[dict[str, Any]]
    state: Mapped[dict[str, Any]]
    updated_at: Mapped[datetime]


Index("journal_by_visit", Journal.visit_id, Journal.sequence)
