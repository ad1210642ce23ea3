"""What today asks for: visits under way, visits due, and the last ones closed."""

from collections.abc import Sequence
from dataclasses import dataclass

from nudge.store.database import Database
from nudge.store.repositories import visits
from nudge.store.tables import Verdict, Visit

RECENT = 8


@dataclass(frozen=True, slots=True)
class Today:
    """Visits by state, with the last verdict of each that has one."""

    under_way: Sequence[Visit]
    due: Sequence[Visit]
    recent: Sequence[Visit]
    verdicts: dict[str, Verdict]


def today(database: Database) -> Today:
    """Everything the first screen shows."""
    with database.reading() as session:
        under_way, due = visits.under_way(session), visits.due(session)
        recent = visits.past(session, RECENT)
        ids = [visit.id for visit in (*under_way, *due, *recent)]
        return Today(under_way, due, recent, visits.latest_verdicts(session, ids))
