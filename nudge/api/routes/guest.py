"""What a link shows, and the one thing that can be done with it. Nothing else answers to it."""

from datetime import datetime

from fastapi import APIRouter
from pydantic import BaseModel

from nudge.api.access import UnitsIn, WorkshopIn
from nudge.api.schemas.visits import VisitOut, visit_out
from nudge.api.schemas.whole_visit import GuestNote, NoteOut, note_out

router = APIRouter(prefix="/api/guest/{token}")


class GuestOut(BaseModel):
    """The visit as a guest sees it."""

    visit: VisitOut
    notes: list[NoteOut]
    expires_at: datetime


@router.get("")
def look(workshop: WorkshopIn, units: UnitsIn, token: str) -> GuestOut:
    """The visit, read-only. 404 once the link has ended."""
    snapshot, expires_at = workshop.guests.look(token)
    notes = [note_out(row) for row in workshop.guests.notes(token)]
    return GuestOut(visit=visit_out(snapshot, units), notes=notes, expires_at=expires_at)


@router.post("/notes")
def leave_note(workshop: WorkshopIn, units: UnitsIn, token: str, body: GuestNote) -> GuestOut:
    """Leave a note on the visit."""
    workshop.guests.leave_note(token, body.id, body.text)
    return look(workshop, units, token)
