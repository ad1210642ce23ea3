"""A chart kept with a system: rows against columns, with gaps, looked up by interpolation."""

from bisect import bisect_right
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.errors import CoreError, Impossible, UnknownName
from nudge.core.language.said import Measure, Said
from nudge.core.language.units import Quantity

Cells = tuple[tuple[float | None, ...], ...]


@dataclass(frozen=True, slots=True)
class Axis:
    """What one direction of a chart stands for, with its believable range in field units."""

    label: str
    quantity: Quantity
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class ChartKind:
    """One kind of chart. Without a `column` axis its columns are names (indoor units, taps)."""

    key: str
    label: str
    row: Axis
    column: Axis | None
    column_name: str
    cell: Axis
    example: str


_OUTDOOR = Axis("outdoor air", Quantity.TEMPERATURE, 45, 140)

_KINDS = (
    ChartKind(
        "subcooling_by_outdoor",
        "Subcooling by outdoor air",
        _OUTDOOR,
        None,
        "indoor unit",
        Axis("target subcooling", Quantity.TEMPERATURE_DIFFERENCE, 1, 35),
        "outdoor, coil A, coil B\n75, 11, 9\n85, 10, 8\n95, 9, 7",
    ),
    ChartKind(
        "superheat_by_wet_bulb",
        "Superheat by outdoor air and return wet bulb",
        _OUTDOOR,
        Axis("return wet bulb", Quantity.TEMPERATURE, 35, 95),
        "return wet bulb",
        Axis("target superheat", Quantity.TEMPERATURE_DIFFERENCE, 0, 60),
        "outdoor, 60, 64, 68\n75, 13, 19, 25\n85, 8, 14, 21\n95, , 10, 16",
    ),
    ChartKind(
        "blower_airflow",
        "Airflow by blower tap and external static",
        Axis("total external static", Quantity.STATIC_PRESSURE, 0, 3),
        None,
        "tap",
        Axis("airflow", Quantity.AIRFLOW, 50, 20_000),
        "static, low, medium, high\n0.3, 980, 1180, 1350\n0.5, 930, 1120, 1280\n0.7, , 1040, 1190",
    ),
    ChartKind(
        "charge_by_line",
        "Charge to add by line set",
        Axis("line set length", Quantity.LENGTH, 3, 500),
        Axis("vapour line size", Quantity.TUBE_SIZE, 0.2, 4.2),
        "vapour line size",
        Axis("charge to add", Quantity.SMALL_MASS, -200, 2_000),
        "length, 1/2, 5/8, 3/4\n15, 0, 0, 0\n30, 6.2, 8.0, 9.6\n50, 14.5, 18.7, 22.4",
    ),
)

KINDS: Mapping[str, ChartKind] = MappingProxyType({kind.key: kind for kind in _KINDS})


def chart_kind(key: str) -> ChartKind:
    """Raises: UnknownName, with the nearest."""
    if key not in KINDS:
        raise UnknownName("chart kind", key, KINDS)
    return KINDS[key]


@dataclass(frozen=True, slots=True)
class Place:
    """A point of a chart that has a value [core units]; `column` is a name or a number."""

    row: float
    column: float | str
    value: float


class OffChart(Impossible):
    """A point the chart does not answer for. `nearest` is the nearest one it does."""

    def __init__(self, kind: ChartKind, row: float, column: float | str, nearest: Place) -> None:
        self.nearest = nearest
        template = "The chart has nothing at " + kind.row.label + " {row}"
        offered = "its nearest point, " + kind.row.label + " {near_row}"
        measures = {
            "row": Measure(row, kind.row.quantity),
            "near_row": Measure(nearest.row, kind.row.quantity),
            "value": Measure(nearest.value, kind.cell.quantity),
        }
        if kind.column and isinstance(column, float) and isinstance(nearest.column, float):
            template += " and " + kind.column.label + " {column}"
            offered += " and " + kind.column.label + " {near_column}"
            measures["column"] = Measure(column, kind.column.quantity)
            measures["near_column"] = Measure(nearest.column, kind.column.quantity)
        template += "; " + offered + ", says {value}. Nothing is guessed beyond the chart."
        super().__init__(kind.key, Said(template, tuple(measures.items())))


