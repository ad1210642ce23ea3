"""The workshop itself: its card, and all of its data down and up."""

import shutil
import tempfile
from pathlib import Path

from fastapi import APIRouter, Request
from starlette.background import BackgroundTask
from starlette.concurrency import run_in_threadpool
from starlette.responses import FileResponse

from nudge.api.access import WorkshopIn
from nudge.api.files import answers_file
from nudge.core.language.errors import CoreError
from nudge.presenters.copies import CopyOut, copies_out
from nudge.presenters.workshop_card import WorkshopChange, WorkshopOut, workshop_out

SQLITE = "application/vnd.sqlite3"
MOST_COPY_BYTES = 4_000_000_000

router = APIRouter(prefix="/api/workshop")


@router.get("")
def workshop(workshop: WorkshopIn) -> WorkshopOut:
    """The workshop's card, line by line."""
    return workshop_out(workshop.card.lines())


@router.patch("")
def change(workshop: WorkshopIn, body: WorkshopChange) -> WorkshopOut:
    """Change lines of the card."""
    workshop.card.write(body.changes)
    return workshop_out(workshop.card.lines())


@router.get("/copies")
def copies(workshop: WorkshopIn) -> list[CopyOut]:
    """The copies that are kept on this machine, the newest first."""
    return copies_out(workshop.keeping.copies())


@router.get(
    "/all",
    response_class=FileResponse,
    responses=answers_file(SQLITE, "Everything, as one SQLite file."),
)
def all_of_it(workshop: WorkshopIn) -> FileResponse:
    """Everything as one file, proved: what `nudge backup` makes."""
    made = workshop.keeping.all_of_it()
    gone = BackgroundTask(shutil.rmtree, made.parent, ignore_errors=True)
    return FileResponse(made, media_type=SQLITE, filename=made.name, background=gone)


@router.put("/all", status_code=200)
async def put_in_place(workshop: WorkshopIn, request: Request) -> list[CopyOut]:
    """Everything becomes what a copy holds, whole or not at all; what was here is set aside."""
    with tempfile.TemporaryDirectory(prefix="nudge-up-") as folder:
        path, size = Path(folder) / "copy.sqlite3", 0
        with path.open("wb") as file:
            async for part in request.stream():
                size += len(part)
                if size > MOST_COPY_BYTES:
                    raise CoreError("copy", "That is over 4 GB. Use nudge restore on this machine.")
                file.write(part)
        await run_in_threadpool(workshop.put_in_place, path)
    return copies_out(workshop.keeping.copies())
