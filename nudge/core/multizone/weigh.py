"""Which pattern a log carries: beliefs that add to one, over every pattern at every part.

Every sign has, for each pattern, a mean and a spread, swept on simulated plants (`tables.json`):
the plant's signs, and those of the room that carries it against those of rooms beside. A spread
counts by a t law, so that no odd sign decides alone. Signs of one log hang together: their evidence
is tempered by a power. One thing is wrong, or a charge and a room's valve: these look as both were
met together, or as each looks alone.
Source: swept on plants whose laws differ (`tools.zone_study`); t law with eight degrees of freedom.
"""

import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from math import exp, lgamma, log, pi
from typing import Any

from nudge.core.multizone.patterns import NONE, OF_CHARGE, OF_VALVES, PATTERNS
from nudge.core.multizone.signs import ZoneSigns
from nudge.core.physics.zones.points import OUTDOOR

NU = 8.0
PAIRED = ("wrong_port",)
"""What two rooms carry together: one is served in the other's place."""
AT_REST = frozenset({"valve_leaking", "coil_sensor_off"})
BESIDE = "+"
"""Between two patterns in the name of a row of both."""
_SHAPE = lgamma((NU + 1) / 2) - lgamma(NU / 2) - 0.5 * log(NU * pi)

Row = Mapping[str, tuple[float, float]]
"""Mean and spread of each sign."""
Carried = tuple[tuple[str, str], ...]
"""What is wrong where: pattern and part; empty is nothing."""


@dataclass(frozen=True, slots=True)
class ZoneTable:
    """Rows by way, whose signs they are (`plant`, `room`, `beside`) and pattern: one row for each
    half of its severity. `temper`: the power of the plant's evidence and of the rooms'.
    """

    rows: Mapping[str, Mapping[str, Mapping[str, tuple[Row, ...]]]]
    temper: tuple[float, float]


@dataclass(frozen=True, slots=True)
class ZoneBelief:
    """What may be wrong, and how much it is believed."""

    carried: Carried
    belief: float


@cache
def zone_table() -> ZoneTable:
    """The table that ships."""
    text = files("nudge.core.multizone").joinpath("tables.json").read_text("utf-8")
    return table_from(json.loads(text))


def table_from(data: Mapping[str, Any]) -> ZoneTable:
    """A table from its JSON."""
    rows = {
        way: {
            whose: {
                pattern: tuple(
                    {sign: (float(mean), float(spread)) for sign, (mean, spread) in half.items()}
                    for half in halves
                )
                for pattern, halves in patterns.items()
            }
            for whose, patterns in groups.items()
        }
        for way, groups in data["rows"].items()
    }
    plant, rooms = data["temper"]
    return ZoneTable(rows, (float(plant), float(rooms)))


def weigh(signs: ZoneSigns, table: ZoneTable) -> list[ZoneBelief]:
    """Everything that may be wrong, the likeliest first; nothing wrong is one of them."""
    read = _Read(signs, table)
    weights = {carried: read.weight(carried) for carried in read.hypotheses()}
    most = max(weights.values())
    shares = {carried: exp(weight - most) for carried, weight in weights.items()}
    whole = sum(shares.values())
    found = [ZoneBelief(carried, share / whole) for carried, share in shares.items()]
    return sorted(found, key=lambda one: -one.belief)


class _Read:
    """One log's signs against the table's rows for its way."""

    def __init__(self, signs: ZoneSigns, table: ZoneTable) -> None:
        self._rows, self._temper = table.rows[signs.way], table.temper
        self._plant = signs.plant
        self._rooms = {part: signs.of_room(part) for part, found in signs.rooms.items() if found}
        self._known: dict[tuple[str, str, str], float] = {}

    def hypotheses(self) -> Iterator[Carried]:
        yield ()
        plant, rooms = self._rows["plant"], self._rows["room"]
        for key in plant:
            if key != NONE and key in PATTERNS and PATTERNS[key].of == "plant":
                yield ((key, OUTDOOR),)
        for part in self._rooms:
            met = [key for key in rooms if key not in PAIRED and self._may_show(key, part)]
            yield from (((key, part),) for key in met if key in PATTERNS)
            yield from self._pairs(part)
            for charge in OF_CHARGE:
                for valve in OF_VALVES:
                    if f"{charge}{BESIDE}{valve}" in met:
                        yield ((charge, OUTDOOR), (valve, part))

    def _may_show(self, pattern: str, part: str) -> bool:
        """Some things show at rest alone: where a room never rested they are not weighed."""
        at_rest = not set(pattern.split(BESIDE)).isdisjoint(AT_REST)
        return not at_rest or "shut" in self._rooms[part]

    def _pairs(self, part: str) -> Iterator[Carried]:
        """What a room carries together with another: its row is the first half, the other's the
        second.
        """
        for key in PAIRED:
            if key in self._rows["room"]:
                yield from (((key, part), (key, other)) for other in self._rooms if other != part)

    def weight(self, carried: Carried) -> float:
        """Log of prior and likelihood together, but for what every hypothesis has alike."""
        keys = list(dict.fromkeys(key for key, _ in carried))
        main = BESIDE.join(keys) or NONE
        by_plant, by_rooms = self._temper
        of_rooms = [part for _, part in carried if part != OUTDOOR]
        rooms = sum(
            self._room("room", main, part, half) - self._room("beside", NONE, part)
            for half, part in enumerate(of_rooms)
        )
        plant = self._signs("plant", main, "", self._plant)
        return log(self._prior(carried)) + by_plant * plant + by_rooms * rooms

    def _prior(self, carried: Carried) -> float:
        """How common it is, anywhere; of a room's, in this room. A charge and a valve fail each by
        itself: both at once are as common as chance has it.
        """
        if not carried:
            return PATTERNS[NONE].prior
        places, prior = len(self._rooms), 1.0
        keys = {key for key, _ in carried}
        for key in keys:
            prior *= PATTERNS[key].prior
            if key in PAIRED:
                prior /= max(places * (places - 1), 1)
            elif PATTERNS[key].of == "room":
                prior /= places
        return prior

    def _room(self, whose: str, pattern: str, part: str, half: int = 0) -> float:
        return self._signs(whose, pattern, part, self._rooms[part], half)

    def _signs(
        self, whose: str, pattern: str, part: str, found: Mapping[str, float], half: int = 0
    ) -> float:
        key = (whose, pattern, f"{part} {half}" if pattern in PAIRED else part)
        if key not in self._known:
            halves = (*self._rows[whose][pattern], *self._alone(whose, pattern))
            if whose == "room" and pattern in PAIRED:
                halves = halves[min(half, len(halves) - 1) :][:1]
            each = [_density(found, half) for half in halves]
            most = max(each)
            self._known[key] = most + log(sum(exp(one - most) for one in each) / len(each))
        return self._known[key]

    def _alone(self, whose: str, pattern: str) -> tuple[Row, ...]:
        """Of a charge and a valve: the rows of the one of the two that these signs are of."""
        charge, _, valve = pattern.partition(BESIDE)
        return self._rows[whose].get(valve if whose == "room" else charge, ()) if valve else ()


def _density(found: Mapping[str, float], row: Row) -> float:
    """Log density of everything that was read and that the row knows."""
    total = 0.0
    for sign, value in found.items():
        if sign in row:
            mean, spread = row[sign]
            z = (value - mean) / spread
            total += _SHAPE - log(spread) - (NU + 1) / 2 * log(1 + z * z / NU)
    return total
