"""What a system is: its application, metering device and plate."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from nudge.core.language.errors import OutOfRange, UnknownName
from nudge.core.language.units import Quantity, to_si
from nudge.core.physics.air.coil import flow_per_capacity
from nudge.core.physics.chart.chart import Chart
from nudge.core.physics.refrigerant.catalogue import refrigerant


class Application(StrEnum):
    COMFORT_COOLING = "comfort_cooling"
    HEAT_PUMP_HEATING = "heat_pump_heating"
    REFRIGERATION = "refrigeration"
    VEHICLE = "vehicle"
    MULTI_ZONE = "multi_zone"


Feed = Literal["valve", "orifice"]
FEEDS: tuple[Feed, ...] = ("valve", "orifice")


class MeteringDevice(StrEnum):
    FIXED_ORIFICE = "fixed_orifice"
    TXV = "txv"
    EEV = "eev"

    @property
    def is_valve(self) -> bool:
        return self is not MeteringDevice.FIXED_ORIFICE

    @property
    def feed(self) -> Feed:
        """Which of the tables it is judged by: a valve that follows the load, or an orifice."""
        return "valve" if self.is_valve else "orifice"


class ReversingValve(StrEnum):
    """Whether a system is a heat pump, as far as anybody wrote it down."""

    UNKNOWN = ""
    PRESENT = "present"
    ABSENT = "absent"


APPLICATION_LABELS = {
    Application.COMFORT_COOLING: "Comfort cooling",
    Application.HEAT_PUMP_HEATING: "Heat pump, heating",
    Application.REFRIGERATION: "Refrigeration",
    Application.VEHICLE: "Vehicle",
    Application.MULTI_ZONE: "Multi-zone",
}

DEVICE_LABELS = {
    MeteringDevice.FIXED_ORIFICE: "Fixed orifice",
    MeteringDevice.TXV: "Expansion valve",
    MeteringDevice.EEV: "Electronic valve",
}


REVERSING_VALVE_LABELS = {
    ReversingValve.UNKNOWN: "not said",
    ReversingValve.PRESENT: "yes",
    ReversingValve.ABSENT: "no",
}


@dataclass(frozen=True, slots=True)
class PlateNumber:
    """One number a plate may carry: the key the API uses, its quantity, its believable range.

    `low`/`high` in field units: outside them the number was misread, so it is refused.
    """

    key: str
    field: str
    label: str
    quantity: Quantity
    low: float
    high: float
    hint: str = ""
    about: Literal["plate", "charge", "heating"] = "plate"
    """Which sheet asks for it: the plate, the sum of the charge, or a heat pump's winter."""


_D = Quantity.TEMPERATURE_DIFFERENCE
PLATE_NUMBERS: tuple[PlateNumber, ...] = (
    PlateNumber(
        "nominal_capacity", "nominal_capacity_w", "Capacity", Quantity.CAPACITY, 1_000, 600_000,
        "12,000 Btu/h is one ton",
    ),
    PlateNumber("rated_seer", "rated_seer", "SEER", Quantity.EFFICIENCY, 5, 45),
    PlateNumber(
        "target_subcooling", "target_subcooling_k", "Target subcooling", _D, 1, 30,
        "on the plate or in the door; leave empty if it is not given",
    ),
    PlateNumber("target_superheat", "target_superheat_k", "Target superheat", _D, 1, 45),
    PlateNumber(
        "condensing_over_ambient", "condensing_over_ambient_k", "Condensing over ambient", _D, 3, 50
    ),
    PlateNumber("approach", "approach_k", "Approach", _D, 1, 25),
    PlateNumber("elevation", "elevation_m", "Site elevation", Quantity.LENGTH, -1_500, 16_000),
    PlateNumber("rated_airflow", "rated_airflow_lps", "Rated airflow", Quantity.AIRFLOW, 50, 20_000,
                "standard air, if the plate or manual gives one"),
    PlateNumber("line_set_length", "line_set_length_m", "Line set length", Quantity.LENGTH, 0, 500,
                about="charge"),
    PlateNumber("factory_charge", "factory_charge_kg", "Factory charge", Quantity.CHARGE, 0.1, 200,
                "on the plate", about="charge"),
    PlateNumber("line_length_included", "line_length_included_m", "Line length included",
                Quantity.LENGTH, 0, 200, "that the factory charge covers, often 15 ft",
                about="charge"),
    PlateNumber("charge_per_length", "charge_g_per_m", "Charge per length",
                Quantity.CHARGE_PER_LENGTH, 0.01, 5, "worked out from the tube where it is empty",
                about="charge"),
    PlateNumber("liquid_line_size", "liquid_line_mm", "Liquid line, outside", Quantity.TUBE_SIZE,
                0.18, 3.2, about="charge"),
    PlateNumber("vapour_line_size", "vapour_line_mm", "Vapour line, outside", Quantity.TUBE_SIZE,
                0.18, 4.2, about="charge"),
    PlateNumber("coil_adder", "coil_adder_g", "Coil adder", Quantity.SMALL_MASS, -160, 320,
                "ounces the plate adds for this indoor coil", about="charge"),
    PlateNumber("drier_adder", "drier_adder_g", "Drier adder", Quantity.SMALL_MASS, 0, 64,
                about="charge"),
    PlateNumber("design_pressure_low", "design_pressure_low_kpa", "Design pressure, low side",
                Quantity.PRESSURE, 20, 1_500, "the lower of the two on the plate"),
    PlateNumber("design_pressure_high", "design_pressure_high_kpa", "Design pressure, high side",
                Quantity.PRESSURE, 50, 2_500),
    PlateNumber("heat_at_47", "heat_47_w", "Heat at the mild point", Quantity.CAPACITY,
                1_000, 600_000, "the rating at 47 °F (8.3 °C)", about="heating"),
    PlateNumber("heat_at_17", "heat_17_w", "Heat at the cold point", Quantity.CAPACITY,
                500, 600_000, "the rating at 17 °F (−8.3 °C)", about="heating"),
    PlateNumber("power_at_47", "power_47_w", "Power at the mild point", Quantity.POWER, 100, 60_000,
                "fans counted in", about="heating"),
    PlateNumber("power_at_17", "power_17_w", "Power at the cold point", Quantity.POWER, 100, 60_000,
                about="heating"),
    PlateNumber("lowest_outdoor", "lowest_outdoor_c", "Coldest it may run", Quantity.TEMPERATURE,
                -40, 50, "the rated minimum outdoors", about="heating"),
    PlateNumber("strips", "strips_kw", "Strips, all together", Quantity.HEATER_POWER, 0.5, 80,
                "as written on the heater", about="heating"),
    PlateNumber("strips_off_over", "strips_off_over_c", "Strips locked out over",
                Quantity.TEMPERATURE, 0, 75, "as the thermostat is set", about="heating"),
    PlateNumber("compressor_off_under", "compressor_off_under_c", "Compressor locked out under",
                Quantity.TEMPERATURE, -40, 65, "as the thermostat is set", about="heating"),
    PlateNumber("house_loss", "house_loss_w_k", "House loses, a degree", Quantity.HEAT_LOSS,
                20, 20_000, "worked out from a cold hour, or entered", about="heating"),
)  # fmt: skip


