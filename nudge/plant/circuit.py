"""The whole circuit at one opening of its device: where pressures, flow and charge agree.

Three unknowns (both pressures, the enthalpy at the compressor) and three conditions: the
device passes what the compressor moves, the zones hold the charge there is, and the suction
gas is what the evaporator and its line make of it. Newton's method; see `steady.py` for the
opening a valve then settles at.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log

from nudge.core.language.errors import CoreError
from nudge.plant.circulation import SUCTION_SCALE, Round, Setting, Unknowns, followed, gas_at
from nudge.plant.compressor import CompressorStroke
from nudge.plant.condenser import Condensed
from nudge.plant.evaporator import Evaporated
from nudge.plant.fluid import Fluid, load_fluid
from nudge.plant.lines import LiquidLine, receiver_miss
from nudge.plant.metering import driven, given_way, open_area, resting
from nudge.plant.newton import Root, solve


@dataclass(frozen=True, slots=True)
class Operating:
    """One operating point of a circuit. Pressures [kPa abs], temperatures [°C], heat [kW]."""

    root: Root | None
    opening: float
    flow: float
    suction_kpa: float
    discharge_kpa: float
    evaporator_kpa: float
    liquid_kpa: float
    """Leaving the condenser."""
    stroke: CompressorStroke
    condensed: Condensed
    line: LiquidLine
    evaporated: Evaporated
    coil_out_c: float
    suction_c: float
    true_suction_c: float
    discharge_c: float
    metering_out_c: float
    superheat_k: float
    """At the coil outlet, where the bulb sits; negative by how wet it is, 1 K to 1 % liquid."""
    condenser_air_c: float
    indoor_air_kg_s: float
    mass: float
    suction_gain: float
    """Heat the suction line lets in [kW]."""
    fan_share: float = 1.0
    """What its head control leaves of the outdoor fan's air."""

    @property
    def evaporating_c(self) -> float:
        """Dew temperature at the coil's outlet, by its bulb [°C]."""
        return self.coil_out_c - max(self.superheat_k, 0.0)

    @property
    def liquid_gain(self) -> float:
        """Heat the liquid line lets in [kW]."""
        return self.flow * (self.line.before_device.enthalpy - self.line.leaving.enthalpy)


class NoOperatingPoint(CoreError):
    """The circuit cannot run like that: the message says at what."""


Starts = Sequence[tuple[float, float]]


def operate(setting: Setting, start: Root | None = None, starts: Starts | None = None) -> Operating:
    """Find the operating point, from a near-by one where there is one, else from first guesses.

    Raises: NoOperatingPoint, when none can be found.
    """
    fluid = load_fluid(setting.machine.fluid)

    def residuals(x: Unknowns) -> Unknowns:
        try:
            return _residuals(setting, fluid, x)
        except (ValueError, ZeroDivisionError, OverflowError, TypeError):
            return NOWHERE  # a trial step so far out that a root or logarithm has no value

    def within(x: Sequence[float]) -> Unknowns:
        return held(x, fluid)

    found = solve(residuals, start.x, within, start.inverse) if start else None
    in_room = setting.machine.application == "refrigeration"
    for low_k, high_k in starts or ((*ROOM_STARTS, *STARTS) if in_room else STARTS):
        if found is not None:
            break
        found = solve(residuals, first_guess(setting, fluid, low_k, high_k), within)
    if found is not None:
        return describe(setting, fluid, found.x, found)
    raise no_point(setting)


def no_point(setting: Setting) -> NoOperatingPoint:
    """The error that says at what the circuit cannot run."""
    c = setting.conditions
    return NoOperatingPoint(
        "plant",
        f"The simulated system finds no operating point with {c.charge_kg:.2f} kg in it at "
        f"{c.outdoor.temp_c:.0f} °C outdoors.",
    )


NOWHERE = (1e6, 1e6, 1e6)
STARTS = ((18.0, 12.0), (24.0, 8.0), (10.0, 20.0), (32.0, 16.0), (40.0, 6.0), (14.0, 30.0))
"""First guesses: evaporator under its air, condenser over its air [K]."""
ROOM_STARTS = ((6.0, 14.0), (9.0, 18.0), (5.0, 9.0), (20.0, 10.0), (10.0, 26.0))
"""The same for a cold room, whose coil works close to its air."""


