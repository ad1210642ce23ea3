"""A scene and a plant's state as plain data, to be kept and brought back."""

from collections.abc import Mapping
from dataclasses import asdict, fields, replace
from typing import Any

from nudge.plant.box import Box, Boxed, Door
from nudge.plant.defrost import DefrostBoard, Frosting
from nudge.plant.faults import Present
from nudge.plant.presets import preset_machine
from nudge.plant.pumped import Pumped
from nudge.plant.room import Room, Weather
from nudge.plant.scene import PlantState, Scene
from nudge.plant.thermostat import Called, Remembered, Thermostat
from nudge.plant.wet_air import WetAir

_WORKED_OUT = ("target", "root")


def scene_data(preset: str, scene: Scene) -> dict[str, Any]:
    """A scene by the key of its preset and what is round it."""
    return {
        "preset": preset,
        "room": asdict(scene.room),
        "weather": asdict(scene.weather),
        "faults": [asdict(fault) for fault in scene.faults],
        "heating": scene.heating,
        "speed": scene.speed,
        "low_switch": scene.low_switch,
        "board": asdict(scene.board) if scene.board else None,
        "thermostat": asdict(scene.thermostat) if scene.thermostat else None,
        "box": asdict(scene.box) if scene.box else None,
    }


def scene_of(data: Mapping[str, Any]) -> Scene:
    """A scene back from its data. Raises: UnknownName, KeyError, TypeError."""
    return Scene(
        preset_machine(data["preset"]),
        Room(**data["room"]),
        Weather(**data["weather"]),
        tuple(Present(**fault) for fault in data["faults"]),
        data["heating"],
        data["speed"],
        data.get("low_switch", 0.0),
        DefrostBoard(**data["board"]) if data.get("board") else None,
        _thermostat(data["thermostat"]) if data.get("thermostat") else None,
        _box(data["box"]) if data.get("box") else None,
    )


def state_data(state: PlantState) -> dict[str, Any]:
    """A state without what is worked out again in one step."""
    kept = {f.name: getattr(state, f.name) for f in fields(state) if f.name not in _WORKED_OUT}
    kept["indoor"] = list(state.indoor)
    kept["pumped"] = asdict(state.pumped) if state.pumped else None
    kept["frosting"] = asdict(state.frosting)
    kept["called"] = asdict(state.called)
    kept["boxed"] = asdict(state.boxed) if state.boxed else None
    for name in ("truth", "quick", "slow", "heated"):
        kept[name] = dict(kept[name])
    return kept


def state_of(data: Mapping[str, Any]) -> PlantState:
    """A state back from its data."""
    pumped, boxed = data.get("pumped"), data.get("boxed")
    values = {
        **data,
        "indoor": WetAir(*data["indoor"]),
        "pumped": Pumped(**pumped) if pumped else None,
        "boxed": Boxed(**boxed) if boxed else None,
        "frosting": Frosting(**data.get("frosting", {})),
        "called": _called(data.get("called", {})),
    }
    return PlantState(**values)


def _thermostat(data: Mapping[str, Any]) -> Thermostat:
    return Thermostat(**{**data, "circuits_kw": tuple(data["circuits_kw"])})


def _box(data: Mapping[str, Any]) -> Box:
    return Box(**{**data, "doors": tuple(Door(**door) for door in data["doors"])})


def _called(data: Mapping[str, Any]) -> Called:
    memory = tuple(Remembered(**one) for one in data.get("memory", ()))
    return Called(**{**data, "memory": memory})


def without_fault(scene: Scene, *keys: str) -> Scene:
    """The scene with these faults put right."""
    return replace(scene, faults=tuple(f for f in scene.faults if f.key not in keys))
