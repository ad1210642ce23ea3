"""What leaves Nudge and comes back: reports as PDF, readings as CSV, bundles as JSON."""

import csv
import io
import json
import re
from urllib.parse import quote

from fastapi import APIRouter, Request
from starlette.concurrency import run_in_threadpool
from starlette.responses import Response

from nudge import __version__
from nudge.api.access import UnitsIn, WorkshopIn, ZoneIn
from nudge.presenters.notes import photo_out
from nudge.presenters.papers import TakenInOut
from nudge.presenters.traces import series_out
from nudge.presenters.visit_order import order_out
from nudge.presenters.visits import VisitOut, visit_out

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


@router.get("/visits/{visit_id}/report.pdf")
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
        card=workshop.card.lines(),
    )
    pdf = file_report(subject) if is_file else customer_report(subject)
    name = _file_name(subject.visit, "record" if is_file else "report", "pdf")
    return _file(pdf, "application/pdf", name, inline=True)


@router.get("/visits/{visit_id}/readings.csv")
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
                    row.given,
                    row.source,
                    row.state,
                ]
            )
    return _file(
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
    data = await request.body()
    found = await run_in_threadpool(workshop.bundles.take_in, data)
    return TakenInOut(systems=found.systems, visits=found.visits, already_here=found.already_here)


def _bundle(found: dict[str, object], what: str) -> Response:
    text = json.dumps(found, ensure_ascii=False, indent=1)
    return _file(text.encode(), "application/json", f"nudge-{what}.json")


def _file(data: bytes, kind: str, name: str, inline: bool = False) -> Response:
    """A file under its name in any script, and under a plain one for whoever needs that."""
    plain = re.sub(r"[^A-Za-z0-9._-]+", "-", name).strip("-") or "nudge"
    how = "inline" if inline else "attachment"
    header = f"{how}; filename=\"{plain}\"; filename*=UTF-8''{quote(name)}"
    return Response(data, media_type=kind, headers={"Content-Disposition": header})


def _file_name(visit: VisitOut, what: str, ending: str) -> str:
    day = visit.opened_at.date().isoformat() if visit.opened_at else "planned"
    place = f"{visit.system.site_name} {visit.system.name}"[:60]
    return f"{day} {place} {what}.{ending}".replace("/", "-")
