"""Sites, systems, and what today asks for."""

from fastapi import APIRouter

from nudge.api.access import BookIn, UnitsIn, WorkshopIn
from nudge.core.language.units import UnitSystem
from nudge.presenters.book import (
    NewSite,
    NewSystem,
    PlateChanges,
    SiteChanges,
    SiteOut,
    SystemOut,
    clashes,
    site_out,
    system_out,
)
from nudge.presenters.choices import ChoiceOut
from nudge.presenters.system_page import HitOut, SisterBoxIn, SystemPage
from nudge.presenters.today import DriftLine, LeakLine, LeftLine, TodayOut, season_said
from nudge.presenters.visits import visit_line
from nudge.services.errors import ChangedMeanwhile
from nudge.services.rows import System, Visit
from nudge.services.sound import each
from nudge.services.today import Left, drift_said

router = APIRouter(prefix="/api")


@router.get("/today")
def today(workshop: WorkshopIn, units: UnitsIn) -> TodayOut:
    """Visits under way, due, and lately closed."""
    found = workshop.today()
    broken: list[str] = []
    groups = {"under_way": found.under_way, "due": found.due, "recent": found.recent}
    lines = {
        name: each(
            group,
            lambda visit: visit_line(visit, found.verdicts.get(visit.id), units),
            lambda visit: f"A visit to {_place(visit.system)}",
            broken,
        )
        for name, group in groups.items()
    }
    return TodayOut(
        **lines,
        followed=sorted(found.followed),
        left=each(found.left, lambda one: _left(one, units), lambda one: one.row.text, broken),
        drifting=each(
            found.drifting,
            lambda visit: _drift(visit, units),
            lambda visit: f"What drifted at {_place(visit.system)}",
            broken,
        ),
        leaking=[
            LeakLine(
                system_id=leak.system.id,
                place=_place(leak.system),
                rate=round(max(leak.rolling or 0.0, leak.annualised or 0.0), 1),
            )
            for leak in workshop.leaking()
        ],
        broken=[*broken, *workshop.shelf.damaged()],
    )


def _left(one: Left, units: UnitSystem) -> LeftLine:
    return LeftLine(
        id=one.row.id,
        system_id=one.system.id,
        place=_place(one.system),
        text=one.row.text,
        season=season_said(one.row.season, units),
        due_on=one.row.due_on,
        is_in_season=one.is_in_season,
    )


def _drift(visit: Visit, units: UnitSystem) -> DriftLine:
    return DriftLine(
        system_id=visit.system_id,
        visit_id=visit.id,
        place=_place(visit.system),
        said=drift_said(visit, units),
        seen_at=visit.closed_at,
    )


def _place(system: System) -> str:
    return f"{system.site.name}, {system.name}"


@router.get("/search")
def search(workshop: WorkshopIn, text: str) -> list[HitOut]:
    """Sites, systems and visits that hold every word."""
    return [
        HitOut(kind=hit.kind, id=hit.id, title=hit.title, below=hit.below)
        for hit in workshop.find(text)
    ]


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
        sister_boxes=[ChoiceOut(key=key, label=label) for key, label in page.sister_boxes],
    )


@router.post("/systems/{system_id}/box")
def take_over_box(book: BookIn, units: UnitsIn, system_id: str, body: SisterBoxIn) -> SystemOut:
    """Take over the design of a sister box: set point, classes, receiver, head, defrost."""
    row = book.take_over_box(system_id, body.from_system)
    return system_out(row, row.site, units)


@router.patch("/systems/{system_id}")
def change_system(book: BookIn, units: UnitsIn, system_id: str, body: PlateChanges) -> SystemOut:
    """Change what was sent; the rest is left alone. Refused whole if any value is refused.

    409 where `was` shows that somebody else changed a field in the meantime.
    """
    now = book.system(system_id).system
    found = clashes(body, system_out(now, now.site, units))
    if found:
        raise ChangedMeanwhile(found)
    row = book.change_system(system_id, body.to_core(units), body.wrong_until_now)
    return system_out(row, row.site, units)


def _site(book: BookIn, site_id: str, units: UnitsIn) -> SiteOut:
    return next(site_out(row, units) for row in book.sites() if row.id == site_id)
