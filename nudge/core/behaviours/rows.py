"""The kinds of plant, one row each. What is not known of one yet, its row says."""

from dataclasses import replace
from importlib.resources import files
from typing import Literal

from nudge.core.behaviours.behaviour import Behaviour, Mode, RatedAir, StationRow
from nudge.core.language.said import say
from nudge.core.language.units import degrees_f, fahrenheit
from nudge.core.physics.circuit.equipment import (
    APPLICATION_LABELS,
    Application,
    Plate,
    ReversingValve,
)
from nudge.core.physics.circuit.roles import Roles
from nudge.core.physics.cold_room.ladder import is_freezer

TABLES = files("nudge.core.behaviours").joinpath("tables")
ONLY_THERE = frozenset({"application_not_judged", "not_running"})
"""The gates that hold for any plant: whether it is judged at all, and whether it runs."""
AS_READ = frozenset({"not_settled", "contradicted", "estimated", "stale"})
"""Those of any reading: steady, and neither contradicted, guessed nor old."""
CLOCKED = frozenset({"run_short", "just_changed"})
WARMED = AS_READ | CLOCKED | {"too_mild_to_heat", "in_defrost"}
"""The gates of heat: long enough, steady, clear of a defrost, cold outdoors."""
DRIVEN = AS_READ | {"vehicle_not_ready", "engine_cold"}
"""The gates of a vehicle: made ready, its engine warm, steady."""
BOXED = (
    AS_READ
    | CLOCKED
    | {
        "no_set_point",
        "set_over_outdoors",
        "off_set_point",
        "in_defrost",
        "door_open",
    }
)
"""The gates of a cold room: long enough, steady, near set point, clear of a defrost, door shut."""
COOLED = frozenset(
    {
        "plate_subcooling",
        "plate_approach",
        "plate_superheat",
        "chart_subcooling",
        "chart_superheat",
        "formula_superheat",
        "fallback_subcooling",
        "typical_subcooling",
        "coil_model",
    }
)
"""Schools whose figure is for cooling: a plate's target says nothing of a winter's day."""
VALVE_HEALTH = frozenset({"valve_health", "valve_health_at_coil"})
NOT_IN_A_ROOM = VALVE_HEALTH | {
    "plate_superheat",
    "formula_superheat",
    "fallback_subcooling",
    "typical_subcooling",
    "coil_split",
}
"""A room's superheat is counted at its coil, and no guess of a house's figures holds for it."""
FREEZER_AIR, COOLER_AIR = (
    RatedAir(
        outdoor_c=fahrenheit(77),
        outdoor_from_k=degrees_f(-49),
        outdoor_to_k=degrees_f(24),
        house_point="box_air_temp",
        house_c=fahrenheit(box_f),
        house_from_k=degrees_f(-13),
        house_to_k=degrees_f(14),
        usual_k=0.0,
    )
    for box_f in (-5, 37)
)
"""What expectations of a room are carried by: outdoors, where its condenser stands, and its box."""

HEATING_AIR = RatedAir(
    outdoor_c=fahrenheit(35),
    outdoor_from_k=degrees_f(-22),
    outdoor_to_k=degrees_f(25),
    house_point="return_air_temp",
    house_c=fahrenheit(70),
    house_from_k=degrees_f(-5),
    house_to_k=degrees_f(5),
    usual_k=0.0,
)

_WAY_ROUND = (
    StationRow("compressor_out", "Compressor", "high", None, True),
    StationRow("discharge_line", "Discharge line", "high", "discharge_line_temp"),
    StationRow("condenser", "Condenser", "high", None, True),
    StationRow("liquid_line", "Liquid line", "high", "liquid_line_temp"),
    StationRow("drier_in", "Drier in", "high", "drier_inlet_temp"),
    StationRow("drier_out", "Drier out", "high", "drier_outlet_temp"),
    StationRow("liquid_line_indoor", "Liquid indoors", "high", "liquid_line_temp_indoor"),
    StationRow("metering_device", "Metering device", "low", "metering_outlet_temp", True),
    StationRow("evaporator", "Evaporator", "low", None, True),
    StationRow("evaporator_outlet", "Coil outlet", "low", "evaporator_outlet_temp"),
    StationRow("suction_line", "Suction line", "low", "suction_line_temp"),
    StationRow("compressor_in", "Compressor", "low", "true_suction_temp", True),
)
_IN_ITS_ORDER = tuple(
    next(row for row in _WAY_ROUND if row.key == key)
    for key in (
        "compressor_out",
        "discharge_line",
        "condenser",
        "liquid_line_indoor",
        "liquid_line",
        "drier_in",
        "drier_out",
        "metering_device",
        "evaporator",
        "compressor_in",
    )
)
_HEATED = tuple(
    StationRow(
        row.key,
        {
            "condenser": "Indoor coil",
            "evaporator": "Outdoor coil",
            "compressor_in": "True suction",
        }.get(row.key, row.label),
        row.side,
        row.point,
        row.is_part,
    )
    for row in _IN_ITS_ORDER
)
"""In heating the vapour service line carries hot gas: it is no station of the cold side; the liquid
comes from the house."""

_BOXES: tuple[tuple[Literal["freezer", "cooler"], RatedAir], ...] = (
    ("freezer", FREEZER_AIR),
    ("cooler", COOLER_AIR),
)

