"""The workshop's own card: what a customer's paper says of who to call."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.errors import CoreError, UnknownName
from nudge.services.clock import Clock
from nudge.store.database import Database
from nudge.store.repositories import settings


@dataclass(frozen=True, slots=True)
class CardField:
    """A line of the card."""

    key: str
    label: str
    longest: int
    reason: str


CARD_FIELDS: Mapping[str, CardField] = MappingProxyType(
    {
        row.key: row
        for row in (
            CardField("name", "Name", 80, "Stands at the head of every paper."),
            CardField("call", "To call", 80, "A number, a place, the hours: who to call."),
            CardField("licence", "Licence", 120, "Under which the work on refrigerant is done."),
        )
    }
)
_PREFIX = "card_"


class WorkshopCard:
    """The use cases of the card. A line nobody filled in is ""."""

    def __init__(self, database: Database, clock: Clock) -> None:
        self._database, self._clock = database, clock

    def lines(self) -> dict[str, str]:
        """Every line by its key."""
        with self._database.reading() as session:
            kept = settings.all_settings(session)
        return {key: kept.get(_PREFIX + key, "") for key in CARD_FIELDS}

    def write(self, changes: Mapping[str, str]) -> None:
        """Change some lines. Raises: UnknownName; CoreError, for one that is too long."""
        for key, text in changes.items():
            if key not in CARD_FIELDS:
                raise UnknownName("line", key, CARD_FIELDS)
            row = CARD_FIELDS[key]
            if len(text) > row.longest:
                raise CoreError(
                    key, f"{row.label}: {len(text)} letters; keep it to {row.longest} or fewer."
                )
        with self._database.writing() as session:
            for key, text in changes.items():
                settings.choose(session, _PREFIX + key, " ".join(text.split()), self._clock())
