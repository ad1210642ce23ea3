"""Every gram that moves: a ledger of movements whose sums equal what the scale says, always.

Whole milligrams, so that thousands of entries add up exactly. Entries are never changed: a
mistyped one is corrected by another that stands in its place. A weighing posts what the scale
found beyond the book as a movement of its own (lost, found, or within the scale's error).
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import G_PER_OZ, Quantity

MG_PER_KG = 1_000_000
SCALE_ERROR_MG = round(1.0 * G_PER_OZ * 1000)
"""A charging scale repeats to half an ounce or so: a difference up to an ounce is the scale's."""
KNOCKED_MG = round(16 * G_PER_OZ * 1000)
"""From a pound on it is asked whether it is this cylinder, standing free and still."""


@dataclass(frozen=True, slots=True)
class MovementKind:
    """One kind of movement: what it does to the cylinder it is written on, and where it goes.

    `other` is where the rest of it is counted: a system, another cylinder, or the world outside.
    """

    key: str
    label: str
    sign: int
    other: str
    reason: str


_ROWS = (
    MovementKind(
        "bought", "Filled or bought", 1, "supply", "What came with the cylinder, or into it."
    ),
    MovementKind("charged", "Charged", -1, "system", "Into a system."),
    MovementKind(
        "recovered", "Recovered", 1, "system", "Out of a system, into a recovery cylinder."
    ),
    MovementKind("moved", "Moved", -1, "cylinder", "From this cylinder into another."),
    MovementKind("lost", "Lost", -1, "air", "Missing when weighed again: a cap, a valve, a leak."),
    MovementKind("found", "Found", 1, "air", "More than the book said when weighed again."),
    MovementKind(
        "scale", "Within the scale's error", -1, "air", "An ounce either way is the scale's."
    ),
    MovementKind("returned", "Returned", -1, "supply", "Handed in for reclaim, or given back."),
)
MOVEMENT_KINDS: Mapping[str, MovementKind] = MappingProxyType({row.key: row for row in _ROWS})


@dataclass(frozen=True, slots=True)
class LedgerEntry:
    """One line of the ledger. `to` is the system's or other cylinder's id, "" for outside.

    `corrects` names the entry it stands in place of.
    """

    id: str
    kind: str
    mg: int
    cylinder: str
    to: str = ""
    corrects: str = ""


@dataclass(frozen=True, slots=True)
class Balance:
    """What every cylinder holds, what every system has had, and the world outside [mg]."""

    cylinders: Mapping[str, int]
    systems: Mapping[str, int]
    outside: Mapping[str, int]

    @property
    def total(self) -> int:
        """Nothing is made or lost on paper: this is 0, always."""
        return sum(sum(part.values()) for part in (self.cylinders, self.systems, self.outside))


def standing_entries(entries: Iterable[LedgerEntry]) -> list[LedgerEntry]:
    """Those that no other stands in place of."""
    entries = list(entries)
    replaced = {entry.corrects for entry in entries if entry.corrects}
    return [entry for entry in entries if entry.id not in replaced]


def balance(entries: Iterable[LedgerEntry]) -> Balance:
    """Add up a ledger. Raises: UnknownName, for a kind it does not know."""
    cylinders: dict[str, int] = {}
    systems: dict[str, int] = {}
    outside = {"supply": 0, "air": 0}
    for entry in standing_entries(entries):
        kind = kind_named(entry.kind)
        moved = kind.sign * entry.mg
        cylinders[entry.cylinder] = cylinders.get(entry.cylinder, 0) + moved
        if kind.other == "system":
            systems[entry.to] = systems.get(entry.to, 0) - moved
        elif kind.other == "cylinder":
            cylinders[entry.to] = cylinders.get(entry.to, 0) - moved
        else:
            outside[kind.other] -= moved
    return Balance(cylinders, systems, outside)


def kind_named(key: str) -> MovementKind:
    """Raises: UnknownName, with the nearest."""
    row = MOVEMENT_KINDS.get(key)
    if row is None:
        raise UnknownName("movement", key, MOVEMENT_KINDS)
    return row


def in_mg(kg: float) -> int:
    """Whole milligrams. Raises: CoreError, for a weight that is none."""
    if not 0 <= kg < 10_000:
        raise CoreError("weight", f"{kg:g} kg is no weight. Give one from 0 up.")
    return round(kg * MG_PER_KG)


@dataclass(frozen=True, slots=True)
class Found:
    """What a weighing found beyond the book: a kind of movement, its size, and what to say."""

    kind: str
    mg: int
    said: Said | None


def weighed(held_mg: int, gross_mg: int, tare_mg: int) -> Found | None:
    """Compare a scale with the book; None where they agree to the milligram.

    Raises: CoreError, for less than the empty cylinder weighs.
    """
    if gross_mg < tare_mg - SCALE_ERROR_MG:
        raise CoreError(
            "weight",
            f"{gross_mg / MG_PER_KG:.2f} kg is less than the empty cylinder, "
            f"{tare_mg / MG_PER_KG:.2f} kg. Zero the scale, or check the tare.",
        )
    over = gross_mg - tare_mg - held_mg
    if over == 0:
        return None
    if abs(over) <= SCALE_ERROR_MG:
        return Found("scale", -over, None)
    measure = Measure(abs(over) / 1000, Quantity.SMALL_MASS)
    if over < 0:
        return Found(
            "lost",
            -over,
            say(
                "{loss} less than when it was put away: a cap off, a valve not shut, a leak. Find "
                "which before it is used.",
                loss=measure,
            ),
        )
    return Found(
        "found",
        over,
        say(
            "{more} more than the book says: a movement nobody wrote down, or another cylinder.",
            more=measure,
        ),
    )
