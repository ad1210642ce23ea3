"""Taking a bundle in, apart from the server: rehearsed on an empty Nudge, every page drawn.

A process of its own reads, checks and writes, so that a hostile file can neither hold the server
up nor take its memory. What passes every check and still breaks a page is refused here.
"""

import asyncio
import json
import os
import re
import resource
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from fastapi import FastAPI
from starlette.types import Message, Scope

from nudge.main import create_app
from nudge.services.bundle_writing import TakenIn
from nudge.services.bundles import Bundles, NotABundle
from nudge.services.clock import system_clock
from nudge.services.workshop import Workshop
from nudge.store.database import Database

MOST_MEMORY = 2_000_000_000
"""Address space of the process [bytes]: the judge's libraries alone map half of it."""
LEFT_OUT = ("/stream", "/workshop/all", "/guest/", "/{path", "/refrigerants", "/photos/")
"""Routes that do not draw what a bundle brings."""
UNITS = ("ip", "si")
PAPER = ".pdf"
"""Ends what is drawn once, in the first units: it costs ten times what a page does."""


def take_in(file: Path, data_folder: Path, only_looks: bool) -> dict[str, Any]:
    """What a bundle brings (and, unless it `only_looks`, brought), or why nothing was written."""
    os.nice(5)  # whoever is served comes first, and on a full machine it still comes to its end
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    data = file.read_bytes()
    database = Database(data_folder)
    try:
        bundles = Bundles(database, system_clock)
        seen, reasons = bundles.look(data)
        reasons = reasons or list(_broken_pages(data))
        if not reasons and not only_looks:
            seen = bundles.take_in(data)
    except NotABundle as refused:
        seen, reasons = TakenIn(0, 0, 0), list(refused.reasons)
    finally:
        database.close()
    return {
        "systems": seen.systems,
        "visits": seen.visits,
        "already_here": seen.already_here,
        "reasons": reasons,
    }


def _broken_pages(data: bytes) -> Iterator[str]:
    """Every page of everything in a bundle, drawn once; which of them cannot be."""
    with tempfile.TemporaryDirectory(prefix="nudge-rehearsal-") as folder:
        database = Database(Path(folder))
        workshop = Workshop(database)
        try:
            workshop.bundles.take_in(data)
            app = create_app(workshop)
            for path in _pages(app, json.loads(data)):
                status, said = asyncio.run(_ask(app, path))
                if status >= 500:
                    yield f"{path.partition('?')[0]} cannot be drawn from it ({said[:120]})."
            for visit in json.loads(data)["plants"]:
                yield from _moves_on(workshop, str(visit["visit_id"]))
        finally:
            database.close()


def _pages(app: FastAPI, given: dict[str, Any]) -> Iterator[str]:
    """Every GET of the API with its blanks filled in from the bundle."""
    ids = {
        "visit_id": [row["id"] for row in given["visits"]],
        "system_id": [row["id"] for row in given["systems"]],
    }
    for path, methods in app.state.paths.items():
        if "GET" not in methods or any(part in path for part in LEFT_OUT):
            continue
        blanks = re.findall(r"{(\w+)}", path)
        if len(blanks) > 1 or any(blank not in ids for blank in blanks):
            continue
        for key in ids[blanks[0]] if blanks else [""]:
            filled = path.replace(f"{{{blanks[0]}}}", key) if blanks else path
            for units in UNITS[:1] if path.endswith(PAPER) else UNITS:
                yield f"{filled}?units={units}&text=a"


async def _ask(app: FastAPI, path: str) -> tuple[int, str]:
    """The status of a GET, and what went wrong where it broke."""
    where, _, query = path.partition("?")
    scope: Scope = {
        "type": "http", "method": "GET", "path": where, "raw_path": where.encode(),
        "query_string": query.encode(), "headers": [(b"host", b"localhost")],
        "client": ("127.0.0.1", 1), "server": ("127.0.0.1", 80), "scheme": "http",
        "http_version": "1.1", "root_path": "",
    }  # fmt: skip
    status = 500

    async def receive() -> Message:
        return {"type": "http.request", "body": b"", "more_body": False}

    async def send(message: Message) -> None:
        nonlocal status
        if message["type"] == "http.response.start":
            status = int(message["status"])

    try:
        await app(scope, receive, send)
    except Exception as broken:  # whatever it is, this bundle must not bring it in
        return 500, f"{type(broken).__name__}: {broken}"
    return status, ""


def _moves_on(workshop: Workshop, visit_id: str) -> Iterator[str]:
    """A simulated system that comes with a visit goes on from where it stood."""
    try:
        workshop.yard.play(visit_id, 0.2)
    except Exception as broken:
        yield f"The simulated system of visit “{visit_id[:40]}” cannot go on ({broken})."
