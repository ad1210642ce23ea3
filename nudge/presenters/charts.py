"""A maker's chart over the wire: axes and cells in the caller's units, ready to draw."""

from collections.abc import Callable
from dataclasses import dataclass

from pydantic import BaseModel

from nudge.contract.opened import OpenedOut
from nudge.contract.request import Name
from nudge.contract.strict import Strict
from nudge.core.language.errors import CoreError
from nudge.core.language.units import Quantity, UnitSystem, decimals, from_si, unit_label
from nudge.core.language.vocabulary.points import Readings
from nudge.core.physics.chart.chart import KINDS, Axis, Chart, ChartKind
from nudge.core.physics.chart.chart_text import read_chart
from nudge.core.physics.circuit.derived import blower_static
from nudge.core.physics.circuit.equipment import Plate
from nudge.presenters.book import Id
from nudge.services.plates import readable_charts
from nudge.services.rows import System


@dataclass(frozen=True, slots=True)
class AxisOut:
    label: str
    unit: str


@dataclass(frozen=True, slots=True)
class ChartKindOut:
    """A kind of chart: what its rows, columns and cells are, and an example to type like."""

    key: str
    label: str
    row: AxisOut
    column: AxisOut | None
    column_name: str
    cell: AxisOut
    example: str


@dataclass(frozen=True, slots=True)
class ChartDrawn:
    """A chart in the caller's units; `text` as it was written, in `written_in`."""

    kind: ChartKindOut
    text: str
    written_in: UnitSystem
    rows: list[float]
    columns: list[float | str]
    cells: list[list[float | None]]


@dataclass(frozen=True, slots=True)
class PresentPoint:
    """Where today stands on a chart; `value` is None where the chart is silent, `message` why."""

    row: float
    column: float | str | None
    value: float | None
    message: str | None


@dataclass(frozen=True, slots=True)
class ChartToday:
    """A chart and where today's readings stand on it, if they were taken."""

    chart: ChartDrawn
    present: PresentPoint | None


def charts_today(row: System, readings: Readings, units: UnitSystem) -> list[ChartToday]:
    """The charts of a system with today's point on each."""
    found = []
    for kept, chart, written in readable_charts(row):
        if chart.kind.key not in _ROW_OF:
            length, size = row.line_set_length_m, row.vapour_line_mm
            there = None if length is None or size is None else _present(chart, length, size, units)
            found.append(ChartToday(drawn(chart, kept.text, written, units), there))
            continue
        place = _ROW_OF[chart.kind.key](readings)
        column: float | str | None = {
            "subcooling_by_outdoor": row.indoor_unit,
            "superheat_by_wet_bulb": readings.get("return_air_wet_bulb"),
            "blower_airflow": row.blower_tap,
        }[chart.kind.key]
        present = None
        if place is not None and column is not None:
            present = _present(chart, place, column, units)
        found.append(ChartToday(drawn(chart, kept.text, written, units), present))
    return found


LINE = "charge_by_line"
_ROW_OF: dict[str, Callable[[Readings], float | None]] = {
    "subcooling_by_outdoor": lambda readings: readings.get("outdoor_air_temp"),
    "superheat_by_wet_bulb": lambda readings: readings.get("outdoor_air_temp"),
    "blower_airflow": blower_static,
}


def _present(chart: Chart, row: float, column: float | str, units: UnitSystem) -> PresentPoint:
    kind = chart.kind
    across = (
        round(from_si(column, kind.column.quantity, units), 2)
        if kind.column is not None and isinstance(column, float)
        else column
    )
    shown = round(from_si(row, kind.row.quantity, units), 2)
    try:
        value = from_si(chart.value(row, column), kind.cell.quantity, units)
    except CoreError as silent:
        return PresentPoint(shown, across, None, silent.text(units))
    return PresentPoint(shown, across, round(value, 2), None)


def chart_kinds(units: UnitSystem, plate: Plate) -> list[ChartKindOut]:
    """Every kind that can be of such a system: where pipes are summed, no line set's table is."""
    no_line_set = plate.liquid_pipes is not None
    return [_kind(kind, units) for key, kind in KINDS.items() if not (no_line_set and key == LINE)]


def kept_charts(row: System, units: UnitSystem) -> list[ChartDrawn]:
    """The charts of a stored system."""
    return [
        drawn(chart, kept.text, written, units) for kept, chart, written in readable_charts(row)
    ]


def drawn(chart: Chart, text: str, written: UnitSystem, units: UnitSystem) -> ChartDrawn:
    """A chart in `units`."""
    kind = chart.kind

    def shown(value: float, quantity: Quantity) -> float:
        return round(from_si(value, quantity, units), max(decimals(quantity, units), 1))

    return ChartDrawn(
        kind=_kind(kind, units),
        text=text,
        written_in=written,
        rows=[shown(value, kind.row.quantity) for value in chart.rows],
        columns=[
            shown(column, kind.column.quantity)
            if kind.column is not None and isinstance(column, float)
            else str(column)
            for column in chart.columns
        ],
        cells=[
            [None if cell is None else shown(cell, kind.cell.quantity) for cell in line]
            for line in chart.cells
        ],
    )


def _kind(kind: ChartKind, units: UnitSystem) -> ChartKindOut:
    return ChartKindOut(
        key=kind.key,
        label=kind.label,
        row=_axis(kind.row, units),
        column=_axis(kind.column, units) if kind.column else None,
        column_name=kind.column_name,
        cell=_axis(kind.cell, units),
        example=_example(kind, units),
    )


def _axis(axis: Axis, units: UnitSystem) -> AxisOut:
    return AxisOut(axis.label, unit_label(axis.quantity, units))


def _example(kind: ChartKind, units: UnitSystem) -> str:
    """The kind's example, rewritten in `units`."""
    if units == "ip":
        return kind.example
    shown = drawn_plain(read_chart(kind.key, kind.example, "ip"), units)
    return "\n".join(", ".join(line) for line in shown)


def drawn_plain(chart: Chart, units: UnitSystem) -> list[list[str]]:
    """A chart as rows of text, headings first."""
    kind = chart.kind

    def text(value: float | str | None, quantity: Quantity | None) -> str:
        if value is None or isinstance(value, str) or quantity is None:
            return str(value or "")
        return f"{from_si(value, quantity, units):.1f}"

    across = kind.column.quantity if kind.column else None
    head = [kind.row.label, *(text(column, across) for column in chart.columns)]
    body = [
        [text(row, kind.row.quantity), *(text(cell, kind.cell.quantity) for cell in cells)]
        for row, cells in zip(chart.rows, chart.cells, strict=True)
    ]
    return [head, *body]


class ChartText(Strict):
    """A chart as typed, pasted or read from a file, in the caller's units."""

    kind: Name
    text: str


class ChartsOut(BaseModel):
    """The charts of a system, and every kind it could have."""

    charts: list[ChartDrawn]
    kinds: list[ChartKindOut]


class NewChart(ChartText):
    """A chart to keep. No text takes the chart of this kind away."""

    id: Id


@dataclass(frozen=True, slots=True)
class WeighInOut:
    """The sheet: numbers by key, each opened; what was assumed; what the plate leaves out."""

    numbers: dict[str, OpenedOut]
    notes: list[str]
    missing: list[str]
    pipes: list[OpenedOut]
    """Of a plant with many rooms: what each size of its liquid pipes holds."""
    is_by_pipes: bool
