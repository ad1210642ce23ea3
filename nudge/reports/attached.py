"""The last pages of the file: plate, readings, charts and pictures."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime, tzinfo

from fpdf.enums import XPos, YPos

from nudge.core.language.units import UnitSystem, unit_label
from nudge.core.physics.circuit.equipment import DEVICE_LABELS, MeteringDevice
from nudge.core.physics.circuit.plate_fields import PLATE_NUMBERS
from nudge.presenters.circuit import CircuitOut
from nudge.presenters.machine_settings import SettingsOut
from nudge.presenters.notes import PhotoOut
from nudge.presenters.timed_tests import TestsOut
from nudge.presenters.traces import SeriesOut
from nudge.presenters.visit_order import OrderOut
from nudge.presenters.visits import ReadingOut, VisitOut
from nudge.presenters.zones import ZonesOut
from nudge.reports.paper import MARGIN, WIDTH, Paper

MOST_PICTURES = 24


@dataclass(frozen=True, slots=True)
class Subject:
    """Everything about a visit that a report is written from, in one system of units."""

    visit: VisitOut
    order: OrderOut
    units: UnitSystem
    version: str
    zone: tzinfo | None
    """The reader's; None is this machine's own."""
    series: SeriesOut | None = None
    pictures: tuple[tuple[PhotoOut, bytes], ...] = ()
    passed: tuple[tuple[str, str, datetime], ...] = ()
    """Gates that were passed: which, why, when."""
    cylinders: tuple[str, ...] = ()
    tests: TestsOut | None = None
    """Its tests with time, where it has any."""
    circuit: CircuitOut | None = None
    zones: ZonesOut | None = None
    """A plant with many rooms, by its log."""
    settings: SettingsOut | None = None
    """The settings its machine was left with."""
    instruments: tuple[str, ...] = ()
    """What it was read with, a line each."""
    card: Mapping[str, str] = field(default_factory=dict)
    """The workshop's card, by line."""

    def at(self, moment: datetime | None) -> str:
        """A moment on the clock of the place the report is read at, with its day and zone."""
        if moment is None:
            return ""
        local = moment.astimezone(self.zone)
        return f"{local:%Y-%m-%d %H:%M} {local.tzname() or ''}".strip()

    @property
    def written(self) -> tuple[str, ...]:
        """Every letter that can come to stand on its papers, whatever typed it, in no order."""
        told = (self.visit, self.order, self.passed, self.cylinders, self.tests, self.circuit)
        more = (
            self.settings,
            self.instruments,
            self.card,
            [p for p, _ in self.pictures],
            self._of_zones,
        )
        return tuple(map(repr, (*told, *more)))

    @property
    def _of_zones(self) -> object:
        """What of a log is written in letters: its samples are not."""
        of = self.zones
        return None if of is None else (of.beliefs, of.signs, of.remarks, of.plan, of.charge)

    @property
    def place(self) -> str:
        return f"{self.visit.system.site_name}, {self.visit.system.name}"


def plate_page(pdf: Paper, subject: Subject) -> None:
    system = subject.visit.system
    pdf.head("Plate")
    pdf.pairs(
        [
            ("Refrigerant", f"{system.refrigerant}, safety class {system.safety_class}"),
            ("Metering device", DEVICE_LABELS[MeteringDevice(system.metering_device)]),
            *(
                (row.label, f"{value:g} {unit_label(row.quantity, subject.units)}")
                for row in PLATE_NUMBERS
                if (value := system.numbers.get(row.key)) is not None
            ),
            ("Note", system.note),
        ]
    )


def readings_page(pdf: Paper, subject: Subject) -> None:
    rows = [r for r in subject.visit.readings if r.state != "live"]
    if not rows:
        return
    pdf.head("Readings, as given")
    states = {"current": "", "earlier": "earlier", "void": "taken back"}
    pdf.rows(
        ("When", "Point", "Value", "As given", "Source", ""),
        [
            (subject.at(r.taken_at), r.label, _shown(r), r.given, r.source, states[r.state])
            for r in sorted(rows, key=lambda r: r.taken_at)
        ],
        (36, 46, 26, 28, 20, 22),
    )
    for line in subject.instruments:
        pdf.line_of(f"Read with {line}", 8.5, soft=True)


def _shown(reading: ReadingOut) -> str:
    return f"{reading.value:.{reading.decimals}f} {reading.unit}"


def charts_page(pdf: Paper, subject: Subject) -> None:
    for today in subject.visit.charts:
        chart = today.chart
        pdf.head(f"Maker’s chart: {chart.kind.label}", 40)
        heads = ["", *(str(column) for column in chart.columns)]
        rows = [
            [f"{row:g}", *("" if v is None else f"{v:g}" for v in values)]
            for row, values in zip(chart.rows, chart.cells, strict=True)
        ]
        if len(heads) <= 12:
            pdf.rows(heads, rows, [WIDTH / len(heads)] * len(heads))


def pictures_page(pdf: Paper, subject: Subject) -> None:
    if not subject.pictures:
        return
    pdf.head("Pictures", 80)
    left, top, tallest = MARGIN, pdf.get_y(), 0.0
    each = (WIDTH - 6) / 2
    for photo, data in subject.pictures[:MOST_PICTURES]:
        height = min(each * photo.height / max(photo.width, 1), 92)
        if top + height + 8 > 279:
            pdf.add_page()
            left, top, tallest = MARGIN, pdf.get_y(), 0.0
        pdf.image(data, left, top, w=each, h=height, keep_aspect_ratio=True)
        pdf.set_xy(left, top + height + 0.5)
        pdf.ink(8, soft=True)
        words = f"{photo.subsystem_label}. {photo.caption} {subject.at(photo.taken_at)}"
        pdf.multi_cell(each, 3.8, cut(words, 160), new_x=XPos.LMARGIN, new_y=YPos.NEXT, align="L")
        tallest = max(tallest, pdf.get_y() - top)
        if left == MARGIN:
            left += each + 6
        else:
            left, top, tallest = MARGIN, top + tallest + 3, 0.0
        pdf.set_y(top)
    pdf.set_y(top + tallest)
    pdf.ink()


def cut(text: str, most: int) -> str:
    return text if len(text) <= most else text[: most - 1].rstrip() + "…"
