"""Writing what a bundle brings: rows that are not here yet, each under its own id."""

import base64
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any

from sqlalchemy import inspect
from sqlalchemy.orm import Session

from nudge.services.bundle_shape import (
    OF_SYSTEM,
    OF_VISIT,
    TABLES,
    kind_of,
)
from nudge.store.live_tables import Channel, Placement, SampleRow
from nudge.store.repositories import rows as any_rows
from nudge.store.repositories.removal import DRAWN
from nudge.store.repositories.zones import draw_by_logs
from nudge.store.tables import (
    Base,
    Visit,
)


@dataclass(frozen=True, slots=True)
class TakenIn:
    """What an import brought, and what was here already."""

    systems: int
    visits: int
    already_here: int
    brought: dict[str, list[str]] = field(default_factory=dict)
    """By table, the ids of the rows that were added."""

    @property
    def said(self) -> str:
        """In words."""
        return f"{self.visits} visits, {self.systems} systems."


def write_bundle(session: Session, given: Mapping[str, Any], now: datetime) -> TakenIn:
    """Write what is not here yet; nothing that is here is changed."""
    here = {row["id"] for row in given["visits"] if session.get(Visit, row["id"]) is not None}
    brought: dict[str, list[str]] = {}
    for key in ("sites", "systems", "cylinders"):
        for row in given[key]:
            if session.get(TABLES[key], row["id"]) is None:
                made = _row(key, row)
                if key == "cylinders":
                    made.retired_at = now  # type: ignore[attr-defined]
                session.add(made)
                brought.setdefault(key, []).append(row["id"])
        session.flush()
    new = [row for row in given["visits"] if row["id"] not in here]
    _write(session, "visits", new, brought)
    for key in (*OF_SYSTEM, "movements", "weighings"):
        kept = any_rows.ids_of(session, TABLES[key])
        _write(session, key, [row for row in given[key] if row["id"] not in kept], brought)
    for key in OF_VISIT:
        _write(session, key, [row for row in given[key] if row["visit_id"] not in here], brought)
    for row in given["channels"]:
        if row["visit_id"] not in here:
            _write_channel(session, row)
    if drawn := draw_by_logs(session):
        brought[DRAWN] = drawn
    systems, visits = len(brought.get("systems", ())), len(brought.get("visits", ()))
    return TakenIn(systems, visits, len(here), brought)


def _write(
    session: Session,
    key: str,
    rows: Sequence[Mapping[str, Any]],
    brought: dict[str, list[str]],
) -> None:
    """Rows in their order, one after the other: their numbers follow it."""
    for row in rows:
        session.add(_row(key, row))
        session.flush()
    names = [str(row["id"]) for row in rows if "id" in row]
    if names:
        brought[key] = names


def _write_channel(session: Session, row: Mapping[str, Any]) -> None:
    channel = Channel(
        visit_id=row["visit_id"],
        key=row["key"],
        label=row["label"],
        source=row["source"],
        created_at=_moment(row["created_at"]),
    )
    session.add(channel)
    session.flush()
    for placed in row["placements"]:
        values = {**placed, "recorded_at": _moment(placed["recorded_at"])}
        session.add(Placement(channel_id=channel.id, **values))
        session.flush()
    session.add_all(
        SampleRow(channel_id=channel.id, at_ms=at, value=value)
        for at, value in zip(row["at_ms"], row["values"], strict=True)
    )
    session.flush()


def _row(key: str, row: Mapping[str, Any]) -> Base:
    table = TABLES[key]
    values: dict[str, Any] = {}
    for name, column in inspect(table).columns.items():
        if name not in row:
            if name == "written_by":
                values[name] = None  # not the device that takes the bundle in
            continue
        value = row[name]
        kind = kind_of(column.type)
        if value is not None and kind is datetime:
            value = _moment(value)
        elif value is not None and kind is date:
            value = date.fromisoformat(value)
        elif value is not None and kind is bytes:
            value = base64.b64decode(value)
        values[name] = value
    return table(**values)


def _moment(text: str) -> datetime:
    return datetime.fromisoformat(text)
