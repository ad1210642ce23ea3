"""The tables. Core units throughout, except readings, which are kept as they were given.

Readings, callouts, observations, events, verdicts, charts and slips are append-only: the
database itself refuses to change or delete them (triggers in the migrations).
"""

from datetime import UTC, date, datetime
from typing import Any, ClassVar

from sqlalchemy import JSON, DateTime, ForeignKey, Index, String, TypeDecorator
from sqlalchemy.engine import Dialect
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

from nudge.store.context import writer


class UtcTime(TypeDecorator[datetime]):
    """A moment, stored in UTC, always handed out with its zone."""

    impl = DateTime
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        return None if value is None else value.astimezone(UTC).replace(tzinfo=None)

    def process_result_value(self, value: Any, dialect: Dialect) -> datetime | None:
        return None if value is None else value.replace(tzinfo=UTC)


class Base(DeclarativeBase):
    """Common ground of every table."""

    type_annotation_map: ClassVar = {datetime: UtcTime, str: String, dict[str, Any]: JSON}


class Written(Base):
    """A row that somebody wrote."""

    __abstract__ = True

    written_by: Mapped[str | None] = mapped_column(default=writer)
    """The device it came from, by the name it was paired under; None is this machine."""


class Entry(Base):
    """A write that came with an id, and what it said."""

    __tablename__ = "entries"

    id: Mapped[str] = mapped_column(primary_key=True)
    digest: Mapped[str]


class TakenBundle(Base):
    """A bundle that was taken in: what it brought, so that it can be taken out again."""

    __tablename__ = "taken_in"

    id: Mapped[str] = mapped_column(primary_key=True)
    taken_at: Mapped[datetime]
    said: Mapped[str]
    """In words."""
    brought: Mapped[dict[str, Any]]
    """By table, the ids of the rows it added."""
    undone_at: Mapped[datetime | None]


class PairedDevice(Base):
    """A device that was paired. Its token is kept as a hash only."""

    __tablename__ = "devices"

    id: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    role: Mapped[str]
    token_hash: Mapped[str]
    paired_at: Mapped[datetime]
    seen_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]


class Site(Base):
    """A place with equipment. Sites have names; people do not appear."""

    __tablename__ = "sites"

    id: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    note: Mapped[str] = mapped_column(default="")
    created_at: Mapped[datetime]

    systems: Mapped[list["System"]] = relationship(back_populates="site", order_by="System.name")


