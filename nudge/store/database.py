"""Opening the database: a folder that can be written, the right schema, one writer."""

import json
import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from threading import Lock
from typing import Any

from sqlalchemy import Engine, create_engine, event, inspect, text
from sqlalchemy.orm import Session, sessionmaker

from nudge.store.copies import BadCopy, copy_live
from nudge.store.entries import note_entry
from nudge.store.refusals import Busy, FileMoved, refusals_in_words

SCHEMA = "0019"
"""The newest migration. A test holds it to Alembic's own head."""

_MIGRATIONS = Path(__file__).parent / "migrations"


FILE, BACKUPS = "nudge.sqlite3", "copies"
"""The database and the folder of its copies, in the data folder."""


CACHE_KB = 256
"""Pages each connection keeps: a server under load has fifteen, and the disk's cache is shared."""


class CannotOpen(RuntimeError):
    """The data folder or its database cannot be used. The message says why and what to do."""


class Database:
    """One SQLite file, and sessions on it."""

    def __init__(self, folder: Path) -> None:
        """Open (and, if need be, create or migrate) the database in `folder`.

        Raises: CannotOpen, for a folder that cannot be written or a newer database.
        """
        _check_writable(folder)
        self.path = folder / FILE
        _keep_private(folder, self.path)
        self.engine = _engine(self.path)
        _bring_up_to_date(self.engine, folder)
        self._file = _identity(self.path)
        self._queue = Lock()
        self._writer = self.engine.execution_options(nudge_write="FULL")
        self._follower = self.engine.execution_options(nudge_write="NORMAL")
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A session for looking. Whatever it changes is dropped."""
        with self._sessions() as session:
            yield session

    @contextmanager
    def writing(self, is_entry: bool = True) -> Iterator[Session]:
        """A short transaction, one at a time; commits whole or not at all. `is_entry` is False for
        what follows from an entry that was written before: it does not wait for the disk, and a
        power cut may take it, for it can be worked out again.

        Raises: CannotWrite, where others write for too long or the disk refuses;
        SameIdOtherContent.
        """
        with self._alone(), refusals_in_words():
            if not self.is_in_place:
                raise FileMoved(str(self.path))
            bind = self._writer if is_entry else self._follower
            with self._sessions(bind=bind) as session, session.begin():
                if is_entry:
                    note_entry(session)
                yield session

    @contextmanager
    def _alone(self) -> Iterator[None]:
        """This process's writers stand in a queue, so that none is turned away by another."""
        if not self._queue.acquire(timeout=PATIENCE_S):
            raise Busy
        try:
            yield
        finally:
            self._queue.release()

    def become(self, other: Path) -> None:
        """Take on everything another database file of this schema holds, whole or not at all."""
        with self._alone(), refusals_in_words(), closing(sqlite3.connect(other)) as given:
            self.engine.dispose()
            with closing(sqlite3.connect(self.path, timeout=WAIT_S)) as here:
                given.backup(here)
                here.execute("PRAGMA journal_mode=WAL")

    @property
    def is_in_place(self) -> bool:
        """Whether the file that is open is still the one in the folder."""
        return _identity(self.path) == self._file

    def close(self) -> None:
        self.engine.dispose()


WAIT_S = 10.0
"""How long another process that writes is waited for."""
PATIENCE_S = 10.0
"""How long a writer waits for its turn."""
FOLDER_MODE, FILE_MODE = 0o700, 0o600
"""Nobody else on this machine reads a shop's numbers."""


def _keep_private(folder: Path, path: Path) -> None:
    """Modes of the folder and of the database; SQLite gives its side files the database's own."""
    path.touch(mode=FILE_MODE)
    folder.chmod(FOLDER_MODE)
    path.chmod(FILE_MODE)


def _identity(path: Path) -> tuple[int, int] | None:
    try:
        found = path.stat()
    except OSError:
        return None
    return found.st_dev, found.st_ino


def _check_writable(folder: Path) -> None:
    try:
        folder.mkdir(mode=FOLDER_MODE, parents=True, exist_ok=True)
        probe = folder / f".nudge-{os.getpid()}"
        probe.write_text("")
        probe.unlink()
    except OSError as refused:
        raise CannotOpen(
            f"The data folder {folder} cannot be written ({refused.strerror or refused}). "
            "Give Nudge a folder it may write in NUDGE_DATA."
        ) from refused


def _engine(path: Path) -> Engine:
    engine = create_engine(
        f"sqlite:///{path}", connect_args={"timeout": WAIT_S}, json_deserializer=_plain
    )

    @event.listens_for(engine, "connect")
    def _on_connect(connection: Any, record: Any) -> None:
        connection.isolation_level = None  # SQLAlchemy's own BEGIN, below, is the only one
        connection.create_function("folded", 1, _folded, deterministic=True)
        for pragma in (
            "journal_mode=WAL",
            "foreign_keys=ON",
            "synchronous=FULL",
            f"cache_size=-{CACHE_KB}",
        ):
            connection.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _on_begin(connection: Any) -> None:
        waits = connection.get_execution_options().get("nudge_write")
        if waits:
            connection.exec_driver_sql(f"PRAGMA synchronous={waits}")
        connection.exec_driver_sql("BEGIN IMMEDIATE" if waits else "BEGIN")

    return engine


def _plain(text: str) -> Any:
    """JSON of a column; None where it is damaged, so that what is sound beside it still loads."""
    try:
        return json.loads(text)
    except ValueError:
        return None


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
    if found is not None:
        _copy_before(folder, found)
    migrate(engine)


def _copy_before(folder: Path, schema: str) -> None:
    """A copy of what stands there, before its tables change. Raises: CannotOpen."""
    kind = f"before-{SCHEMA}"
    try:
        copy_live(folder / FILE, folder / BACKUPS / f"{kind}-from-{schema}.sqlite3")
    except (BadCopy, OSError, sqlite3.Error) as failed:
        raise CannotOpen(
            f"The data in {folder} has to change its form, and no copy of it could be made first: "
            f"{failed} Nothing was changed."
        ) from failed


def migrate(engine: Engine, revision: str = "head") -> None:
    """Run the migrations up to `revision`."""
    from alembic import command  # slow to import, and only needed when the schema moves
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, revision)
