"""What the readings say about the running circuit: saturations, superheat, differences.

One row a quantity: its name, what it is, its formula in words. `derive` fills the ones whose
readings are there and leaves the rest None: absent is absent, never guessed.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.air.moist_air import MoistAir, moist_air, total_capacity
from nudge.core.refrigerant.saturation import Saturation, saturation_at
from nudge.core.refrigerant.table import SaturationTable, load_table
from nudge.core.units import Quantity, atmospheric_kpa
from nudge.core.vocabulary.equipment import Plate
from nudge.core.vocabulary.points import Readings


@dataclass(frozen=True, slots=True)
class DerivedRow:
    """A computed quantity as a technician would look it up."""

    key: str
    label: str
    quantity: Quantity
    formula: str


_T, _D = Quantity.TEMPERATURE, Quantity.TEMPERATURE_DIFFERENCE

_ROWS = (
    DerivedRow("evaporator_saturation", "Evaporator saturation", _T, "dew at suction pressure"),
    DerivedRow("condenser_saturation", "Condenser saturation", _T, "bubble at liquid pressure"),
    DerivedRow("superheat", "Superheat", _D, "suction line − dew at suction pressure"),
    DerivedRow(
        "evaporator_superheat", "Evaporator superheat", _D,
        "evaporator outlet − dew at suction pressure",
    ),
    DerivedRow("subcooling", "Subcooling", _D, "bubble at liquid pressure − liquid line"),
    DerivedRow(
        "condensing_over_ambient", "Condensing over ambient", _D,
        "mean of bubble and dew at liquid pressure − outdoor air",
    ),
    DerivedRow(
        "evaporator_difference", "Evaporator difference", _D,
        "return air − mean of valve-outlet (quality 0.2) and dew temperature at suction pressure",
    ),
    DerivedRow("approach", "Approach", _D, "liquid line − outdoor air"),
    DerivedRow("temperature_split", "Temperature split", _D, "return air − supply air"),
    DerivedRow(
        "pressure_ratio", "Pressure ratio", Quantity.RATIO,
        "absolute discharge (or liquid) pressure ÷ absolute suction pressure",
    ),
    DerivedRow(
        "valve_pressure_difference", "Valve pressure difference", Quantity.PRESSURE_DIFFERENCE,
        "liquid pressure − suction pressure",
    ),
    DerivedRow(
        "liquid_line_drop", "Liquid line drop", _D, "liquid line outdoors − liquid line indoors"
    ),
    DerivedRow("drier_drop", "Drier drop", _D, "drier inlet − drier outlet"),
    DerivedRow("evaporator_glide", "Evaporator glide", _D, "dew − bubble at suction pressure"),
    DerivedRow("condenser_glide", "Condenser glide", _D, "dew − bubble at liquid pressure"),
    DerivedRow(
        "capacity_total", "Total capacity", Quantity.CAPACITY,
        "dry-air mass flow × (return − supply) enthalpy",
    ),
)  # fmt: skip

DERIVED: Mapping[str, DerivedRow] = MappingProxyType({row.key: row for row in _ROWS})


@dataclass(frozen=True, slots=True)
class Derived:
    """Derived quantities in core units (°C, K, kPa, W); None where a reading is missing."""

    evaporator_saturation: float | None = None
    condenser_saturation: float | None = None
    superheat: float | None = None
    evaporator_superheat: float | None = None
    subcooling: float | None = None
    condensing_over_ambient: float | None = None
    evaporator_difference: float | None = None
    approach: float | None = None
    temperature_split: float | None = None
    pressure_ratio: float | None = None
    valve_pressure_difference: float | None = None
    liquid_line_drop: float | None = None
    drier_drop: float | None = None
    evaporator_glide: float | None = None
    condenser_glide: float | None = None
    capacity_total: float | None = None

    def get(self, key: str) -> float | None:
        """The value under a `DERIVED` key."""
        value: float | None = getattr(self, key)
        return value


def derive(plate: Plate, readings: Readings) -> Derived:
    """Every quantity the readings allow, for this plate's refrigerant and elevation.

    Superheat counts from dew, subcooling from bubble: with a gliding blend the other end is
    several degrees wrong. Nothing is clamped; a negative superheat is evidence.

    Raises: OutOfRange, when a pressure is outside the refrigerant's table.
    """
    read = readings.get
    table = load_table(plate.refrigerant)
    suction, liquid = read("suction_pressure"), read("liquid_pressure")
    low = _saturation(table, suction, plate)
    high = _saturation(table, liquid, plate)
    dew_c = low.dew_c if low else None
    return Derived(
        evaporator_saturation=dew_c,
        condenser_saturation=high.bubble_c if high else None,
        superheat=_minus(read("suction_line_temp"), dew_c),
        evaporator_superheat=_minus(read("evaporator_outlet_temp"), dew_c),
        subcooling=_minus(high.bubble_c if high else None, read("liquid_line_temp")),
        condensing_over_ambient=_minus(
            high.condenser_mean_c if high else None, read("outdoor_air_temp")
        ),
        evaporator_difference=_minus(
            read("return_air_temp"), low.evaporator_mean_c if low else None
        ),
        approach=_minus(read("liquid_line_temp"), read("outdoor_air_temp")),
        temperature_split=_minus(read("return_air_temp"), read("supply_air_temp")),
        pressure_ratio=_pressure_ratio(plate, read("discharge_pressure", liquid), suction),
        valve_pressure_difference=_minus(liquid, suction),
        liquid_line_drop=_minus(read("liquid_line_temp"), read("liquid_line_temp_indoor")),
        drier_drop=_minus(read("drier_inlet_temp"), read("drier_outlet_temp")),
        evaporator_glide=low.glide_k if low else None,
        condenser_glide=high.glide_k if high else None,
        capacity_total=_capacity(plate, readings),
    )


def _saturation(table: SaturationTable, kpa_gauge: float | None, plate: Plate) -> Saturation | None:
    return None if kpa_gauge is None else saturation_at(table, kpa_gauge, plate.elevation_m)


def _minus(a: float | None, b: float | None) -> float | None:
    return None if a is None or b is None else a - b


def _pressure_ratio(plate: Plate, high: float | None, suction: float | None) -> float | None:
    if high is None or suction is None:
        return None
    atmosphere = atmospheric_kpa(plate.elevation_m)
    return (high + atmosphere) / (suction + atmosphere)


def _capacity(plate: Plate, readings: Readings) -> float | None:
    airflow = readings.get("airflow")
    entering = _air(plate, readings, "return")
    leaving = _air(plate, readings, "supply")
    if airflow is None or entering is None or leaving is None:
        return None
    return total_capacity(entering, leaving, airflow)


def _air(plate: Plate, readings: Readings, where: str) -> MoistAir | None:
    dry, wet = readings.get(f"{where}_air_temp"), readings.get(f"{where}_air_wet_bulb")
    humidity = readings.get(f"{where}_air_rh")
    if dry is None or (wet is None and humidity is None) or (wet is not None and wet > dry):
        return None  # a wet bulb over its dry bulb is for settling/trust.py to report
    return moist_air(dry, plate.elevation_m, wet, humidity)
