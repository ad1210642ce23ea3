"""The numbers of a vehicle's three tests, each with its formula, inputs and source."""

from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.accuracy import USUAL, Own
from nudge.core.language.vocabulary.inputs import read_input
from nudge.core.language.vocabulary.points import Readings
from nudge.core.language.working import Formula, Input, Working, work
from nudge.core.physics.vehicle.three_tests import FRONT, CoilSpot, ThreeTests, least_air_drop

_K = Quantity.TEMPERATURE_DIFFERENCE
_TRADE = "Trade: three temperature tests after a repair."
CONDENSER_DROP = Formula(
    "condenser_drop",
    "Condenser’s drop",
    _K,
    "How far the refrigerant is cooled on its way through the condenser.",
    "condenser inlet line − condenser outlet line",
    "{inlet} − {outlet} = {result}",
    ("inlet", "outlet"),
    _TRADE,
)
AIR_DROP = Formula(
    "vehicle_air_drop",
    "Air’s drop",
    _K,
    "How far the air is cooled, from before the condenser to the vent.",
    "condenser entering air − vent air",
    "{enters} − {vent} = {result}",
    ("enters", "vent"),
    _TRADE,
)
OVER_VENT = Formula(
    "outlet_over_vent",
    "Outlet over vent",
    _K,
    "How far the gas leaves over the air that it cooled, or over its own inlet line where that is "
    "bare to be clamped.",
    "evaporator outlet − vent air (or evaporator inlet line)",
    "{outlet} − {against} = {result}",
    ("outlet", "against"),
    _TRADE,
)
LEAST_AIR_DROP = Formula(
    "least_air_drop",
    "Least air drop",
    _K,
    "What the air has to drop at this humidity: the same heat cools humid air less, for it takes "
    "water out first.",
    "{d30} × drop of this air for the heat of {d36} of dry air ÷ {d36}",
    "{enters} at a wet bulb of {wet} → {result}",
    ("enters", "wet"),
    "ASHRAE Fundamentals 2017, chapter 1; {d30} by trade.",
)
FORMULAS = (CONDENSER_DROP, AIR_DROP, LEAST_AIR_DROP, OVER_VENT)


def working_key(formula: Formula, spot: CoilSpot) -> str:
    """By which an evaporator's number is found: the rear one's beside the front one's."""
    return formula.key if spot is FRONT else f"{spot.name}_{formula.key}"


def vehicle_workings(
    tests: ThreeTests, readings: Readings, elevation_m: float, own: Own = USUAL
) -> dict[str, Working]:
    """Those of the three tests that the readings allow, by `working_key`."""
    found: dict[str, Working] = {}

    def given(**points: str) -> dict[str, Input]:
        return {key: read_input(key, point, readings, own) for key, point in points.items()}

    if tests.condenser_k is not None:
        ends = given(inlet="condenser_inlet_line_temp", outlet="condenser_outlet_line_temp")
        found[CONDENSER_DROP.key] = work(CONDENSER_DROP, lambda v: v["inlet"] - v["outlet"], ends)
    for coil in tests.coils:
        spot = coil.spot
        if coil.air_k is not None:
            airs = given(enters="condenser_entering_air_temp", vent=spot.vent)
            found[working_key(AIR_DROP, spot)] = work(
                AIR_DROP, lambda v: v["enters"] - v["vent"], airs
            )
        if coil.over_vent_k is not None:
            lines = given(outlet=spot.outlet, against=spot.inlet if coil.by_inlet else spot.vent)
            found[working_key(OVER_VENT, spot)] = work(
                OVER_VENT, lambda v: v["outlet"] - v["against"], lines
            )
    if tests.coils[0].least_air_k is not None:
        bulbs = given(enters="condenser_entering_air_temp", wet="return_air_wet_bulb")
        found[LEAST_AIR_DROP.key] = work(
            LEAST_AIR_DROP,
            lambda v: least_air_drop(v["enters"], v["wet"], elevation_m) or 0.0,
            bulbs,
        )
    return found
