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
from nudge.plant.lags import LAGS, PROMPT, STANDING, Lag
from nudge.plant.machine import Conditions, Machine
from nudge.plant.metering import USUAL_EVAPORATING_C, loose_bulb_k, opening_at, seek
from nudge.plant.newton import Root
from nudge.plant.pumped import Pumped, begun, pumped_on
from nudge.plant.room import Room, Weather, stepped
from nudge.plant.steady import Steady
from nudge.plant.switches import opened_switch, why_stopped
from nudge.plant.truth import running_truth, standing_truth
from nudge.plant.wet import iced, with_dose
from nudge.plant.wet_air import WetAir

STEP_S = 2.0
COIL_S, BULB_S, VALVE_S, PROBE_S = 12.0, 60.0, 4.0, 8.0
"""The valve's way round: the coil answers, the bulb's metal follows, the pin moves."""
WETTEST_K = -8.0
SPREADING_S = 75.0
"""Charge just added spreads from the low side to where it belongs."""
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
    low_switch: float | None = 0.0
    """Where its low-pressure switch opens [kPa gauge]; None where it has none."""


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
    pumped: Pumped | None = None
    """Both lumps, while it runs behind a valve that is shut."""


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
    return replace(
        state,
        is_running=False,
        changed_at=state.seconds,
        tripped=tripped,
        target=None,
    )


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
        return _stand(scene, state, machine, conditions, dt, added)
    airflow = blow(machine.blower, machine.volts)
    if machine.device.is_shut:
        return _starved(scene, state, machine, conditions, dt, added)
    opening = _opening(machine, state, dt)
    setting = Setting(machine, conditions, airflow.kg_s, opening)
    try:
        point = operate(setting, state.root)
    except NoOperatingPoint:
        return _stand(
            scene, stop(state, why_stopped(state.target, machine)), machine, conditions, dt
        )
    at = Steady(machine, conditions, airflow, point)
    goal, wet = with_dose(running_truth(at), machine, point, added / dt)
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
        ice_kg=iced(state.ice_kg, machine, point, dt),
        opening=opening,
        coil_superheat_k=coil_k,
        bulb_superheat_k=bulb_k,
        truth=truth,
        quick=quick,
        slow=slow,
        target=point,
        root=point.root,
    )
    return _watched(scene, state, machine, conditions.outdoor.kpa)


def _starved(
    scene: Scene,
    state: PlantState,
    machine: Machine,
    conditions: Conditions,
    dt: float,
    added: float,
) -> PlantState:
    """A step behind a valve that is shut: only the low side moves."""
    was = state.pumped or begun(machine, conditions)
    pumped, moved = pumped_on(machine, conditions, was, dt, added)
    goal = standing_truth(machine, conditions) | moved
    quick, slow, truth = _followed(state, goal, dt, None)
    truth |= {key: moved[key] for key in _AT_ONCE}
    state = replace(
        state,
        seconds=state.seconds + dt,
        indoor=stepped(scene.room, state.indoor, conditions.outdoor, 0.0, 0.0, dt),
        truth=truth,
        quick=quick | {key: moved[key] for key in _AT_ONCE},
        slow=slow | {key: moved[key] for key in _AT_ONCE},
        pumped=pumped,
    )
    return _watched(scene, state, machine, conditions.outdoor.kpa)


_AT_ONCE = ("suction_pressure", "liquid_pressure", "discharge_pressure", "discharge_line_temp")
"""What the two lumps say of themselves needs no further lag."""


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
    scene: Scene,
    state: PlantState,
    machine: Machine,
    conditions: Conditions,
    dt: float,
    added: float = 0.0,
) -> PlantState:
    goal = standing_truth(machine, conditions)
    pumped = state.pumped if machine.device.is_shut else None
    if pumped is not None:
        pumped, held = pumped_on(machine, conditions, pumped, dt, added, runs=False)
        goal |= held
    quick, slow, truth = _followed(state, goal, dt, STANDING)
    if pumped is not None:
        truth["suction_pressure"] = goal["suction_pressure"]
        quick["suction_pressure"] = slow["suction_pressure"] = goal["suction_pressure"]
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
        pumped=pumped,
        indoor=stepped(scene.room, state.indoor, outdoor, 0.0, 0.0, dt),
        spreading_kg=0.0,
        ice_kg=max(state.ice_kg - 2e-4 * dt, 0.0),
    )


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


def _watched(scene: Scene, state: PlantState, machine: Machine, atmosphere: float) -> PlantState:
    """Stop where its pressure switches would."""
    truth = state.truth
    opened = opened_switch(
        truth["discharge_pressure"] + atmosphere,
        truth["suction_pressure"],
        machine,
        scene.low_switch,
    )
    return stop(state, opened) if opened else state
