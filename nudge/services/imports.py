"""Reading a file into a visit: looked at first, read in the background, whole or not at all.

The file waits in the data folder. Its channels are hidden until all of it is in; cancelled,
failed or cut short by a stopped server, what had been written is taken out again and the
import says so.
"""

import json
import shutil
from collections.abc import AsyncIterator
from dataclasses import asdict, dataclass, replace
from hashlib import sha256
from pathlib import Path
from threading import Event as Signal
from threading import Lock, Thread
from typing import Any

from nudge.core.language.errors import CoreError
from nudge.instruments.file_look import look_at
from nudge.instruments.files import FileLook, FileMapping, LogFile, Piece
from nudge.instruments.guessing import Column
from nudge.services.clock import Clock
from nudge.services.errors import Closed, NotFound
from nudge.services.stream import Stream
from nudge.store.database import FOLDER_MODE, Database
from nudge.store.live_tables import Channel, ColumnMapping, Import, Placement
from nudge.store.repositories import live
from nudge.store.repositories import visits as repository

MOST_BYTES = 500_000_000
SPARE_BYTES = 200_000_000
TELL_EVERY = 5


@dataclass(frozen=True, slots=True)
class LookedAt:
    """A file that waits to be read: what it looks like, and whether it was seen before."""

    import_id: str
    look: FileLook
    remembered: bool


