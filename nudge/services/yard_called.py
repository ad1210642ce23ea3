"""A simulated system's thermostat, worked by hand: its mode, its call, its lockouts, its memory."""

from collections.abc import Callable, Mapping
from dataclasses import replace

from nudge.core.language.errors import CoreError
from nudge.core.language.units import fahrenheit
from nudge.plant.scene import PlantState, Scene
from nudge.plant.thermostat import RAISED_K, REMEMBERS, Stands, Thermostat

STRIPS_OFF_OVER_C, COMPRESSOR_OFF_UNDER_C = fahrenheit(40), fahrenheit(-5)
"""What "set the lockouts" sets: the usual for strips, the machine's own rated minimum."""
SAID: Mapping[Stands, str] = {
    "heat": "Its thermostat is in its normal mode.",
    "emergency": "Its thermostat is on emergency heat: strips alone.",
    "test": "Its thermostat is in its test mode: the pump alone, without rest.",
    "off": "Its thermostat is off.",
}
DAY_S, HOUR_S = 86_400.0, 3_600.0
Done = tuple[Scene, PlantState, str]


def thermostat_said(scene: Scene, state: PlantState) -> str:
    """How a thermostat stands and what it calls, to somebody in front of it; "" without one."""
    set_to = scene.thermostat
    if set_to is None:
        return ""
    calls = ["the pump"] if state.called.pump else []
    if state.called.circuits:
        calls.append(f"{state.called.circuits} of {len(set_to.circuits_kw)} circuits of strips")
    called = f" It calls {' and '.join(calls)}." if calls else " It calls nothing."
    return SAID[set_to.stands] + called


def _asks(stands: Stands, said: str) -> Callable[[Scene, PlantState], Done]:
    def done(scene: Scene, state: PlantState) -> Done:
        if stands == "emergency":
            state = replace(state, called=state.called.remembers("emergency", state.seconds))
        return replace(scene, thermostat=_there(scene).asks(stands)), state, said

    return done


def _there(scene: Scene) -> Thermostat:
    """Raises: CoreError, where it has none."""
    if scene.thermostat is None:
        raise CoreError("job", "This one runs while it is on: it has no thermostat to set.")
    return scene.thermostat


def _raised(scene: Scene, state: PlantState) -> Done:
    set_to = _there(scene)
    raised = replace(set_to, set_c=set_to.usual_c + RAISED_K)
    return replace(scene, thermostat=raised), state, "Raised: it calls until you put it back."


def _put_back(scene: Scene, state: PlantState) -> Done:
    set_to = _there(scene)
    return (
        replace(scene, thermostat=replace(set_to, set_c=set_to.usual_c)),
        state,
        "Back where the customer had it.",
    )


def _locked(scene: Scene, state: PlantState) -> Done:
    set_to = replace(
        _there(scene),
        strips_off_over_c=STRIPS_OFF_OVER_C,
        compressor_off_under_c=COMPRESSOR_OFF_UNDER_C,
    )
    said = (
        f"Set: strips off over {_degrees(STRIPS_OFF_OVER_C)}, compressor off under "
        f"{_degrees(COMPRESSOR_OFF_UNDER_C)}. Write them down."
    )
    return replace(scene, thermostat=set_to), state, said


def _history(scene: Scene, state: PlantState) -> Done:
    set_to = _there(scene)
    rows = [
        f"{_ago(state.seconds - one.at_s)}: {REMEMBERS[one.what].lower()}"
        for one in reversed(state.called.memory)
    ]
    memory = "; ".join(rows) if rows else "nothing remembered"
    locks = [
        f"strips off over {_degrees(set_to.strips_off_over_c)}"
        if set_to.strips_off_over_c is not None
        else "strips never locked out",
        f"compressor off under {_degrees(set_to.compressor_off_under_c)}"
        if set_to.compressor_off_under_c is not None
        else "compressor never locked out",
    ]
    return scene, state, f"{memory[0].upper()}{memory[1:]}. Lockouts: {', '.join(locks)}."


def _circuits(scene: Scene, state: PlantState) -> Done:
    set_to, volts = _there(scene), scene.machine.volts
    on = set_to.circuits_kw[: state.called.circuits]
    if not on:
        return scene, state, "No circuit draws: nothing calls the strips."
    each = ", ".join(f"{1000 * kw / volts:.1f}" for kw in on)
    return scene, state, f"On the feed {1000 * sum(on) / volts:.1f} A; on its circuits {each} A."


def _degrees(c: float) -> str:
    """In both units: what is said of a job knows nobody's choice."""
    return f"{1.8 * c + 32:.0f} °F ({c:.0f} °C)".replace("-", "−")


def _ago(seconds: float) -> str:
    if seconds >= DAY_S:
        return f"{seconds / DAY_S:.0f} days ago"
    return f"{seconds / HOUR_S:.0f} h ago" if seconds >= HOUR_S else f"{seconds / 60:.0f} min ago"


SETTINGS: Mapping[str, Callable[[Scene, PlantState], Done]] = {
    "read_history": _history,
    "normal_mode": _asks("heat", "In its normal mode."),
    "test_mode": _asks("test", "Its test mode: the pump runs without rest, no strips."),
    "call_emergency": _asks("emergency", "On emergency heat: the pump stands, strips heat."),
    "raise_call": _raised,
    "put_call_back": _put_back,
    "set_lockouts": _locked,
    "clamp_circuits": _circuits,
}
"""What can be done at a thermostat, by the key of its job."""
