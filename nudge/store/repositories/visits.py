"""Visits with everything that was said, read, seen and judged on them."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import ColumnElement, distinct, func, insert, select
from sqlalchemy.orm import Session, aliased, defer, joinedload, selectinload

from nudge.store.tables import Event, Reading, System, Verdict, Visit

_WITH_SYSTEM = joinedload(Visit.system).joinedload(System.site)
_UNPRINTED = defer(Verdict.answer)
EARLIER = 20
"""Past visits that are looked back on."""
_WITH_CHARTS = joinedload(Visit.system).selectinload(System.charts)


def visit(session: Session, visit_id: str) -> Visit | None:
    """A visit whole: system, site, call-outs, readings, observations, events."""
    query = (
        select(Visit)
        .where(Visit.id == visit_id)
        .options(
            _WITH_SYSTEM,
            _WITH_CHARTS,
            selectinload(Visit.callouts),
            selectinload(Visit.readings),
            selectinload(Visit.observations),
            selectinload(Visit.events),
            selectinload(Visit.slips),
        )
    )
    return session.scalars(query).one_or_none()


def to_write_on(session: Session, visit_id: str) -> Visit | None:
    """A visit to write on: its system and site; what else is asked of it is loaded then."""
    query = select(Visit).where(Visit.id == visit_id).options(_WITH_SYSTEM)
    return session.scalars(query).one_or_none()


def head(session: Session, visit_id: str) -> Visit | None:
    """The visit's own row, with nothing hung on it."""
    return session.get(Visit, visit_id)


def add_readings(session: Session, rows: Sequence[dict[str, Any]]) -> None:
    """Write readings in one go; they are not loaded back."""
    session.execute(insert(Reading), rows)


def last_moment(session: Session, visit_id: str) -> datetime | None:
    """The latest moment that anything on a visit was recorded or happened."""
    read = session.scalar(select(func.max(Reading.recorded_at)).where(Reading.visit_id == visit_id))
    done = session.scalar(select(func.max(Event.happened_at)).where(Event.visit_id == visit_id))
    return max((at for at in (read, done) if at is not None), default=None)


def bearing_before(session: Session, row: Visit, kinds: Sequence[str]) -> list[Event]:
    """Events of some kinds on other visits of its system begun before it, corrected ones out."""
    query = (
        select(Event)
        .join(Visit, Visit.id == Event.visit_id)
        .where(Visit.system_id == row.system_id)
        .where(Visit.id != row.id)
        .where(Event.kind.in_(kinds))
        .where(Event.happened_at < (row.opened_at or row.created_at))
        .order_by(Event.happened_at, Event.sequence)
    )
    rows = list(session.scalars(query))
    replaced = {event.corrects for event in rows if event.corrects}
    return [e for e in rows if e.id not in replaced and not (e.corrects and not e.amount_kg)]


def is_closed(session: Session, visit_id: str) -> bool:
    """Whether somebody has closed it."""
    return session.scalar(select(Visit.closed_at).where(Visit.id == visit_id)) is not None


def under_way(session: Session) -> Sequence[Visit]:
    """Opened and not closed, latest first."""
    return _listed(session, Visit.opened_at.is_not(None) & Visit.closed_at.is_(None))


def due(session: Session) -> Sequence[Visit]:
    """Planned and not opened, the soonest first."""
    query = (
        select(Visit)
        .options(_WITH_SYSTEM)
        .where(Visit.opened_at.is_(None) & Visit.closed_at.is_(None))
        .order_by(Visit.due_on)
    )
    return session.scalars(query).all()


def past(session: Session, limit: int) -> Sequence[Visit]:
    """Closed, latest first."""
    return _listed(session, Visit.closed_at.is_not(None), limit)


def drifted(session: Session, limit: int) -> Sequence[Visit]:
    """The last closed visit of each system, where something had drifted by then; latest first."""
    later = aliased(Visit)
    newer = (
        select(later.id).where(
            later.system_id == Visit.system_id, later.closed_at > Visit.closed_at
        )
    ).exists()
    return _listed(session, Visit.closed_at.is_not(None) & (Visit.drift > "") & ~newer, limit)


def of_system(session: Session, system_id: str) -> Sequence[Visit]:
    """Every visit to a system, latest first."""
    return _listed(session, Visit.system_id == system_id)


def _listed(
    session: Session, condition: ColumnElement[bool], limit: int | None = None
) -> Sequence[Visit]:
    query = select(Visit).options(_WITH_SYSTEM).where(condition)
    return session.scalars(query.order_by(Visit.opened_at.desc()).limit(limit)).all()


def earlier_verdicts(session: Session, visit: Visit) -> list[Verdict]:
    """The last verdict of the closed visits to the same system before this one, latest first.

    At most `EARLIER` of them. What was printed is read only where it is asked for.
    """
    began = visit.opened_at
    last = select(func.max(Verdict.sequence)).join(Visit, Visit.id == Verdict.visit_id)
    last = last.where(Visit.system_id == visit.system_id).group_by(Verdict.visit_id)
    query = (
        select(Verdict)
        .join(Visit, Visit.id == Verdict.visit_id)
        .where(Verdict.sequence.in_(last), Visit.id != visit.id, Visit.closed_at.is_not(None))
        .order_by(Visit.opened_at.desc())
        .options(_UNPRINTED)
    )
    if began is not None:
        query = query.where(Visit.opened_at < began)
    return list(session.scalars(query.limit(EARLIER)))


def additions_before(session: Session, visit: Visit, since: datetime) -> int:
    """On how many other visits to the same system refrigerant was added since a moment."""
    query = (
        select(func.count(distinct(Event.visit_id)))
        .join(Visit, Visit.id == Event.visit_id)
        .where(Visit.system_id == visit.system_id, Visit.id != visit.id)
        .where(Event.kind == "refrigerant_added", Event.happened_at >= since)
    )
    return session.scalar(query) or 0


def latest_verdict(session: Session, visit_id: str) -> Verdict | None:
    query = (
        select(Verdict)
        .where(Verdict.visit_id == visit_id)
        .order_by(Verdict.sequence.desc())
        .limit(1)
    )
    return session.scalars(query).one_or_none()


def latest_verdicts(session: Session, visit_ids: Sequence[str]) -> dict[str, Verdict]:
    """The last verdict of each visit that has one."""
    query = select(Verdict).where(Verdict.visit_id.in_(visit_ids)).order_by(Verdict.sequence)
    query = query.options(_UNPRINTED)
    return {verdict.visit_id: verdict for verdict in session.scalars(query)}
