"""A plant that runs in time: starts, settles, hunts, takes charge, ices, trips.

The circuit is solved at the valve's present opening and the charge now in circulation; what
can be felt of it follows, each point with a quick and a slow part (`LAGS`): pressures in
seconds, metal and the liquid line in minutes. The valve moves on what its bulb feels, late,
so an eager one hunts.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from math import exp

from nudge.plant.blower import blow
from nudge.plant.circuit import NoOperatingPoint, Operating, Setting, operate
from nudge.plant.faults import Present, spoiled
from nudge.plant.fluid import Saturated, load_fluid
from nudge.plant.lags import LAGS, PROMPT, STANDING, Lag
from nudge.plant.machine import Conditions, Machine
from nudge.plant.metering import USUAL_EVAPORATING_C, loose_bulb_k, opening_at, seek
from nudge.plant.newton import Root
from nudge.plant.room import Room, Weather, stepped
from nudge.plant.steady import Steady
from nudge.plant.truth import running_truth, standing_truth
from nudge.plant.wet_air import WetAir

STEP_S = 2.0
COIL_S, BULB_S, VALVE_S, PROBE_S = 12.0, 60.0, 4.0, 8.0
"""The valve's way round: the coil answers, the bulb's metal follows, the pin moves."""
WETTEST_K = -8.0
SPREADING_S = 75.0
"""Charge just added spreads from the low side to where it belongs."""
HIGH_SWITCH = "The high-pressure switch opened."
LOW_SWITCH = "The low-pressure switch opened."
HIGH_CUTOUT_C = 68.0
LOW_CUTOUT_KPA = 0.0
"""Gauge. The usual switches: condensing at 154 °F, suction at the air's pressure."""
ICE_KG_PER_KW = 0.12
"""Ice that doubles the coil's resistance, per kW of nominal cooling."""


@dataclass(frozen=True, slots=True)
class Scene:
    """A machine, what is wrong with it, the room and weather round it."""

    machine: Machine
    room: Room
    weather: Weather
    faults: tuple[Present, ...] = ()
    heating: bool = False
    speed: float = 1.0


@dataclass(frozen=True, slots=True)
class PlantState:
    """Everything that is remembered from one step to the next."""

    indoor: WetAir
    charge_kg: float
    seconds: float = 0.0
    is_running: bool = False
    changed_at: float = 0.0
    tripped: str = ""
    to_add_kg: float = 0.0
    adding_kg_s: float = 0.0
    spreading_kg: float = 0.0
    slug_kg: float = 0.0
    ice_kg: float = 0.0
    opening: float = 0.3
    coil_superheat_k: float = 0.0
    bulb_superheat_k: float = 0.0
    truth: Mapping[str, float] = field(default_factory=dict)
    quick: Mapping[str, float] = field(default_factory=dict)
    slow: Mapping[str, float] = field(default_factory=dict)
    target: Operating | None = None
    root: Root | None = None


def standing(scene: Scene, indoor: WetAir, charge_kg: float | None = None) -> PlantState:
    """A plant that has stood off for hours."""
    charge = scene.machine.charge_kg if charge_kg is None else charge_kg
    state = PlantState(indoor, charge)
    machine, conditions = _now(scene, state)
    truth = standing_truth(machine, conditions)
    return replace(state, truth=truth, quick=truth, slow=truth)


def start(state: PlantState) -> PlantState:
    """Switch it on; a tripped one is reset by that."""
    if state.is_running:
        return state
    return replace(
        state,
        is_running=True,
        tripped="",
        changed_at=state.seconds,
        root=None,
        opening=0.3,
        coil_superheat_k=6.0,
        bulb_superheat_k=6.0,
    )


def stop(state: PlantState, tripped: str = "") -> PlantState:
    """Switch it off."""
    if not state.is_running:
        return state
    return replace(state, is_running=False, changed_at=state.seconds, tripped=tripped, target=None)


def dosed(state: PlantState, kg: float, kg_per_s: float) -> PlantState:
    """Let refrigerant in at this rate (or out: `kg` under zero leaves at once, as liquid)."""
    if kg < 0:
        return replace(state, charge_kg=max(state.charge_kg + kg, 0.0))
    return replace(state, to_add_kg=state.to_add_kg + kg, adding_kg_s=kg_per_s)


def advance(scene: Scene, state: PlantState, seconds: float) -> PlantState:
    """The plant this much later, in steps of at most two seconds."""
    left = seconds
    while left > 1e-9:
        step = min(left, STEP_S)
        state = _step(scene, state, step)
        left -= step
    return state


