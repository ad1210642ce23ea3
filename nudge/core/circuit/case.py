"""Everything a judgement is made from, in one frozen value."""

from dataclasses import dataclass, field

from nudge.core.air.coil import (
    RATED_KG_PER_S_PER_W,
    ExpectedCoil,
    expected_coil,
    share_of_rated,
)
from nudge.core.circuit.derived import Derived, air_of, derive, read_wet_bulb
from nudge.core.errors import CoreError
from nudge.core.said import Said
from nudge.core.vocabulary.equipment import Application, Plate
from nudge.core.vocabulary.observations import observation
from nudge.core.vocabulary.points import Readings


@dataclass(frozen=True, slots=True)
class Context:
    """How the readings came about: minutes running, minutes since a change, what was seen."""

    minutes_running: float | None = None
    minutes_since_change: float | None = None
    observations: frozenset[str] = field(default_factory=frozenset)
    unsettled: Said | None = None
    """What still moves, where instruments watch it; None where it is steady or nobody watches."""
    early_reason: str = ""
    """Why somebody chose to judge before it settled."""
    lies: tuple[Said, ...] = ()
    """Probes that are caught lying, a sentence each."""

    def __post_init__(self) -> None:
        """Raises: UnknownName for an observation, CoreError for two that exclude each other."""
        for name in sorted(self.observations):
            opposite = observation(name).opposite
            if opposite in self.observations:
                raise CoreError(
                    "observations", f"Both {name} and {opposite} are ticked. Keep the true one."
                )


@dataclass(frozen=True, slots=True)
class CoilExpectation:
    """What a healthy coil would do to today's air, at the airflow measured or at the rated one."""

    expected: ExpectedCoil
    airflow_is_measured: bool


@dataclass(frozen=True, slots=True)
class Case:
    """One plate, its readings, and what follows from them by arithmetic alone.

    `coil` is None where the coil model lacks an input or does not reach.
    """

    plate: Plate
    readings: Readings
    context: Context
    derived: Derived
    coil: CoilExpectation | None = None

    def saw(self, observation_key: str) -> bool:
        return observation_key in self.context.observations


def open_case(plate: Plate, readings: Readings, context: Context) -> Case:
    """Derive what the readings allow. Raises: OutOfRange, from `derive`."""
    derived = derive(plate, readings)
    return Case(plate, readings, context, derived, expect_coil(plate, readings, derived))


def expect_coil(plate: Plate, readings: Readings, derived: Derived) -> CoilExpectation | None:
    """The coil model on today's air; None without return air, its moisture and outdoor air."""
    outdoor = readings.get("outdoor_air_temp")
    entering = air_of(plate, readings, "return")
    if entering is None or outdoor is None or plate.application is not Application.COMFORT_COOLING:
        return None
    wet = read_wet_bulb(readings, entering)
    measured = derived.airflow_per_capacity
    flow = plate.rated_flow_per_capacity() if measured is None else measured
    try:
        coil = expected_coil(entering, outdoor, share_of_rated(flow) * RATED_KG_PER_S_PER_W, wet)
    except CoreError:
        return None
    return CoilExpectation(coil, measured is not None)
