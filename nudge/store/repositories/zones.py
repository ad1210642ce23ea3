"""Logs of multi-zone plants and their drawings."""

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from nudge.store.tables import Visit
from nudge.store.zone_tables import ZoneDrawing, ZoneLogRow


def log_of(session: Session, visit_id: str) -> ZoneLogRow | None:
    return session.get(ZoneLogRow, visit_id)


def drawing_of(session: Session, system_id: str) -> ZoneDrawing | None:
    return session.get(ZoneDrawing, system_id)


def open_logs(session: Session, system_id: str) -> Sequence[ZoneLogRow]:
    """Logs of a system's visits that are not closed."""
    query = (
        select(ZoneLogRow)
        .join(Visit, Visit.id == ZoneLogRow.visit_id)
        .where(Visit.system_id == system_id, Visit.closed_at.is_(None))
    )
    return session.scalars(query).all()
