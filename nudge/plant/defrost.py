"""The outdoor coil in winter: it frosts while it heats, and a board turns the machine to melt it.

In a defrost the circuit is two lumps, not solved: a share of its nominal heat goes into the coil,
first into its frost, then into its metal, and what the wind takes is lost. How it ends and what
can break is in `DefrostBoard` and the faults `defrost_…`.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from nudge.plant.blower import blow
from nudge.plant.circuit import Operating
from nudge.plant.fluid import load_fluid
from nudge.plant.machine import Conditions, Machine

FROST_KG_PER_KW = 0.10
"""Frost that halves the air through the outdoor coil, per kW of nominal cooling."""
BLANKET = 0.4
"""What that much frost costs the coil's conductance besides (share of its resistance)."""
LATENT_ICE = 2834.0
MELT_KJ_KG, INTO_ICE = 351.0, 0.72
"""Ice melted and warmed; the share of the heat that reaches it."""
DEFROST_SHARE = 0.55
"""Of its nominal cooling, what a machine with its whole charge puts into the coil."""
EMPTY_SHARE = 0.45
"""A machine with this share of its charge has nothing left to melt with."""
METAL_KJ_K_KW, STILL_AIR_KW_K_KW, WIND_SHARE = 1.6, 0.008, 0.35
"""Per kW of nominal cooling: the coil's metal, what still air takes of it; of the fan's air that
meets the coil."""
STOPPED_AIR = 0.10
"""Air through a coil whose fan stands."""
BEGINS_K, LEAST_RUN_S = 5.0, 1500.0
"""Demand: the coil so far under its clear difference, after so long."""
CLEAR_K = 8.0
OVER_COIL_K, SUCTION_C, SUPPLY_UNDER_K = 7.0, -10.0, 5.0
"""In a defrost: condensing over the coil's metal; suction; supply under return."""
AMPS_SHARE, FAN_FACTOR = 0.72, 0.9


@dataclass(frozen=True, slots=True)
class DefrostBoard:
    """How a plant defrosts: on demand, or by the clock of running with a cold coil.

    It ends with the coil at `ends_c` [°C], at the latest after `most_s`.
    """

    kind: str = "demand"
    every_s: float = 3600.0
    ends_c: float = 15.0
    most_s: float = 600.0


@dataclass(frozen=True, slots=True)
class Frosting:
    """Frost on the coil [kg], seconds it ran cold since its last defrost, and the defrost."""

    frost_kg: float = 0.0
    cold_s: float = 0.0
    defrost_s: float | None = None
    """How long a defrost has been under way; None while it heats."""
    coil_c: float = 0.0
    is_asked: bool = False
    """Somebody bridged the board's pins."""

    @property
    def is_defrosting(self) -> bool:
        return self.defrost_s is not None


def frosted(machine: Machine, frosting: Frosting, faults: frozenset[str] = frozenset()) -> Machine:
    """The machine with its frost on it, and its fan as the board has it."""
    fan, coil = machine.fan, machine.outdoor
    thick = frosting.frost_kg / (FROST_KG_PER_KW * machine.nominal_kw)
    if thick > 0:
        fan = replace(fan, share=fan.share / (1 + thick))
        coil = replace(coil, conductance=coil.conductance / (1 + BLANKET * thick))
    if frosting.is_defrosting and "defrost_fan_runs" not in faults:
        fan = replace(fan, share=STOPPED_AIR, watts=0.0)
    return replace(machine, fan=fan, outdoor=coil)


def grown(
    board: DefrostBoard,
    was: Frosting,
    point: Operating,
    outdoor_c: float,
    faults: frozenset[str],
    dt: float,
) -> Frosting:
    """A step of heating later: more frost, or less over freezing; and whether a defrost begins."""
    took = point.evaporated
    wet_kw = max(took.heat - took.sensible, 0.0)
    frost_kg = was.frost_kg
    if took.surface_c < 0:
        frost_kg += wet_kw / LATENT_ICE * dt
    else:
        frost_kg = max(frost_kg - 2e-4 * dt, 0.0)
    cold_s = was.cold_s + dt if point.evaporating_c < 0 else was.cold_s
    found = replace(was, frost_kg=frost_kg, cold_s=cold_s)
    if was.defrost_s is not None:  # the valve is stuck: it goes on heating till the clock ends it
        after = was.defrost_s + dt
        over = after >= board.most_s
        return replace(found, defrost_s=None if over else after, cold_s=0.0 if over else cold_s)
    under_k = outdoor_c - point.evaporating_c
    by_demand = cold_s > LEAST_RUN_S and under_k > CLEAR_K + BEGINS_K and frost_kg > 0
    by_clock = cold_s > board.every_s
    begins = was.is_asked or (by_demand if board.kind == "demand" else by_clock)
    if begins and "defrost_board" not in faults:
        return replace(found, defrost_s=0.0, coil_c=min(point.evaporating_c, 0.0), is_asked=False)
    return replace(found, is_asked=False)