class Imports:
    """The use cases of file import."""

    def __init__(self, database: Database, clock: Clock, stream: Stream) -> None:
        self._database, self._clock, self._stream = database, clock, stream
        self._folder = database.path.parent / "imports"
        self._lock = Lock()
        self._cancelled: dict[str, Signal] = {}
        self._threads: list[Thread] = []

    async def receive(
        self,
        visit_id: str,
        import_id: str,
        file_name: str,
        declared: int | None,
        body: AsyncIterator[bytes],
        zone_minutes: int,
    ) -> LookedAt:
        """Take a file in and look at it.

        Raises: NotFound, Closed; CoreError, for one too large, a full disk, or no table.
        """
        self._check_open(visit_id)
        path = self._path(import_id)
        size = await take_in(path, declared, body)
        try:
            look = look_at(path, zone_minutes)
            if look.mapping.time_form == "elapsed":
                now_ms = round(self._clock().timestamp() * 1000)
                look = replace(look, mapping=replace(look.mapping, starts_ms=now_ms))
        except CoreError:
            path.unlink(missing_ok=True)
            raise
        with self._database.writing() as session:
            if session.get(Import, import_id) is None:
                session.add(
                    Import(
                        id=import_id,
                        visit_id=visit_id,
                        file_name=file_name[:120],
                        state="waiting",
                        bytes_in_all=size,
                        started_at=self._clock(),
                    )
                )
            kept = session.get(ColumnMapping, _heading_key(look))
            remembered = kept is not None and _fits(kept.mapping, look)
        if kept is not None and remembered:
            again = replace(mapping_of(kept.mapping), starts_ms=look.mapping.starts_ms)
            look = FileLook(look.heading, look.rows, again, (), look.titles)
        return LookedAt(import_id, look, remembered)

    def start(self, visit_id: str, import_id: str, mapping: FileMapping) -> Import:
        """Read the file in the background. Raises: NotFound, Closed; CoreError, for the mapping."""
        self._check_open(visit_id)
        log = LogFile(self._path(import_id), mapping)
        next(log.pieces(), None)  # a mapping that fits nothing says so now
        with self._database.writing() as session:
            row = _import(session.get(Import, import_id), visit_id, import_id)
            if row.state != "waiting":
                return row
            row.state, row.started_at = "reading", self._clock()
            ids = {}
            for info in log.channels:
                channel = Channel(
                    visit_id=visit_id,
                    key=f"{import_id}:{info.key}",
                    label=info.label,
                    source=live.HIDDEN,
                    created_at=self._clock(),
                )
                session.add(channel)
                session.flush()
                ids[info.key] = (channel.id, info.point)
            look = look_at(self._path(import_id))
            session.merge(
                ColumnMapping(
                    heading=_heading_key(look), mapping=asdict(mapping), updated_at=self._clock()
                )
            )
        signal = Signal()
        with self._lock:
            self._cancelled[import_id] = signal
        thread = Thread(
            target=self._read,
            args=(visit_id, import_id, log, ids, signal),
            daemon=True,
            name=f"import-{import_id}",
        )
        self._threads.append(thread)
        thread.start()
        return row

    def cancel(self, visit_id: str, import_id: str) -> Import:
        """Stop reading; what was read is taken out again."""
        with self._lock:
            signal = self._cancelled.get(import_id)
        if signal is not None:
            signal.set()
        with self._database.writing() as session:
            row = _import(session.get(Import, import_id), visit_id, import_id)
            if row.state == "waiting":
                row.state, row.ended_at = "cancelled", self._clock()
                self._path(import_id).unlink(missing_ok=True)
        return self.one(visit_id, import_id)

    def one(self, visit_id: str, import_id: str) -> Import:
        with self._database.reading() as session:
            return _import(session.get(Import, import_id), visit_id, import_id)

    def of_visit(self, visit_id: str) -> list[Import]:
        """Every import of a visit, latest first."""
        with self._database.reading() as session:
            return list(live.imports(session, visit_id))

    def recover(self) -> None:
        """Take out what an import that was cut short had written. Run once at the start."""
        with self._database.reading() as session:
            cut = live.cut_short(session)
        for row in cut:
            self._take_out(row.visit_id, row.id)
            share = 100 * row.bytes_read // max(row.bytes_in_all, 1)
            self._end(
                row.visit_id,
                row.id,
                "failed",
                f"The server stopped when {share} % had been read. None of it was kept; "
                "import the file again.",
            )
        for leftover in self._folder.glob("*.part") if self._folder.is_dir() else ():
            leftover.unlink(missing_ok=True)

    def close(self) -> None:
        for signal in list(self._cancelled.values()):
            signal.set()
        for thread in self._threads:
            thread.join(timeout=10)

    def _read(
        self,
        visit_id: str,
        import_id: str,
        log: LogFile,
        ids: dict[str, tuple[int, str]],
        signal: Signal,
    ) -> None:
        try:
            piece = Piece()
            first = None
            for number, piece in enumerate(log.pieces()):
                if signal.is_set():
                    break
                rows = [(ids[s.channel][0], s.at_ms, s.value) for s in piece.samples]
                earliest = min((s.at_ms for s in piece.samples), default=None)
                first = min((t for t in (first, earliest) if t is not None), default=None)
                self._write(import_id, rows, piece)
                if number % TELL_EVERY == 0:
                    self._tell(visit_id, import_id)
            if signal.is_set():
                self._take_out(visit_id, import_id)
                self._end(visit_id, import_id, "cancelled", "Cancelled. None of it was kept.")
            else:
                self._show(import_id, ids, first or 0)
                with self._database.writing() as session:
                    live.roll_up(session, [channel_id for channel_id, _ in ids.values()])
                self._end(visit_id, import_id, "done", _words(piece))
        except Exception as error:  # whatever went wrong, nothing half done is left behind
            self._take_out(visit_id, import_id)
            self._end(visit_id, import_id, "failed", f"{error} None of it was kept.")
        finally:
            self._path(import_id).unlink(missing_ok=True)
            with self._lock:
                self._cancelled.pop(import_id, None)

    def _write(self, import_id: str, rows: list[tuple[int, int, float]], piece: Piece) -> None:
        with self._database.writing() as session:
            added = live.add_samples(session, rows)
            row = session.get(Import, import_id)
            if row is not None:
                row.readings += added
                row.bytes_read, row.refused = piece.bytes_read, piece.refused

    def _show(self, import_id: str, ids: dict[str, tuple[int, str]], first_ms: int) -> None:
        with self._database.writing() as session:
            for key, (channel_id, point) in ids.items():
                channel = session.get_one(Channel, channel_id)
                channel.source = "imported"
                session.add(
                    Placement(
                        id=f"{import_id}:{key}",
                        channel_id=channel_id,
                        point=point,
                        counts=True,
                        offset=0.0,
                        since_ms=first_ms,
                        how="imported",
                        recorded_at=self._clock(),
                    )
                )

    def _take_out(self, visit_id: str, import_id: str) -> None:
        """Remove everything a hidden import wrote, a piece at a time."""
        with self._database.reading() as session:
            ids = live.hidden_channels(session, visit_id, f"{import_id}:")
        for channel_id in ids:
            with self._database.writing() as session:
                live.drop_channel(session, channel_id)

    def _end(self, visit_id: str, import_id: str, state: str, message: str) -> None:
        with self._database.writing() as session:
            row = session.get(Import, import_id)
            if row is not None:
                row.state, row.message, row.ended_at = state, message, self._clock()
                if state != "done":
                    row.readings = 0
        self._tell(visit_id, import_id)

    def _tell(self, visit_id: str, import_id: str) -> None:
        with self._database.writing() as session:
            row = session.get(Import, import_id)
            if row is not None:
                body: dict[str, Any] = {"import": import_id, "state": row.state}
                entry = f"{import_id}:{row.state}:{row.bytes_read}"
                if not live.written(session, visit_id, entry):
                    self._stream.note(session, visit_id, entry, "import", body, self._clock())
        self._stream.tell(visit_id)

    def _check_open(self, visit_id: str) -> None:
        with self._database.reading() as session:
            row = repository.head(session, visit_id)
            if row is None:
                raise NotFound("visit", visit_id)
            if row.closed_at is not None:
                raise Closed

    def _path(self, import_id: str) -> Path:
        """Where the file waits; the name is a digest, so an id cannot point elsewhere."""
        return self._folder / f"{sha256(import_id.encode()).hexdigest()[:32]}.part"


