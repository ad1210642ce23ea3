"""The rungs of a cold room's ladder, each with its formula, inputs and source."""

from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity, atmospheric_kpa
from nudge.core.language.vocabulary.accuracy import USUAL, Own
from nudge.core.language.vocabulary.inputs import read_input
from nudge.core.language.vocabulary.points import Readings
from nudge.core.language.working import Formula, Input, Working, work
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.cold_room.ladder import USUAL_COIL_K, USUAL_CONDENSER_K
from nudge.core.physics.refrigerant.table import load_table

_T, _P = Quantity.TEMPERATURE, Quantity.PRESSURE
_TRADE = "Trade: design difference by the class of coil and condenser."
BOILS = Formula(
    "design_evaporating",
    "Evaporating by design",
    _T,
    "What the coil should boil at with the box as it is now.",
    "box air − coil class",
    "{box} − {coil} = {result}",
    ("box", "coil"),
    _TRADE,
)
SUCTION = Formula(
    "design_suction",
    "Suction by design",
    _P,
    "The pressure at which the refrigerant's dew stands at that temperature.",
    "pressure at dew of (box air − coil class), over the air's",
    "dew of {box} − {coil}: {result}",
    ("box", "coil"),
    f"Refrigerant table. {_TRADE}",
)
CONDENSES = Formula(
    "design_condensing",
    "Condensing by design",
    _T,
    "What the condenser should condense at in today's outdoor air.",
    "outdoor air + condenser class",
    "{outdoor} + {condenser} = {result}",
    ("outdoor", "condenser"),
    _TRADE,
)
HEAD = Formula(
    "design_head",
    "Head by design",
    _P,
    "The pressure at which the refrigerant's bubble stands at that temperature.",
    "pressure at bubble of (outdoor air + condenser class), over the air's",
    "bubble of {outdoor} + {condenser}: {result}",
    ("outdoor", "condenser"),
    f"Refrigerant table. {_TRADE}",
)
FORMULAS = (BOILS, SUCTION, CONDENSES, HEAD)


def room_workings(plate: Plate, readings: Readings, own: Own = USUAL) -> dict[str, Working]:
    """The rungs that plate and readings allow, by their formula's key."""
    table, air_kpa = load_table(plate.refrigerant), atmospheric_kpa(plate.elevation_m)
    found = []
    if "box_air_temp" in readings:
        low = {
            "box": read_input("box", "box_air_temp", readings, own),
            "coil": _class("coil", "Coil class", plate.coil_class_k, USUAL_COIL_K),
        }
        found += [
            work(BOILS, lambda v: v["box"] - v["coil"], low),
            work(SUCTION, lambda v: table.dew.pressure(v["box"] - v["coil"]) - air_kpa, low),
        ]
    if "outdoor_air_temp" in readings:
        high = {
            "outdoor": read_input("outdoor", "outdoor_air_temp", readings, own),
            "condenser": _class(
                "condenser", "Condenser class", plate.condenser_class_k, USUAL_CONDENSER_K
            ),
        }
        found += [
            work(CONDENSES, lambda v: v["outdoor"] + v["condenser"], high),
            work(
                HEAD, lambda v: table.bubble.pressure(v["outdoor"] + v["condenser"]) - air_kpa, high
            ),
        ]
    return {one.formula.key: one for one in found}


def _class(key: str, label: str, given: float | None, usual: float) -> Input:
    kelvin = usual if given is None else given
    source = "the usual class" if given is None else "plate"
    return Input(key, label, Measure(kelvin, Quantity.TEMPERATURE_DIFFERENCE), source)
