"""Tests with time of a visit: begun, read, marked, ended; their sheet, traces and certificates."""

import csv
import io
from datetime import UTC, datetime

from fastapi import APIRouter
from starlette.responses import Response

from nudge import __version__
from nudge.api.access import UnitsIn, WorkshopIn, ZoneIn
from nudge.api.files import answers_file, file_answer
from nudge.core.language.units import from_si, unit_label
from nudge.core.language.vocabulary.points import POINTS
from nudge.presenters.csv_cells import safe_cell
from nudge.presenters.standing import StandingOut, standing_out
from nudge.presenters.timed_tests import (
    NewTest,
    NewTestEnd,
    NewTestMark,
    NewTestReading,
    TestsOut,
    tests_out,
)
from nudge.presenters.visits import visit_out

router = APIRouter(prefix="/api")


@router.get("/visits/{visit_id}/tests")
def tests(workshop: WorkshopIn, units: UnitsIn, visit_id: str) -> TestsOut:
    """Every test with time of a visit, judged now; what can be begun; all on one sheet."""
    return tests_out(workshop.tests.of_visit(visit_id), units)


@router.post("/visits/{visit_id}/tests")
def begin(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewTest) -> StandingOut:
    """Begin a test. Refused with the reason where it could hurt, or would say nothing."""
    return standing_out(
        workshop.tests.begin(visit_id, body.id, body.test, body.to_core(units)), units
    )


@router.post("/visits/{visit_id}/test-readings")
def type_in(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewTestReading
) -> StandingOut:
    """A reading of a test, typed."""
    return standing_out(
        workshop.tests.type_in(visit_id, body.run_id, body.id, body.point, body.to_core(units)),
        units,
    )


@router.post("/visits/{visit_id}/test-marks")
def mark(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewTestMark) -> StandingOut:
    """Note something in a test: a joint that bubbles, a dose let in, pipes warmed."""
    return standing_out(
        workshop.tests.mark(visit_id, body.run_id, body.id, body.mark, body.place), units
    )


@router.post("/visits/{visit_id}/test-ends")
def end(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewTestEnd) -> StandingOut:
    """End a test: what it shows is what it proved. Or break it off, saying why."""
    if body.breaks_off:
        return standing_out(
            workshop.tests.abort(visit_id, body.run_id, body.id, body.reason), units
        )
    return standing_out(workshop.tests.end(visit_id, body.run_id, body.id), units)


@router.get(
    "/visits/{visit_id}/tests/{run_id}/trace.csv",
    response_class=Response,
    responses=answers_file("text/csv", "A row a moment, a column a point."),
)
def trace(workshop: WorkshopIn, units: UnitsIn, visit_id: str, run_id: str) -> Response:
    """What a test read: seconds from its beginning, a column a point, with its unit."""
    one = workshop.tests.one(visit_id, run_id)
    points = [key for key in POINTS if key in one.run.traces]
    text = io.StringIO()
    rows = csv.writer(text)
    rows.writerow(
        ["time", "seconds", *(f"{p} [{unit_label(POINTS[p].quantity, units)}]" for p in points)]
    )
    values = {p: dict(zip(t.seconds, t.values, strict=True)) for p, t in one.run.traces.items()}
    for second in sorted({s for t in one.run.traces.values() for s in t.seconds}):
        moment = datetime.fromtimestamp(second, UTC).isoformat(timespec="seconds")
        cells = [
            f"{from_si(values[p][second], POINTS[p].quantity, units):.4f}"
            if second in values[p]
            else ""
            for p in points
        ]
        rows.writerow([moment, f"{second - one.run.began_s:.1f}", *map(safe_cell, cells)])
    name = f"{one.row.key}-{one.began_at:%Y-%m-%d}.csv"
    return file_answer(text.getvalue().encode("utf-8"), "text/csv; charset=utf-8", name)


@router.get(
    "/visits/{visit_id}/tests/{run_id}/certificate.pdf",
    response_class=Response,
    responses=answers_file("application/pdf", "The certificate with its curve."),
)
def certificate(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, run_id: str, zone: ZoneIn
) -> Response:
    """What a test proved, with its curve, its ± and what it does not prove."""
    from nudge.reports.certificate import certificate as drawn

    one = workshop.tests.one(visit_id, run_id)
    visit = visit_out(workshop.visits.snapshot(visit_id), units)
    shown = tests_out(workshop.tests.of_visit(visit_id), units)
    test = next(found for found in shown.tests if found.id == run_id)
    pdf = drawn(visit, test, shown.film, zone, __version__, workshop.card.lines())
    name = f"{one.row.key}-certificate-{one.began_at:%Y-%m-%d}.pdf"
    return file_answer(pdf, "application/pdf", name, inline=True)
