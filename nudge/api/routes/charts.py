"""Makers' charts kept with a system, and the weigh-in sheet its plate comes to."""

from fastapi import APIRouter

from nudge.api.access import BookIn, UnitsIn
from nudge.contract.opened import opened, opened_all
from nudge.core.physics.chart.chart_text import read_chart
from nudge.core.physics.circuit.weigh_in import as_lines, weigh_in
from nudge.presenters.charts import (
    ChartDrawn,
    ChartsOut,
    ChartText,
    NewChart,
    WeighInOut,
    chart_kinds,
    drawn,
    kept_charts,
)
from nudge.services.plates import plate_of

router = APIRouter(prefix="/api")


@router.post("/charts/read")
def read(units: UnitsIn, body: ChartText) -> ChartDrawn:
    """Read a chart without storing it, or say everything that is wrong with it."""
    return drawn(read_chart(body.kind, body.text, units), body.text, units, units)


@router.get("/systems/{system_id}/charts")
def charts(book: BookIn, units: UnitsIn, system_id: str) -> ChartsOut:
    row = book.system(system_id).system
    return ChartsOut(charts=kept_charts(row, units), kinds=chart_kinds(units, plate_of(row)))


@router.post("/systems/{system_id}/charts")
def keep(book: BookIn, units: UnitsIn, system_id: str, body: NewChart) -> ChartsOut:
    """Keep a chart. The one it replaces stays in the record."""
    row = book.set_chart(system_id, body.id, body.kind, body.text, units)
    return ChartsOut(charts=kept_charts(row, units), kinds=chart_kinds(units, plate_of(row)))


@router.get("/systems/{system_id}/weigh-in")
def sheet(book: BookIn, units: UnitsIn, system_id: str) -> WeighInOut:
    """How much refrigerant belongs in a system, by its plate and line set, or its liquid pipes."""
    plate = plate_of(book.system(system_id).system)
    found = weigh_in(plate)
    return WeighInOut(
        opened_all(as_lines(found), units),
        [note.text(units) for note in found.notes],
        list(found.missing),
        [opened(one, units) for one in found.pipes],
        plate.liquid_pipes is not None,
    )
