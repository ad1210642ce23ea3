"""Logs of multi-zone plants and their drawings."""

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from nudge.store.tables import Visit
from nudge.store.zone_tables import ZoneDrawing, ZoneLogRow

MOST_EARLIER = 20


def log_of(session: Session, visit_id: str) -> ZoneLogRow | None:
    return session.get(ZoneLogRow, visit_id)


def drawing_of(session: Session, system_id: str) -> ZoneDrawing | None:
    return session.get(ZoneDrawing, system_id)


def newest_log(session: Session, system_id: str) -> ZoneLogRow | None:
    """The log that came in last, of all visits to a system."""
    query = (
        select(ZoneLogRow)
        .join(Visit, Visit.id == ZoneLogRow.visit_id)
        .where(Visit.system_id == system_id)
        .order_by(ZoneLogRow.taken_at.desc())
        .limit(1)
    )
    return session.scalar(query)


def earlier_logs(session: Session, visit: Visit) -> Sequence[ZoneLogRow]:
    """Logs of the same plant's visits that were opened before, the newest first."""
    query = (
        select(ZoneLogRow)
        .join(Visit, Visit.id == ZoneLogRow.visit_id)
        .where(Visit.system_id == visit.system_id, Visit.id != visit.id)
        .where(Visit.opened_at < visit.opened_at)
        .order_by(Visit.opened_at.desc())
        .limit(MOST_EARLIER)
    )
    return session.scalars(query).all()


def open_logs(session: Session, system_id: str) -> Sequence[ZoneLogRow]:
    """Logs of a system's visits that are not closed."""
    query = (
        select(ZoneLogRow)
        .join(Visit, Visit.id == ZoneLogRow.visit_id)
        .where(Visit.system_id == system_id, Visit.closed_at.is_(None))
    )
    return session.scalars(query).all()
