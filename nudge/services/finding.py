"""Finding things again: sites, systems and visits by any part of their names and words."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from nudge.store.database import Database
from nudge.store.repositories import finding

MOST = 8
LONGEST = 120


@dataclass(frozen=True, slots=True)
class Hit:
    """One thing found: what it is, where it is opened, and two lines to know it by."""

    kind: Literal["site", "system", "visit"]
    id: str
    title: str
    below: str


def find(database: Database, text: str, most: int = MOST) -> list[Hit]:
    """Sites, systems and visits that hold every word, in that order; at most `most` of each."""
    words = text[:LONGEST].split()
    if not words:
        return []
    with database.reading() as session:
        sites = finding.sites(session, words, most)
        systems = finding.systems(session, words, most)
        visits = finding.visits(session, words, most)
        return [
            *(Hit("site", row.id, row.name, f"{len(row.systems)} systems") for row in sites),
            *(
                Hit("system", row.id, f"{row.site.name}, {row.name}", row.refrigerant)
                for row in systems
            ),
            *(
                Hit(
                    "visit",
                    row.id,
                    row.complaint or "No complaint written",
                    f"{row.system.site.name}, {row.system.name}{_year(row.opened_at)}",
                )
                for row in visits
            ),
        ]


def _year(opened: datetime | None) -> str:
    return "" if opened is None else f", {opened:%Y}"
