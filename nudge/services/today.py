"""What today asks for: visits under way and due, what is left, drifting, leaking, lately closed."""

import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from nudge.core.language.units import UnitSystem
from nudge.core.visit.record.kept import Kept
from nudge.core.visit.seasons import SEASONS, is_in_season
from nudge.services.sound import readable
from nudge.store.database import Database
from nudge.store.repositories import book, visits, whole_visit
from nudge.store.tables import System, Visit
from nudge.store.visit_tables import Deferred

RECENT, MOST_DEFERRED, MOST_DRIFTING = 8, 200, 20


@dataclass(frozen=True, slots=True)
class Left:
    """Something left for later, whose season it is or whose day has come."""

    row: Deferred
    system: System
    is_in_season: bool


@dataclass(frozen=True, slots=True)
class Today:
    """Visits by state, with the last verdict of each that has one."""

    under_way: Sequence[Visit]
    due: Sequence[Visit]
    recent: Sequence[Visit]
    verdicts: dict[str, Kept]
    left: Sequence[Left]
    drifting: Sequence[Visit]
    followed: frozenset[str]
    """Of the lately closed, those with an earlier visit of their system to be laid over."""


def today(database: Database, now: datetime) -> Today:
    """Everything the first screen shows."""
    with database.reading() as session:
        under_way, due = visits.under_way(session), visits.due(session)
        recent = visits.past(session, RECENT)
        drifting = visits.drifted(session, MOST_DRIFTING)
        ids = [visit.id for visit in (*under_way, *due, *recent)]
        left = []
        for row in whole_visit.open_deferred(session, MOST_DEFERRED):
            system = book.system(session, row.system_id)
            if system is not None:
                has_come = row.due_on is not None and row.due_on <= now.date()
                is_now = has_come or _is_in_season(row.season, now.month)
                left.append(Left(row, system, is_now))
        left.sort(key=lambda one: not one.is_in_season)
        verdicts = readable(visits.latest_verdicts(session, ids))
        first = visits.first_closed(session, [visit.system_id for visit in recent])
        followed = frozenset(v.id for v in recent if first.get(v.system_id) != v.id)
        return Today(under_way, due, recent, verdicts, left, drifting, followed)


def _is_in_season(season: str, month: int) -> bool:
    return season in SEASONS and is_in_season(season, month)


def drift_said(visit: Visit, units: UnitSystem) -> str:
    """What had drifted when a visit was closed, in words."""
    if not visit.drift:
        return ""
    said: dict[str, str] = json.loads(visit.drift)
    return said["ip" if units == "ip" else "si"]
