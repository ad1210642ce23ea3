"""How much refrigerant belongs in a system: factory charge, line set, adders."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import M_PER_FT, Quantity
from nudge.core.language.working import Formula, Input, Values, Working, work
from nudge.core.physics.chart.chart import Chart
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.circuit.pipe_charge import charge_of_pipes, pipe_charges
from nudge.core.physics.circuit.tubes import (
    LINE_OWN_ERROR,
    SIZE_SLACK_MM,
    USUAL_INCLUDED_M,
    LiquidPipe,
    liquid_per_length,
    tube_of,
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
LINE_BY_TABLE = Formula(
    "line_charge",
    "Line set charge",
    _CHARGE,
    "What the maker's own table adds for this length and this vapour line, straight between its "
    "points. Minus where the line is shorter than the factory charge covers.",
    "the table at (line length, vapour line size)",
    "table({line_set_length}, {vapour_line_size}) = {by_table}",
    ("line_set_length", "vapour_line_size", "by_table"),
    "The maker's table, kept with the system.",
)
TOTAL = Formula(
    "total_charge",
    "Total charge",
    _CHARGE,
    "What to weigh into an evacuated system, and to write inside its door.",
    "factory charge + line set, or liquid pipes + coil adder + drier adder",
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
    pipes: tuple[Working, ...] = ()
    """Of a plant with many rooms, what each size of its liquid pipes holds."""


def weigh_in(plate: Plate) -> WeighIn:
    """Work out the charge of a system from its plate and line set.

    The maker's table by length and vapour line comes first, then ounces a foot, then the tube's own
    contents. Where the table is silent nothing is guessed. A plant with many rooms has no line set:
    its liquid pipes are summed, size by size. Raises: CoreError, for a tube size that does not
    exist.
    """
    if plate.liquid_pipes is not None:
        return _by_pipes(plate, plate.liquid_pipes)
    table = plate.chart("charge_by_line")
    if table is not None:
        return _by_table(plate, table)
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
    missing = (
        ("Factory charge", plate.factory_charge_kg is None),
        ("Line set length", plate.line_set_length_m is None),
        ("Charge per length, or the liquid line's size", allowance is None),
    )
    return WeighIn(allowance, line, total, tuple(notes), _labels(missing))


def _by_pipes(plate: Plate, pipes: Sequence[LiquidPipe]) -> WeighIn:
    each = pipe_charges(plate.refrigerant, pipes)
    line = charge_of_pipes(each) if each else None
    total = None
    if plate.factory_charge_kg is not None and line is not None:
        total = _total(plate, plate.factory_charge_kg, line)
    missing = (
        ("Factory charge", plate.factory_charge_kg is None),
        ("The liquid pipes’ lengths, size by size", line is None),
    )
    return WeighIn(None, line, total, (), _labels(missing), each)


def _labels(missing: Sequence[tuple[str, bool]]) -> tuple[str, ...]:
    return tuple(label for label, absent in missing if absent)


def _by_table(plate: Plate, table: Chart) -> WeighIn:
    length_m, size_mm = plate.line_set_length_m, plate.vapour_line_mm
    missing = _labels(
        (
            ("Factory charge", plate.factory_charge_kg is None),
            ("Line set length", length_m is None),
            ("Vapour line’s size, for the table", size_mm is None),
        )
    )
    if length_m is None or size_mm is None:
        return WeighIn(None, None, None, (), missing)
    try:
        column = _column_of(table, size_mm)
        by_table_g = table.value(length_m, column)
    except CoreError as silent:
        notes = (*_as_said(silent), *_other_unit(table, length_m))
        return WeighIn(None, None, None, notes, (*missing, "What the maker’s table says here"))
    line = work(
        LINE_BY_TABLE,
        lambda v: v["by_table"] / 1000,
        {
            "line_set_length": _input(
                "line_set_length", "Line set length", length_m, Quantity.LENGTH
            ),
            "vapour_line_size": _input(
                "vapour_line_size", "Vapour line, outside", size_mm, Quantity.TUBE_SIZE
            ),
            "by_table": _input("by_table", "By the maker's table", by_table_g, _SMALL),
        },
    )
    total = None
    if plate.factory_charge_kg is not None:
        total = _total(plate, plate.factory_charge_kg, line)
    return WeighIn(None, line, total, (), missing)


def _column_of(table: Chart, size_mm: float) -> float:
    """The table's column of a tube: between two sizes there is none. Raises: CoreError."""
    sizes = [float(column) for column in table.columns]
    nearest = min(sizes, key=lambda one: abs(one - size_mm))
    if abs(nearest - size_mm) > SIZE_SLACK_MM:
        names = ", ".join(tube_of(one).name for one in sizes)
        raise CoreError(
            "charge_by_line",
            f"The maker’s table has no column for a {tube_of(size_mm).name} in. vapour line: it "
            f"has {names}. Is the size written right?",
        )
    return nearest


def _other_unit(table: Chart, length_m: float) -> tuple[Said, ...]:
    """A length the table does not reach, that it would reach in the other unit."""
    low, high = table.rows[0], table.rows[-1]
    for factor, meant in ((1 / M_PER_FT, "metres"), (M_PER_FT, "feet")):
        if not low <= length_m <= high and low <= length_m * factor <= high:
            return (
                say(
                    f"Meant in {meant}? Then it is {{other}}, and the table answers.",
                    other=Measure(length_m * factor, Quantity.LENGTH),
                ),
            )
    return ()


def _as_said(silent: CoreError) -> tuple[Said, ...]:
    """Why the table is silent, with its measures."""
    return (silent.said,) if isinstance(silent, Impossible) else (Said(str(silent.text("ip"))),)


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
