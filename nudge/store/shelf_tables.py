"""Cylinders and the ledger of what moved. Whole milligrams. Movements and weighings only grow."""

from datetime import date, datetime

from sqlalchemy import ForeignKey, false
from sqlalchemy.orm import Mapped, mapped_column

from nudge.store.tables import Base, Written


class Cylinder(Base):
    """One cylinder on the shelf. `kind`: charging or recovery."""

    __tablename__ = "cylinders"

    id: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    refrigerant: Mapped[str]
    kind: Mapped[str]
    tare_mg: Mapped[int]
    water_mg: Mapped[int | None]
    """Water capacity, as stamped; it sets the fill limit of a recovery cylinder."""
    condition: Mapped[str] = mapped_column(default="clean", server_default="clean")
    """What is in it: clean, mixed or burnt (`opening/recovery.py`)."""
    takes_flammable: Mapped[bool] = mapped_column(default=False, server_default=false())
    rated_kpa: Mapped[float | None] = mapped_column(default=None)
    """Its service pressure [kPa gauge]; None where nobody wrote it down."""
    tested_until: Mapped[date | None] = mapped_column(default=None)
    created_at: Mapped[datetime]
    retired_at: Mapped[datetime | None]


class Movement(Written):
    """One entry of the ledger; `corrects` names the one it stands in place of."""

    __tablename__ = "movements"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    kind: Mapped[str]
    mg: Mapped[int]
    cylinder_id: Mapped[str] = mapped_column(ForeignKey("cylinders.id"), index=True)
    to_cylinder_id: Mapped[str | None] = mapped_column(ForeignKey("cylinders.id"))
    system_id: Mapped[str | None] = mapped_column(ForeignKey("systems.id"), index=True)
    visit_id: Mapped[str | None] = mapped_column(ForeignKey("visits.id"), index=True)
    note: Mapped[str]
    corrects: Mapped[str | None]
    happened_at: Mapped[datetime]
    recorded_at: Mapped[datetime]


class Weighing(Written):
    """What a scale showed under a cylinder, at the start or end of a visit or on the shelf."""

    __tablename__ = "weighings"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    cylinder_id: Mapped[str] = mapped_column(ForeignKey("cylinders.id"), index=True)
    visit_id: Mapped[str | None] = mapped_column(ForeignKey("visits.id"))
    gross_mg: Mapped[int]
    weighed_at: Mapped[datetime]
