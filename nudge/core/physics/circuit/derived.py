"""What the readings say about the running circuit: saturations, superheat, differences.

One row a quantity: what it is, its formula, its source. `derive` fills the ones whose
readings are there and leaves the rest None: absent is absent, never guessed.
"""

from collections.abc import Mapping
from dataclasses import replace
from typing import Literal, NamedTuple

from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.units import atmospheric_kpa
from nudge.core.language.vocabulary.points import Readings
from nudge.core.physics.air.coil import FLOW_SHARE, capacity_share, share_of_rated
from nudge.core.physics.air.heat import heat_taken, standard_flow
from nudge.core.physics.air.moist_air import MoistAir, moist_air
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.circuit.roles import COOLING, Roles
from nudge.core.physics.refrigerant.saturation import Saturation, is_in_vacuum, saturation_at
from nudge.core.physics.refrigerant.table import SaturationTable, load_table

UNREAD_SUPPLY_C = 14.0
UNREAD_RH, UNREAD_MOISTURE = 85.0, 0.0095
"""Supply air where nobody read its temperature or moisture: off a wet coil, or room air warmed.
Density moves with them by a percent or two."""


class Derived(NamedTuple):
    """Derived quantities in core units (°C, K, kPa, Pa, L/s, W); None without their readings."""

    evaporator_saturation: float | None = None
    condenser_saturation: float | None = None
    superheat: float | None = None
    """At the outdoor unit; at the coil outlet where only that is read (`superheat_at_coil`)."""
    evaporator_superheat: float | None = None
    subcooling: float | None = None
    """Leaving the outdoor unit; before the device where only that is read (`…_at_device`)."""
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
    external_static: float | None = None
    airflow_by_table: float | None = None
    airflow_standard: float | None = None
    airflow_per_capacity: float | None = None
    capacity_total: float | None = None
    capacity_sensible: float | None = None
    capacity_latent: float | None = None
    sensible_heat_ratio: float | None = None
    capacity_normalised: float | None = None
    eer: float | None = None
    superheat_at_coil: bool = False
    subcooling_at_device: bool = False
    roles: Roles = COOLING

    def get(self, key: str) -> float | None:
        """The value under a `DERIVED` key."""
        value: float | None = getattr(self, key)
        return value


def derive(plate: Plate, readings: Readings, roles: Roles = COOLING) -> Derived:
    """Every quantity the readings allow, for this plate's refrigerant and elevation.

    `roles` says which reading plays which part; a heat pump in heating turns them round.

    A suction below the table's foot is in a vacuum: it has no saturation, and is no error.
    Superheat counts from dew, subcooling from bubble: with a gliding blend the other end is
    several degrees wrong. Nothing is clamped; a negative superheat is evidence.

    Raises: OutOfRange, when a pressure is over the refrigerant's table, or a liquid pressure
    below it.
    """
    read = readings.get
    table = load_table(plate.refrigerant)
    suction, liquid = read("suction_pressure"), read("liquid_pressure")
    low = None if is_below_table(plate, readings) else _saturation(table, suction, plate)
    high = _saturation(table, liquid, plate)
    dew_c = low.dew_c if low else None
    gas = roles.read(roles.superheat_line, readings)
    liquid_c = roles.read(roles.subcool_line, readings)
    cold, warm = roles.read(roles.cold_air, readings), roles.read(roles.warm_air, readings)
    at_coil = gas is not None and roles.superheat_line[0] not in readings
    at_device = liquid_c is not None and roles.subcool_line[0] not in readings
    return Derived(
        evaporator_saturation=dew_c,
        condenser_saturation=high.bubble_c if high else None,
        superheat=_minus(gas, dew_c),
        superheat_at_coil=at_coil,
        subcooling_at_device=at_device,
        roles=roles,
        evaporator_superheat=_minus(read("evaporator_outlet_temp"), dew_c),
        subcooling=_minus(high.bubble_c if high else None, liquid_c),
        condensing_over_ambient=_minus(high.condenser_mean_c if high else None, warm),
        evaporator_difference=_minus(cold, low.evaporator_mean_c if low else None),
        approach=_minus(read("liquid_line_temp"), warm),
        temperature_split=_minus(read("return_air_temp"), read("supply_air_temp"))
        if not roles.heats
        else None,
        pressure_ratio=_pressure_ratio(plate, read("discharge_pressure", liquid), suction),
        valve_pressure_difference=_minus(liquid, suction),
        liquid_line_drop=_minus(*(read(point) for point in roles.along_liquid)),
        drier_drop=_minus(read("drier_inlet_temp"), read("drier_outlet_temp")),
        evaporator_glide=low.glide_k if low else None,
        condenser_glide=high.glide_k if high else None,
        external_static=_minus(read("supply_static"), read("return_static")),
        **_air_side(plate, readings),
    )