def check_plate_number(row: PlateNumber, value_si: float) -> None:
    """Refuse a plate number outside its believable range, or NaN. Raises: OutOfRange."""
    low, high = (to_si(v, row.quantity, "ip") for v in (row.low, row.high))
    if not low <= value_si <= high:
        raise OutOfRange(row.label, value_si, low, high, row.quantity)


def application_named(name: str) -> Application:
    """Raises: UnknownName, with the nearest."""
    if name not in set(Application):
        raise UnknownName("application", name, list(Application))
    return Application(name)


def device_named(name: str) -> MeteringDevice:
    """Raises: UnknownName, with the nearest."""
    if name not in set(MeteringDevice):
        raise UnknownName("metering device", name, list(MeteringDevice))
    return MeteringDevice(name)


def reversing_valve_named(name: str) -> ReversingValve:
    """Raises: UnknownName, with the nearest."""
    if name not in set(ReversingValve):
        raise UnknownName("reversing valve", name, ["present", "absent"])
    return ReversingValve(name)


@dataclass(frozen=True, slots=True)
class Plate:
    """A system as its plate and maker describe it. None where the plate is silent."""

    refrigerant: str
    metering_device: MeteringDevice
    application: Application = Application.COMFORT_COOLING
    nominal_capacity_w: float | None = None
    rated_seer: float | None = None
    target_subcooling_k: float | None = None
    target_superheat_k: float | None = None
    condensing_over_ambient_k: float | None = None
    approach_k: float | None = None
    elevation_m: float = 0.0
    line_set_length_m: float | None = None
    rated_airflow_lps: float | None = None
    factory_charge_kg: float | None = None
    line_length_included_m: float | None = None
    charge_g_per_m: float | None = None
    liquid_line_mm: float | None = None
    vapour_line_mm: float | None = None
    coil_adder_g: float | None = None
    drier_adder_g: float | None = None
    design_pressure_low_kpa: float | None = None
    design_pressure_high_kpa: float | None = None
    heat_47_w: float | None = None
    heat_17_w: float | None = None
    power_47_w: float | None = None
    power_17_w: float | None = None
    lowest_outdoor_c: float | None = None
    strips_kw: float | None = None
    strips_off_over_c: float | None = None
    compressor_off_under_c: float | None = None
    house_loss_w_k: float | None = None
    indoor_unit: str = ""
    blower_tap: str = ""
    reversing_valve: ReversingValve = ReversingValve.UNKNOWN
    charts: tuple[Chart, ...] = ()

    def rated_flow_per_capacity(self) -> float:
        """Standard airflow per capacity the maker asks for, else 400 CFM per ton [L/s per kW]."""
        if self.rated_airflow_lps is None or self.nominal_capacity_w is None:
            return flow_per_capacity(1.0)
        return self.rated_airflow_lps / self.nominal_capacity_w * 1000

    def chart(self, kind: str) -> Chart | None:
        """The chart of a kind kept with this system."""
        return next((chart for chart in self.charts if chart.kind.key == kind), None)

    def __post_init__(self) -> None:
        """Store the catalogue's spelling. Raises: UnknownName."""
        object.__setattr__(self, "refrigerant", refrigerant(self.refrigerant).name)
