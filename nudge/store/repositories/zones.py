"""Logs of multi-zone plants and their drawings."""

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session, defer

from nudge.store.tables import Visit, ZoneDrawing
from nudge.store.zone_tables import ZoneLogRow

MOST_EARLIER = 20


def log_of(session: Session, visit_id: str) -> ZoneLogRow | None:
    return session.get(ZoneLogRow, visit_id)


def draw_by_logs(session: Session) -> list[str]:
    """Draw every plant that has logs and no drawing as its newest log was read; whose it drew."""
    query = (
        select(ZoneLogRow, Visit.system_id)
        .join(Visit, Visit.id == ZoneLogRow.visit_id)
        .where(Visit.system_id.not_in(select(ZoneDrawing.system_id)))
        .order_by(ZoneLogRow.taken_at)
    )
    newest = {system_id: row for row, system_id in session.execute(query)}
    for system_id, row in newest.items():
        session.add(ZoneDrawing(system_id=system_id, parts=row.parts, updated_at=row.taken_at))
    return list(newest)


def earlier_logs(session: Session, visit: Visit) -> Sequence[ZoneLogRow]:
    """Logs of the same plant's visits that were opened before, the newest first, but for what is
    packed in them.
    """
    query = (
        select(ZoneLogRow)
        .join(Visit, Visit.id == ZoneLogRow.visit_id)
        .where(Visit.system_id == visit.system_id, Visit.id != visit.id)
        .where(Visit.opened_at < visit.opened_at)
        .order_by(Visit.opened_at.desc())
        .options(defer(ZoneLogRow.data))
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
