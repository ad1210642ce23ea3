"""A system’s page, and what a search finds, over the wire."""

from typing import Literal

from pydantic import BaseModel

from nudge.presenters.book import SystemOut
from nudge.presenters.visits import VisitLine


class SystemPage(BaseModel):
    """A system with its history."""

    system: SystemOut
    visits: list[VisitLine]


class HitOut(BaseModel):
    """Something found: a site, a system or a visit."""

    kind: Literal["site", "system", "visit"]
    id: str
    title: str
    below: str
