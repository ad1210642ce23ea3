"""The simulated kit: what a technician carries, one row an instrument, one a channel.

Noise, resolution, lag and calibration error are those of good field instruments (see
`core/language/vocabulary/accuracy.py`); a kit made with another seed has other small errors.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from math import exp
from random import Random
from types import MappingProxyType

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.vocabulary.points import POINTS
from nudge.instruments.source import ChannelInfo, Sample
from nudge.instruments.troubles import TROUBLES, TroubleMoment, Truth


@dataclass(frozen=True, slots=True)
class InstrumentKind:
    """How one kind of instrument measures, in core units of its quantity.

    `error` is one standard deviation of its calibration, `noise` of a single value.
    """

    key: str
    label: str
    noise: float
    error: float
    resolution: float
    lag_s: float
    can_zero: bool = False
    battery_hours: float = 60.0


KINDS: Mapping[str, InstrumentKind] = MappingProxyType(
    {
        row.key: row
        for row in (
            InstrumentKind("pressure_probe", "Pressure probe", 0.7, 1.4, 0.1, 0.4, can_zero=True),
            InstrumentKind("clamp", "Pipe clamp", 0.05, 0.15, 0.05, 6.0),
            InstrumentKind("air_probe", "Air probe", 0.04, 0.12, 0.05, 12.0),
            InstrumentKind("manometer", "Manometer", 0.6, 0.8, 0.25, 0.5, can_zero=True),
            InstrumentKind("scale", "Charging scale", 0.002, 0.002, 0.005, 0.8, can_zero=True),
            InstrumentKind("vacuum_gauge", "Vacuum gauge", 0.3, 0.6, 0.1, 2.0),
            InstrumentKind("clamp_meter", "Clamp meter", 0.03, 0.05, 0.01, 0.5, can_zero=True),
            InstrumentKind("power_meter", "Clamp meter, power", 6.0, 10.0, 1.0, 0.5),
            InstrumentKind("volt_meter", "Clamp meter, volts", 0.3, 0.8, 0.1, 0.5),
            InstrumentKind("factor_meter", "Clamp meter, factor", 0.003, 0.008, 0.001, 0.5),
        )
    }
)


@dataclass(frozen=True, slots=True)
class KitRow:
    """One channel of the kit: its key, its kind, the name on its body, where it usually goes."""

    key: str
    kind: str
    label: str
    point: str


KIT: tuple[KitRow, ...] = (
    KitRow("low-probe", "pressure_probe", "Low probe", "suction_pressure"),
    KitRow("high-probe", "pressure_probe", "High probe", "liquid_pressure"),
    KitRow("clamp-1", "clamp", "Clamp 1", "suction_line_temp"),
    KitRow("clamp-2", "clamp", "Clamp 2", "liquid_line_temp"),
    KitRow("clamp-3", "clamp", "Clamp 3", "discharge_line_temp"),
    KitRow("clamp-4", "clamp", "Clamp 4", "liquid_line_temp_indoor"),
    KitRow("clamp-5", "clamp", "Clamp 5", "evaporator_outlet_temp"),
    KitRow("clamp-6", "clamp", "Clamp 6", ""),
    KitRow("air-1", "air_probe", "Air probe 1", "outdoor_air_temp"),
    KitRow("air-2", "air_probe", "Air probe 2", "return_air_temp"),
    KitRow("air-2-wet", "air_probe", "Air probe 2, wet bulb", "return_air_wet_bulb"),
    KitRow("air-3", "air_probe", "Air probe 3", "supply_air_temp"),
    KitRow("air-3-wet", "air_probe", "Air probe 3, wet bulb", "supply_air_wet_bulb"),
    KitRow("manometer", "manometer", "Manometer", "total_external_static"),
    KitRow("meter-amps", "clamp_meter", "Clamp meter", "compressor_amps"),
    KitRow("meter-power", "power_meter", "Clamp meter, power", "outdoor_unit_watts"),
    KitRow("scale", "scale", "Charging scale", "cylinder_weight"),
    KitRow("vacuum", "vacuum_gauge", "Vacuum gauge", ""),
)


_IN_WINTER = {
    "clamp-1": "true_suction_temp",
    "clamp-6": "suction_line_temp",
    "clamp-5": "",
    "air-3-wet": "",
}
WINTER_KIT: tuple[KitRow, ...] = (
    *(replace(row, point=_IN_WINTER.get(row.key, row.point)) for row in KIT),
    KitRow("meter-fan", "clamp_meter", "Clamp meter 2", "condenser_fan_amps"),
    KitRow("meter-strips", "clamp_meter", "Clamp meter 3", "strip_amps"),
    KitRow("meter-power-in", "power_meter", "Clamp meter 4, power", "indoor_unit_watts"),
    KitRow("meter-volts", "volt_meter", "Clamp meter, volts", "outdoor_unit_volts"),
    KitRow("meter-unit", "clamp_meter", "Clamp meter, amps of the unit", "outdoor_unit_amps"),
    KitRow("meter-factor", "factor_meter", "Clamp meter, factor", "outdoor_unit_power_factor"),
)
"""The same in heating: suction is read between reversing valve and compressor, and power counts."""


_IN_A_ROOM = {"air-2": "box_air_temp", "air-2-wet": "", "air-3-wet": "", "manometer": ""}
ROOM_KIT: tuple[KitRow, ...] = tuple(
    replace(row, point=_IN_A_ROOM.get(row.key, row.point)) for row in KIT
)
"""The same at a cold room: a probe hangs in the box, and no duct is measured."""
_ON_A_VEHICLE = {
    "low-probe": "",
    "high-probe": "",
    "clamp-1": "evaporator_outlet_temp",
    "clamp-2": "condenser_outlet_line_temp",
    "clamp-3": "condenser_inlet_line_temp",
    "clamp-4": "evaporator_inlet_line_temp",
    "clamp-5": "",
    "air-1": "condenser_entering_air_temp",
    "air-2": "return_air_temp",
    "air-3": "vent_air_temp",
    "air-3-wet": "",
    "manometer": "",
    "meter-amps": "",
    "meter-power": "",
}
VEHICLE_KIT: tuple[KitRow, ...] = tuple(
    replace(row, point=_ON_A_VEHICLE.get(row.key, row.point)) for row in KIT
)
"""The same at a vehicle: its three tests are temperatures alone."""
_KITS: Mapping[str, tuple[KitRow, ...]] = MappingProxyType(
    {"refrigeration": ROOM_KIT, "vehicle": VEHICLE_KIT}
)


def kit_rows(heating: bool, application: str = "") -> tuple[KitRow, ...]:
    """What is carried to a plant of a kind, in its mode."""
    return WINTER_KIT if heating else _KITS.get(application, KIT)


@dataclass(frozen=True, slots=True)
class Ails:
    """A trouble an instrument has, at a severity."""

    key: str
    severity: float = 1.0


@dataclass(frozen=True, slots=True)
class Held:
    """One channel as it is now: where it sits, its errors, its battery, what ails it."""

    row: KitRow
    point: str
    offset: float = 0.0
    zero: float = 0.0
    battery: float = 1.0
    ails: tuple[Ails, ...] = ()
    felt: float | None = None
    last: float | None = None


@dataclass(frozen=True, slots=True)
class SimulatedKit:
    """The whole kit at one moment. `read` answers the next moment and what it gave."""

    held: tuple[Held, ...]
    seconds: float = 0.0

    @property
    def channels(self) -> Sequence[ChannelInfo]:
        return [ChannelInfo(h.row.key, h.row.label, h.point) for h in self.held]

    def read(self, truth: Truth, dt: float, rng: Random) -> tuple["SimulatedKit", dict[str, float]]:
        """Let `dt` seconds pass in this truth: the kit after it, and one value a channel."""
        given: dict[str, float] = {}
        after = []
        for held in self.held:
            moved = _felt(held, truth, dt)
            value = _given(moved, truth, self.seconds, rng)
            if value is not None:
                given[held.row.key] = value
                moved = replace(moved, last=value)
            after.append(moved)
        return SimulatedKit(tuple(after), self.seconds + dt), given

    def place(self, channel: str, point: str) -> "SimulatedKit":
        """Put one on a point, or take it off (""). Raises: UnknownName, CoreError."""
        held = self._one(channel)
        if point and not fits(held.row.kind, point):
            label = POINTS[point].label if point in POINTS else point
            raise CoreError("point", f"{held.row.label} cannot be read at {label}.")
        return self._with(replace(held, point=point, felt=None))

    def zero(self, channel: str, truth: Truth) -> "SimulatedKit":
        """Zero one as it sits: right when open to air, wrong under pressure."""
        held = self._one(channel)
        if not KINDS[held.row.kind].can_zero:
            raise CoreError("instrument", f"{held.row.label} has no zero to set.")
        shows = truth.get(held.point, 0.0) if held.point else 0.0
        return self._with(replace(held, zero=-(held.offset + shows)))

    def ail(self, channel: str, ails: tuple[Ails, ...]) -> "SimulatedKit":
        """Give one channel its troubles. Raises: UnknownName, CoreError."""
        held = self._one(channel)
        for ailing in ails:
            if ailing.key not in TROUBLES:
                raise UnknownName("trouble", ailing.key, TROUBLES)
            if held.row.kind not in TROUBLES[ailing.key].kinds:
                raise CoreError("trouble", f"{held.row.label} cannot have {ailing.key}.")
        return self._with(replace(held, ails=ails))

    def _one(self, channel: str) -> Held:
        for held in self.held:
            if held.row.key == channel:
                return held
        raise UnknownName("instrument", channel, {h.row.key: None for h in self.held})

    def _with(self, changed: Held) -> "SimulatedKit":
        return replace(
            self,
            held=tuple(changed if h.row.key == changed.row.key else h for h in self.held),
        )


def new_kit(rng: Random, rows: Sequence[KitRow] = KIT) -> SimulatedKit:
    """A kit with its own small calibration errors, everything where it usually goes."""
    return SimulatedKit(
        tuple(Held(row, row.point, rng.gauss(0, KINDS[row.kind].error)) for row in rows)
    )


def fits(kind: str, point: str) -> bool:
    """Whether this kind of instrument can be read at this point."""
    return point in _POINTS_OF_KIND[kind]


_STATICS = ("total_external_static", "return_static", "supply_static", "filter_pressure_drop")
_PRESSURES = ("suction_pressure", "liquid_pressure", "discharge_pressure", "test_pressure")


def _points_of(kind: str) -> frozenset[str]:
    if kind == "clamp":
        return frozenset(key for key in POINTS if "_temp" in key and "air" not in key)
    if kind == "air_probe":
        return frozenset(key for key in POINTS if "air" in key and key.endswith(_AIR_ENDS))
    ends = {
        "pressure_probe": _PRESSURES,
        "manometer": _STATICS,
        "scale": ("cylinder_weight",),
        "vacuum_gauge": ("vacuum_level",),
        "clamp_meter": ("_amps",),
        "power_meter": ("_watts",),
        "volt_meter": ("_volts",),
        "factor_meter": ("_power_factor",),
    }[kind]
    return frozenset(key for key in POINTS if key.endswith(ends))


_AIR_ENDS = ("_temp", "_wet_bulb")
_POINTS_OF_KIND = {kind: _points_of(kind) for kind in KINDS}


def _felt(held: Held, truth: Truth, dt: float) -> Held:
    """What reaches the sensing element, late."""
    true = truth.get(held.point)
    if true is None:
        return replace(held, felt=None)
    for ailing in held.ails:
        if ailing.key == "wrong_pipe":
            moment = TroubleMoment(held.point, truth, held.last, 0.0)
            true = TROUBLES["wrong_pipe"].bend(true, moment, ailing.severity, _NO_CHANCE) or true
    lag = KINDS[held.row.kind].lag_s
    felt = true if held.felt is None else held.felt + (true - held.felt) * (1 - exp(-dt / lag))
    drained = dt / 3600 / KINDS[held.row.kind].battery_hours
    return replace(held, felt=felt, battery=max(held.battery - drained, 0.0))


def _given(held: Held, truth: Truth, seconds: float, rng: Random) -> float | None:
    kind = KINDS[held.row.kind]
    if held.felt is None or held.battery <= 0:
        return None
    value: float | None = held.felt + held.offset + held.zero + rng.gauss(0, kind.noise)
    moment = TroubleMoment(held.point, truth, held.last, seconds)
    for ailing in held.ails:
        if value is not None and ailing.key != "wrong_pipe":
            value = TROUBLES[ailing.key].bend(value, moment, ailing.severity, rng)
    return None if value is None else round(value / kind.resolution) * kind.resolution


_NO_CHANCE = Random(0)  # wrong_pipe draws nothing


@dataclass(slots=True)
class KitSource:
    """A kit on a truth that moves, as a `Source`: each call gives what came since the last."""

    kit: SimulatedKit
    rng: Random
    pending: list[Sample] = field(default_factory=list)

    @property
    def channels(self) -> Sequence[ChannelInfo]:
        return self.kit.channels

    def tick(self, truth: Truth, dt: float, at_ms: int) -> dict[str, float]:
        """Let time pass: one sample a channel at `at_ms`."""
        self.kit, given = self.kit.read(truth, dt, self.rng)
        self.pending += [Sample(key, at_ms, value) for key, value in given.items()]
        return given

    def samples(self) -> Iterator[Sample]:
        ready, self.pending = self.pending, []
        return iter(ready)
