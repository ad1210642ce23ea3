"""What today asks for, over the wire."""

from datetime import date, datetime

from pydantic import BaseModel

from nudge.core.language.said import worded
from nudge.core.language.units import UnitSystem
from nudge.core.visit.seasons import SEASONS
from nudge.presenters.visits import VisitLine


class LeftLine(BaseModel):
    """Something left for later, and whether its season or day has come."""

    id: str
    system_id: str
    place: str
    text: str
    season: str
    due_on: date | None
    is_in_season: bool


class DriftLine(BaseModel):
    """A system that had drifted when it was last looked at."""

    system_id: str
    visit_id: str
    place: str
    said: str
    seen_at: datetime | None


class LeakLine(BaseModel):
    """A system that loses more than this workshop lets pass, in percent a year."""

    system_id: str
    place: str
    rate: float


class TodayOut(BaseModel):
    under_way: list[VisitLine]
    due: list[VisitLine]
    recent: list[VisitLine]
    followed: list[str]
    """Of those, the ids of visits that an earlier one of their system can be laid over."""
    left: list[LeftLine]
    drifting: list[DriftLine]
    leaking: list[LeakLine]
    broken: list[str]
    """What is damaged and left out here, in words."""


def season_said(key: str, units: UnitSystem) -> str:
    season = SEASONS.get(key)
    return worded(season.label, units) if season else key
