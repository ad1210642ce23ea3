"""What a person can see or test that no probe shows. Evidence, like any reading."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.checks.looks import Look
from nudge.core.checks.table import LOOKS
from nudge.core.language.errors import UnknownName


@dataclass(frozen=True, slots=True)
class Observation:
    """One tickable fact. `opposite` is unticked when this one is ticked; `where` groups them.

    `where` may name the part it is seen at after a colon: `Indoors: filter`.
    """

    key: str
    label: str
    where: str
    opposite: str | None = None

    @property
    def group(self) -> str:
        return self.where.partition(":")[0]

    @property
    def part(self) -> str:
        """The part of the machine it is seen at: one of `PARTS`."""
        return self.where.partition(": ")[2] or PART_OF_GROUP[self.group]


def _of_look(look: Look) -> Iterator[Observation]:
    """The two facts of a look, the harmless one first."""
    if look.no:
        yield Observation(look.no, look.labels[1], look.where, look.yes)
    yield Observation(look.yes, look.labels[0], look.where, look.no or None)


PART_OF_GROUP = {
    "Indoors": "indoor_coil",
    "Outdoors": "outdoor_coil",
    "Refrigerant": "liquid_line",
    "Tests": "ports",
}
"""Where a fact is shown that names no part."""
WHERE = ("Indoors", "Outdoors", "Refrigerant", "Tests")
_STATES = (
    Observation("condenser_dry", "Condenser coil dry", "Outdoors", "condenser_wet"),
    Observation(
        "condenser_wet", "Condenser coil wet, from rinsing or rain", "Outdoors", "condenser_dry"
    ),
    Observation(
        "collar_off", "No collar on the discharge air", "Outdoors: outdoor_fan", "collar_on"
    ),
    Observation("collar_on", "Collar on the discharge air", "Outdoors: outdoor_fan", "collar_off"),
)
"""What is done to the machine on purpose: it gates, and says nothing of faults."""
_ROWS = sorted(
    (*(row for look in LOOKS for row in _of_look(look)), *_STATES),
    key=lambda row: WHERE.index(row.group),
)

OBSERVATIONS: Mapping[str, Observation] = MappingProxyType({row.key: row for row in _ROWS})


def observation(name: str) -> Observation:
    """The row of an observation key. Raises: UnknownName, with the nearest."""
    row = OBSERVATIONS.get(name)
    if row is None:
        raise UnknownName("observation", name, OBSERVATIONS)
    return row
