"""The instruments register."""

from datetime import date, datetime

from sqlalchemy.orm import Mapped, mapped_column

from nudge.store.tables import Base


class RegisteredInstrument(Base):
    """One instrument that is carried; `fixed` in core units, `share` of the reading."""

    __tablename__ = "instruments"

    id: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    sort: Mapped[str]
    fixed: Mapped[float | None]
    share: Mapped[float | None]
    zeroed_at: Mapped[datetime | None]
    calibrated_until: Mapped[date | None]
    hoses_since: Mapped[date | None]
    created_at: Mapped[datetime]
    retired_at: Mapped[datetime | None]
