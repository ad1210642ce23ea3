"""Notes, pictures and links of a visit over the wire."""

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict
from nudge.core.checks.forms import SUBSYSTEMS
from nudge.presenters.book import Id, Text
from nudge.presenters.visits import VisitOut
from nudge.services.rows import Note, Photo

Short = Annotated[str, Field(strict=True, max_length=500)]


class NewNote(Strict):
    """A note; `corrects` puts it in another's place, and an empty text takes that back."""

    id: Id
    subsystem: Name
    text: Text
    corrects: Id | None = None


class NewLinkIn(Strict):
    hours: Number = 4


class GuestNote(Strict):
    id: Id
    text: Text


class NoteOut(BaseModel):
    id: str
    subsystem: str
    subsystem_label: str
    text: str
    written_from: str
    written_at: datetime


class PhotoOut(BaseModel):
    id: str
    subsystem: str
    subsystem_label: str
    caption: str
    width: int
    height: int
    taken_at: datetime


class LinkOut(BaseModel):
    id: str
    expires_at: datetime


def note_out(row: Note) -> NoteOut:
    return NoteOut(
        id=row.id,
        subsystem=row.subsystem,
        text=row.text,
        subsystem_label=SUBSYSTEMS.get(row.subsystem, row.subsystem),
        written_from=row.written_from,
        written_at=row.written_at,
    )


def photo_out(row: Photo) -> PhotoOut:
    return PhotoOut(
        id=row.id,
        subsystem=row.subsystem,
        caption=row.caption,
        width=row.width,
        subsystem_label=SUBSYSTEMS.get(row.subsystem, row.subsystem),
        height=row.height,
        taken_at=row.taken_at,
    )


class GuestOut(BaseModel):
    """The visit as a guest sees it."""

    visit: VisitOut
    notes: list[NoteOut]
    expires_at: datetime
