"""Ticks, checks, notes, pictures and links of a visit; a system's baseline and what it awaits."""

from collections.abc import Sequence

from sqlalchemy import String, bindparam, func, select
from sqlalchemy.orm import Session

from nudge.store.tables import Visit
from nudge.store.visit_tables import (
    Baseline,
    CheckRow,
    Deferred,
    GuestLink,
    IntendedChange,
    Note,
    Photo,
    Tick,
)

_THIS, _OF = bindparam("visit", type_=String), bindparam("system", type_=String)
"""Statements that every reading asks are made once."""
_TICKS = select(Tick).where(Tick.visit_id == _THIS).order_by(Tick.sequence)
_CHECKS = (
    select(CheckRow)
    .join(Visit, Visit.id == CheckRow.visit_id)
    .where(Visit.system_id == _OF)
    .order_by(CheckRow.sequence)
)
OLDER_MODE = "cooling"
"""The mode of a baseline that was kept before there were two."""
_BASELINES = select(Baseline).where(Baseline.system_id == _OF).order_by(Baseline.sequence)
_INTENDED = (
    select(IntendedChange).where(IntendedChange.system_id == _OF).order_by(IntendedChange.sequence)
)
_DEFERRED = (
    select(Deferred)
    .where(Deferred.system_id == _OF)
    .order_by(Deferred.done_at.is_not(None), Deferred.created_at)
)
_VISITS_BEFORE = select(func.count(Visit.id)).where(
    Visit.system_id == _OF, Visit.id != _THIS, Visit.closed_at.is_not(None)
)


def add_all(session: Session, rows: Sequence[Tick | Note | Deferred]) -> None:
    """Write rows together, one statement a kind."""
    session.bulk_save_objects(rows)


Written = type[Tick] | type[CheckRow] | type[Note] | type[Baseline] | type[IntendedChange]


def is_written(session: Session, table: Written, key: str) -> bool:
    """Whether an entry is in the book already: the same one sent twice is one."""
    return session.scalar(select(table.id).where(table.id == key)) is not None


def ticks(session: Session, visit_id: str) -> dict[str, Tick]:
    """The last tick of every step."""
    return {row.step: row for row in session.scalars(_TICKS, {"visit": visit_id})}


def ticks_with(session: Session, visit_id: str, entry_id: str) -> Sequence[Tick]:
    """Steps that were ticked or skipped along with another entry."""
    query = select(Tick).where(Tick.visit_id == visit_id)
    return session.scalars(query.where(Tick.id.startswith(f"{entry_id}:", autoescape=True))).all()


def checks(session: Session, system_id: str) -> list[CheckRow]:
    """Every check on a system, whichever visit it was on, in order."""
    return list(session.scalars(_CHECKS, {"system": system_id}))


def notes(session: Session, visit_id: str) -> list[Note]:
    """The notes that stand, in order: corrected ones and those taken back left out."""
    query = select(Note).where(Note.visit_id == visit_id).order_by(Note.sequence)
    rows = list(session.scalars(query))
    replaced = {row.corrects for row in rows if row.corrects}
    return [row for row in rows if row.id not in replaced and row.text]


def photos(session: Session, visit_id: str) -> Sequence[Photo]:
    """The pictures of a visit, without their bytes, in order."""
    query = select(Photo).where(Photo.visit_id == visit_id, Photo.removed_at.is_(None))
    return session.scalars(query.order_by(Photo.taken_at, Photo.id)).all()


def photo(session: Session, photo_id: str) -> Photo | None:
    return session.get(Photo, photo_id)


def baselines(session: Session, system_id: str) -> dict[str, Baseline]:
    """The baselines that hold, by mode: like is laid beside like. Those ended are left out."""
    holds: dict[str, Baseline] = {}
    for row in session.scalars(_BASELINES, {"system": system_id}):
        if row.kept is not None:
            mode = row.kept.get("mode", OLDER_MODE)
            holds.pop(mode, None)  # the newest stands last
            holds[mode] = row
        else:
            holds = {mode: one for mode, one in holds.items() if one.visit_id != row.visit_id}
    return holds


def intended(session: Session, system_id: str) -> list[IntendedChange]:
    """What was changed on purpose and stands, in order."""
    rows = list(session.scalars(_INTENDED, {"system": system_id}))
    replaced = {row.corrects for row in rows if row.corrects}
    return [row for row in rows if row.id not in replaced and row.key]


def deferred(session: Session, system_id: str) -> Sequence[Deferred]:
    """Everything left for later on a system, the open ones first."""
    return session.scalars(_DEFERRED, {"system": system_id}).all()


def open_deferred(session: Session, most: int) -> Sequence[Deferred]:
    """What is left for later anywhere, the oldest first."""
    query = select(Deferred).where(Deferred.done_at.is_(None)).order_by(Deferred.created_at)
    return session.scalars(query.limit(most)).all()


def links(session: Session, visit_id: str) -> Sequence[GuestLink]:
    query = select(GuestLink).where(GuestLink.visit_id == visit_id)
    return session.scalars(query.order_by(GuestLink.created_at.desc())).all()


def link_by_hash(session: Session, token_hash: str) -> GuestLink | None:
    query = select(GuestLink).where(GuestLink.token_hash == token_hash)
    return session.scalars(query).one_or_none()


def visits_before(session: Session, visit: Visit) -> int:
    """How many closed visits the system has had besides this one."""
    asked = {"system": visit.system_id, "visit": visit.id}
    return session.scalar(_VISITS_BEFORE, asked) or 0