def melted(
    board: DefrostBoard,
    was: Frosting,
    machine: Machine,
    conditions: Conditions,
    faults: frozenset[str],
    dt: float,
) -> Frosting:
    """A step of a defrost later, with the valve turned; `defrost_s` None once it is over."""
    kw, outdoor_c = machine.nominal_kw, conditions.outdoor.temp_c
    heat = melting_kw(machine, conditions)
    taken = STILL_AIR_KW_K_KW * kw
    if "defrost_fan_runs" in faults:
        taken += WIND_SHARE * machine.outdoor.rated_air_kg_s * conditions.outdoor.cp
    lost = taken * (was.coil_c - outdoor_c)
    frost_kg, coil_c = was.frost_kg, was.coil_c
    left_kj = (heat - lost) * dt
    if coil_c >= 0 and frost_kg > 0 and left_kj > 0:
        melts = min(left_kj * INTO_ICE / MELT_KJ_KG, frost_kg)
        frost_kg, left_kj = frost_kg - melts, left_kj - melts * MELT_KJ_KG / INTO_ICE
    coil_c += left_kj / (METAL_KJ_K_KW * kw)
    if frost_kg > 0:
        coil_c = min(coil_c, 1.5)
    after = (was.defrost_s or 0.0) + dt
    feels_warm = coil_c >= board.ends_c and "defrost_sensor" not in faults
    if feels_warm or after >= board.most_s:
        return Frosting(frost_kg)
    return replace(was, frost_kg=frost_kg, coil_c=coil_c, defrost_s=after)


def melting_kw(machine: Machine, conditions: Conditions) -> float:
    """Heat a defrost has: less of it the less refrigerant carries it, and the weaker it pumps."""
    share = conditions.charge_kg / machine.charge_kg
    carried = min(max((share - EMPTY_SHARE) / (1 - EMPTY_SHARE), 0.02), 1.0)
    return DEFROST_SHARE * machine.nominal_kw * carried * (1 - machine.compressor.leak)


def defrost_truth(
    truth: Mapping[str, float],
    machine: Machine,
    conditions: Conditions,
    frosting: Frosting,
) -> dict[str, float]:
    """Where every reading goes in a defrost; the rest stays as `truth` has it [core units]."""
    fluid, atmosphere = load_fluid(machine.fluid), conditions.outdoor.kpa
    carried = melting_kw(machine, conditions) / (DEFROST_SHARE * machine.nominal_kw)
    high_c = frosting.coil_c + OVER_COIL_K * carried
    low_c = SUCTION_C - 10 * (1 - carried)
    high, low = fluid.bubble_kpa(high_c) - atmosphere, fluid.dew_kpa(low_c) - atmosphere
    fan_w = machine.fan.watts * machine.fan.share**machine.fan.power_exponent
    indoor = conditions.indoor
    supply_c = indoor.temp_c - SUPPLY_UNDER_K * carried
    if machine.strips_kw:
        air_kw_k = blow(machine.blower, machine.volts).kg_s * indoor.cp
        supply_c += machine.strips_kw / air_kw_k
    return dict(truth) | {
        "suction_pressure": low,
        "liquid_pressure": high,
        "discharge_pressure": high,
        "suction_line_temp": low_c + 6 + 12 * (1 - carried),
        "true_suction_temp": low_c + 6 + 12 * (1 - carried),
        "liquid_line_temp": frosting.coil_c + 1.0,
        "drier_inlet_temp": frosting.coil_c + 1.0,
        "drier_outlet_temp": frosting.coil_c + 1.0,
        "liquid_line_temp_indoor": frosting.coil_c + 2.0,
        "discharge_line_temp": high_c + 28.0,
        "condenser_leaving_air_temp": conditions.outdoor.temp_c
        + (3.0 if machine.fan.watts else 1.0),
        "outdoor_air_temp": conditions.outdoor.temp_c,
        "return_air_temp": indoor.temp_c,
        "supply_air_temp": supply_c,
        "condenser_fan_amps": fan_w / (machine.volts * FAN_FACTOR),
        "compressor_amps": AMPS_SHARE * truth.get("compressor_amps", 0.0),
        "outdoor_unit_watts": AMPS_SHARE * truth.get("outdoor_unit_watts", 0.0),
    }
