"""Sites and their systems."""

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session, joinedload, selectinload

from nudge.store.tables import Site, System


def all_sites(session: Session) -> Sequence[Site]:
    """Every site with its systems, by name."""
    query = select(Site).options(selectinload(Site.systems)).order_by(Site.name)
    return session.scalars(query).all()


def site(session: Session, site_id: str) -> Site | None:
    return session.get(Site, site_id)


def system(session: Session, system_id: str) -> System | None:
    """A system with its site."""
    query = (
        select(System)
        .options(joinedload(System.site), selectinload(System.charts))
        .where(System.id == system_id)
    )
    return session.scalars(query).one_or_none()
