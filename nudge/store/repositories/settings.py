"""The workshop's choices."""

from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from nudge.store.tables import SettingRow

_ALL = select(SettingRow)


def all_settings(session: Session) -> dict[str, str]:
    """Every setting that was ever chosen, by key."""
    return {row.key: row.value for row in session.scalars(_ALL)}


def choose(session: Session, key: str, value: str, now: datetime) -> None:
    """Write one setting."""
    row = session.get(SettingRow, key)
    if row is None:
        session.add(SettingRow(key=key, value=value, updated_at=now))
    else:
        row.value, row.updated_at = value, now