async def take_in(path: Path, declared: int | None, body: AsyncIterator[bytes]) -> int:
    """Write a file down as it comes; answers how large it was [bytes].

    Raises: CoreError, for one too large, or a disk without room; nothing of it is left then.
    """
    _check_size(declared or 0)
    path.parent.mkdir(mode=FOLDER_MODE, parents=True, exist_ok=True)
    if shutil.disk_usage(path.parent).free < (declared or 0) + SPARE_BYTES:
        raise CoreError("file", "There is too little room on the disk for it. Free some first.")
    size = 0
    try:
        with path.open("wb") as file:
            async for chunk in body:
                size += len(chunk)
                _check_size(size)
                file.write(chunk)
    except CoreError:
        path.unlink(missing_ok=True)
        raise
    return size


def mapping_of(data: dict[str, Any]) -> FileMapping:
    """A mapping back from its data."""
    return FileMapping(**{**data, "columns": tuple(Column(**c) for c in data["columns"])})


def _fits(data: dict[str, Any], look: FileLook) -> bool:
    return {c["name"] for c in data["columns"]} <= set(look.heading)


def _heading_key(look: FileLook) -> str:
    return sha256(json.dumps([look.mapping.shape, *look.heading]).encode()).hexdigest()


def _check_size(size: int) -> None:
    if size > MOST_BYTES:
        raise CoreError(
            "file",
            f"It is over {MOST_BYTES // 1_000_000} MB, the most Nudge reads at once. Split it, by "
            "day for choice. Nothing was kept.",
        )


def _import(row: Import | None, visit_id: str, import_id: str) -> Import:
    if row is None or row.visit_id != visit_id:
        raise NotFound("import", import_id)
    return row


def _words(piece: Piece) -> str:
    if not piece.refused:
        return "All of it was read."
    reasons = " ".join(piece.reasons)
    return f"{piece.refused:,} values or lines were left out. {reasons}"