def first_guess(setting: Setting, fluid: Fluid, low_k: float, high_k: float) -> Unknowns:
    """Where a solution is looked for: so far under and over its airs [K]."""
    c = setting.conditions
    cold, warm = (c.outdoor, c.indoor) if c.heating else (c.indoor, c.outdoor)
    low = max(fluid.dew_kpa(cold.temp_c - low_k), fluid.low_kpa * 1.05)
    high = min(
        fluid.dew_kpa(max(warm.temp_c, cold.temp_c - low_k + 8) + high_k), fluid.high_kpa * 0.97
    )
    return log(low), log(high), (fluid.at(low).vapour_h + 6) / SUCTION_SCALE


def held(x: Sequence[float], fluid: Fluid) -> Unknowns:
    """Keep a trial step on the tables and its pressures the right way round."""
    low = min(max(x[0], log(fluid.low_kpa * 0.4)), log(fluid.high_kpa * 0.8))
    high = min(max(x[1], low + 0.02), log(fluid.high_kpa * 1.08))
    at = fluid.at(exp(low))
    least, most = at.liquid_h + 0.1 * at.latent, at.vapour_h + 160
    return low, high, min(max(x[2], least / SUCTION_SCALE), most / SUCTION_SCALE)


def _residuals(setting: Setting, fluid: Fluid, x: Unknowns) -> tuple[float, float, float]:
    met = followed(setting, fluid, x)
    machine, conditions = setting.machine, setting.conditions
    charge = conditions.charge_kg - machine.lost_kg
    charge -= machine.heating_store_kg if conditions.heating else 0.0
    arrived = met.evaporated.enthalpy + met.gain / met.stroke.flow
    held_back = None
    if machine.lines.receiver_m3:
        missing_kg = charge - met.mass
        held_back = receiver_miss(machine.lines, fluid, met.line.leaving, missing_kg)
    return (
        _passing(setting, fluid, met) / met.stroke.flow - 1,
        met.mass / charge - 1 if held_back is None else held_back,
        (arrived - x[2] * SUCTION_SCALE) / 20.0,
    )


def _passing(setting: Setting, fluid: Fluid, met: Round) -> float:
    """Flow [kg/s] through the device: what the compressor moves, only where all is at rest."""
    device, before = setting.machine.device, met.line.before_device
    per_m2 = driven(device, fluid, before.kpa, before.enthalpy, met.evaporator_kpa)
    if per_m2 == 0:
        return 0.0
    opening = setting.opening
    if opening is None:
        shut, wide = open_area(device, 0.0), open_area(device, 1.0)
        needed = (met.stroke.flow / per_m2 - shut) / (wide - shut)
        opening = given_way(device, needed, met.superheat_k, met.coil.dew_c)
    return per_m2 * open_area(device, opening)


def describe(setting: Setting, fluid: Fluid, x: Unknowns, root: Root | None = None) -> Operating:
    """Everything about the circuit at these unknowns, whether or not they agree yet."""
    met = followed(setting, fluid, x)
    low_kpa, high_kpa = exp(x[0]), exp(x[1])
    true_c, _ = gas_at(fluid, low_kpa, met.low, met.stroke.suction_h)
    suction_c, _ = gas_at(fluid, low_kpa, met.low, x[2] * SUCTION_SCALE)
    discharge_c, _ = gas_at(fluid, high_kpa, met.high, met.stroke.discharge_h)
    opening = setting.opening
    if opening is None:
        opening = resting(setting.machine.device, met.superheat_k, met.coil.dew_c)
    quality = min(max(met.coil.quality(met.line.before_device.enthalpy), 0.0), 1.0)
    return Operating(
        root, opening, met.stroke.flow, low_kpa, high_kpa, met.evaporator_kpa, met.liquid_kpa,
        met.stroke, met.condensed, met.line, met.evaporated, met.coil_out_c, suction_c, true_c,
        discharge_c, met.coil.temp_at(quality), met.superheat_k, met.air_c,
        setting.indoor_air_kg_s, met.mass, met.gain, met.fan_share,
    )  # fmt: skip
