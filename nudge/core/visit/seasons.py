"""When something left for later can be done: the seasons a job may wait for."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.errors import UnknownName


@dataclass(frozen=True, slots=True)
class Season:
    """What a deferred job waits for."""

    key: str
    label: str
    months: tuple[int, ...]
    """Months in which it is likely (northern); empty: any time, by its date."""


_ROWS = (
    Season("any", "Any day", ()),
    Season("over_70", "When it is over {t70} outdoors", (5, 6, 7, 8, 9)),
    Season("cooling", "In the cooling season", (6, 7, 8)),
    Season("heating", "In the heating season", (11, 12, 1, 2)),
    Season("dry_spell", "On a dry day", (4, 5, 6, 7, 8, 9, 10)),
    Season("parts", "When the part is here", ()),
)

SEASONS: Mapping[str, Season] = MappingProxyType({row.key: row for row in _ROWS})


def season_named(key: str) -> Season:
    """The row of a season. Raises: UnknownName."""
    row = SEASONS.get(key)
    if row is None:
        raise UnknownName("season", key, SEASONS)
    return row


def is_in_season(key: str, month: int) -> bool:
    """Whether what waits for it may be done in a month (1 to 12)."""
    months = season_named(key).months
    return not months or month in months
