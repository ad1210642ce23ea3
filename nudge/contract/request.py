"""What `assess` is asked, and its way into core types."""

from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import BeforeValidator, Field, create_model

from nudge.contract.strict import Number, Strict
from nudge.core.behaviours.case import Context
from nudge.core.checks.fitting import FIT_KEYS
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.units import Quantity, UnitSystem, to_si
from nudge.core.language.vocabulary.actions import action
from nudge.core.language.vocabulary.points import check_believable, point
from nudge.core.physics.chart.chart_text import read_chart
from nudge.core.physics.circuit.equipment import (
    Plate,
    application_named,
    device_named,
    reversing_valve_named,
)
from nudge.core.physics.circuit.past import Moment, Past
from nudge.core.physics.circuit.plate_fields import (
    PLATE_CHOICES,
    PLATE_NUMBERS,
    check_plate_number,
    plate_choice_named,
)
from nudge.core.settling.gates import gate_to_pass

LONGEST_NAME = 200
Name = Annotated[str, Field(strict=True, max_length=LONGEST_NAME)]
Reason = Annotated[str, Field(strict=True, min_length=1, max_length=300)]


if TYPE_CHECKING:

    class PlateNumbersIn(Strict):
        """What a plate may carry besides its names: numbers in the request's units (the rows of
        `PLATE_NUMBERS`), and words (those of `PLATE_CHOICES`).
        """

else:
    PlateNumbersIn = create_model(
        "PlateNumbersIn",
        __base__=Strict,
        **{row.key: (Number | None, None) for row in PLATE_NUMBERS},
        **{row.key: (Name | None, None) for row in PLATE_CHOICES},
    )


class ChartIn(Strict):
    """A maker's chart as text (rows and columns as pasted), in the request's units."""

    kind: Name
    text: Annotated[str, Field(strict=True)]


class SystemIn(PlateNumbersIn):
    """A system by its plate, in the request's units."""

    refrigerant: Name
    metering_device: Name
    application: Name = "comfort_cooling"
    indoor_unit: Name = ""
    blower_tap: Name = ""
    reversing_valve: Name = ""
    charts: Annotated[list[ChartIn], Field(max_length=3)] = Field(default_factory=list)

    def to_plate(self, units: UnitSystem) -> Plate:
        """The core's plate. Raises: CoreError for an unknown name or a misread number."""
        more: dict[str, Any] = {}
        for row in PLATE_NUMBERS:
            given = getattr(self, row.key)
            if given is not None:
                more[row.field] = to_si(given, row.quantity, units)
                check_plate_number(row, more[row.field])
        for choice in PLATE_CHOICES:
            more[choice.key] = plate_choice_named(choice, getattr(self, choice.key) or "")
        return Plate(
            refrigerant=self.refrigerant,
            metering_device=device_named(self.metering_device),
            application=application_named(self.application),
            indoor_unit=self.indoor_unit,
            blower_tap=self.blower_tap,
            reversing_valve=reversing_valve_named(self.reversing_valve),
            charts=tuple(read_chart(chart.kind, chart.text, units) for chart in self.charts),
            **more,
        )


def _no_nulls(value: object) -> object:
    """A reading sent as null is one not taken: the same as leaving it out."""
    if isinstance(value, dict):
        return {key: number for key, number in value.items() if number is not None}
    return value


Readings = Annotated[dict[str, Number], BeforeValidator(_no_nulls)]


def core_readings(given: dict[str, float], units: UnitSystem) -> dict[str, float]:
    """Readings in core units. Raises: CoreError, for an unknown point or an unlikely value."""
    found: dict[str, float] = {}
    for name, value in given.items():
        row = point(name)
        found[name] = to_si(value, row.quantity, units)
        check_believable(row, found[name])
    return found


class OwnIn(Strict):
    """How far over what is expected of its class this system was when last found right."""

    evaporator_difference: Number | None = None
    condensing_over_ambient: Number | None = None

    def to_own(self, units: UnitSystem) -> dict[str, float]:
        given = self.model_dump(exclude_none=True)
        return {k: to_si(v, Quantity.TEMPERATURE_DIFFERENCE, units) for k, v in given.items()}


