"""What can be wrong with a system, as rows: each spoils the machine or its surroundings.

Severity runs from 0 (nothing) to 1 (as bad as one finds them); about 0.3 is mild, 0.6
moderate. Faults combine: each is applied to what the one before it left.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType

from nudge.core.language.errors import OutOfRange, UnknownName
from nudge.plant.machine import Conditions, Machine
from nudge.plant.wet_air import WetAir, saturated_ratio

RINGS_AGAIN, REED_AGAIN = 0.85, 0.05
"""Share of the work on leaked gas that is done again: past worn rings it is compressed once more,
past a broken reed it goes back uncompressed. Of the power 1 − leak × (1 − again) is left."""
Spoil = Callable[[Machine, float], Machine]
Change = Callable[[Conditions, float], Conditions]


@dataclass(frozen=True, slots=True)
class Fault:
    """One row: the suspect it is known as in the judgement, and what severity 1 means."""

    key: str
    suspect: str
    means: str
    machine: Spoil | None = None
    conditions: Change | None = None
    only: str = ""
    """The one mode, or kind of plant, it can befall: "heating", "room"; "" for any."""


@dataclass(frozen=True, slots=True)
class Present:
    """A fault that is there, at a severity."""

    key: str
    severity: float


def _undercharge(c: Conditions, s: float) -> Conditions:
    return replace(c, charge_kg=c.charge_kg * (1 - 0.5 * s))


def _overcharge(c: Conditions, s: float) -> Conditions:
    return replace(c, charge_kg=c.charge_kg * (1 + 0.4 * s))


def _condenser_dirt(m: Machine, s: float) -> Machine:
    coil = replace(m.outdoor, conductance=m.outdoor.conductance * (1 - 0.55 * s))
    return replace(m, outdoor=coil, fan=replace(m.fan, share=m.fan.share * (1 - 0.45 * s)))


def _condenser_fan(m: Machine, s: float) -> Machine:
    return replace(m, fan=replace(m.fan, share=m.fan.share * (1 - 0.7 * s)))


def _recirculating(m: Machine, s: float) -> Machine:
    return replace(m, fan=replace(m.fan, recirculation=0.5 * s))


def _foreign_gas(m: Machine, s: float) -> Machine:
    return replace(m, foreign_gas_kpa=m.foreign_gas_kpa + 400 * s)


def _filter(m: Machine, s: float) -> Machine:
    b = m.blower
    return replace(m, blower=replace(b, filter_resistance=b.filter_resistance * (1 + 24 * s)))


def _coil_dirt(m: Machine, s: float) -> Machine:
    b, coil = m.blower, m.indoor
    return replace(
        m,
        blower=replace(b, coil_resistance=b.coil_resistance * (1 + 9 * s)),
        indoor=replace(coil, conductance=coil.conductance * (1 - 0.3 * s)),
    )


def _weak_capacitor(m: Machine, s: float) -> Machine:
    b = m.blower
    return replace(m, blower=replace(b, speed=b.speed * (1 - 0.5 * s), capacitor_share=1 - 0.4 * s))


def _drier(m: Machine, s: float) -> Machine:
    return _restricted(m, s, "drier")


def _kink(m: Machine, s: float) -> Machine:
    return _restricted(m, s, "line")


def _service_valve(m: Machine, s: float) -> Machine:
    return _restricted(m, s, "service_valve")


def _restricted(m: Machine, s: float, where: str) -> Machine:
    """Loss in multiples of the drier's own, which is 0.3 % of the high side."""
    extra = m.lines.drier_resistance * (180 * s + 140 * s * s)
    return replace(m, lines=replace(m.lines, restriction=extra, restricted_at=where))