class System(Base):
    """One system: what its plate says, in core units."""

    __tablename__ = "systems"

    id: Mapped[str] = mapped_column(primary_key=True)
    site_id: Mapped[str] = mapped_column(ForeignKey("sites.id"), index=True)
    name: Mapped[str]
    note: Mapped[str] = mapped_column(default="")
    refrigerant: Mapped[str]
    metering_device: Mapped[str]
    application: Mapped[str]
    nominal_capacity_w: Mapped[float | None]
    rated_seer: Mapped[float | None]
    target_subcooling_k: Mapped[float | None]
    target_superheat_k: Mapped[float | None]
    condensing_over_ambient_k: Mapped[float | None]
    approach_k: Mapped[float | None]
    elevation_m: Mapped[float] = mapped_column(default=0.0)
    line_set_length_m: Mapped[float | None]
    rated_airflow_lps: Mapped[float | None]
    factory_charge_kg: Mapped[float | None]
    line_length_included_m: Mapped[float | None]
    charge_g_per_m: Mapped[float | None]
    liquid_line_mm: Mapped[float | None]
    vapour_line_mm: Mapped[float | None]
    coil_adder_g: Mapped[float | None]
    drier_adder_g: Mapped[float | None]
    design_pressure_low_kpa: Mapped[float | None] = mapped_column(default=None)
    design_pressure_high_kpa: Mapped[float | None] = mapped_column(default=None)
    heat_47_w: Mapped[float | None] = mapped_column(default=None)
    heat_17_w: Mapped[float | None] = mapped_column(default=None)
    power_47_w: Mapped[float | None] = mapped_column(default=None)
    power_17_w: Mapped[float | None] = mapped_column(default=None)
    lowest_outdoor_c: Mapped[float | None] = mapped_column(default=None)
    strips_kw: Mapped[float | None] = mapped_column(default=None)
    strips_off_over_c: Mapped[float | None] = mapped_column(default=None)
    compressor_off_under_c: Mapped[float | None] = mapped_column(default=None)
    house_loss_w_k: Mapped[float | None] = mapped_column(default=None)
    box_set_point_c: Mapped[float | None] = mapped_column(default=None)
    coil_class_k: Mapped[float | None] = mapped_column(default=None)
    condenser_class_k: Mapped[float | None] = mapped_column(default=None)
    has_receiver: Mapped[str] = mapped_column(default="", server_default="")
    head_pressure_control: Mapped[str] = mapped_column(default="", server_default="")
    defrost_kind: Mapped[str] = mapped_column(default="", server_default="")
    second_evaporator: Mapped[str] = mapped_column(default="", server_default="")
    indoor_unit: Mapped[str] = mapped_column(default="", server_default="")
    blower_tap: Mapped[str] = mapped_column(default="", server_default="")
    method: Mapped[str] = mapped_column(default="", server_default="")
    reversing_valve: Mapped[str] = mapped_column(default="", server_default="")
    written_charge_kg: Mapped[float | None] = mapped_column(default=None)
    """The whole charge as last weighed in and written for the next one who comes."""
    written_charge_at: Mapped[datetime | None] = mapped_column(default=None)
    created_at: Mapped[datetime]
    updated_at: Mapped[datetime]

    site: Mapped[Site] = relationship(back_populates="systems")
    visits: Mapped[list["Visit"]] = relationship(back_populates="system")
    charts: Mapped[list["ChartRow"]] = relationship(order_by="ChartRow.sequence")
    drawing: Mapped["ZoneDrawing | None"] = relationship(viewonly=True, lazy="joined")
    """Of a plant with many rooms."""


class ZoneDrawing(Base):
    """A plant's parts, as they were last confirmed."""

    __tablename__ = "zone_drawings"

    system_id: Mapped[str] = mapped_column(ForeignKey("systems.id"), primary_key=True)
    parts: Mapped[dict[str, Any]]
    updated_at: Mapped[datetime]


class ChartRow(Written):
    """A maker's chart of a system, as text in the units it was written in.

    The latest row of a kind counts; one with no text takes the chart away.
    """

    __tablename__ = "charts"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    system_id: Mapped[str] = mapped_column(ForeignKey("systems.id"), index=True)
    kind: Mapped[str]
    text: Mapped[str]
    units: Mapped[str]
    recorded_at: Mapped[datetime]


class SettingRow(Base):
    """One choice of this workshop, by its key."""

    __tablename__ = "settings"

    key: Mapped[str] = mapped_column(primary_key=True)
    value: Mapped[str]
    updated_at: Mapped[datetime]


class Visit(Base):
    """One call at one system: due, under way (opened), or past (closed)."""

    __tablename__ = "visits"

    id: Mapped[str] = mapped_column(primary_key=True)
    system_id: Mapped[str] = mapped_column(ForeignKey("systems.id"), index=True)
    complaint: Mapped[str] = mapped_column(default="")
    kind: Mapped[str] = mapped_column(default="", server_default="")
    """The kind of call, of `core/visit/calls.py`; "" is a cooling complaint."""
    connection: Mapped[str] = mapped_column(default="", server_default="")
    """How it is connected, of `core/charging/ways.py`; "" while nobody said."""
    drift: Mapped[str] = mapped_column(default="", server_default="")
    """What had drifted when it was closed, as JSON: a sentence in both units; "" for nothing."""
    due_on: Mapped[date | None]
    opened_at: Mapped[datetime | None]
    closed_at: Mapped[datetime | None]
    created_at: Mapped[datetime]

    system: Mapped[System] = relationship(back_populates="visits")
    callouts: Mapped[list["Callout"]] = relationship(order_by="Callout.heard_at")
    readings: Mapped[list["Reading"]] = relationship(order_by="Reading.sequence")
    observations: Mapped[list["ObservationRow"]] = relationship(order_by="ObservationRow.sequence")
    events: Mapped[list["Event"]] = relationship(order_by="Event.sequence")
    verdicts: Mapped[list["Verdict"]] = relationship(order_by="Verdict.sequence")
    slips: Mapped[list["SlipRow"]] = relationship(order_by="SlipRow.sequence")

    @property
    def standing_events(self) -> list["Event"]:
        """What happened, in order: corrected entries and doses taken back left out."""
        replaced = {event.corrects for event in self.events if event.corrects}
        stand = [
            event
            for event in self.events
            if event.id not in replaced and not (event.corrects and not event.amount_kg)
        ]
        return sorted(stand, key=lambda event: event.happened_at)


