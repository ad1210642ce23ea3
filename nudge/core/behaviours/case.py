"""Everything a judgement is made from, in one frozen value."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from nudge.core.behaviours.behaviour import Behaviour, Mode
from nudge.core.behaviours.rows import behaviour_of
from nudge.core.checks.observations import observation
from nudge.core.language.errors import CoreError
from nudge.core.language.said import Said
from nudge.core.language.vocabulary.accuracy import Own, accuracy_of
from nudge.core.language.vocabulary.points import Readings
from nudge.core.language.vocabulary.stages import Stage
from nudge.core.language.working import Working
from nudge.core.multizone.reading import ZoneReading
from nudge.core.physics.air.coil import (
    RATED_KG_PER_S_PER_W,
    ExpectedCoil,
    expected_coil,
    share_of_rated,
)
from nudge.core.physics.circuit.derived import (
    Derived,
    air_of,
    derive,
    is_below_table,
    read_wet_bulb,
)
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.circuit.past import Past
from nudge.core.physics.cold_room.room import ColdRoom, cold_room
from nudge.core.physics.cold_room.workings import room_workings
from nudge.core.physics.heating.balance import HeatBalance, balance
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.physics.vehicle.three_tests import ThreeTests, three_tests
from nudge.core.physics.vehicle.workings import vehicle_workings


@dataclass(frozen=True, slots=True)
class Context:
    """How the readings came about: minutes running, minutes since a change, what was seen."""

    minutes_running: float | None = None
    minutes_since_change: float | None = None
    observations: frozenset[str] = field(default_factory=frozenset)
    unsettled: Said | None = None
    """What still moves, where instruments watch it; None where it is steady or nobody watches."""
    settles_in: float | None = None
    """Minutes until it is steady, by the instruments' own forecast; None where nobody watches."""
    passed: Mapping[str, str] = field(default_factory=dict)
    """Gates somebody chose to pass, by key, each with the reason: printed with the verdict."""
    lies: tuple[Said, ...] = ()
    """Probes that are caught lying, a sentence each."""
    lying: frozenset[str] = frozenset()
    """The points of those probes: what rests on them raises no hazard."""
    read_before_change: bool = False
    """The newest reading is from before the last change: nothing is known of it yet."""
    taken_back: frozenset[str] = frozenset()
    """Points whose reading was withdrawn, and that have none now."""
    rejudged: Said | None = None
    """What the plate was changed to in mid-visit, where these readings are judged again by it."""
    estimated: frozenset[str] = frozenset()
    """Points whose value somebody estimated: they count for little, and prove nothing."""
    stale: frozenset[str] = frozenset()
    """Points read so long before the others that they may describe another condition."""
    mode: Mode | Literal[""] = ""
    """How it runs; "" for what such plant is usually met in."""
    open_circuit: Said | None = None
    """No refrigerant is in it, in words: it must not be started, whatever was read before."""
    charge_mode: Literal["", "needed", "full", "partial", "ended", "lapsed"] = ""
    """What an inverter's charge mode is; `needed` where this call asks for one; "" elsewhere."""
    minutes_in_mode: float | None = None
    """How long it has been so."""
    minutes_clear: float | None = None
    """Since the last defrost that its clamps saw; 0 in one, None where they saw none."""
    since_door: float | None = None
    """Since a door of its box stood open, by the box's air; 0 while one does."""
    box: tuple[tuple[float, float], ...] = ()
    """A cold room's air over the visit [min, °C], oldest first."""
    is_opened_next: bool = False
    """It is locked out to be opened: nothing of it is judged any more."""
    open_stage: Stage | None = None
    """The stage of the visit an empty circuit is at."""
    zones: ZoneReading | None = None
    """What a multi-zone plant's log was read as; None elsewhere, and without one."""
    to_weigh_kg: float | None = None
    """What is still to be weighed into a circuit that was empty [kg]; None once it is in."""
    before: Said | None = None
    """What of the visit stands before judging and is still open, in words: nothing moves until
    it is done, or skipped with a reason."""
    before_check: str = ""
    """The check that does the first of it."""
    instruments: Own = field(default_factory=dict)
    """What the instruments in use err, where they are registered."""
    own: Mapping[str, float] = field(default_factory=dict)
    """How far over its class this system was when last found right, by derived key [K]."""
    past: Past = field(default_factory=Past)
    """What this visit and earlier ones showed over time."""

    @property
    def unsure(self) -> frozenset[str]:
        """Points that are no fresh measurement."""
        return self.estimated | self.stale

    contradicted: frozenset[str] = frozenset()
    """Observations ticked together with their opposites: neither counts."""

    def __post_init__(self) -> None:
        """Set contradicting observations aside. Raises: UnknownName, for an observation."""
        both = {
            name for name in self.observations if observation(name).opposite in self.observations
        }
        object.__setattr__(self, "contradicted", self.contradicted | both)
        object.__setattr__(self, "observations", self.observations - both)


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
    behaviour: Behaviour
    """The kind of plant it is met as."""
    coil: CoilExpectation | None = None
    rated_coil: ExpectedCoil | None = None
    """What a healthy coil would do at its rated airflow, whatever was measured."""
    heat: HeatBalance | None = None
    """The balance of a visit in heating; None in cooling."""
    room: ColdRoom | None = None
    """A cold room beside its design; None for other plant."""
    vehicle: ThreeTests | None = None
    """A vehicle's three tests; None for other plant."""
    record: Readings = field(default_factory=dict)
    """The readings as they were taken; behind a collar `readings` hold the air that the
    condenser draws as its outdoor air (see `drawn`)."""
    lowest_c: float | None = None
    """The table's foot [°C] where suction reads below it: the evaporator boils at that or lower.
    None elsewhere."""

    @property
    def outdoor_c(self) -> float | None:
        """The day's own air outdoors [°C]."""
        return self.record.get("outdoor_air_temp")

    def own_workings(self) -> dict[str, Working]:
        """The numbers that only its kind of plant has, opened, by their formula's key."""
        found: dict[str, Working] = {}
        if self.heat is not None:
            found |= self.heat.workings()
        if self.room is not None:
            found |= room_workings(self.plate, self.readings, self.context.instruments)
        if self.vehicle is not None:
            found |= vehicle_workings(
                self.vehicle, self.record, self.plate.elevation_m, self.context.instruments
            )
        return found

    @property
    def is_checked(self) -> bool:
        """Whether rules of its own answer for it, though its charge is not judged."""
        return any(
            one is not None for one in (self.heat, self.room, self.vehicle, self.context.zones)
        )

    def limit(self, point: str) -> float:
        """± of a reading by its instrument, 19 times in 20 [core units]."""
        return accuracy_of(point, self.context.instruments).limit(self.readings[point])

    def saw(self, observation_key: str) -> bool:
        return observation_key in self.context.observations


