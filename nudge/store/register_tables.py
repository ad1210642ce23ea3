"""The instruments register: what is carried, and every sheet it ever had."""

from datetime import date, datetime

from sqlalchemy import ForeignKey, Index
from sqlalchemy.orm import Mapped, mapped_column

from nudge.store.tables import Base


class RegisteredInstrument(Base):
    """One instrument that is carried, until it is retired."""

    __tablename__ = "instruments"

    id: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    sort: Mapped[str]
    created_at: Mapped[datetime]
    retired_at: Mapped[datetime | None]


class InstrumentSheet(Base):
    """What an instrument's sheet said from a moment on; `fixed` in core units, `share` of the
    reading. The next one replaces it from its own moment on; none is changed.
    """

    __tablename__ = "instrument_sheets"

    sequence: Mapped[int] = mapped_column(primary_key=True)
    instrument_id: Mapped[str] = mapped_column(ForeignKey("instruments.id"))
    since: Mapped[datetime]
    fixed: Mapped[float | None]
    share: Mapped[float | None]
    zeroed_at: Mapped[datetime | None]
    calibrated_until: Mapped[date | None]
    hoses_since: Mapped[date | None]


Index("instrument_sheets_by_instrument", InstrumentSheet.instrument_id, InstrumentSheet.sequence)
