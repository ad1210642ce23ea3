"""Opening the database: a folder that can be written, the right schema, one writer."""

import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from sqlalchemy import Engine, create_engine, event, inspect, text
from sqlalchemy.orm import Session, sessionmaker

SCHEMA = "0009"
"""The newest migration. A test holds it to Alembic's own head."""

_MIGRATIONS = Path(__file__).parent / "migrations"


class CannotOpen(RuntimeError):
    """The data folder or its database cannot be used. The message says why and what to do."""


class Database:
    """One SQLite file, and sessions on it."""

    def __init__(self, folder: Path) -> None:
        """Open (and, if need be, create or migrate) the database in `folder`.

        Raises: CannotOpen, for a folder that cannot be written or a newer database.
        """
        _check_writable(folder)
        self.path = folder / "nudge.sqlite3"
        self.engine = _engine(self.path)
        _bring_up_to_date(self.engine, folder)
        self._writer = self.engine.execution_options(nudge_write=True)
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A session for looking. Whatever it changes is dropped."""
        with self._sessions() as session:
            yield session

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """A short transaction that takes the write lock first; commits whole or not at all."""
        with self._sessions(bind=self._writer) as session, session.begin():
            yield session

    def close(self) -> None:
        self.engine.dispose()


def _check_writable(folder: Path) -> None:
    try:
        folder.mkdir(parents=True, exist_ok=True)
        probe = folder / f".nudge-{os.getpid()}"
        probe.write_text("")
        probe.unlink()
    except OSError as refused:
        raise CannotOpen(
            f"The data folder {folder} cannot be written ({refused.strerror or refused}). "
            "Give Nudge a folder it may write in NUDGE_DATA."
        ) from refused


def _engine(path: Path) -> Engine:
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 10})

    @event.listens_for(engine, "connect")
    def _on_connect(connection: Any, record: Any) -> None:
        connection.isolation_level = None  # SQLAlchemy's own BEGIN, below, is the only one
        connection.create_function("folded", 1, _folded, deterministic=True)
        for pragma in ("journal_mode=WAL", "foreign_keys=ON", "synchronous=FULL"):
            connection.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _on_begin(connection: Any) -> None:
        writes = connection.get_execution_options().get("nudge_write")
        connection.exec_driver_sql("BEGIN IMMEDIATE" if writes else "BEGIN")

    return engine


def _folded(text: str | None) -> str:
    """SQLite folds the case of ASCII alone; names come in every script."""
    return "" if text is None else text.casefold()


def _bring_up_to_date(engine: Engine, folder: Path) -> None:
    try:
        with engine.connect() as connection:
            found = None
            if inspect(connection).has_table("alembic_version"):
                found = connection.scalar(text("SELECT version_num FROM alembic_version"))
    except Exception as broken:
        raise CannotOpen(
            f"{folder / 'nudge.sqlite3'} is not a database Nudge can read ({broken}). Move it "
            "aside, or give another folder in NUDGE_DATA."
        ) from broken
    if found == SCHEMA:
        return
    if found is not None and found > SCHEMA:
        raise CannotOpen(
            f"The data in {folder} was written by a newer Nudge (schema {found}; this one knows "
            f"{SCHEMA}). Run the newer Nudge, or give another folder in NUDGE_DATA. Nothing was "
            "changed."
        )
    migrate(engine)


def migrate(engine: Engine, revision: str = "head") -> None:
    """Run the migrations up to `revision`."""
    from alembic import command  # slow to import, and only needed when the schema moves
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, revision)
