"""Which tables hold anything of a visit or its system: asked once, so that empty ones are not."""

from sqlalchemy import String, bindparam, exists, select
from sqlalchemy.orm import Session

from nudge.store.live_tables import Channel, Override, Plant
from nudge.store.shelf_tables import Movement
from nudge.store.tables import Base, Visit
from nudge.store.visit_tables import (
    Baseline,
    Deferred,
    GuestLink,
    IntendedChange,
    Note,
    Photo,
    TestRun,
    Tick,
)
from nudge.store.zone_tables import ZoneLogRow

_OF_VISIT = (Tick, Note, Photo, GuestLink, Movement, Override, Plant, Channel, TestRun, ZoneLogRow)
_OF_SYSTEM = (IntendedChange, Deferred, Baseline)
_VISIT, _SYSTEM = bindparam("visit", type_=String), bindparam("system", type_=String)
_ASKED = select(
    *(exists().where(table.visit_id == _VISIT) for table in _OF_VISIT),
    *(exists().where(table.system_id == _SYSTEM) for table in _OF_SYSTEM),
)


def hung_on(session: Session, visit: Visit) -> frozenset[type[Base]]:
    """The tables that hold a row of this visit, or of its system."""
    found = session.execute(_ASKED, {"visit": visit.id, "system": visit.system_id}).one()
    tables: tuple[type[Base], ...] = (*_OF_VISIT, *_OF_SYSTEM)
    return frozenset(table for table, holds in zip(tables, found, strict=True) if holds)
