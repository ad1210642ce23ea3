"""Rows found by any part of their names and words."""

from collections.abc import Sequence

from sqlalchemy import ColumnElement, func, or_, select
from sqlalchemy.orm import InstrumentedAttribute, Session, joinedload

from nudge.store.tables import Site, System, Visit


def sites(session: Session, words: Sequence[str], most: int) -> Sequence[Site]:
    """Sites whose name holds every word."""
    query = select(Site).where(*(_like(Site.name, word) for word in words))
    return session.scalars(query.limit(most)).all()


def systems(session: Session, words: Sequence[str], most: int) -> Sequence[System]:
    """Systems that hold every word in their name, site, note or refrigerant."""
    columns = (System.name, Site.name, System.note, System.refrigerant)
    holds = [or_(*(_like(column, word) for column in columns)) for word in words]
    query = select(System).join(Site).where(*holds).order_by(System.name)
    return session.scalars(query.options(joinedload(System.site)).limit(most)).all()


def visits(session: Session, words: Sequence[str], most: int) -> Sequence[Visit]:
    """Visits that hold every word in complaint, system or site, or were that year; latest first."""
    columns = (Visit.complaint, System.name, Site.name)
    holds = [or_(*(_like(column, word) for column in columns), *_in_year(word)) for word in words]
    query = select(Visit).join(System).join(Site).where(*holds)
    shown = joinedload(Visit.system).joinedload(System.site)
    return session.scalars(query.order_by(Visit.opened_at.desc()).options(shown).limit(most)).all()


def _in_year(word: str) -> list[ColumnElement[bool]]:
    """A word of four digits is a year as well."""
    if len(word) != 4 or not word.isdigit():
        return []
    return [func.strftime("%Y", Visit.opened_at) == word]


def _like(column: InstrumentedAttribute[str], word: str) -> ColumnElement[bool]:
    escaped = word.casefold().replace("\\", "\\\\").replace("%", r"\%").replace("_", r"\_")
    return func.folded(column).like(f"%{escaped}%", escape="\\")