def _underfed(m: Machine, s: float) -> Machine:
    d = m.device
    if d.kind == "fixed_orifice":
        return replace(m, device=replace(d, plugged=0.7 * s))
    # A valve opens against what plugs it until it is wide open: a dead bulb holds it shut.
    # Its charge lost, it stands at a share of the opening it needs, near 0.7 of its area.
    return replace(m, device=replace(d, most_open=0.69 * (1 - 0.9 * s)))


def _shut(m: Machine, s: float) -> Machine:
    return replace(m, device=replace(m.device, is_shut=s > 0)) if s > 0 else m


def _overfed(m: Machine, s: float) -> Machine:
    d = m.device
    if d.kind == "fixed_orifice":
        return replace(m, device=replace(d, area_m2=d.area_m2 * (1 + 0.6 * s)))
    return replace(
        m, device=replace(d, stuck_at=0.69 + 0.31 * s, area_m2=d.area_m2 * (1 + 0.25 * s))
    )


def _bulb_loose(m: Machine, s: float) -> Machine:
    return replace(m, device=replace(m.device, bulb_contact=1 - 0.8 * s))


def _hunting(m: Machine, s: float) -> Machine:
    d = m.device
    return replace(m, device=replace(d, gradient_k=d.gradient_k / (1 + 5 * s)))


def _worn(m: Machine, s: float) -> Machine:
    return replace(m, compressor=replace(m.compressor, leak=0.5 * s, leak_again=RINGS_AGAIN))


def _reed(m: Machine, s: float) -> Machine:
    return replace(m, compressor=replace(m.compressor, leak=0.5 * s, leak_again=REED_AGAIN))


def _reversing(m: Machine, s: float) -> Machine:
    return replace(m, reversing_leak=0.32 * s)


def _blocked_face(m: Machine, s: float) -> Machine:
    return replace(m, outdoor=replace(m.outdoor, open_face=1 - 0.5 * s, bypass=0.10 * s))


def _second_filter(m: Machine, s: float) -> Machine:
    b = m.blower
    return replace(
        m, blower=replace(b, return_resistance=b.return_resistance + 6 * s * b.filter_resistance)
    )


def _iced_outdoors(m: Machine, s: float) -> Machine:
    coil = replace(m.outdoor, conductance=m.outdoor.conductance * (1 - 0.55 * s))
    return replace(m, outdoor=coil, fan=replace(m.fan, share=m.fan.share * (1 - 0.75 * s)))


def _check_valve(m: Machine, s: float) -> Machine:
    return replace(m, device=replace(m.device, leaks_by=0.6 * s))


def _strips(m: Machine, s: float) -> Machine:
    return replace(m, strips_kw=1.2 * s * m.nominal_kw)


def _room_coil_iced(m: Machine, s: float) -> Machine:
    b, coil = m.blower, m.indoor
    return replace(
        m,
        blower=replace(b, coil_resistance=b.coil_resistance * (1 + 14 * s)),
        indoor=replace(coil, conductance=coil.conductance * (1 - 0.5 * s)),
    )


def _room_fan(m: Machine, s: float) -> Machine:
    """Of several fans that blow free, what stands takes its share of air and watts with it."""
    b, left = m.blower, 1 - 0.65 * s
    return replace(
        m,
        blower=replace(
            b, speed=b.speed * left, rated_watts=b.rated_watts * left, set_kg_s=b.set_kg_s * left
        ),
    )


def _door(c: Conditions, s: float) -> Conditions:
    warm_c = c.indoor.temp_c + 2.6 * s
    most = saturated_ratio(warm_c, c.indoor.kpa)
    ratio = c.indoor.ratio + (most - c.indoor.ratio) * min(0.5 + 0.5 * s, 0.98, 10 * s)
    return replace(c, indoor=WetAir(warm_c, ratio, c.indoor.kpa))


def _product(c: Conditions, s: float) -> Conditions:
    return replace(c, indoor=WetAir(c.indoor.temp_c + 2.6 * s, c.indoor.ratio, c.indoor.kpa))