def is_below_table(plate: Plate, readings: Readings) -> bool:
    """Whether suction reads below everything the refrigerant's table holds: in a vacuum."""
    suction = readings.get("suction_pressure")
    if suction is None:
        return False
    return is_in_vacuum(load_table(plate.refrigerant), suction, plate.elevation_m)


def _saturation(table: SaturationTable, kpa_gauge: float | None, plate: Plate) -> Saturation | None:
    return None if kpa_gauge is None else saturation_at(table, kpa_gauge, plate.elevation_m)


def _minus(a: float | None, b: float | None) -> float | None:
    return None if a is None or b is None else a - b


def _pressure_ratio(plate: Plate, high: float | None, suction: float | None) -> float | None:
    if high is None or suction is None:
        return None
    atmosphere = atmospheric_kpa(plate.elevation_m)
    if suction + atmosphere <= 0:
        return None
    return (high + atmosphere) / (suction + atmosphere)


def _air_side(plate: Plate, readings: Readings) -> dict[str, float | None]:
    """What airflow, both airs and watts allow."""
    by_table = _by_table(plate, readings)
    airflow = readings.get("airflow", by_table)
    if airflow is None:
        return {}
    leaving = air_of(plate, readings, "supply")
    found: dict[str, float | None] = {"airflow_by_table": by_table}
    supply_c = readings.get("supply_air_temp", UNREAD_SUPPLY_C)
    carrying = leaving or unread_supply_air(supply_c, plate.elevation_m)
    found["airflow_standard"] = standard = standard_flow(carrying, airflow)
    if plate.nominal_capacity_w:
        found["airflow_per_capacity"] = standard / plate.nominal_capacity_w * 1000
    entering = air_of(plate, readings, "return")
    if entering is None or leaving is None:
        return found
    heat = heat_taken(entering, leaving, airflow)
    watts = _sum(readings.get("outdoor_unit_watts"), readings.get("indoor_unit_watts"))
    return found | {
        "capacity_total": heat.total_w,
        "capacity_sensible": heat.sensible_w,
        "capacity_latent": heat.latent_w,
        "sensible_heat_ratio": heat.sensible_share,
        "capacity_normalised": _normalised(heat.total_w, entering, found, readings),
        "eer": heat.total_w / watts if watts else None,
    }


def unread_supply_air(supply_c: float, elevation_m: float) -> MoistAir:
    """Supply air of a temperature [°C] whose moisture nobody read: see `UNREAD_RH`."""
    air = moist_air(supply_c, elevation_m, relative_humidity=UNREAD_RH)
    return replace(air, humidity_ratio=min(air.humidity_ratio, UNREAD_MOISTURE))


def _by_table(plate: Plate, readings: Readings) -> float | None:
    """Airflow by the maker's blower table; None where it is silent."""
    chart, static = plate.chart("blower_airflow"), blower_static(readings)
    if chart is None or static is None:
        return None
    try:
        return chart.value(static, plate.blower_tap)
    except CoreError:
        return None


def blower_static(readings: Readings) -> float | None:
    """Total external static [Pa]: supply less return where both were read, else as read."""
    both = _minus(readings.get("supply_static"), readings.get("return_static"))
    return readings.get("total_external_static") if both is None else both


def _normalised(
    total_w: float, entering: MoistAir, found: Mapping[str, float | None], readings: Readings
) -> float | None:
    outdoor, flow = readings.get("outdoor_air_temp"), found.get("airflow_per_capacity")
    if (
        outdoor is None
        or flow is None
        or not FLOW_SHARE[0] <= share_of_rated(flow) <= FLOW_SHARE[1]
    ):
        return None
    wet_bulb = read_wet_bulb(readings, entering)
    return total_w / capacity_share(wet_bulb, outdoor, share_of_rated(flow))


def read_wet_bulb(readings: Readings, entering: MoistAir) -> float:
    """Return wet bulb as read, else worked out from the air: the slow way, so only if need be."""
    wet = readings.get("return_air_wet_bulb")
    return entering.wet_bulb_c if wet is None else min(wet, entering.dry_bulb_c)


def air_of(plate: Plate, readings: Readings, where: Literal["return", "supply"]) -> MoistAir | None:
    """The return or supply air as read; None while its moisture is not known.

    A wet bulb that cannot be is None too: settling/trust.py reports it.
    """
    dry, wet = readings.get(f"{where}_air_temp"), readings.get(f"{where}_air_wet_bulb")
    humidity = readings.get(f"{where}_air_rh")
    if dry is None or (wet is None and humidity is None):
        return None
    try:
        return moist_air(dry, plate.elevation_m, wet, humidity)
    except Impossible:
        return None


def _sum(a: float | None, b: float | None) -> float | None:
    return None if a is None or b is None else a + b
