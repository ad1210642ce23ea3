"""The instruments that are carried, each with the sheet that held at a moment."""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import func, or_, select
from sqlalchemy.orm import Session

from nudge.store.register_tables import InstrumentSheet, RegisteredInstrument

Carried = tuple[RegisteredInstrument, InstrumentSheet]


def carried(session: Session, at: datetime) -> Sequence[Carried]:
    """Those that were carried at a moment, in the order they came."""
    newest = (
        select(func.max(InstrumentSheet.sequence))
        .where(InstrumentSheet.since <= at)
        .group_by(InstrumentSheet.instrument_id)
    )
    query = (
        select(RegisteredInstrument, InstrumentSheet)
        .join(InstrumentSheet, InstrumentSheet.instrument_id == RegisteredInstrument.id)
        .where(InstrumentSheet.sequence.in_(newest))
        .where(or_(RegisteredInstrument.retired_at.is_(None), RegisteredInstrument.retired_at > at))
        .order_by(RegisteredInstrument.created_at)
    )
    return [(row, sheet) for row, sheet in session.execute(query)]


def instrument(session: Session, instrument_id: str) -> RegisteredInstrument | None:
    return session.get(RegisteredInstrument, instrument_id)


def newest_sheet(session: Session, instrument_id: str) -> InstrumentSheet | None:
    """The sheet that holds now; None of an instrument that is just being added."""
    query = select(InstrumentSheet).where(InstrumentSheet.instrument_id == instrument_id)
    return session.scalars(query.order_by(InstrumentSheet.sequence.desc()).limit(1)).first()