_COLD_ROOM = Behaviour(
    "cold_room",
    Application.REFRIGERATION,
    "cooling",
    "check_only",
    "It works under freezing by nature, and is charged by its receiver or its plate.",
    roles=Roles(("suction_line_temp",), ("liquid_line_temp",), ("box_air_temp", "return_air_temp")),
    not_judged=say(
        "A cold room is charged by its receiver or its plate, by weight: subcooling does not "
        "tell. Near set point Nudge checks it by its design."
    ),
    gates=ONLY_THERE | BOXED,
    floods_at=("superheat",),
    without_schools=NOT_IN_A_ROOM,
    superheat_tolerance_k=degrees_f(3),
    stations=_WAY_ROUND,
)
"""A cold room by its windows: what holds for any box."""

_ROWS = (
    Behaviour(
        "cooling", Application.COMFORT_COOLING, "cooling", "trim",
        "Split, packaged and mini-split machines that cool a house: charged here.",
        tables=TABLES.joinpath("cooling"),
        icing_c=fahrenheit(32),
        usual_boiling_c=fahrenheit(40),
        has_coil_model=True,
        looks_without_gauges=True,
        suction_under_air=True,
        stations=_WAY_ROUND,
    ),
    Behaviour(
        "heating", Application.HEAT_PUMP_HEATING, "heating", "check_only",
        "The coils change places: outdoors is the cold side, and the vapour line is hot.",
        roles=Roles(
            superheat_line=("true_suction_temp",),
            subcool_line=("liquid_line_temp",),
            cold_air=("outdoor_air_temp",),
            warm_air=("return_air_temp",),
            along_liquid=("liquid_line_temp_indoor", "liquid_line_temp"),
        ),
        tables=TABLES.joinpath("heating"),
        not_judged=say("A heat pump is charged in cooling. In heating it is only checked."),
        rated_air=HEATING_AIR,
        gates=ONLY_THERE | WARMED,
        without_schools=COOLED,
        run_minutes=30.0,
        stations=_HEATED,
    ),
    _COLD_ROOM,
    *(
        replace(
            _COLD_ROOM,
            key=box,
            reason="With a receiver its suspects are weighed; its charge is the receiver's level.",
            box=box,
            tables=TABLES.joinpath(box),
            not_judged=say(
                "A cold room is charged by its receiver or its plate, by weight: subcooling does "
                "not tell. Near set point Nudge checks it."
            ),
            rated_air=air,
        )
        for box, air in _BOXES
    ),
    Behaviour(
        "vehicle", Application.VEHICLE, "cooling", "weigh_only",
        "Charge is weighed in; a vehicle a third short can pass every test.",
        roles=Roles(("suction_line_temp",), ("liquid_line_temp",)),
        not_judged=say(
            "A vehicle is charged by weight, by its label. Three temperatures' differences tell "
            "how it works after a repair."
        ),
        gates=ONLY_THERE | DRIVEN,
        has_three_tests=True,
        without_schools=COOLED | NOT_IN_A_ROOM,
        usual_boiling_c=fahrenheit(40),
        stations=_WAY_ROUND,
    ),
    Behaviour(
        "multi_zone", Application.MULTI_ZONE, "cooling", "none",
        "Many indoor units on one circuit: only an hour of its log tells anything.",
        roles=Roles(("suction_line_temp",), ("liquid_line_temp",)),
        not_judged=say(
            "A multi-zone plant is read by its log, an hour of it at least: it defends its target "
            "while its rooms grow warm. Read its log in."
        ),
        gates=ONLY_THERE,
        reads_logs=True,
        without_schools=COOLED | NOT_IN_A_ROOM,
        usual_boiling_c=fahrenheit(40),
        stations=_WAY_ROUND,
    ),
)  # fmt: skip
BEHAVIOURS: dict[str, Behaviour] = {row.key: row for row in _ROWS}
"""By key. A study of plants whose laws differ puts a row with other tables in the place of one."""


def behaviour_of(plate: Plate, mode: Mode | str = "") -> Behaviour:
    """What a plate is met as. A heat pump is met in two modes; "" is what its plate says."""
    application = plate.application
    if application is Application.HEAT_PUMP_HEATING and mode == "cooling":
        application = Application.COMFORT_COOLING
    may_heat = plate.reversing_valve is not ReversingValve.ABSENT
    if application is Application.COMFORT_COOLING and mode == "heating" and may_heat:
        application = Application.HEAT_PUMP_HEATING
    rows = [row for row in BEHAVIOURS.values() if row.application is application]
    return next((row for row in rows if row.box and row.box == _box_of(plate)), rows[0])


def _box_of(plate: Plate) -> str:
    """The kind of room a plate is of, as far as its suspects can be weighed; "" for no such."""
    freezer = is_freezer(plate)
    if freezer is None or plate.has_receiver != "yes":
        return ""
    return "freezer" if freezer else "cooler"


def holds_box(name: str) -> bool:
    """Whether plant of an application, by its name, keeps a cold box."""
    rows = (row for row in BEHAVIOURS.values() if row.application.value == name)
    return any(row.roles.has_box for row in rows)


def application_said(application: Application) -> str:
    """Its label, where it is not what is met everywhere; "" for comfort cooling."""
    is_usual = application is Application.COMFORT_COOLING
    return "" if is_usual else APPLICATION_LABELS[application]
