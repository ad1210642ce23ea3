"""The workshop's card over the wire."""

from collections.abc import Mapping

from pydantic import BaseModel

from nudge.contract.strict import Strict
from nudge.presenters.notes import Short
from nudge.services.workshop_card import CARD_FIELDS


class CardLineOut(BaseModel):
    """A line of the card as it stands."""

    key: str
    label: str
    longest: int
    reason: str
    text: str


class WorkshopOut(BaseModel):
    """Who this workshop is, as its papers say it."""

    card: list[CardLineOut]


class WorkshopChange(Strict):
    """Lines to change; one that is left out stays, "" empties it."""

    name: Short | None = None
    call: Short | None = None
    licence: Short | None = None

    @property
    def changes(self) -> dict[str, str]:
        return {key: text for key, text in self if text is not None}


def workshop_out(lines: Mapping[str, str]) -> WorkshopOut:
    return WorkshopOut(
        card=[
            CardLineOut(
                key=row.key,
                label=row.label,
                longest=row.longest,
                reason=row.reason,
                text=lines[row.key],
            )
            for row in CARD_FIELDS.values()
        ]
    )
