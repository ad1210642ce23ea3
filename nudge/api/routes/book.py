"""Sites, systems, and what today asks for."""

from fastapi import APIRouter
from pydantic import BaseModel

from nudge.api.access import BookIn, UnitsIn, WorkshopIn
from nudge.api.schemas.book import (
    NewSite,
    NewSystem,
    PlateChanges,
    SiteChanges,
    SiteOut,
    SystemOut,
    site_out,
    system_out,
)
from nudge.api.schemas.visits import TodayOut, VisitLine, visit_line

router = APIRouter(prefix="/api")


class SystemPage(BaseModel):
    """A system with its history."""

    system: SystemOut
    visits: list[VisitLine]


@router.get("/today")
def today(workshop: WorkshopIn, units: UnitsIn) -> TodayOut:
    """Visits under way, due, and lately closed."""
    found = workshop.today()
    groups = {"under_way": found.under_way, "due": found.due, "recent": found.recent}
    lines = {
        name: [visit_line(visit, found.verdicts.get(visit.id), units) for visit in group]
        for name, group in groups.items()
    }
    return TodayOut.model_validate(lines)


@router.get("/sites")
def sites(book: BookIn, units: UnitsIn) -> list[SiteOut]:
    return [site_out(row, units) for row in book.sites()]


@router.post("/sites", status_code=201)
def add_site(book: BookIn, units: UnitsIn, body: NewSite) -> SiteOut:
    book.add_site(body.id, body.name)
    return _site(book, body.id, units)


@router.patch("/sites/{site_id}")
def change_site(book: BookIn, units: UnitsIn, site_id: str, body: SiteChanges) -> SiteOut:
    book.change_site(site_id, body.model_dump(exclude_unset=True, exclude_none=True))
    return _site(book, site_id, units)


@router.post("/systems", status_code=201)
def add_system(book: BookIn, units: UnitsIn, body: NewSystem) -> SystemOut:
    row = book.add_system(body.id, body.site_id, body.to_core(units))
    return system_out(row, row.site, units)


@router.get("/systems/{system_id}")
def system(book: BookIn, units: UnitsIn, system_id: str) -> SystemPage:
    page = book.system(system_id)
    return SystemPage(
        system=system_out(page.system, page.system.site, units),
        visits=[visit_line(visit, page.verdicts.get(visit.id), units) for visit in page.visits],
    )


@router.patch("/systems/{system_id}")
def change_system(book: BookIn, units: UnitsIn, system_id: str, body: PlateChanges) -> SystemOut:
    """Change what was sent; the rest is left alone. Refused whole if any value is refused."""
    row = book.change_system(system_id, body.to_core(units))
    return system_out(row, row.site, units)


def _site(book: BookIn, site_id: str, units: UnitsIn) -> SiteOut:
    return next(site_out(row, units) for row in book.sites() if row.id == site_id)
