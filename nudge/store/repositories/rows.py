"""Rows of any table alike, for what carries whole books."""

from collections.abc import Sequence

from sqlalchemy import inspect, select
from sqlalchemy.orm import Session
from sqlalchemy.orm.attributes import set_committed_value

from nudge.store.tables import Base


def rows_of(session: Session, table: type[Base], key: str, ids: Sequence[str]) -> list[Base]:
    """Rows whose column `key` is one of `ids`, in the order they were written."""
    columns = inspect(table).columns
    order = columns["sequence"] if "sequence" in columns else inspect(table).primary_key[0]
    return list(session.scalars(select(table).where(columns[key].in_(ids)).order_by(order)))


def ids_of(session: Session, table: type[Base]) -> set[str]:
    """The ids of every row of a table."""
    return set(session.scalars(select(inspect(table).columns["id"])))


def show_only(row: Base, name: str, value: object) -> None:
    """What a loaded row shows under a name from now on; nothing is written by it."""
    set_committed_value(row, name, value)
