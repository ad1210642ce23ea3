"""The instruments that are carried, each with the sheet that held at a moment."""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import bindparam, func, or_, select
from sqlalchemy.orm import Session

from nudge.store.register_tables import InstrumentSheet, RegisteredInstrument

Carried = tuple[RegisteredInstrument, InstrumentSheet]


_AT = bindparam("at", type_=InstrumentSheet.since.type)
_NEWEST = (
    select(func.max(InstrumentSheet.sequence))
    .where(InstrumentSheet.since <= _AT)
    .group_by(InstrumentSheet.instrument_id)
)
_RETIRED = RegisteredInstrument.retired_at
_CARRIED = (
    select(RegisteredInstrument, InstrumentSheet)
    .join(InstrumentSheet, InstrumentSheet.instrument_id == RegisteredInstrument.id)
    .where(InstrumentSheet.sequence.in_(_NEWEST))
    .where(or_(_RETIRED.is_(None), _RETIRED > _AT))
    .order_by(RegisteredInstrument.created_at)
)


def carried(session: Session, at: datetime) -> Sequence[Carried]:
    """Those that were carried at a moment, in the order they came."""
    return [(row, sheet) for row, sheet in session.execute(_CARRIED, {"at": at})]


def instrument(session: Session, instrument_id: str) -> RegisteredInstrument | None:
    return session.get(RegisteredInstrument, instrument_id)


def newest_sheet(session: Session, instrument_id: str) -> InstrumentSheet | None:
    """The sheet that holds now; None of an instrument that is just being added."""
    query = select(InstrumentSheet).where(InstrumentSheet.instrument_id == instrument_id)
    return session.scalars(query.order_by(InstrumentSheet.sequence.desc()).limit(1)).first()
