"""Cylinders, their movements and weighings."""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from nudge.store.shelf_tables import Cylinder, Movement, Weighing


def cylinders(session: Session) -> Sequence[Cylinder]:
    """Every cylinder that is not retired, by name."""
    query = select(Cylinder).where(Cylinder.retired_at.is_(None)).order_by(Cylinder.name)
    return session.scalars(query).all()


def cylinder(session: Session, cylinder_id: str) -> Cylinder | None:
    return session.get(Cylinder, cylinder_id)


def names(session: Session, ids: Sequence[str]) -> dict[str, str]:
    """Names by id, in the order asked for; none that is not there."""
    if not ids:
        return {}
    query = select(Cylinder.id, Cylinder.name).where(Cylinder.id.in_(ids))
    found = {key: name for key, name in session.execute(query)}  # noqa: C416
    return {key: found[key] for key in ids if key in found}


def last_weighed(session: Session, ids: Sequence[str]) -> dict[str, datetime]:
    """When each cylinder was last on the scale."""
    if not ids:
        return {}
    query = (
        select(Weighing.cylinder_id, func.max(Weighing.weighed_at))
        .where(Weighing.cylinder_id.in_(ids))
        .group_by(Weighing.cylinder_id)
    )
    return {key: at for key, at in session.execute(query)}  # noqa: C416


def movements(session: Session, cylinder_id: str | None = None) -> Sequence[Movement]:
    """The whole ledger in order, or what touches one cylinder."""
    query = select(Movement).order_by(Movement.sequence)
    if cylinder_id is not None:
        query = query.where(
            (Movement.cylinder_id == cylinder_id) | (Movement.to_cylinder_id == cylinder_id)
        )
    return session.scalars(query).all()


def of_visit(session: Session, visit_id: str) -> Sequence[Movement]:
    query = select(Movement).where(Movement.visit_id == visit_id).order_by(Movement.sequence)
    return session.scalars(query).all()


def of_system(session: Session, system_id: str) -> list[tuple[str, int]]:
    """What moved into and out of a system: (kind, mg) of every entry that stands."""
    query = select(Movement).where(Movement.system_id == system_id).order_by(Movement.sequence)
    rows = session.scalars(query).all()
    replaced = {row.corrects for row in rows if row.corrects}
    return [(row.kind, row.mg) for row in rows if row.id not in replaced]


def movement(session: Session, movement_id: str) -> Movement | None:
    return session.scalars(select(Movement).where(Movement.id == movement_id)).one_or_none()


def weighings(session: Session, cylinder_id: str) -> Sequence[Weighing]:
    query = select(Weighing).where(Weighing.cylinder_id == cylinder_id).order_by(Weighing.sequence)
    return session.scalars(query).all()


def moved(session: Session, system_id: str, visit_ids: Sequence[str] | None) -> Sequence[Movement]:
    """Entries that touch a system, of some visits alone where they are named; in order."""
    query = select(Movement).where(Movement.system_id == system_id)
    if visit_ids is not None:
        query = query.where(Movement.visit_id.in_(visit_ids))
    return session.scalars(query.order_by(Movement.sequence)).all()


def weighed_on(session: Session, visit_ids: Sequence[str]) -> Sequence[Weighing]:
    """Weighings on some visits, in order."""
    query = select(Weighing).where(Weighing.visit_id.in_(visit_ids)).order_by(Weighing.sequence)
    return session.scalars(query).all()
