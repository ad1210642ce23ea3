"""Every blank of the Pocket: one row each. A blank that is a reading has its point's range."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.core.calculators.slip import Entered, SlipBlank
from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.language.working import Input
from nudge.core.physics.air.airflow import CLIMATES
from nudge.core.physics.circuit.equipment import DEVICE_LABELS
from nudge.core.physics.circuit.plate_fields import PLATE_NUMBERS
from nudge.core.physics.circuit.tubes import HOSES, TUBES
from nudge.core.physics.refrigerant.catalogue import CATALOGUE

_PLATE = {row.key: row for row in PLATE_NUMBERS}
_T, _P = Quantity.TEMPERATURE, Quantity.PRESSURE
_TUBE_CHOICES = tuple((f"{t.outside_in:g}", f"{t.name} in. ({t.outside_mm:.1f} mm)") for t in TUBES)


def _reading(point: str, label: str = "") -> SlipBlank:
    row = POINTS[point]
    return SlipBlank(point, label or row.label, row.quantity, row.low, row.high, point=point)


def _plate(key: str, hint: str = "") -> SlipBlank:
    row = _PLATE[key]
    return SlipBlank(key, row.label, row.quantity, row.low, row.high, hint or row.hint)


_ROWS = (
    SlipBlank(
        "refrigerant", "Refrigerant", None, choices=tuple((n, n) for n in CATALOGUE), usual="R-410A"
    ),
    SlipBlank(
        "metering_device",
        "Metering device",
        None,
        choices=tuple((d.value, label) for d, label in DEVICE_LABELS.items()),
        usual="txv",
    ),
    _plate("elevation"),
    # saturation, both ways
    SlipBlank("pressure", "Pressure", _P, -14, 900, like="suction_pressure"),
    SlipBlank("temperature", "Temperature", _T, -60, 160, like="liquid_line_temp"),
    # what was read elsewhere, against a target of its own
    SlipBlank("superheat_now", "Superheat, as read", Quantity.TEMPERATURE_DIFFERENCE, -20, 80),
    # the circuit
    *(
        _reading(p)
        for p in (
            "suction_pressure",
            "liquid_pressure",
            "suction_line_temp",
            "liquid_line_temp",
            "discharge_line_temp",
            "outdoor_air_temp",
            "return_air_temp",
            "return_air_wet_bulb",
            "supply_air_temp",
            "supply_air_wet_bulb",
            "airflow",
            "supply_static",
            "return_static",
            "filter_pressure_drop",
        )
    ),
    _plate("target_subcooling", "from the plate"),
    _plate("nominal_capacity"),
    # airflow
    SlipBlank(
        "climate",
        "Climate",
        None,
        choices=tuple((c.key, c.label) for c in CLIMATES.values()),
        usual="normal",
    ),
    SlipBlank("strip_volts", "Strip volts", Quantity.VOLTAGE, 80, 700, like="line_volts"),
    SlipBlank(
        "strip_circuit_amps",
        "Strip amps, all circuits",
        Quantity.CURRENT,
        1,
        400,
        like="strip_amps",
    ),
    SlipBlank("heated_air_temp", "Supply air, strips on", _T, 40, 200, like="supply_air_temp"),
    SlipBlank(
        "blower_motor",
        "Blower motor",
        None,
        choices=(("psc", "PSC"), ("ecm", "Constant airflow (ECM)")),
        usual="psc",
    ),
    SlipBlank("blower_amps", "Blower amps", Quantity.CURRENT, 0.1, 60, point="blower_amps"),
    SlipBlank("blower_plate_amps", "Blower plate amps", Quantity.CURRENT, 0.1, 60),
    SlipBlank(
        "airflow_per_ton",
        "Airflow per ton",
        Quantity.AIRFLOW_PER_CAPACITY,
        180,
        640,
        "400 is ordinary",
        usual="400",
    ),
    # line set and charge
    *(
        _plate(k)
        for k in (
            "factory_charge",
            "line_set_length",
            "line_length_included",
            "charge_per_length",
            "coil_adder",
            "drier_adder",
        )
    ),
    SlipBlank("liquid_tube", "Liquid line", None, choices=_TUBE_CHOICES),
    SlipBlank("vapour_tube", "Vapour line", None, choices=_TUBE_CHOICES),
    SlipBlank(
        "hose_size",
        "Hose",
        None,
        choices=tuple((h.name, f"{h.name} in.") for h in HOSES),
        usual="1/4",
    ),
    SlipBlank("hose_length", "Liquid hose, length", Quantity.LENGTH, 0.5, 100),
    # cylinder
    SlipBlank("cylinder_temp", "Cylinder temperature", _T, -20, 140),
    SlipBlank("cylinder_pressure", "Cylinder pressure", _P, -14, 900),
    SlipBlank("water_capacity", "Water capacity", Quantity.MASS, 2, 1_500, "WC on its collar"),
    SlipBlank("cylinder_tare", "Tare", Quantity.MASS, 1, 1_000, "TW on its collar"),
    # electrical
    SlipBlank("capacitor_rated", "Rated", Quantity.CAPACITANCE, 0.5, 400),
    SlipBlank(
        "capacitor_measured",
        "Measured",
        Quantity.CAPACITANCE,
        0.05,
        400,
        point="capacitor_microfarads",
    ),
    SlipBlank("capacitor_tolerance", "Label ±", Quantity.PERCENT, 1, 20, usual="6"),
    SlipBlank("capacitor_amps", "or its amps", Quantity.CURRENT, 0.05, 100),
    SlipBlank("capacitor_volts", "and its volts", Quantity.VOLTAGE, 20, 1_000),
    SlipBlank("mains_hertz", "Mains", None, choices=(("60", "60 Hz"), ("50", "50 Hz")), usual="60"),
    SlipBlank("strip_kw", "One strip", Quantity.HEATER_POWER, 0.5, 60),
    SlipBlank("strip_rated_volts", "Rated volts", Quantity.VOLTAGE, 100, 700, usual="240"),
    SlipBlank("line_volts", "Line volts", Quantity.VOLTAGE, 80, 700, point="line_volts"),
    SlipBlank("strips_on_circuit", "Strips on this circuit", Quantity.COUNT, 1, 12, usual="1"),
    SlipBlank("strip_amps", "Measured amps", Quantity.CURRENT, 0, 400, point="strip_amps"),
    # a house in winter
    _plate("heat_at_47"),
    _plate("heat_at_17"),
    SlipBlank("set_point", "Thermostat holds", _T, 50, 85, like="return_air_temp"),
    SlipBlank("run_share", "Of the hour it ran", Quantity.PERCENT, 1, 100, "by a watch"),
    SlipBlank("strips_mean", "Strips, mean of the hour", Quantity.HEATER_POWER, 0, 60),
    # nitrogen
    SlipBlank("test_pressure_start", "Pressure, start", Quantity.TEST_PRESSURE, 1, 900),
    SlipBlank("test_temp_start", "Temperature, start", _T, -20, 160),
    SlipBlank(
        "test_pressure_now",
        "Pressure, now",
        Quantity.TEST_PRESSURE,
        -14,
        900,
        point="test_pressure",
    ),
    SlipBlank("test_temp_now", "Temperature, now", _T, -20, 160),
    SlipBlank("test_minutes", "Stood", Quantity.MINUTES, 0, 10_000),
    # vacuum
    *(
        SlipBlank(key, label, Quantity.VACUUM, 1, 800_000, point=point)
        for key, label, point in (
            ("vacuum_level", "Vacuum now", "vacuum_level"),
            ("vacuum_start", "Isolated, at the start", None),
            ("vacuum_5", "after 5 min", None),
            ("vacuum_10", "after 10 min", None),
            ("vacuum_15", "after 15 min", None),
            ("vacuum_20", "after 20 min", None),
            ("vacuum_30", "after 30 min", None),
            ("vacuum_60", "after an hour", None),
        )
    ),
    SlipBlank("vacuum_pipe_temp", "Coldest pipe", _T, -20, 140),
    SlipBlank(
        "vacuum_oil",
        "Inside",
        None,
        choices=(("used", "Old oil in it"), ("new", "New and clean")),
        usual="used",
    ),
    SlipBlank("inside_volume", "Room inside", Quantity.VOLUME, 0.2, 2_000, "12 at 3 tons"),
    SlipBlank(
        "vacuum_hose",
        "Vacuum hose",
        None,
        choices=tuple((name, f"{name} in.") for name in ("1/4", "3/8", "1/2", "3/4")),
        usual="3/8",
    ),
    SlipBlank("vacuum_hose_length", "Vacuum hose, length", Quantity.LENGTH, 0.5, 100),
    # leak rate
    SlipBlank("full_charge", "Full charge", Quantity.CHARGE, 0.1, 20_000),
    SlipBlank("added", "Added now", Quantity.CHARGE, 0.01, 20_000),
    SlipBlank("days", "Days since the last", Quantity.DAYS, 1, 10_000),
    SlipBlank("added_in_year", "Added in 365 days", Quantity.CHARGE, 0.01, 20_000),
)

BLANKS: Mapping[str, SlipBlank] = MappingProxyType({row.key: row for row in _ROWS})


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
