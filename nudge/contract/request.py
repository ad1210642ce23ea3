"""What `assess` is asked, and its way into core types."""

from typing import Annotated

from pydantic import BeforeValidator, Field

from nudge.contract.strict import Number, Strict
from nudge.core.chart.chart_text import read_chart
from nudge.core.circuit.case import Context
from nudge.core.errors import CoreError
from nudge.core.units import UnitSystem, to_si
from nudge.core.vocabulary.equipment import (
    PLATE_NUMBERS,
    Plate,
    application_named,
    check_plate_number,
    device_named,
)
from nudge.core.vocabulary.points import check_believable, point

LONGEST_NAME = 200
Name = Annotated[str, Field(strict=True, max_length=LONGEST_NAME)]


class PlateNumbersIn(Strict):
    """The numbers a plate may carry, in the request's units. The rows of `PLATE_NUMBERS`."""

    nominal_capacity: Number | None = None
    rated_seer: Number | None = None
    target_subcooling: Number | None = None
    target_superheat: Number | None = None
    condensing_over_ambient: Number | None = None
    approach: Number | None = None
    elevation: Number | None = None
    rated_airflow: Number | None = None
    line_set_length: Number | None = None
    factory_charge: Number | None = None
    line_length_included: Number | None = None
    charge_per_length: Number | None = None
    liquid_line_size: Number | None = None
    vapour_line_size: Number | None = None
    coil_adder: Number | None = None
    drier_adder: Number | None = None


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
    charts: Annotated[list[ChartIn], Field(max_length=3)] = Field(default_factory=list)

    def to_plate(self, units: UnitSystem) -> Plate:
        """The core's plate. Raises: CoreError for an unknown name or a misread number."""
        numbers: dict[str, float] = {}
        for row in PLATE_NUMBERS:
            given = getattr(self, row.key)
            if given is not None:
                numbers[row.field] = to_si(given, row.quantity, units)
                check_plate_number(row, numbers[row.field])
        return Plate(
            refrigerant=self.refrigerant,
            metering_device=device_named(self.metering_device),
            application=application_named(self.application),
            indoor_unit=self.indoor_unit,
            blower_tap=self.blower_tap,
            charts=tuple(read_chart(chart.kind, chart.text, units) for chart in self.charts),
            **numbers,
        )


class ContextIn(Strict):
    """How the readings came about. Unknown is not zero: leave out what nobody knows."""

    minutes_running: Annotated[Number, Field(ge=0)] | None = None
    minutes_since_change: Annotated[Number, Field(ge=0)] | None = None
    observations: Annotated[list[Name], Field(max_length=200)] = Field(default_factory=list)

    def to_context(self) -> Context:
        """Raises: CoreError, for unknown observations or two that exclude each other."""
        return Context(
            self.minutes_running, self.minutes_since_change, frozenset(self.observations)
        )


def _no_nulls(value: object) -> object:
    """A reading sent as null is one not taken: the same as leaving it out."""
    if isinstance(value, dict):
        return {key: number for key, number in value.items() if number is not None}
    return value


class AssessIn(Strict):
    """`POST /api/assess`: everything but refrigerant, device and one reading is optional."""

    units: UnitSystem = "ip"
    system: SystemIn
    readings: Annotated[dict[str, Number], BeforeValidator(_no_nulls)]
    context: ContextIn = ContextIn()
    method: Name | None = None

    def to_readings(self) -> dict[str, float]:
        """Core readings. Raises: CoreError for an unknown point, an unlikely value, or none."""
        readings: dict[str, float] = {}
        for name, value in self.readings.items():
            row = point(name)
            readings[name] = to_si(value, row.quantity, self.units)
            check_believable(row, readings[name])
        if not readings:
            raise CoreError("readings", "There is no reading to assess. Give at least one.")
        return readings
