"""The workshop itself: its card."""

from fastapi import APIRouter

from nudge.api.access import WorkshopIn
from nudge.presenters.workshop_card import WorkshopChange, WorkshopOut, workshop_out

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
