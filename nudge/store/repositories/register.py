"""The instruments that are carried."""

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from nudge.store.register_tables import RegisteredInstrument


def carried(session: Session) -> Sequence[RegisteredInstrument]:
    """Those that were not retired, in the order they came."""
    query = select(RegisteredInstrument).where(RegisteredInstrument.retired_at.is_(None))
    return session.scalars(query.order_by(RegisteredInstrument.created_at)).all()


def instrument(session: Session, instrument_id: str) -> RegisteredInstrument | None:
    return session.get(RegisteredInstrument, instrument_id)
