"""Visits with everything that was said, read, seen and judged on them."""

import json
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import (
    ColumnElement,
    Select,
    String,
    bindparam,
    distinct,
    exists,
    func,
    insert,
    select,
    type_coerce,
)
from sqlalchemy.orm import Session, aliased, defer, joinedload
from sqlalchemy.orm.attributes import set_committed_value

from nudge.store.tables import (
    Base,
    Callout,
    ChartRow,
    Event,
    ObservationRow,
    Reading,
    SlipRow,
    System,
    Verdict,
    Visit,
)

_WITH_SYSTEM = joinedload(Visit.system).joinedload(System.site)
_UNPRINTED = defer(Verdict.answer)
EARLIER = 20
"""Past visits that are looked back on."""
_THIS, _OF = bindparam("visit", type_=String), bindparam("system", type_=String)
"""Of which visit, and of which system, a statement asks. Those that every reading asks are made
once: making one costs as much as running it."""
_HEAD = select(Visit).where(Visit.id == _THIS).options(_WITH_SYSTEM)
_HANGS: dict[str, Select[Any]] = {
    "callouts": select(Callout).where(Callout.visit_id == _THIS).order_by(Callout.heard_at),
    "readings": select(Reading).where(Reading.visit_id == _THIS).order_by(Reading.sequence),
    "observations": select(ObservationRow)
    .where(ObservationRow.visit_id == _THIS)
    .order_by(ObservationRow.sequence),
    "events": select(Event).where(Event.visit_id == _THIS).order_by(Event.sequence),
    "slips": select(SlipRow).where(SlipRow.visit_id == _THIS).order_by(SlipRow.sequence),
}
_CHARTS = select(ChartRow).where(ChartRow.system_id == _OF).order_by(ChartRow.sequence)
_WHOLE = _HEAD.add_columns(
    *(
        exists().where(table.visit_id == Visit.id)
        for table in (Callout, Reading, ObservationRow, Event, SlipRow)
    ),
    exists().where(ChartRow.system_id == Visit.system_id),
)
"""Its row, and whether anything hangs on it: what is empty is not asked for."""


def visit(session: Session, visit_id: str) -> Visit | None:
    """A visit whole: system, site, call-outs, readings, observations, events."""
    found = session.execute(_WHOLE, {"visit": visit_id}).one_or_none()
    if found is None:
        return None
    row: Visit = found[0]
    for (name, query), is_there in zip(_HANGS.items(), found[1:], strict=False):
        _hang(session, row, name, query if is_there else None, {"visit": visit_id})
    charts = _CHARTS if found[-1] else None
    _hang(session, row.system, "charts", charts, {"system": row.system_id})
    return row


def _hang(
    session: Session, row: Base, name: str, query: Select[Any] | None, asked: dict[str, str]
) -> None:
    """What hangs on a row, unless it was loaded with it before."""
    if name not in row.__dict__:
        rows = [] if query is None else list(session.scalars(query, asked))
        set_committed_value(row, name, rows)


def to_write_on(session: Session, visit_id: str) -> Visit | None:
    """A visit to write on: its system and site; what else is asked of it is loaded then."""
    return session.scalars(_HEAD, {"visit": visit_id}).one_or_none()


def head(session: Session, visit_id: str) -> Visit | None:
    """The visit's own row, with nothing hung on it."""
    return session.get(Visit, visit_id)


def add_readings(session: Session, rows: Sequence[dict[str, Any]]) -> None:
    """Write readings in one go; they are not loaded back."""
    session.execute(insert(Reading), rows)


def last_moment(session: Session, visit_id: str) -> datetime | None:
    """The latest moment that anything on a visit was recorded or happened."""
    found = session.execute(_LAST_MOMENTS, {"visit": visit_id}).one()
    return max((at for at in found if at is not None), default=None)


