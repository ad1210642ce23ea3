"""What leaves Nudge and comes back: reports as PDF, readings as CSV, bundles as JSON."""

import csv
import io
import json
import tempfile
from pathlib import Path

from fastapi import APIRouter, Request
from starlette.concurrency import run_in_threadpool
from starlette.responses import Response

from nudge import __version__
from nudge.api.access import UnitsIn, WorkshopIn, ZoneIn
from nudge.api.files import answers_file, file_answer
from nudge.presenters.circuit import circuit_out
from nudge.presenters.csv_cells import safe_cell
from nudge.presenters.machine_settings import settings_out
from nudge.presenters.notes import photo_out
from nudge.presenters.papers import TakenBundleOut, TakenInOut, taken_bundle_out
from nudge.presenters.roll_slip import read_until, read_with, roll_slip_out
from nudge.presenters.timed_tests import tests_out
from nudge.presenters.traces import series_out
from nudge.presenters.visit_order import TEST_OF_STEP, order_out
from nudge.presenters.visits import VisitOut, visit_out
from nudge.presenters.zones import zones_out
from nudge.services.apart import taken_in_apart
from nudge.services.bundles import NotABundle
from nudge.services.settled_window import settled_window
from nudge.services.workshop import Workshop

router = APIRouter(prefix="/api")


STRIPS = (
    "superheat",
    "subcooling",
    "suction_pressure",
    "liquid_pressure",
    "suction_line_temp",
    "liquid_line_temp",
)


COLUMNS = 360


@router.get(
    "/visits/{visit_id}/report.pdf",
    response_class=Response,
    responses=answers_file("application/pdf", "The paper."),
)
def report(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, zone: ZoneIn, whom: str = "file"
) -> Response:
    """The record of a visit: complete for the file, or `whom=customer` on one plain page."""
    from nudge.reports.attached import Subject
    from nudge.reports.customer import customer_report
    from nudge.reports.written import file_report

    snapshot = workshop.visits.snapshot(visit_id)
    is_file = whom != "customer"
    photos = snapshot.folder.photos
    shown = photos if is_file else photos[:3]
    visit = visit_out(snapshot, units)
    windows = visit.assessment.targets if visit.assessment else {}
    log = workshop.zones.of_visit(visit_id) if is_file and snapshot.around.zones else None
    subject = Subject(
        visit=visit,
        order=order_out(snapshot, units),
        units=units,
        version=__version__,
        zone=zone,
        series=series_out(
            workshop.series.over(visit_id, None, None, COLUMNS, STRIPS),
            units,
            zone=zone,
            windows=windows,
        )
        if is_file
        else None,
        pictures=tuple((photo_out(row), workshop.photos.for_paper(row.id)) for row in shown),
        passed=tuple((row.gate, row.reason, row.given_at) for row in snapshot.around.passed),
        cylinders=tuple(snapshot.folder.cylinders.values()),
        tests=tests_out(workshop.tests.of_visit(visit_id), units)
        if snapshot.folder.tests.count
        else None,
        circuit=circuit_out(snapshot, units, TEST_OF_STEP),
        zones=None if log is None else zones_out(log, units),
        settings=settings_out(workshop.settings.of(visit_id)),
        instruments=tuple(
            read_with(visit, workshop.register.at(read_until(visit, None)), units, zone)
        ),
        card=workshop.card.lines(),
    )
    pdf = file_report(subject) if is_file else customer_report(subject)
    name = _file_name(subject.visit, "record" if is_file else "report", "pdf")
    return file_answer(pdf, "application/pdf", name, inline=True)


