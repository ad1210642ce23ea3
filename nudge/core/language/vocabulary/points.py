"""Every point a reading can be taken at: name, short forms, quantity, believable range.

`low`/`high` are in field units and bound what a *working instrument on a real system* can
show. Outside them a number is asked about, never silently taken: a slipped decimal, the
wrong unit, or the wrong line.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from math import isfinite
from types import MappingProxyType
from typing import Literal

from nudge.core.language.errors import CoreError, UnknownName, UnlikelyReading
from nudge.core.language.units import Quantity, to_si

Side = Literal["low", "high", "air", "electrical", "work"]


@dataclass(frozen=True, slots=True)
class Point:
    """One row of the vocabulary. `short` holds spoken short forms, the usual one first."""

    key: str
    label: str
    short: tuple[str, ...]
    quantity: Quantity
    side: Side
    low: float
    high: float


_P, _T, _S = Quantity.PRESSURE, Quantity.TEMPERATURE, Quantity.STATIC_PRESSURE
_RH, _A = Quantity.HUMIDITY, Quantity.CURRENT
_V, _PF = Quantity.VOLTAGE, Quantity.POWER_FACTOR

_ROWS = (
    Point("suction_pressure", "Suction pressure", ("suct", "sp", "low"), _P, "low", -14, 500),
    Point("liquid_pressure", "Liquid pressure", ("liq", "lp", "high"), _P, "high", -14, 800),
    Point("discharge_pressure", "Discharge pressure", ("disch", "dp"), _P, "high", -14, 900),
    Point("suction_line_temp", "Suction line", ("sl", "vap", "vl"), _T, "low", -60, 280),
    Point("evaporator_outlet_temp", "Evaporator outlet", ("eo", "bulb"), _T, "low", -60, 180),
    Point("true_suction_temp", "True suction", ("ts",), _T, "low", -60, 180),
    Point("liquid_line_temp", "Liquid line", ("ll",), _T, "high", -20, 180),
    Point("liquid_line_temp_indoor", "Liquid line indoors", ("lli",), _T, "high", -20, 180),
    Point("drier_inlet_temp", "Drier inlet", ("di",), _T, "high", -20, 180),
    Point("drier_outlet_temp", "Drier outlet", ("do",), _T, "high", -20, 180),
    Point("discharge_line_temp", "Discharge line", ("dl", "dlt"), _T, "high", -20, 350),
    Point("metering_outlet_temp", "Metering device outlet", ("mo",), _T, "low", -60, 180),
    Point("outdoor_air_temp", "Outdoor air", ("oa", "amb", "out"), _T, "air", -60, 140),
    Point("condenser_entering_air_temp", "Condenser entering air", ("cea",), _T, "air", -60, 160),
    Point("condenser_leaving_air_temp", "Condenser leaving air", ("cla",), _T, "air", -60, 180),
    Point("return_air_temp", "Return air", ("ra", "ret"), _T, "air", -40, 130),
    Point("return_air_wet_bulb", "Return wet bulb", ("wb", "rwb"), _T, "air", -40, 100),
    Point("return_air_rh", "Return humidity", ("rh",), _RH, "air", 0, 100),
    Point("supply_air_temp", "Supply air", ("sa", "sup"), _T, "air", -40, 180),
    Point("supply_air_wet_bulb", "Supply wet bulb", ("swb",), _T, "air", -40, 100),
    Point("supply_air_rh", "Supply humidity", ("srh",), _RH, "air", 0, 100),
    Point("box_air_temp", "Box air", ("box",), _T, "air", -60, 120),
    Point("vent_air_temp", "Vent air", ("vent",), _T, "air", -20, 180),
    Point("condenser_inlet_line_temp", "Condenser inlet line", ("cil",), _T, "high", -20, 350),
    Point("condenser_outlet_line_temp", "Condenser outlet line", ("col",), _T, "high", -20, 250),
    Point("evaporator_inlet_line_temp", "Evaporator inlet line", ("eil",), _T, "low", -60, 180),
    Point("rear_vent_air_temp", "Rear vent air", ("rvent",), _T, "air", -20, 180),
    Point("rear_evaporator_outlet_temp", "Rear evaporator outlet", ("reo",), _T, "low", -60, 180),
    Point(
        "rear_evaporator_inlet_line_temp", "Rear evaporator inlet", ("rei",), _T, "low", -60, 180
    ),
    Point("coolant_temp", "Engine coolant", ("cool",), _T, "work", -40, 300),
    Point("engine_speed", "Engine speed", ("es",), Quantity.SPEED, "work", 0, 10_000),
    Point("airflow", "Airflow", ("flow", "cfm"), Quantity.AIRFLOW, "air", 0, 20_000),
    Point("total_external_static", "Total external static", ("tesp",), _S, "air", -5, 5),
    Point("return_static", "Return static", ("rst",), _S, "air", -5, 5),
    Point("supply_static", "Supply static", ("sst",), _S, "air", -5, 5),
    Point("filter_pressure_drop", "Filter drop", ("fd",), _S, "air", -0.2, 5),
    Point("compressor_amps", "Compressor amps", ("ca",), _A, "electrical", 0, 400),
    Point("condenser_fan_amps", "Condenser fan amps", ("cfa",), _A, "electrical", 0, 50),
    Point("blower_amps", "Blower amps", ("ba",), _A, "electrical", 0, 100),
    Point("strip_amps", "Strip amps", ("sta",), _A, "electrical", 0, 400),
    Point(
        "outdoor_unit_watts", "Outdoor unit watts", ("ow",), Quantity.POWER, "electrical", 0, 1e5
    ),
    Point("indoor_unit_watts", "Indoor unit watts", ("iw",), Quantity.POWER, "electrical", 0, 1e5),
    Point("outdoor_unit_volts", "Outdoor unit volts", ("ov",), _V, "electrical", 0, 700),
    Point("outdoor_unit_amps", "Outdoor unit amps", ("oua",), _A, "electrical", 0, 400),
    Point("outdoor_unit_power_factor", "Outdoor power factor", ("opf",), _PF, "electrical", 0.2, 1),
    Point("indoor_unit_volts", "Indoor unit volts", ("iv",), _V, "electrical", 0, 700),
    Point("indoor_unit_amps", "Indoor unit amps", ("iua",), _A, "electrical", 0, 100),
    Point("indoor_unit_power_factor", "Indoor power factor", ("ipf",), _PF, "electrical", 0.2, 1),
    Point("line_volts", "Line volts", ("volts",), _V, "electrical", 0, 700),
    Point(
        "capacitor_microfarads",
        "Capacitor",
        ("cap", "mfd"),
        Quantity.CAPACITANCE,
        "electrical",
        0,
        400,
    ),
    Point("cylinder_weight", "Cylinder weight", ("cyl",), Quantity.MASS, "work", 0, 500),
    Point("vacuum_level", "Vacuum", ("vac",), Quantity.VACUUM, "work", 0, 800_000),
    Point("test_pressure", "Test pressure", ("test",), _P, "work", -15, 900),
)

POINTS: Mapping[str, Point] = MappingProxyType({row.key: row for row in _ROWS})

Readings = Mapping[str, float]
"""Point key → value in core units (pressures gauge kPa, °C, L/s, Pa, %, A, W, V, µF, kg)."""


def point(name: str) -> Point:
    """The row of a point key. Raises: UnknownName, with the nearest."""
    row = POINTS.get(name)
    if row is None:
        raise UnknownName("point", name, POINTS)
    return row


def check_believable(row: Point, value_si: float) -> None:
    """Refuse a value (core units) that no working instrument on a real system shows.

    Raises: CoreError when not finite, UnlikelyReading outside the point's range.
    """
    if not isfinite(value_si):
        raise CoreError(row.key, f"{row.label} must be a finite number. Read it again.")
    low_si, high_si = believable_range(row)
    if not low_si <= value_si <= high_si:
        raise UnlikelyReading(row.key, row.label, value_si, low_si, high_si, row.quantity)


def believable_range(row: Point) -> tuple[float, float]:
    """The point's range in core units."""
    return to_si(row.low, row.quantity, "ip"), to_si(row.high, row.quantity, "ip")