class Callout(Written):
    """A line as it was typed. Its id comes from the device, so a repeat is not a second one."""

    __tablename__ = "callouts"

    id: Mapped[str] = mapped_column(primary_key=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    text: Mapped[str]
    heard_at: Mapped[datetime]


class Reading(Written):
    """One value at one point, as given. A correction or a withdrawal is a new row.

    `corrects`: the row this one replaces. `withdraws`: the row this one takes back (then
    `given_value` repeats it and the row carries no reading of its own).
    """

    __tablename__ = "readings"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    callout_id: Mapped[str | None] = mapped_column(ForeignKey("callouts.id"))
    point: Mapped[str]
    given_value: Mapped[float]
    given_unit: Mapped[str]
    source: Mapped[str]
    quality: Mapped[str]
    taken_at: Mapped[datetime]
    recorded_at: Mapped[datetime]
    corrects: Mapped[str | None] = mapped_column(ForeignKey("readings.id"))
    withdraws: Mapped[str | None] = mapped_column(ForeignKey("readings.id"))
    part: Mapped[str | None] = mapped_column(default=None)
    """Which part of a plant of many parts it was read on; None on a system of one."""


class ObservationRow(Written):
    """Something seen or tested, or taken back (`seen` false). The latest row of a key counts."""

    __tablename__ = "observations"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    key: Mapped[str]
    seen: Mapped[bool]
    noted_at: Mapped[datetime]


class Event(Written):
    """Something done to the system that readings must settle after."""

    __tablename__ = "events"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    kind: Mapped[str]
    happened_at: Mapped[datetime]
    amount_kg: Mapped[float | None] = mapped_column(default=None)
    corrects: Mapped[str | None] = mapped_column(default=None)
    """The event this one stands in place of, at the same moment."""
    ready_at: Mapped[datetime | None] = mapped_column(default=None)
    """From when it may be read again; None where nothing has to settle after it."""
    note: Mapped[str | None] = mapped_column(default=None)
    """What it was, in words, where its kind does not say it."""


class Verdict(Base):
    """A verdict as it was given: the request, the whole answer as printed, never rewritten, and
    what later judgements need of it in core units (None on those from before it was kept)."""

    __tablename__ = "verdicts"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    given_at: Mapped[datetime]
    version: Mapped[str]
    request: Mapped[dict[str, Any]]
    answer: Mapped[dict[str, Any]]
    kept: Mapped[dict[str, Any] | None]


class SlipRow(Written):
    """A slip of the Pocket sent into a visit: what was entered, as it was, in which units."""

    __tablename__ = "slips"

    sequence: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    visit_id: Mapped[str] = mapped_column(ForeignKey("visits.id"), index=True)
    slip: Mapped[str]
    entries: Mapped[dict[str, Any]]
    units: Mapped[str]
    sent_at: Mapped[datetime]


Index("visits_by_state", Visit.closed_at, Visit.opened_at)
Index("visits_by_system", Visit.system_id, Visit.closed_at)
Index("visits_drift", Visit.drift)
Index("visits_closed", Visit.closed_at)
Index("visits_due", Visit.opened_at, Visit.due_on)