@router.get(
    "/visits/{visit_id}/slip.pdf",
    response_class=Response,
    responses=answers_file("application/pdf", "The slip."),
)
def roll_slip(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, zone: ZoneIn, width: int = 80
) -> Response:
    """A narrow paper with large figures, as wide as its roll: 58 or 80 mm."""
    from nudge.reports.attached import Subject
    from nudge.reports.roll_slip import write_roll

    snapshot = workshop.visits.snapshot(visit_id)
    subject = Subject(
        visit=visit_out(snapshot, units),
        order=order_out(snapshot, units),
        units=units,
        version=__version__,
        zone=zone,
        passed=tuple((row.gate, row.reason, row.given_at) for row in snapshot.around.passed),
        card=workshop.card.lines(),
    )
    window = settled_window(workshop.series, visit_id)
    carried = workshop.register.at(read_until(subject.visit, window))
    shown = roll_slip_out(subject.visit, window, carried, units, zone)
    pdf = write_roll(subject, shown, width)
    name = _file_name(subject.visit, f"roll slip {width} mm", "pdf")
    return file_answer(pdf, "application/pdf", name, inline=True)


@router.get(
    "/visits/{visit_id}/readings.csv",
    response_class=Response,
    responses=answers_file("text/csv", "A row a reading."),
)
def readings(workshop: WorkshopIn, units: UnitsIn, visit_id: str) -> Response:
    """Every reading as it was given and as it is shown, taken back or not."""
    visit = visit_out(workshop.visits.snapshot(visit_id), units)
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["taken at", "point", "value", "unit", "as given", "source", "state"])
    for row in visit.readings:
        if row.state != "live":
            writer.writerow(
                [
                    row.taken_at.isoformat(),
                    row.point,
                    row.value,
                    row.unit,
                    safe_cell(row.given),
                    safe_cell(row.source),
                    row.state,
                ]
            )
    return file_answer(
        out.getvalue().encode(), "text/csv; charset=utf-8", _file_name(visit, "readings", "csv")
    )


@router.get("/visits/{visit_id}/bundle.json")
def visit_bundle(workshop: WorkshopIn, visit_id: str) -> Response:
    """One visit with the system it was on, to carry to another Nudge."""
    return _bundle(workshop.bundles.of_visit(visit_id), "visit")


@router.get("/systems/{system_id}/bundle.json")
def system_bundle(workshop: WorkshopIn, system_id: str) -> Response:
    """A system with every visit to it, to carry to another Nudge."""
    return _bundle(workshop.bundles.of_system(system_id), "system")


@router.post("/bundles", status_code=201)
async def take_in(workshop: WorkshopIn, request: Request) -> TakenInOut:
    """Take a bundle in, whole or not at all: refused with every reason."""
    found = await _apart(workshop, request, only_looks=False)
    if found.reasons:
        raise NotABundle(found.reasons)
    return found


@router.post("/bundles/looks")
async def look(workshop: WorkshopIn, request: Request) -> TakenInOut:
    """What a bundle would bring, and what in it does not fit. Nothing is written."""
    return await _apart(workshop, request, only_looks=True)


@router.get("/bundles")
def bundles(workshop: WorkshopIn) -> list[TakenBundleOut]:
    """What was taken in from other Nudges, the newest first."""
    return [taken_bundle_out(row) for row in workshop.bundles.taken()]


@router.post("/bundles/{taken_id}/removals")
def take_out(workshop: WorkshopIn, taken_id: str) -> list[TakenBundleOut]:
    """Take an import out again, unless something was written on it since."""
    workshop.bundles.take_out(taken_id)
    return bundles(workshop)


async def _apart(workshop: Workshop, request: Request, only_looks: bool) -> TakenInOut:
    """A bundle is checked and written in a process of its own: it holds nobody up."""
    with tempfile.TemporaryDirectory(prefix="nudge-bundle-") as folder:
        path = Path(folder) / "bundle.json"
        with path.open("wb") as file:
            async for part in request.stream():
                file.write(part)
        home = workshop.database.path.parent
        found = await run_in_threadpool(taken_in_apart, path, home, only_looks)
    return TakenInOut.model_validate(found)


def _bundle(found: dict[str, object], what: str) -> Response:
    text = json.dumps(found, ensure_ascii=False, indent=1)
    return file_answer(text.encode(), "application/json", f"nudge-{what}.json")


def _file_name(visit: VisitOut, what: str, ending: str) -> str:
    day = visit.opened_at.date().isoformat() if visit.opened_at else "planned"
    place = f"{visit.system.site_name} {visit.system.name}"[:60]
    return f"{day} {place} {what}.{ending}".replace("/", "-")
