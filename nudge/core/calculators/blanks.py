"""Every blank of the Pocket: one row each. A blank that is a reading has its point's range."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.core.calculators.slip import Blank, Entered
from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.language.working import Input
from nudge.core.physics.air.airflow import CLIMATES
from nudge.core.physics.circuit.equipment import DEVICE_LABELS, PLATE_NUMBERS
from nudge.core.physics.circuit.tubes import HOSES, TUBES
from nudge.core.physics.refrigerant.catalogue import CATALOGUE

_PLATE = {row.key: row for row in PLATE_NUMBERS}
_T, _P = Quantity.TEMPERATURE, Quantity.PRESSURE
_TUBE_CHOICES = tuple((f"{t.outside_in:g}", f"{t.name} in. ({t.outside_mm:.1f} mm)") for t in TUBES)


def _reading(point: str, label: str = "") -> Blank:
    row = POINTS[point]
    return Blank(point, label or row.label, row.quantity, row.low, row.high, point=point)


def _plate(key: str, hint: str = "") -> Blank:
    row = _PLATE[key]
    return Blank(key, row.label, row.quantity, row.low, row.high, hint or row.hint)


_ROWS = (
    Blank("refrigerant", "Refrigerant", None, choices=tuple((n, n) for n in CATALOGUE),
          usual="R-410A"),
    Blank("metering_device", "Metering device", None,
          choices=tuple((d.value, label) for d, label in DEVICE_LABELS.items()), usual="txv"),
    _plate("elevation"),
    # saturation, both ways
    Blank("pressure", "Pressure", _P, -14, 900, like="suction_pressure"),
    Blank("temperature", "Temperature", _T, -60, 160, like="liquid_line_temp"),
    # the circuit
    *(_reading(p) for p in (
        "suction_pressure", "liquid_pressure", "suction_line_temp", "liquid_line_temp",
        "discharge_line_temp", "outdoor_air_temp", "return_air_temp", "return_air_wet_bulb",
        "supply_air_temp", "supply_air_wet_bulb", "airflow", "supply_static", "return_static",
        "filter_pressure_drop",
    )),
    _plate("target_subcooling", "from the plate"),
    _plate("nominal_capacity"),
    # airflow
    Blank("climate", "Climate", None, choices=tuple((c.key, c.label) for c in CLIMATES.values()),
          usual="normal"),
    Blank("strip_volts", "Strip volts", Quantity.VOLTAGE, 80, 700, like="line_volts"),
    Blank("strip_circuit_amps", "Strip amps, all circuits", Quantity.CURRENT, 1, 400,
          like="strip_amps"),
    Blank("heated_air_temp", "Supply air, strips on", _T, 40, 200, like="supply_air_temp"),
    Blank("blower_motor", "Blower motor", None,
          choices=(("psc", "PSC"), ("ecm", "Constant airflow (ECM)")), usual="psc"),
    Blank("blower_amps", "Blower amps", Quantity.CURRENT, 0.1, 60, point="blower_amps"),
    Blank("blower_plate_amps", "Blower plate amps", Quantity.CURRENT, 0.1, 60),
    Blank("airflow_per_ton", "Airflow per ton", Quantity.AIRFLOW_PER_CAPACITY, 180, 640,
          "400 is ordinary", usual="400"),
    # line set and charge
    *(_plate(k) for k in ("factory_charge", "line_set_length", "line_length_included",
                          "charge_per_length", "coil_adder", "drier_adder")),
    Blank("liquid_tube", "Liquid line", None, choices=_TUBE_CHOICES),
    Blank("vapour_tube", "Vapour line", None, choices=_TUBE_CHOICES),
    Blank("hose_size", "Hose", None, choices=tuple((h.name, f"{h.name} in.") for h in HOSES),
          usual="1/4"),
    Blank("hose_length", "Liquid hose, length", Quantity.LENGTH, 0.5, 100),
    # cylinder
    Blank("cylinder_temp", "Cylinder temperature", _T, -20, 140),
    Blank("cylinder_pressure", "Cylinder pressure", _P, -14, 900),
    Blank("water_capacity", "Water capacity", Quantity.MASS, 2, 1_500, "WC on its collar"),
    Blank("cylinder_tare", "Tare", Quantity.MASS, 1, 1_000, "TW on its collar"),
    # electrical
    Blank("capacitor_rated", "Rated", Quantity.CAPACITANCE, 0.5, 400),
    Blank("capacitor_measured", "Measured", Quantity.CAPACITANCE, 0.05, 500,
          point="capacitor_microfarads"),
    Blank("capacitor_tolerance", "Label ±", Quantity.PERCENT, 1, 20, usual="6"),
    Blank("capacitor_amps", "or its amps", Quantity.CURRENT, 0.05, 100),
    Blank("capacitor_volts", "and its volts", Quantity.VOLTAGE, 20, 1_000),
    Blank("mains_hertz", "Mains", None, choices=(("60", "60 Hz"), ("50", "50 Hz")), usual="60"),
    Blank("strip_kw", "One strip", Quantity.HEATER_POWER, 0.5, 60),
    Blank("strip_rated_volts", "Rated volts", Quantity.VOLTAGE, 100, 700, usual="240"),
    Blank("line_volts", "Line volts", Quantity.VOLTAGE, 80, 700, point="line_volts"),
    Blank("strips_on_circuit", "Strips on this circuit", Quantity.COUNT, 1, 12, usual="1"),
    Blank("strip_amps", "Measured amps", Quantity.CURRENT, 0, 400, point="strip_amps"),
    # nitrogen
    Blank("test_pressure_start", "Pressure, start", Quantity.TEST_PRESSURE, 1, 900),
    Blank("test_temp_start", "Temperature, start", _T, -20, 160),
    Blank("test_pressure_now", "Pressure, now", Quantity.TEST_PRESSURE, -14, 900,
          point="test_pressure"),
    Blank("test_temp_now", "Temperature, now", _T, -20, 160),
    Blank("test_minutes", "Stood", Quantity.MINUTES, 0, 10_000),
    # leak rate
    Blank("full_charge", "Full charge", Quantity.CHARGE, 0.1, 20_000),
    Blank("added", "Added now", Quantity.CHARGE, 0.01, 20_000),
    Blank("days", "Days since the last", Quantity.DAYS, 1, 10_000),
    Blank("added_in_year", "Added in 365 days", Quantity.CHARGE, 0.01, 20_000),
)  # fmt: skip

BLANKS: Mapping[str, Blank] = MappingProxyType({row.key: row for row in _ROWS})


def given(entered: Entered, *keys: str) -> dict[str, Input]:
    """Filled blanks as inputs of a formula, with the ± of the instrument that reads them."""
    found = {}
    for key in keys:
        blank = BLANKS[key]
        if key not in entered or blank.quantity is None:
            continue
        point = blank.point or blank.like
        off = accuracy_of(point).limit(entered[key]) if point else None
        found[key] = Input(key, blank.label, Measure(entered[key], blank.quantity), "typed", off)
    return found