_LAST_MOMENTS = select(
    select(func.max(Reading.recorded_at)).where(Reading.visit_id == _THIS).scalar_subquery(),
    select(func.max(Event.happened_at)).where(Event.visit_id == _THIS).scalar_subquery(),
)
_BEARING_BEFORE = (
    select(Event)
    .join(Visit, Visit.id == Event.visit_id)
    .where(Visit.system_id == _OF)
    .where(Visit.id != _THIS)
    .where(Event.kind.in_(bindparam("kinds", expanding=True)))
    .where(Event.happened_at < bindparam("began", type_=Event.happened_at.type))
    .order_by(Event.happened_at, Event.sequence)
)


def bearing_before(session: Session, row: Visit, kinds: Sequence[str]) -> list[Event]:
    """Events of some kinds on other visits of its system begun before it, corrected ones out."""
    began = row.opened_at or row.created_at
    asked = {"system": row.system_id, "visit": row.id, "kinds": list(kinds), "began": began}
    rows = list(session.scalars(_BEARING_BEFORE, asked))
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


def first_closed(session: Session, system_ids: Sequence[str]) -> dict[str, str]:
    """The first closed visit of each of these systems."""
    query = (
        select(Visit.system_id, Visit.id)
        .where(Visit.system_id.in_(set(system_ids)), Visit.closed_at.is_not(None))
        .order_by(Visit.closed_at.desc())
    )
    return {row.system_id: row.id for row in session.execute(query)}


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
    began = visit.opened_at or NEVER
    asked = {"system": visit.system_id, "visit": visit.id, "began": began}
    return list(session.scalars(_EARLIER, asked))


NEVER = datetime(9999, 1, 1, tzinfo=UTC)
_ITS_LAST = (
    select(func.max(Verdict.sequence)).where(Verdict.visit_id == Visit.id).correlate(Visit)
).scalar_subquery()
_EARLIER = (
    select(Verdict)
    .join(Visit, Visit.id == Verdict.visit_id)
    .where(Visit.system_id == _OF, Visit.id != _THIS, Visit.closed_at.is_not(None))
    .where(Visit.opened_at < bindparam("began", type_=Visit.opened_at.type))
    .where(Verdict.sequence == _ITS_LAST)
    .order_by(Visit.opened_at.desc())
    .limit(EARLIER)
    .options(_UNPRINTED)
)


def additions_before(session: Session, visit: Visit, since: datetime) -> int:
    """On how many other visits to the same system refrigerant was added since a moment."""
    asked = {"system": visit.system_id, "visit": visit.id, "since": since}
    return session.scalar(_ADDITIONS_BEFORE, asked) or 0


_ADDITIONS_BEFORE = (
    select(func.count(distinct(Event.visit_id)))
    .join(Visit, Visit.id == Event.visit_id)
    .where(Visit.system_id == _OF, Visit.id != _THIS, Event.kind == "refrigerant_added")
    .where(Event.happened_at >= bindparam("since", type_=Event.happened_at.type))
)
_PRINTED_LAST = (
    select(type_coerce(Verdict.answer, String))
    .where(Verdict.visit_id == _THIS)
    .order_by(Verdict.sequence.desc())
    .limit(1)
)
_KEEP = insert(Verdict.__table__)  # type: ignore[arg-type]


def printed_last(session: Session, visit_id: str) -> str | None:
    """The last verdict's answer letter by letter, as `printed` writes one."""
    return session.scalar(_PRINTED_LAST, {"visit": visit_id})


def printed(answer: Mapping[str, Any]) -> str:
    """An answer as it is kept."""
    return json.dumps(answer)


def add_verdict(session: Session, values: Mapping[str, Any]) -> None:
    """Keep a verdict, by column; it is not loaded back."""
    session.connection().execute(_KEEP, values)


def latest_verdicts(session: Session, visit_ids: Sequence[str]) -> dict[str, Verdict]:
    """The last verdict of each visit that has one."""
    query = select(Verdict).where(Verdict.visit_id.in_(visit_ids)).order_by(Verdict.sequence)
    query = query.options(_UNPRINTED)
    return {verdict.visit_id: verdict for verdict in session.scalars(query)}
