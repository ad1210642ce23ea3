"""What a system is: its application, metering device and plate."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from nudge.core.language.errors import UnknownName
from nudge.core.physics.air.coil import flow_per_capacity
from nudge.core.physics.chart.chart import Chart
from nudge.core.physics.circuit.tubes import LiquidPipe
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
    box_set_point_c: float | None = None
    coil_class_k: float | None = None
    condenser_class_k: float | None = None
    has_receiver: str = ""
    head_pressure_control: str = ""
    defrost_kind: str = ""
    second_evaporator: str = ""
    indoor_unit: str = ""
    blower_tap: str = ""
    reversing_valve: ReversingValve = ReversingValve.UNKNOWN
    charts: tuple[Chart, ...] = ()
    liquid_pipes: tuple[LiquidPipe, ...] | None = None
    """Of a plant with many rooms, a size each, empty where none is written; else None: it has one
    line set.
    """

    @property
    def lines_called(self) -> str:
        """What leads from its outdoor unit to the rooms, in words."""
        return "line set" if self.liquid_pipes is None else "liquid pipes"

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