def drawn(readings: Readings, context: Context) -> Readings:
    """The readings as the machine meets them: behind a collar, outdoors is what it draws.

    Not read, there is none: approach and condensing over ambient are then not known.
    """
    if "collar_on" not in context.observations:
        return readings
    met = {point: value for point, value in readings.items() if point != "outdoor_air_temp"}
    if "condenser_entering_air_temp" in readings:
        met["outdoor_air_temp"] = readings["condenser_entering_air_temp"]
    return met


def open_case(
    plate: Plate, readings: Readings, context: Context, behaviour: Behaviour | None = None
) -> Case:
    """Derive what the readings allow, as the plate's kind of plant in the visit's mode unless
    another `behaviour` is given. Raises: OutOfRange, from `derive`.
    """
    behaviour = behaviour or behaviour_of(plate, context.mode)
    record, readings = readings, drawn(readings, context)
    derived = derive(plate, readings, behaviour.roles)
    rated = expect_coil(plate, readings, None) if behaviour.has_coil_model else None
    if rated is None or derived.airflow_per_capacity is None:
        coil = rated
    else:
        coil = expect_coil(plate, readings, derived.airflow_per_capacity)
    return Case(
        plate,
        readings,
        context,
        derived,
        behaviour,
        None if coil is None else CoilExpectation(coil, derived.airflow_per_capacity is not None),
        rated,
        balance(plate, readings, context.observations, context.instruments)
        if behaviour.roles.heats
        else None,
        cold_room(plate, readings, context.box) if behaviour.roles.has_box else None,
        three_tests(record, plate.elevation_m, plate.second_evaporator == "yes")
        if behaviour.has_three_tests
        else None,
        record,
        _foot_of(plate) if is_below_table(plate, record) else None,
    )


def _foot_of(plate: Plate) -> float:
    """The lowest temperature its refrigerant's table holds [°C]."""
    table = load_table(plate.refrigerant)
    return table.dew.temperature(table.low_kpa)


def expect_coil(plate: Plate, readings: Readings, flow: float | None) -> ExpectedCoil | None:
    """The coil model on today's air at a standard `flow` per capacity [L/s per kW], else rated.

    None without return air, its moisture and outdoor air, or where the model does not reach.
    """
    outdoor = readings.get("outdoor_air_temp")
    entering = air_of(plate, readings, "return")
    if entering is None or outdoor is None:
        return None
    wet = read_wet_bulb(readings, entering)
    flow = plate.rated_flow_per_capacity() if flow is None else flow
    try:
        return expected_coil(entering, outdoor, share_of_rated(flow) * RATED_KG_PER_S_PER_W, wet)
    except CoreError:
        return None
