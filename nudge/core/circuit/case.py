"""Everything a judgement is made from, in one frozen value."""

from dataclasses import dataclass, field

from nudge.core.air.airflow import per_ton
from nudge.core.air.coil import (
    RATED_KG_PER_S_PER_W,
    ExpectedCoil,
    expected_coil,
    share_of_rated,
)
from nudge.core.circuit.derived import Derived, air_of, derive
from nudge.core.errors import CoreError
from nudge.core.vocabulary.equipment import Application, Plate
from nudge.core.vocabulary.observations import observation
from nudge.core.vocabulary.points import Readings

LEAST_AIR, MOST_AIR = per_ton(350), per_ton(450)


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
class CoilExpectation:
    """What a healthy coil would do to today's air, at the airflow measured or at the rated one.

    Where airflow was not measured, also at the least (350 CFM per ton) and the most (450) that
    a well set-up system has.
    """

    expected: ExpectedCoil
    at_least_air: ExpectedCoil
    at_most_air: ExpectedCoil
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
    wet = readings.get("return_air_wet_bulb", entering.wet_bulb_c)
    flow = derived.airflow_per_capacity
    flows = (flow,) * 3 if flow else (plate.rated_flow_per_capacity(), LEAST_AIR, MOST_AIR)
    try:
        coils = [
            expected_coil(entering, outdoor, share_of_rated(f) * RATED_KG_PER_S_PER_W, wet)
            for f in (flows[:1] if flow else flows)
        ]
    except CoreError:
        return None
    return CoilExpectation(coils[0], coils[len(coils) // 2], coils[-1], bool(flow))
