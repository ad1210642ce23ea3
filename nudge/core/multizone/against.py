"""A plant against itself: what its log shows now beside an earlier one, in like weather.

A plant hides its trouble, but not from itself: what moved since it was well is worth a look before
any pattern is believed. How much its rooms call is no sign of another load: what is short calls
longer. It decides nothing.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from nudge.core.language.said import Measure, Said, numbered, say
from nudge.core.language.units import Quantity
from nudge.core.multizone.patterns import NONE
from nudge.core.multizone.signs import PLANT_SIGNS, ROOM_SIGNS, ZoneSign, ZoneSigns
from nudge.core.multizone.weigh import ZoneTable

ALIKE_OUTDOOR_K = 5.0
"""Outdoor air further apart is another day: frequency and condensing follow it. Trade rule."""
CALLS = "calls"
CALLS_SPREAD = 0.15
"""By so much rooms call more or less of the time from one day to the next."""
MOVED = 1.0
"""By how many of the usual spreads between plants: one plant differs from itself by less."""
MOST_SAID = 3
NOT_COMPARED = frozenset({"combination", "outdoor_lift", "against"})
"""Of the drawing, the weather and the rooms' wishes, not of how the plant is."""


@dataclass(frozen=True, slots=True)
class ZoneMoved:
    """A sign then and now, and by how many usual spreads it moved."""

    key: str
    then: float
    now: float
    spreads: float

    @property
    def row(self) -> ZoneSign:
        """Which number it is."""
        return PLANT_SIGNS.get(self.key, ROOM_SIGNS[CALLS])

    @property
    def said(self) -> Said:
        """What it was and is, in words."""
        row, label = self.row, self.row.label.lower()
        if row.quantity is None:
            return Said(f"{label} {row.plain(self.then)}, now {row.plain(self.now)}")
        measures = (Measure(self.then, row.quantity), Measure(self.now, row.quantity))
        return say(f"{label} {{then}}, now {{now}}", then=measures[0], now=measures[1])


@dataclass(frozen=True, slots=True)
class ZonesAgainst:
    """What moved, the furthest first; or, in words, why two logs cannot be compared."""

    moved: Sequence[ZoneMoved]
    apart: Said | None

    @property
    def said(self) -> Said | None:
        """What moved the furthest, in words; None where nothing did."""
        if not self.moved:
            return None
        each = [numbered(one.said, f"_{one.key}") for one in self.moved[:MOST_SAID]]
        return Said(
            f"Moved since it was well: {'; '.join(one.template for one in each)}.",
            tuple(measure for one in each for measure in one.measures),
        )


def against(now: ZoneSigns, then: ZoneSigns, table: ZoneTable) -> ZonesAgainst:
    """A plant's signs beside its own earlier ones."""
    apart = _apart(now, then)
    if apart is not None:
        return ZonesAgainst((), apart)
    usual = table.rows[now.way]["plant"][NONE][0]
    moved = [
        ZoneMoved(key, then.plant[key], value, (value - then.plant[key]) / usual[key][1])
        for key, value in now.plant.items()
        if key in then.plant and key in usual and key in PLANT_SIGNS and key not in NOT_COMPARED
    ]
    before, after = _calls(then.rooms), _calls(now.rooms)
    moved.append(ZoneMoved(CALLS, before, after, (after - before) / CALLS_SPREAD))
    far = [one for one in moved if abs(one.spreads) > MOVED]
    return ZonesAgainst(tuple(sorted(far, key=lambda one: -abs(one.spreads))), None)


def _apart(now: ZoneSigns, then: ZoneSigns) -> Said | None:
    """Why two logs are of different days."""
    if now.way != then.way:
        return say(f"It was {then.way} then and is {now.way} now.")
    if "outdoor_lift" not in now.plant or "outdoor_lift" not in then.plant:
        return say("One of the two logs does not tell the outdoor air.")
    airs = [signs.plant["outdoor_lift"] for signs in (then, now)]
    if abs(airs[1] - airs[0]) > ALIKE_OUTDOOR_K:
        return say(
            "Outdoor air was {then} then and is {now} now: another day.",
            then=Measure(airs[0], Quantity.TEMPERATURE),
            now=Measure(airs[1], Quantity.TEMPERATURE),
        )
    return None


def _calls(rooms: Mapping[str, Mapping[str, float]]) -> float:
    each = [room["calls"] for room in rooms.values() if "calls" in room]
    return sum(each) / len(each) if each else 0.0
