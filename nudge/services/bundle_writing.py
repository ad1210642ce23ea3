"""Writing what a bundle brings: rows that are not here yet, each under its own id."""

import base64
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
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


def write_bundle(session: Session, given: Mapping[str, Any], now: datetime) -> TakenIn:
    here = {row["id"] for row in given["visits"] if session.get(Visit, row["id"]) is not None}
    new_systems = 0
    for key in ("sites", "systems", "cylinders"):
        for row in given[key]:
            if session.get(TABLES[key], row["id"]) is None:
                made = _row(key, row)
                if key == "cylinders":
                    made.retired_at = now  # type: ignore[attr-defined]
                session.add(made)
                new_systems += key == "systems"
        session.flush()
    for row in given["visits"]:
        if row["id"] not in here:
            session.add(_row("visits", row))
    session.flush()
    for key in (*OF_SYSTEM, "movements", "weighings"):
        _write_missing(session, key, given[key])
    for key in OF_VISIT:
        for row in given[key]:
            if row["visit_id"] not in here:
                session.add(_row(key, row))
                session.flush()
    for row in given["channels"]:
        if row["visit_id"] not in here:
            _write_channel(session, row)
    return TakenIn(new_systems, len(given["visits"]) - len(here), len(here))


def _write_missing(session: Session, key: str, rows: Sequence[Mapping[str, Any]]) -> None:
    kept = any_rows.ids_of(session, TABLES[key])
    for row in rows:
        if row["id"] not in kept:
            session.add(_row(key, row))
            session.flush()


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
