"""What a whole visit leaves behind: steps, checks, notes, pictures, links; and what a system's
book keeps from one visit to the next. Core units throughout.

Ticks, checks, notes, baselines and intended changes only grow: the latest row of a key counts.
"""

from datetime import date, datetime
from typing import Any

from sqlalchemy import ForeignKey, LargeBinary
from sqlalchemy.orm import Mapped, mapped_column

from nudge.store.tables import Base, Written


class Tick(Written):
    """A step of the order of work done, skipped with a reason, or opened again ("")."""

    __tablename__ = "ticks"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    step: Mapped[str]
    state: Mapped[str]
    reason: Mapped[str]
    ticked_at: Mapped[datetime]


class CheckRow(Written):
    """What was measured or seen at one check, in core units; the latest of a key counts."""

    __tablename__ = "checks"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    key: Mapped[str]
    entries: Mapped[dict[str, Any]]
    checked_at: Mapped[datetime]


class Note(Written):
    """A note on a part of the system, by whoever is there or (`office`) through a link."""

    __tablename__ = "notes"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    subsystem: Mapped[str]
    text: Mapped[str]
    written_from: Mapped[str]
    corrects: Mapped[str | None]
    written_at: Mapped[datetime]


class Photo(Written):
    """A picture, re-encoded, without what the camera wrote about place and owner."""

    __tablename__ = "photos"

    id: Mapped[str] = mapped_column(primary_key=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    subsystem: Mapped[str]
    caption: Mapped[str]
    width: Mapped[int]
    height: Mapped[int]
    picture: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    small: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    taken_at: Mapped[datetime]
    removed_at: Mapped[datetime | None]


class Baseline(Written):
    """A settled, accepted result of a system with its conditions; the latest row counts.

    `kept` is None in a row that ends the baseline before it.
    """

    __tablename__ = "baselines"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    system_id: Mapped[str] = mapped_column(ForeignKey("systems.id"), index=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"))
    kept: Mapped[dict[str, Any] | None]
    set_at: Mapped[datetime]


class IntendedChange(Written):
    """Something altered on purpose, which later comparisons respect; "" takes a row back."""

    __tablename__ = "intended_changes"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    system_id: Mapped[str] = mapped_column(ForeignKey("systems.id"), index=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"))
    key: Mapped[str]
    note: Mapped[str]
    corrects: Mapped[str | None]
    happened_at: Mapped[datetime]


class Deferred(Written):
    """Something left for another day or season, until it is done."""

    __tablename__ = "deferred"

    id: Mapped[str] = mapped_column(primary_key=True)
    system_id: Mapped[str] = mapped_column(ForeignKey("systems.id"), index=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"))
    text: Mapped[str]
    season: Mapped[str]
    due_on: Mapped[date | None]
    created_at: Mapped[datetime]
    done_at: Mapped[datetime | None]


class GuestLink(Base):
    """A read-only way into one visit: only the hash of its token is kept."""

    __tablename__ = "guest_links"

    id: Mapped[str] = mapped_column(primary_key=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    token_hash: Mapped[str] = mapped_column(unique=True)
    created_at: Mapped[datetime]
    expires_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]


class MachineSetting(Written):
    """A setting of a machine's own controls as it was left on a visit; only grows.

    The latest row of a name and mode counts; one without a value takes it off the record.
    """

    __tablename__ = "machine_settings"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    name: Mapped[str]
    mode: Mapped[str]
    """In which of its modes it holds; "" in all."""
    usual: Mapped[str]
    """As it left its maker."""
    value: Mapped[str]
    reason: Mapped[str]
    set_at: Mapped[datetime]


class TestRun(Written):
    """A test with time on a visit: its kind, when it was begun, what it was begun with [core]."""

    __tablename__ = "test_runs"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    key: Mapped[str]
    settings: Mapped[dict[str, Any]]
    began_at: Mapped[datetime]


class TestEntry(Written):
    """What was typed, noted or decided in a test with time. Only grows.

    `kind`: `typed` (with point and value, core units), `mark` (with `note` its key, `place` a
    joint), `ended` (with what it proved), `aborted` (with the reason in `note`).
    """

    __tablename__ = "test_entries"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    run_id: Mapped[str] = mapped_column(index=True)
    kind: Mapped[str]
    point: Mapped[str]
    value: Mapped[float | None]
    note: Mapped[str]
    place: Mapped[str]
    proved: Mapped[dict[str, Any]]
    happened_at: Mapped[datetime]
