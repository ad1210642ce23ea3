"""Everything a judgement is made from, in one frozen value."""

from dataclasses import dataclass, field

from nudge.core.circuit.derived import Derived, derive
from nudge.core.errors import CoreError
from nudge.core.vocabulary.equipment import Plate
from nudge.core.vocabulary.observations import observation
from nudge.core.vocabulary.points import Readings


@dataclass(frozen=True, slots=True)
class Context:
    """How the readings came about: minutes running, minutes since a change, what was seen."""

    minutes_running: float | None = None
    minutes_since_change: float | None = None
    observations: frozenset[str] = field(default_factory=frozenset)

    def __post_init__(self) -> None:
        """Raises: UnknownName for an observation, CoreError for two that exclude each other."""
        for name in sorted(self.observations):
            opposite = observation(name).opposite
            if opposite in self.observations:
                raise CoreError(
                    "observations", f"Both {name} and {opposite} are ticked. Keep the true one."
                )


@dataclass(frozen=True, slots=True)
class Case:
    """One plate, its readings, and what follows from them by arithmetic alone."""

    plate: Plate
    readings: Readings
    context: Context
    derived: Derived

    def saw(self, observation_key: str) -> bool:
        return observation_key in self.context.observations


def open_case(plate: Plate, readings: Readings, context: Context) -> Case:
    """Derive what the readings allow. Raises: OutOfRange, from `derive`."""
    return Case(plate, readings, context, derive(plate, readings))