def _step(scene: Scene, state: PlantState, dt: float) -> PlantState:
    state, added = _letting_in(state, dt)
    machine, conditions = _now(scene, state)
    if not state.is_running:
        return _stand(scene, state, machine, conditions, dt)
    airflow = blow(machine.blower, machine.volts)
    opening = _opening(machine, state, dt)
    setting = Setting(machine, conditions, airflow.kg_s, opening)
    try:
        point = operate(setting, state.root)
    except NoOperatingPoint:
        return _stand(scene, stop(state, _why(state, machine)), machine, conditions, dt)
    at = Steady(machine, conditions, airflow, point)
    goal, wet = _with_dose(running_truth(at), machine, point, added / dt)
    quick, slow, truth = _followed(state, goal, dt, None)
    coil_k = state.coil_superheat_k
    coil_k += (max(point.superheat_k, WETTEST_K) - coil_k) * (1 - exp(-dt / COIL_S))
    bulb_k = state.bulb_superheat_k
    felt_s = PROBE_S if machine.device.kind == "eev" else BULB_S
    bulb_k += (coil_k - bulb_k) * (1 - exp(-dt / felt_s))
    state = replace(
        state,
        seconds=state.seconds + dt,
        indoor=_room_after(scene, state, conditions, point, airflow.watts, dt),
        spreading_kg=state.spreading_kg * exp(-dt / SPREADING_S) + added,
        slug_kg=state.slug_kg + wet * dt,
        ice_kg=_iced(state, machine, point, dt),
        opening=opening,
        coil_superheat_k=coil_k,
        bulb_superheat_k=bulb_k,
        truth=truth,
        quick=quick,
        slow=slow,
        target=point,
        root=point.root,
    )
    return _watched(state, machine, conditions)


def _now(scene: Scene, state: PlantState) -> tuple[Machine, Conditions]:
    """Machine and conditions with every fault in them. Charge faults act on a whole charge
    when the scene is set, not again here."""
    conditions = Conditions(
        state.indoor,
        scene.weather.at(state.seconds),
        max(state.charge_kg - 0.9 * state.spreading_kg, 1e-3),
        speed=scene.speed,
        heating=scene.heating,
    )
    lasting = tuple(f for f in scene.faults if f.key not in ("undercharge", "overcharge"))
    machine, conditions = spoiled(scene.machine, conditions, lasting)
    if state.ice_kg > 0:
        blower, coil = machine.blower, machine.indoor
        thick = state.ice_kg / (ICE_KG_PER_KW * machine.nominal_kw)
        machine = replace(
            machine,
            blower=replace(blower, coil_resistance=blower.coil_resistance * (1 + thick)),
            indoor=replace(coil, conductance=coil.conductance / (1 + 0.2 * thick)),
        )
    return machine, conditions


def charged(machine: Machine, faults: tuple[Present, ...]) -> float:
    """The charge a scene begins with: the whole one, less or more by its charge faults."""
    air = WetAir(25.0, 0.01, 101.325)
    only = tuple(f for f in faults if f.key in ("undercharge", "overcharge"))
    return spoiled(machine, Conditions(air, air, machine.charge_kg), only)[1].charge_kg


def _letting_in(state: PlantState, dt: float) -> tuple[PlantState, float]:
    added = min(state.to_add_kg, state.adding_kg_s * dt)
    if added <= 0:
        return state, 0.0
    left = state.to_add_kg - added
    return replace(
        state, to_add_kg=left if left > 1e-9 else 0.0, charge_kg=state.charge_kg + added
    ), added


def _opening(machine: Machine, state: PlantState, dt: float) -> float:
    device = machine.device
    if device.kind == "fixed_orifice" or device.stuck_at is not None:
        return opening_at(device, 0.0)
    if device.kind == "eev":
        return seek(device, state.opening, state.bulb_superheat_k, dt)
    works_at = state.target.evaporating_c if state.target else USUAL_EVAPORATING_C
    wanted = opening_at(device, state.bulb_superheat_k, loose_bulb_k(device), works_at)
    return state.opening + (wanted - state.opening) * (1 - exp(-dt / VALVE_S))


