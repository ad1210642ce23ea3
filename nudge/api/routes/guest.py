"""What a link shows, and the one thing that can be done with it. Nothing else answers to it."""

from fastapi import APIRouter

from nudge.api.access import UnitsIn, WorkshopIn
from nudge.presenters.notes import GuestNote, GuestOut, note_out
from nudge.presenters.visits import visit_out

router = APIRouter(prefix="/api/guest/{token}")


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
