"""How much refrigerant belongs in a system: factory charge, line set, adders."""

from collections.abc import Mapping
from dataclasses import dataclass

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, Values, Working, work
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.circuit.tubes import (
    LINE_OWN_ERROR,
    USUAL_INCLUDED_M,
    liquid_per_length,
    vapour_per_length,
)

_G_M, _CHARGE, _SMALL = Quantity.CHARGE_PER_LENGTH, Quantity.CHARGE, Quantity.SMALL_MASS

ALLOWANCE_BY_PLATE = Formula(
    "line_allowance",
    "Charge per length",
    _G_M,
    "What the maker adds for every length of line set beyond the included one.",
    "the plate's own figure",
    "plate: {result}",
    ("charge_per_length",),
    "The system's plate.",
)
ALLOWANCE_COMPUTED = Formula(
    "line_allowance",
    "Charge per length",
    _G_M,
    "What the liquid line holds when full of liquid at {t100}, and the vapour line of vapour at "
    "{t45}. Makers print a little more.",
    "liquid bore area × liquid density + vapour bore area × vapour density",
    "{liquid_part} in the liquid line + {vapour_part} in the vapour line = {result}",
    ("liquid_line_size", "liquid_part", "vapour_part"),
    "Bores of ASTM B280 copper tube; density from the packaged tables.",
)
LINE_CHARGE = Formula(
    "line_charge",
    "Line set charge",
    _CHARGE,
    "What the line set needs beyond what the factory charge covers. Minus where it is shorter.",
    "(line length − length included) × charge per length",
    "({line_set_length} − {line_length_included}) × {line_allowance} = {result}",
    ("line_set_length", "line_length_included", "line_allowance"),
    "Trade rule.",
)
TOTAL = Formula(
    "total_charge",
    "Total charge",
    _CHARGE,
    "What to weigh into an evacuated system, and to write inside its door.",
    "factory charge + line set + coil adder + drier adder",
    "{factory_charge} + {line_charge} + {coil_adder} + {drier_adder} = {result}",
    ("factory_charge", "line_charge", "coil_adder", "drier_adder"),
    "The plate; trade rule.",
)


@dataclass(frozen=True, slots=True)
class WeighIn:
    """The sheet: each line opened, the total where the plate gives a factory charge."""

    allowance: Working | None
    line_charge: Working | None
    total: Working | None
    notes: tuple[Said, ...]
    missing: tuple[str, ...]


def weigh_in(plate: Plate) -> WeighIn:
    """Work out the charge of a system from its plate and line set.

    Raises: CoreError, for a tube size that does not exist.
    """
    allowance = line_allowance(plate)
    included_m, notes = plate.line_length_included_m, []
    if included_m is None:
        included_m = USUAL_INCLUDED_M
        notes.append(
            say(
                "The plate does not say which length is included: {usual} is taken, the usual one.",
                usual=Measure(included_m, Quantity.LENGTH),
            )
        )
    line = None
    if allowance is not None and plate.line_set_length_m is not None:
        line = _line_charge(plate, allowance, plate.line_set_length_m, included_m)
        if line.value < 0:
            notes.append(
                Said(
                    "The line set is shorter than the factory charge covers: take out only what "
                    "the maker says."
                )
            )
    total = None
    if plate.factory_charge_kg is not None and line is not None:
        total = _total(plate, plate.factory_charge_kg, line)
    missing = tuple(
        label
        for label, absent in (
            ("Factory charge", plate.factory_charge_kg is None),
            ("Line set length", plate.line_set_length_m is None),
            ("Charge per length, or the liquid line's size", allowance is None),
        )
        if absent
    )
    return WeighIn(allowance, line, total, tuple(notes), missing)


def _line_charge(plate: Plate, allowance: Working, length_m: float, included_m: float) -> Working:
    return work(
        LINE_CHARGE,
        _line_kg,
        {
            "line_set_length": _input(
                "line_set_length", "Line set length", length_m, Quantity.LENGTH
            ),
            "line_length_included": Input(
                "line_length_included",
                "Length included",
                Measure(included_m, Quantity.LENGTH),
                "assumed" if plate.line_length_included_m is None else "plate",
            ),
            "line_allowance": Input(
                "line_allowance",
                "Charge per length",
                allowance.measure,
                "computed",
                allowance.uncertainty,
            ),
        },
    )


def _total(plate: Plate, factory_kg: float, line: Working) -> Working:
    return work(
        TOTAL,
        _total_kg,
        {
            "factory_charge": _input("factory_charge", "Factory charge", factory_kg, _CHARGE),
            "line_charge": Input(
                "line_charge", "Line set charge", line.measure, "computed", line.uncertainty
            ),
            "coil_adder": _input("coil_adder", "Coil adder", plate.coil_adder_g or 0.0, _SMALL),
            "drier_adder": _input("drier_adder", "Drier adder", plate.drier_adder_g or 0.0, _SMALL),
        },
    )


def line_allowance(plate: Plate) -> Working | None:
    """Charge per length of line set [g/m]: the plate's figure, else worked out from the tube."""
    if plate.charge_g_per_m is not None:
        figure = _input("charge_per_length", "Charge per length", plate.charge_g_per_m, _G_M)
        return work(ALLOWANCE_BY_PLATE, lambda v: v["charge_per_length"], {figure.key: figure})
    if plate.liquid_line_mm is None:
        return None
    liquid = liquid_per_length(plate.refrigerant, plate.liquid_line_mm)
    vapour = (
        0.0
        if plate.vapour_line_mm is None
        else vapour_per_length(plate.refrigerant, plate.vapour_line_mm)
    )
    inputs = {
        "liquid_line_size": _input(
            "liquid_line_size", "Liquid line, outside", plate.liquid_line_mm, Quantity.TUBE_SIZE
        ),
        "liquid_part": Input(
            "liquid_part",
            "Liquid line holds",
            Measure(liquid, _G_M),
            "computed",
            LINE_OWN_ERROR * liquid,
        ),
        "vapour_part": Input("vapour_part", "Vapour line holds", Measure(vapour, _G_M), "computed"),
    }
    return work(ALLOWANCE_COMPUTED, lambda v: v["liquid_part"] + v["vapour_part"], inputs)


def _line_kg(values: Values) -> float:
    beyond = values["line_set_length"] - values["line_length_included"]
    return beyond * values["line_allowance"] / 1000


def _total_kg(values: Values) -> float:
    adders = (values["coil_adder"] + values["drier_adder"]) / 1000
    return values["factory_charge"] + values["line_charge"] + adders


def _input(key: str, label: str, value: float, quantity: Quantity) -> Input:
    return Input(key, label, Measure(value, quantity), "plate")


def as_lines(sheet: WeighIn) -> Mapping[str, Working]:
    """The sheet's numbers by key, those there are."""
    found = (sheet.total, sheet.line_charge, sheet.allowance)
    return {working.formula.key: working for working in found if working is not None}