class MomentIn(Strict):
    """An earlier settled set of readings: what went in (ounces or grams) and was done before it."""

    minutes_ago: Annotated[Number, Field(ge=0)]
    readings: Readings
    added: Number = 0
    done: Name = ""

    def to_moment(self, units: UnitSystem) -> Moment:
        """Raises: CoreError, for an unknown point or action, or an unlikely value."""
        return Moment(
            self.minutes_ago,
            core_readings(self.readings, units),
            to_si(self.added, Quantity.SMALL_MASS, units) / 1000,
            _action(self.done),
        )


class ContextIn(Strict):
    """How the readings came about. Unknown is not zero: leave out what nobody knows."""

    mode: Literal["", "cooling", "heating"] = ""
    """How a heat pump runs; "" for what its plate says."""
    minutes_running: Annotated[Number, Field(ge=0)] | None = None
    minutes_since_change: Annotated[Number, Field(ge=0)] | None = None
    observations: Annotated[list[Name], Field(max_length=200)] = Field(default_factory=list)
    estimated: Annotated[list[Name], Field(max_length=200)] = Field(default_factory=list)
    stale: Annotated[list[Name], Field(max_length=200)] = Field(default_factory=list)
    passed: Annotated[dict[Name, Reason], Field(max_length=50)] = Field(default_factory=dict)
    """Blocking gates passed on purpose, by key, each with its reason."""
    own: OwnIn = OwnIn()
    earlier: Annotated[list[MomentIn], Field(max_length=200)] = Field(default_factory=list)
    added_since: Number = 0
    done_since: Name = ""
    hunting_minutes: Annotated[Number, Field(gt=0)] | None = None
    additions_before: Annotated[int, Field(strict=True, ge=0, le=1_000)] = 0
    recovered_share: Annotated[Number, Field(ge=0, le=2)] | None = None
    weighed_in: Annotated[bool, Field(strict=True)] = False
    """Evacuated and weighed in since it was opened."""
    proven_tight: Annotated[bool, Field(strict=True)] = False
    """Pressure-tested since it was opened, and it held."""
    parts_renewed: Annotated[list[Name], Field(max_length=20)] = Field(default_factory=list)
    """Fitted new since it was opened: `compressor`, `valve`, `drier`, `coil`, `joint`."""

    def to_context(self, units: UnitSystem) -> Context:
        """Raises: CoreError, for an unknown observation, point or action."""
        return Context(
            self.minutes_running,
            self.minutes_since_change,
            frozenset(self.observations),
            passed={gate_to_pass(gate): reason for gate, reason in self.passed.items()},
            estimated=frozenset(point(name).key for name in self.estimated),
            stale=frozenset(point(name).key for name in self.stale),
            mode=self.mode,
            own=self.own.to_own(units),
            past=Past(
                tuple(moment.to_moment(units) for moment in self.earlier),
                to_si(self.added_since, Quantity.SMALL_MASS, units) / 1000,
                _action(self.done_since),
                self.hunting_minutes,
                self.additions_before,
                self.recovered_share,
                self.weighed_in,
                self.proven_tight,
                renewed=frozenset(_part(name) for name in self.parts_renewed),
            ),
        )


def _part(name: str) -> str:
    if name not in FIT_KEYS:
        raise UnknownName("part", name, FIT_KEYS)
    return name


def _action(name: str) -> str:
    return action(name).key if name else ""


class AssessIn(Strict):
    """`POST /api/assess`: everything but refrigerant, device and one reading is optional."""

    units: UnitSystem = "ip"
    system: SystemIn
    readings: Readings
    context: ContextIn = ContextIn()
    method: Name | None = None

    def to_readings(self) -> dict[str, float]:
        """Core readings. Raises: CoreError for an unknown point, an unlikely value, or none."""
        readings = core_readings(self.readings, self.units)
        if not readings:
            raise CoreError("readings", "There is no reading to assess. Give at least one.")
        return readings
