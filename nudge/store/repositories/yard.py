"""Which simulated systems are stood at."""

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from nudge.store.live_tables import Plant
from nudge.store.tables import Visit


def under_way(session: Session) -> Sequence[str]:
    """Visits under way at a simulated system."""
    query = (
        select(Plant.visit_id)
        .join(Visit, Visit.id == Plant.visit_id)
        .where(Visit.opened_at.is_not(None), Visit.closed_at.is_(None))
    )
    return session.scalars(query).all()
