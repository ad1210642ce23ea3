"""What is done to a plant, by hand or by its thermostat: put there, switched, dosed, defrosted."""

from dataclasses import replace

from nudge.plant.box import Box, Boxed, goods_after, held
from nudge.plant.scene import PlantState, Scene, now
from nudge.plant.switches import HIGH_SWITCH
from nudge.plant.thermostat import call
from nudge.plant.truth import standing_truth
from nudge.plant.wet_air import WetAir


def standing(scene: Scene, indoor: WetAir, charge_kg: float | None = None) -> PlantState:
    """A plant that has stood off for hours."""
    charge = scene.machine.charge_kg if charge_kg is None else charge_kg
    state = PlantState(indoor, charge)
    machine, conditions = now(scene, state)
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


def forced(state: PlantState) -> PlantState:
    """Its board's pins bridged: a defrost is asked for."""
    return replace(state, frosting=replace(state.frosting, is_asked=True))


def dosed(state: PlantState, kg: float, kg_per_s: float) -> PlantState:
    """Let refrigerant in at this rate (or out: `kg` under zero leaves at once, as liquid)."""
    if kg < 0:
        return replace(state, charge_kg=max(state.charge_kg + kg, 0.0))
    return replace(state, to_add_kg=state.to_add_kg + kg, adding_kg_s=kg_per_s)


def switched(scene: Scene, state: PlantState, is_on: bool) -> PlantState:
    """Its disconnect closed or opened: with a thermostat, that one starts it when it calls."""
    state = replace(state, called=replace(state.called, is_on=is_on), tripped="")
    if not is_on:
        return stop(state)
    return state if scene.thermostat or scene.box else start(state)


def called(scene: Scene, state: PlantState, dt: float) -> PlantState:
    """What its thermostat makes of a step: it starts and stops the compressor, and calls strips."""
    if scene.box is not None and state.boxed is not None:
        return _boxed(scene.box, state.boxed, scene, state, dt)
    if scene.thermostat is None:
        return state
    outdoor_c = scene.weather.at(state.seconds).temp_c
    calls = call(
        scene.thermostat,
        state.called,
        state.indoor.temp_c,
        outdoor_c,
        state.frosting.is_defrosting,
        state.seconds,
        dt,
    )
    state = replace(state, called=calls)
    if calls.pump and not state.is_running and not state.tripped:
        return start(state)
    return state if calls.pump else stop(state)


def _boxed(box: Box, was: Boxed, scene: Scene, state: PlantState, dt: float) -> PlantState:
    """A cold box a step later: it calls, defrosts and rests by itself while it is switched on."""
    indoor_c, kw = state.indoor.temp_c, scene.machine.nominal_kw
    boxed, ice_kg = held(box, was, indoor_c, state.ice_kg, kw, state.is_running, dt)
    boxed = goods_after(box, boxed, indoor_c, dt)
    state = replace(state, boxed=boxed, ice_kg=ice_kg)
    if not state.called.is_on or not boxed.may_run:
        return stop(state)
    truth = state.truth.get("suction_pressure", box.low_cut_kpa)
    if state.is_running and truth < box.low_cut_kpa:
        return stop(state)
    return start(state) if boxed.may_start and not state.tripped else state


def remembered(scene: Scene, before: PlantState, after: PlantState) -> PlantState:
    """The later of two states with what its control wrote down between them."""
    what = ""
    if after.tripped and not before.tripped:
        what = "high_pressure" if after.tripped == HIGH_SWITCH else "low_pressure"
    took, still = before.frosting.defrost_s, after.frosting.defrost_s
    is_over = scene.board is not None and took is not None and still is None
    if scene.board is not None and is_over and (took or 0.0) + LAST_STEP_S >= scene.board.most_s:
        what = "defrost_by_clock"
    if scene.thermostat is None or not what:
        return after
    return replace(after, called=after.called.remembers(what, after.seconds))


LAST_STEP_S = 2.5
"""A defrost this near its longest was ended by the clock."""
