"""Finding things again: sites, systems and visits by any part of their names and words."""

from dataclasses import dataclass
from typing import Literal

from sqlalchemy import ColumnElement, func, or_, select
from sqlalchemy.orm import InstrumentedAttribute, joinedload

from nudge.store.database import Database
from nudge.store.tables import Site, System, Visit

MOST = 8
LONGEST = 120


@dataclass(frozen=True, slots=True)
class Hit:
    """One thing found: what it is, where it is opened, and two lines to know it by."""

    kind: Literal["site", "system", "visit"]
    id: str
    title: str
    below: str


def find(database: Database, text: str, most: int = MOST) -> list[Hit]:
    """Sites, systems and visits that hold every word, in that order; at most `most` of each."""
    words = [_pattern(word) for word in text[:LONGEST].split()]
    if not words:
        return []
    with database.reading() as session:
        sites = session.scalars(
            select(Site).where(*(_like(Site.name, word) for word in words)).limit(most)
        ).all()
        in_system = [
            or_(_like(System.name, word), _like(Site.name, word), _like(System.note, word),
                _like(System.refrigerant, word))
            for word in words
        ]  # fmt: skip
        systems = session.scalars(
            select(System).join(Site).where(*in_system).order_by(System.name)
            .options(joinedload(System.site)).limit(most)
        ).all()  # fmt: skip
        visits = session.scalars(
            select(Visit).where(*(_like(Visit.complaint, word) for word in words))
            .order_by(Visit.opened_at.desc())
            .options(joinedload(Visit.system).joinedload(System.site)).limit(most)
        ).all()  # fmt: skip
        return [
            *(Hit("site", row.id, row.name, f"{len(row.systems)} systems") for row in sites),
            *(Hit("system", row.id, f"{row.site.name}, {row.name}", row.refrigerant)
              for row in systems),
            *(Hit("visit", row.id, row.complaint or "No complaint written",
                  f"{row.system.site.name}, {row.system.name}") for row in visits),
        ]  # fmt: skip


def _pattern(word: str) -> str:
    escaped = word.casefold().replace("\\", "\\\\").replace("%", r"\%").replace("_", r"\_")
    return f"%{escaped}%"


def _like(column: InstrumentedAttribute[str], pattern: str) -> ColumnElement[bool]:
    return func.folded(column).like(pattern, escape="\\")
