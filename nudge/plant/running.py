"""A plant that runs in time: starts, settles, hunts, takes charge, ices, trips.

The circuit is solved at the valve's present opening and the charge now in circulation; what
can be felt of it follows, each point with a quick and a slow part (`LAGS`): pressures in
seconds, metal and the liquid line in minutes. The valve moves on what its bulb feels, late,
so an eager one hunts.
"""

from collections.abc import Mapping
from dataclasses import replace
from math import exp

from nudge.plant.acts import called, remembered, stop
from nudge.plant.blower import blow
from nudge.plant.box import standing_points
from nudge.plant.circuit import NoOperatingPoint, Operating, operate
from nudge.plant.circulation import Setting
from nudge.plant.defrost import Frosting, defrost_truth, grown, melted
from nudge.plant.lags import AT_ONCE, LAGS, PROMPT, STANDING, TURNED, Lag
from nudge.plant.machine import Conditions, Machine
from nudge.plant.metering import loose_bulb_k, opening_at, seek
from nudge.plant.pumped import begun, pumped_on
from nudge.plant.room import stepped
from nudge.plant.scene import PlantState, Scene, now, room_of
from nudge.plant.steady import Steady
from nudge.plant.switches import opened_switch, why_stopped
from nudge.plant.truth import blown_truth, running_truth, standing_truth
from nudge.plant.wet import iced, thawed, with_dose
from nudge.plant.wet_air import WetAir

STEP_S = 2.0
COIL_S, BULB_S, VALVE_S, PROBE_S = 12.0, 60.0, 4.0, 8.0
"""The valve's way round: the coil answers, the bulb's metal follows, the pin moves."""
WETTEST_K = -8.0
DEFROST_COLD_SHARE = 0.4
"""Of its nominal cooling, what a defrost takes from the house."""
SPREADING_S = 75.0
"""Charge just added spreads from the low side to where it belongs."""


def advance(scene: Scene, state: PlantState, seconds: float) -> PlantState:
    """The plant this much later, in steps of at most two seconds."""
    left = seconds
    while left > 1e-9:
        step = min(left, STEP_S)
        state = remembered(scene, state, _step(scene, called(scene, state, step), step))
        left -= step
    return state


def _step(scene: Scene, state: PlantState, dt: float) -> PlantState:
    state, added = _letting_in(state, dt)
    machine, conditions = now(scene, state)
    if not state.is_running:
        return _stand(scene, state, machine, conditions, dt, added)
    airflow = blow(machine.blower, machine.volts)
    if machine.device.is_shut:
        return _starved(scene, state, machine, conditions, dt, added)
    if state.frosting.is_defrosting and "defrost_valve_stuck" not in scene.wrong:
        return _defrosting(scene, state, machine, conditions, dt)
    opening = _opening(machine, state, dt)
    setting = Setting(machine, conditions, airflow.kg_s, opening)
    try:
        point = operate(setting, state.root)
    except NoOperatingPoint:
        was = state.target or _wide_open(setting)
        return _stand(scene, stop(state, why_stopped(was, machine)), machine, conditions, dt)
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
        indoor=_room_after(scene, state, at, dt),
        spreading_kg=state.spreading_kg * exp(-dt / SPREADING_S) + added,
        slug_kg=state.slug_kg + wet * dt,
        ice_kg=_ice_after(scene, state, machine, point, dt),
        frosting=_frosting(scene, state, point, conditions, dt),
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


def _ice_after(
    scene: Scene, state: PlantState, machine: Machine, point: Operating, dt: float
) -> float:
    """Ice on the indoor coil after a step; a box without its own clock is met between defrosts."""
    if scene.heating:
        return 0.0
    if machine.application == "refrigeration" and scene.box is None:
        return state.ice_kg
    return iced(state.ice_kg, machine, point, dt)


def _wide_open(setting: Setting) -> Operating | None:
    """Where it would run with its device wide open: which way it was heading as it started."""
    try:
        return operate(replace(setting, opening=setting.machine.device.most_open), None)
    except NoOperatingPoint:
        return None


def _frosting(
    scene: Scene,
    state: PlantState,
    point: Operating,
    conditions: Conditions,
    dt: float,
) -> Frosting:
    """The outdoor coil after a step of heating."""
    if scene.board is None or not scene.heating:
        return state.frosting
    outdoor_c = conditions.outdoor.temp_c
    return grown(scene.board, state.frosting, point, outdoor_c, scene.wrong, dt)


def _defrosting(
    scene: Scene, state: PlantState, machine: Machine, conditions: Conditions, dt: float
) -> PlantState:
    """A step with the reversing valve turned: the outdoor coil melts, the house cools a little."""
    assert scene.board is not None
    frosting = melted(scene.board, state.frosting, machine, conditions, scene.wrong, dt)
    was = state if state.frosting.defrost_s else replace(state, heated=state.truth)
    goal = defrost_truth(was.heated, machine, conditions, state.frosting)
    quick, slow, truth = _followed(state, goal, dt, TURNED)
    for key in AT_ONCE:
        quick[key] = slow[key] = truth[key] = goal[key]
    lost_kw = DEFROST_COLD_SHARE * machine.nominal_kw - machine.strips_kw
    return replace(
        was,
        seconds=state.seconds + dt,
        indoor=stepped(room_of(scene, state), state.indoor, conditions.outdoor, lost_kw, 0.0, dt),
        frosting=frosting,
        truth=truth,
        quick=quick,
        slow=slow,
        root=None,
        opening=0.3,
        coil_superheat_k=6.0,
        bulb_superheat_k=6.0,
    )


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
        indoor=stepped(room_of(scene, state), state.indoor, conditions.outdoor, 0.0, 0.0, dt),
        truth=truth,
        quick=quick | {key: moved[key] for key in _AT_ONCE},
        slow=slow | {key: moved[key] for key in _AT_ONCE},
        pumped=pumped,
    )
    return _watched(scene, state, machine, conditions.outdoor.kpa)


_AT_ONCE = ("suction_pressure", "liquid_pressure", "discharge_pressure", "discharge_line_temp")
"""What the two lumps say of themselves needs no further lag."""


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
    works_at = state.target.evaporating_c if state.target else None
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
    if scene.box is not None and state.boxed is not None:
        goal |= standing_points(scene.box, state.boxed)
    warmed_kw = 0.0
    if machine.strips_kw > 0:
        blown = blown_truth(machine, conditions)
        goal, warmed_kw = goal | blown, blown["indoor_unit_watts"] / 1000
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
        "strip_amps",
        "indoor_unit_watts",
        "indoor_unit_amps",
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
        indoor=stepped(room_of(scene, state), state.indoor, outdoor, -warmed_kw, 0.0, dt),
        spreading_kg=0.0,
        ice_kg=thawed(state.ice_kg, state.indoor.temp_c, dt),
    )


def _room_after(scene: Scene, state: PlantState, at: Steady, dt: float) -> WetAir:
    outdoor, watts = at.conditions.outdoor, at.airflow.watts
    if at.conditions.heating:
        warms = at.operating.condensed.heat + at.machine.strips_kw
        return stepped(room_of(scene, state), state.indoor, outdoor, -warms, 0.0, dt)
    took = at.operating.evaporated
    latent = max(took.heat - took.sensible, 0.0)
    room, sensible = room_of(scene, state), took.sensible - watts / 1000
    return stepped(room, state.indoor, outdoor, sensible, latent, dt)


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
