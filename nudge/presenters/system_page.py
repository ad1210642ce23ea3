"""A system’s page, and what a search finds, over the wire."""

from typing import Literal

from pydantic import BaseModel

from nudge.contract.strict import Strict
from nudge.presenters.book import Id, SystemOut
from nudge.presenters.choices import ChoiceOut
from nudge.presenters.visits import VisitLine


class SystemPage(BaseModel):
    """A system with its history."""

    system: SystemOut
    visits: list[VisitLine]
    sister_boxes: list[ChoiceOut]
    """Cold rooms of its site whose design it may take over."""


class SisterBoxIn(Strict):
    """The design of a sister box is taken over."""

    from_system: Id


class HitOut(BaseModel):
    """Something found: a site, a system or a visit."""

    kind: Literal["site", "system", "visit"]
    id: str
    title: str
    below: str