def _head_held_low(m: Machine, s: float) -> Machine:
    if m.head is None:
        return m
    return replace(m, head=replace(m.head, works=1 - s))


def _head_held_high(m: Machine, s: float) -> Machine:
    if m.head is None:
        return m
    return replace(m, head=replace(m.head, set_c=m.head.set_c + 24 * s))


def _receiver_short(m: Machine, s: float) -> Machine:
    """The receiver's stock first: only what is lost after it shows."""
    if not s:
        return m
    return replace(m, lost_kg=m.stock_kg + 0.3 * s * (m.charge_kg - m.stock_kg))


def _collar(m: Machine, s: float) -> Machine:
    fan = replace(m.fan, share=m.fan.share * (1 - 0.55 * s), recirculation=0.45 * s)
    return replace(m, fan=fan)


def _cold_outdoors(c: Conditions, s: float) -> Conditions:
    return replace(c, outdoor=_moved(c.outdoor, -31 * s))


def _low_load(c: Conditions, s: float) -> Conditions:
    cooler = _moved(c.indoor, -8 * s)
    return replace(c, indoor=cooler._replace(ratio=cooler.ratio * (1 - 0.25 * s)))


def _high_load(c: Conditions, s: float) -> Conditions:
    warmer = _moved(c.indoor, 7 * s)
    ratio = min(warmer.ratio * (1 + 0.35 * s), 0.9 * saturated_ratio(warmer.temp_c, warmer.kpa))
    return replace(c, indoor=warmer._replace(ratio=ratio))


def _moved(air: WetAir, kelvin: float) -> WetAir:
    temp_c = air.temp_c + kelvin
    return WetAir(temp_c, min(air.ratio, 0.95 * saturated_ratio(temp_c, air.kpa)), air.kpa)