@dataclass(frozen=True, slots=True)
class Chart:
    """A chart in core units. Axes rise; a cell the maker left blank is None."""

    kind: ChartKind
    rows: tuple[float, ...]
    columns: tuple[float, ...] | tuple[str, ...]
    cells: Cells

    def column_names(self) -> tuple[str, ...]:
        """The names of the columns, of a chart whose columns are names."""
        return tuple(c for c in self.columns if isinstance(c, str))

    def value(self, row: float, column: float | str | None = None) -> float:
        """The chart's value, straight between its points in both directions.

        `column` is a number or a column's name; None will do where there is one column.
        Raises: OffChart, beyond the chart or in a blank; CoreError, when the column's name is
        missing; UnknownName, when it is not one of the chart's.
        """
        across = self._column(column)
        total = 0.0
        for i, row_share in _corners(self.rows, row):
            for j, column_share in across:
                cell = self.cells[i][j] if i >= 0 and j >= 0 else None
                if row_share * column_share == 0:
                    continue
                if cell is None:
                    raise OffChart(self.kind, row, self._shown(column), self.nearest(row, column))
                total += row_share * column_share * cell
        return total

    def nearest(self, row: float, column: float | str | None = None) -> Place:
        """The nearest point of the chart that has a value, as a share of its two spans."""
        name = self._shown(column)
        span = max(self.rows[-1] - self.rows[0], 1e-9)
        inside = min(max(row, self.rows[0]), self.rows[-1])
        if isinstance(name, float):
            numbers = [float(c) for c in self.columns]
            across = min(max(name, numbers[0]), numbers[-1])
            if (inside, across) != (row, name):
                try:
                    return Place(inside, across, self.value(inside, across))
                except OffChart:
                    pass
        elif inside != row and (known := self._known(inside, name)) is not None:
            return Place(inside, name, known)

        def distance(place: Place) -> float:
            sideways = 0.0
            if isinstance(name, float) and isinstance(place.column, float):
                wide = max(float(self.columns[-1]) - float(self.columns[0]), 1e-9)
                sideways = (place.column - name) / wide
            return ((place.row - row) / span) ** 2 + sideways**2

        return min(self._filled(name), key=distance)

    def _known(self, row: float, name: str) -> float | None:
        try:
            return self.value(row, name)
        except OffChart:
            return None

    def _filled(self, name: float | str) -> Iterator[Place]:
        for row, line in zip(self.rows, self.cells, strict=True):
            for column, cell in zip(self.columns, line, strict=True):
                if cell is not None and (isinstance(name, float) or column == name):
                    yield Place(row, column, cell)  # type: ignore[arg-type]

    def _shown(self, column: float | str | None) -> float | str:
        if self.kind.column is None:
            return self.columns[self._column_index(column)]
        if isinstance(column, (int, float)):
            return float(column)
        raise CoreError(self.kind.key, f"This chart needs the {self.kind.column_name}. Read it.")

    def _column(self, column: float | str | None) -> list[tuple[int, float]]:
        if self.kind.column is None:
            return [(self._column_index(column), 1.0)]
        shown = self._shown(column)
        return _corners([float(c) for c in self.columns], float(shown))

    def _column_index(self, column: float | str | None) -> int:
        names = self.column_names()
        if column in (None, "") and len(names) == 1:
            return 0
        if column in (None, ""):
            raise CoreError(
                self.kind.key,
                f"This chart has several columns ({', '.join(names)}). Say which "
                f"{self.kind.column_name} it is.",
            )
        folded = [name.casefold() for name in names]
        wanted = str(column).strip().casefold()
        if wanted not in folded:
            raise UnknownName(self.kind.column_name, str(column), names)
        return folded.index(wanted)


def _corners(axis: Sequence[float], value: float) -> list[tuple[int, float]]:
    """The two indices a value lies between, with their shares; index -1 is off the axis."""
    slack = 1e-6 * max(abs(axis[-1] - axis[0]), 1e-9)
    if not axis[0] - slack <= value <= axis[-1] + slack:
        return [(-1, 1.0)]
    i = min(max(bisect_right(axis, value) - 1, 0), max(len(axis) - 2, 0))
    if len(axis) == 1:
        return [(0, 1.0)]
    share = min(max((value - axis[i]) / (axis[i + 1] - axis[i]), 0.0), 1.0)
    share = 0.0 if share < 1e-9 else 1.0 if share > 1 - 1e-9 else share
    return [(i, 1 - share), (i + 1, share)]
