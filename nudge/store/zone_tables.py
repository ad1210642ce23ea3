"""Logs of multi-zone plants, whole."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from nudge.store.tables import Base


class ZoneLogRow(Base):
    """The log of a visit: its columns packed, what was read off them, in core units, and the
    drawing it was read by: a closed visit keeps that of its day.
    """

    __tablename__ = "zone_logs"

    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), primary_key=True)
    files: Mapped[dict[str, Any]]
    """When each of its files came in, in order."""
    parts: Mapped[dict[str, Any]]
    signs: Mapped[dict[str, Any]]
    """The signs, in core units, with their version, and how much of the log counts [s]."""
    remarks: Mapped[dict[str, Any]]
    data: Mapped[bytes]
    taken_at: Mapped[datetime]