_ROWS = (
    Fault("undercharge", "undercharge", "half its charge gone", conditions=_undercharge),
    Fault("overcharge", "overcharge", "40 % too much in it", conditions=_overcharge),
    Fault("condenser_dirt", "condenser_airflow", "outdoor coil matted: half its conductance and "
          "nearly half its air gone", _condenser_dirt),
    Fault("condenser_fan", "condenser_airflow", "outdoor fan down to 30 % of its air",
          _condenser_fan),
    Fault("recirculating", "condenser_airflow", "half of the warm air comes back in",
          _recirculating),
    Fault("non_condensables", "non_condensables", "58 psi of air in the condenser", _foreign_gas),
    Fault("filter_dirty", "low_indoor_airflow", "filter 25 times its clean resistance", _filter),
    Fault("evaporator_dirt", "low_indoor_airflow", "coil face matted: ten times its resistance, "
          "30 % of its conductance gone", _coil_dirt),
    Fault("low_load", "low_indoor_load", "return air 8 K cooler and a quarter drier",
          conditions=_low_load),
    Fault("drier_restricted", "liquid_line_restriction", "drier nearly plugged", _drier),
    Fault("line_kinked", "liquid_line_restriction", "line kinked half way along", _kink),
    Fault("service_valve", "liquid_line_restriction", "liquid service valve nearly shut",
          _service_valve),
    Fault("metering_underfeed", "metering_underfeed", "opening down to a tenth (valve) or a third",
          _underfed),
    Fault("metering_overfeed", "metering_overfeed", "valve stuck wide open, or an orifice 60 % "
          "too large", _overfed),
    Fault("bulb_loose", "metering_overfeed", "bulb feels four parts air to one of pipe",
          _bulb_loose),
    Fault("hunting", "metering_overfeed", "valve six times too eager", _hunting),
    Fault("compressor_worn", "inefficient_compressor", "half its flow slips back inside", _worn),
    Fault("compressor_reed", "inefficient_compressor", "a reed broken: half its flow goes back "
          "uncompressed", _reed),
    Fault("reversing_valve_leak", "reversing_valve_leak", "a third of the hot gas goes straight "
          "back to suction", _reversing),
    Fault("low_ambient", "low_ambient_stacking", "56 °F colder outdoors",
          conditions=_cold_outdoors),
    Fault("high_load", "high_indoor_load", "return air 7 K warmer and a third more humid",
          conditions=_high_load),
    Fault("weak_capacitor", "electrical_blower", "capacitor 40 % low, blower at half speed",
          _weak_capacitor),
    Fault("outdoor_coil_iced", "outdoor_coil_iced", "ice between the fins: a quarter of the air "
          "left", _iced_outdoors, only="heating"),
    Fault("check_valve_leak", "idle_check_valve_leak", "its check valve passes three fifths of "
          "what the device does", _check_valve, only="heating"),
    Fault("strips_on", "strips_on", "strips on with the pump, more than its own heat", _strips,
          only="heating"),
    Fault("room_coil_iced", "evaporator_coil_iced", "ice between the fins: half of its "
          "conductance and much of its air gone", _room_coil_iced, only="room"),
    Fault("room_fan", "evaporator_fan", "two of three fans stand", _room_fan, only="room"),
    Fault("door_open", "door_open", "box 4.7 °F up and wet through by an open door",
          conditions=_door, only="room"),
    Fault("product_load", "high_indoor_load", "box 4.7 °F up by warm goods", conditions=_product,
          only="room"),
    Fault("head_held_low", "head_pressure_control", "it does not hold the head at all",
          _head_held_low, only="room"),
    Fault("head_held_high", "head_pressure_control", "it holds the head 43 °F over its setting",
          _head_held_high, only="room"),
    Fault("receiver_short", "receiver_short", "the receiver empty, and a third of the rest gone",
          _receiver_short, only="room"),
    Fault("valve_frozen", "metering_underfeed", "water frozen in its port: a tenth of it left",
          _underfed, only="room"),
    Fault("second_filter", "", "a second filter in the same path, six times the first's resistance",
          _second_filter),
    Fault("defrost_valve_stuck", "", "its reversing valve does not turn", only="heating"),
    Fault("defrost_fan_runs", "", "the outdoor fan runs on through a defrost", only="heating"),
    Fault("defrost_sensor", "", "its coil sensor never feels the coil warm", only="heating"),
    Fault("defrost_board", "", "its board never calls a defrost", only="heating"),
    Fault("collar", "", "discharge air held back evenly, nearly half of it turned round "
          "(a way to test in the cold, not a fault)", _collar),
    Fault("valve_shut", "", "closed: nothing passes (worked on by hand; the steady tables have "
          "no such point)", _shut),
    Fault("joint_leak", "", "a joint lets 0.5 mbar·L/s of air into a vacuum"),
    Fault("wet_circuit", "", "twenty grams of water in it"),
    Fault("face_blocked", "", "half of the outdoor face covered (the other way to test in "
          "the cold)", _blocked_face),
)  # fmt: skip

FAULTS: Mapping[str, Fault] = MappingProxyType({row.key: row for row in _ROWS})


def fault(key: str) -> Fault:
    """A fault row. Raises: UnknownName, with the nearest."""
    if key not in FAULTS:
        raise UnknownName("fault", key, FAULTS)
    return FAULTS[key]


def spoiled(
    machine: Machine, conditions: Conditions, faults: Sequence[Present]
) -> tuple[Machine, Conditions]:
    """The machine and its surroundings with every fault in them.

    Raises: UnknownName; OutOfRange, for a severity outside 0 to 1.
    """
    machine = machine.turned(conditions.heating)
    for present in faults:
        row = fault(present.key)
        if not 0 <= present.severity <= 1:
            raise OutOfRange(f"severity of {present.key}", present.severity, 0, 1, "")
        if row.machine is not None:
            machine = row.machine(machine, present.severity)
        if row.conditions is not None:
            conditions = row.conditions(conditions, present.severity)
    return machine, conditions
