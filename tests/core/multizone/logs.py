"""Logs made by hand: every number of them is known."""

from nudge.core.physics.zones.log import ZoneLog
from nudge.core.physics.zones.parts import IndoorUnit, Parts

STEP_S = 30.0
PLANT = {
    "compressor_hz": 60.0, "evaporating_target": 1.0, "evaporating_temp": 2.0,
    "condensing_temp": 45.0, "liquid_temp": 27.0, "shell_temp": 20.0, "outdoor_air": 33.0,
    "accumulator_inlet_temp": 9.0, "accumulator_top_temp": 9.0, "accumulator_middle_temp": 9.0,
    "accumulator_bottom_temp": 2.2, "discharge_temp": 75.0, "bypass_temp": 36.0, "mode": 1.0,
}  # fmt: skip
ROOM = {
    "room_temp": 25.0, "set_point": 24.0, "return_air": 25.2, "coil_inlet": 5.0,
    "coil_outlet": 10.0, "valve_steps": 240.0, "calls": 1.0, "room_mode": 1.0,
}  # fmt: skip
PARTS = Parts(
    "R-410A",
    tuple(IndoorUnit(key, f"Room {key}", 4000.0) for key in ("1", "2", "3")),
    10_000.0,
)


def flat(minutes: float, rooms=("1", "2", "3"), **changes) -> ZoneLog:
    """A log in which nothing moves; `changes` name `point` or `part__point`: value or per sample."""
    count = round(minutes * 60 / STEP_S)
    columns = {("outdoor", point): [value] * count for point, value in PLANT.items()}
    for room in rooms:
        columns |= {(room, point): [value] * count for point, value in ROOM.items()}
    for name, value in changes.items():
        part, _, point = name.rpartition("__")
        key = (part.removeprefix("r") or "outdoor", point)
        columns[key] = [value(i) if callable(value) else value for i in range(count)]
    return ZoneLog([STEP_S * i for i in range(count)], columns)
