"""Settings of a machine's own controls, on a visit and on those before it."""

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from nudge.store.tables import Visit
from nudge.store.visit_tables import MachineSetting


def of_visit(session: Session, visit_id: str) -> Sequence[MachineSetting]:
    """Everything written of its settings on a visit, in order."""
    query = select(MachineSetting).where(MachineSetting.visit_id == visit_id)
    return session.scalars(query.order_by(MachineSetting.sequence)).all()


def last_before(session: Session, visit: Visit) -> tuple[str, Sequence[MachineSetting]]:
    """The last visit of the system begun before this one on which settings were written, whole."""
    began = visit.opened_at or visit.created_at
    query = (
        select(Visit.id)
        .join(MachineSetting, MachineSetting.visit_id == Visit.id)
        .where(Visit.system_id == visit.system_id, Visit.id != visit.id)
        .where(Visit.opened_at <= began)
        .order_by(Visit.opened_at.desc(), MachineSetting.sequence.desc())
        .limit(1)
    )
    found = session.scalar(query)
    return (found, of_visit(session, found)) if found else ("", ())


def last_of_system(session: Session, system_id: str) -> Sequence[MachineSetting]:
    """The settings written on the latest visit of a system that has any."""
    query = (
        select(Visit.id)
        .join(MachineSetting, MachineSetting.visit_id == Visit.id)
        .where(Visit.system_id == system_id)
        .order_by(Visit.opened_at.desc(), MachineSetting.sequence.desc())
        .limit(1)
    )
    found = session.scalar(query)
    return of_visit(session, found) if found else ()


def is_set(session: Session, entry_id: str) -> bool:
    """Whether an entry is written already: the same one sent twice is one."""
    query = select(MachineSetting.id).where(MachineSetting.id == entry_id)
    return session.scalar(query) is not None