def _followed(
    state: PlantState, goal: Mapping[str, float], dt: float, lag: Lag | None
) -> tuple[dict[str, float], dict[str, float], dict[str, float]]:
    """Every point a step nearer to where it is going."""
    quick, slow, truth = {}, {}, {}
    for key, value in goal.items():
        row = lag or LAGS.get(key, PROMPT)
        q, s = state.quick.get(key, value), state.slow.get(key, value)
        quick[key] = q + (value - q) * (1 - exp(-dt / row.quick_s))
        slow[key] = s + (value - s) * (1 - exp(-dt / row.slow_s))
        truth[key] = row.quick_share * quick[key] + (1 - row.quick_share) * slow[key]
    return quick, slow, truth


def _stand(
    scene: Scene, state: PlantState, machine: Machine, conditions: Conditions, dt: float
) -> PlantState:
    goal = standing_truth(machine, conditions)
    quick, slow, truth = _followed(state, goal, dt, STANDING)
    for key in (
        "return_air_temp",
        "return_air_wet_bulb",
        "return_air_rh",
        "box_air_temp",
        "outdoor_air_temp",
        "compressor_amps",
        "airflow",
        "line_volts",
    ):
        if key in goal:
            quick[key] = slow[key] = truth[key] = goal[key]
    outdoor = conditions.outdoor
    return replace(
        state,
        seconds=state.seconds + dt,
        quick=quick,
        slow=slow,
        truth=truth,
        root=None,
        indoor=stepped(scene.room, state.indoor, outdoor, 0.0, 0.0, dt),
        spreading_kg=0.0,
        ice_kg=max(state.ice_kg - 2e-4 * dt, 0.0),
    )


def _with_dose(
    goal: dict[str, float], machine: Machine, point: Operating, dose_kg_s: float
) -> tuple[dict[str, float], float]:
    """The truth while liquid is let into the suction line; and liquid reaching the compressor."""
    fluid = load_fluid(machine.fluid)
    at = fluid.at(point.suction_kpa)
    wet = max(1 - point.stroke.suction_quality, 0.0) * point.flow
    if dose_kg_s <= 0:
        return goal, wet
    liquid_h = fluid.at(fluid.bubble_kpa(goal["outdoor_air_temp"])).liquid_h
    flow = point.flow + dose_kg_s
    mixed_h = (point.flow * point.stroke.suction_h + dose_kg_s * liquid_h) / flow
    wet = max(1 - at.quality(mixed_h), 0.0) * flow
    cooled = _suction_temp(at, mixed_h)
    return goal | {"suction_line_temp": cooled, "true_suction_temp": cooled}, wet


def _suction_temp(at: Saturated, enthalpy: float) -> float:
    over = max(enthalpy - at.vapour_h, 0.0)
    return at.dew_c + over / at.vapour_cp


def _room_after(
    scene: Scene,
    state: PlantState,
    conditions: Conditions,
    point: Operating,
    watts: float,
    dt: float,
) -> WetAir:
    if conditions.heating:
        return stepped(scene.room, state.indoor, conditions.outdoor, -point.condensed.heat, 0.0, dt)
    took = point.evaporated
    return stepped(
        scene.room,
        state.indoor,
        conditions.outdoor,
        took.sensible - watts / 1000,
        max(took.heat - took.sensible, 0.0),
        dt,
    )


def _iced(state: PlantState, machine: Machine, point: Operating, dt: float) -> float:
    """Water freezes onto a comfort coil's surface under 0 °C and melts off a warm one."""
    if machine.application != "comfort_cooling":
        return 0.0
    took = point.evaporated
    if took.surface_c < -0.3:
        return state.ice_kg + 0.5 * max(took.heat - took.sensible, 0.0) / 2480.0 * dt
    return max(state.ice_kg - 1.5e-4 * dt, 0.0)


def _why(state: PlantState, machine: Machine) -> str:
    """Which switch opened, when where it was heading is off what can be worked out."""
    if state.target is not None:
        heading_c = load_fluid(machine.fluid).at(state.target.discharge_kpa).dew_c
        if heading_c > HIGH_CUTOUT_C - 8:
            return HIGH_SWITCH
    return LOW_SWITCH


def _watched(state: PlantState, machine: Machine, conditions: Conditions) -> PlantState:
    """Stop where its pressure switches would."""
    atmosphere = conditions.outdoor.kpa
    fluid = load_fluid(machine.fluid)
    high_c = fluid.at(state.truth["discharge_pressure"] + atmosphere).dew_c
    if high_c > HIGH_CUTOUT_C:
        return stop(state, HIGH_SWITCH)
    if state.truth["suction_pressure"] < LOW_CUTOUT_KPA:
        return stop(state, LOW_SWITCH)
    return state
