"""Nudging the charge: the advisor, the doses of a visit, the shelf and its ledger."""

from fastapi import APIRouter
from starlette.responses import Response

from nudge.api.access import MomentMs, UnitsIn, VisitsIn, WorkshopIn
from nudge.api.files import answers_file
from nudge.contract.advice import (
    AdvisedOut,
    AdviseIn,
    ConnectionOut,
    advised_out,
    connections_out,
    guides_out,
    other_schools_out,
)
from nudge.core.charging.scale import poured
from nudge.core.language.units import Quantity, to_si
from nudge.presenters.shelf import (
    ContentsOut,
    CylinderMarks,
    CylinderOut,
    DoseCorrection,
    LedgerOut,
    NewConnection,
    NewCylinder,
    NewDose,
    NewMovement,
    NewWeighing,
    ScaleOut,
    ThresholdChosen,
    WaysOut,
    WeighedOut,
    contents_out,
    cylinder_out,
    kg,
    leak_out,
    ledger_csv,
    movement_out,
    scale_out,
)
from nudge.presenters.standing import StandingOut, standing_out
from nudge.services.charging import guides_for, nudge_for
from nudge.services.sound import each

USUAL_FLUID = "R-410A"
"""What a hose is said to hold where nobody named a refrigerant."""
router = APIRouter(prefix="/api")


@router.post("/charge/advise")
def advise(body: AdviseIn) -> AdvisedOut:
    """How much, how long to wait, when to stop. Nothing is stored."""
    return advised_out(body.to_nudge(), body.units)


@router.get("/charge/connections")
def connections(units: UnitsIn) -> list[ConnectionOut]:
    """The ways to connect, with their steps and the cautions beside them."""
    return connections_out(USUAL_FLUID, units)


@router.get("/visits/{visit_id}/ways")
def ways(visits: VisitsIn, units: UnitsIn, visit_id: str) -> WaysOut:
    """The ways to bring this system's charge right, how to connect, and the other schools."""
    snapshot = visits.snapshot(visit_id)
    return WaysOut(
        ways=guides_out(guides_for(snapshot), units),
        connections=connections_out(snapshot.visit.system.refrigerant, units),
        connection=snapshot.visit.connection,
        other_schools=other_schools_out(),
    )


@router.post("/visits/{visit_id}/connections")
def connect(visits: VisitsIn, units: UnitsIn, visit_id: str, body: NewConnection) -> StandingOut:
    """Say how the system is connected."""
    return standing_out(visits.connect(visit_id, body.connection), units)


@router.get("/visits/{visit_id}/scale")
def scale(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, since: MomentMs, removes: bool = False
) -> ScaleOut | None:
    """What the scale says has gone since a moment [ms]; null while none sends."""
    found = poured(workshop.series.weights(visit_id, since), removes)
    return None if found is None else scale_out(found, units)


@router.get("/visits/{visit_id}/nudge")
def nudge(
    visits: VisitsIn, units: UnitsIn, visit_id: str, connection: str = ""
) -> AdvisedOut | None:
    """What to do with a visit's charge now, by the connection said there unless one is named."""
    snapshot = visits.snapshot(visit_id)
    found = nudge_for(snapshot, connection)
    return None if found is None else advised_out(found, units, snapshot.ready_at)


@router.post("/visits/{visit_id}/doses")
def dose(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewDose) -> StandingOut:
    """Write a dose down: on the visit and in the ledger, together."""
    amount = to_si(body.amount, Quantity.SMALL_MASS, units) / 1000
    snapshot = workshop.shelf.dose(
        visit_id, body.id, body.cylinder_id, amount, body.removes, body.sure
    )
    return standing_out(snapshot, units)


@router.post("/visits/{visit_id}/dose-corrections")
def correct_dose(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: DoseCorrection
) -> StandingOut:
    """Put a mistyped dose right by an entry that stands in its place."""
    amount = to_si(body.amount, Quantity.SMALL_MASS, units) / 1000
    return standing_out(workshop.shelf.correct_dose(visit_id, body.dose_id, body.id, amount), units)


@router.get("/cylinders")
def cylinders(workshop: WorkshopIn, units: UnitsIn) -> list[CylinderOut]:
    return [cylinder_out(found, units) for found in workshop.shelf.all()]


@router.post("/cylinders", status_code=201)
def add_cylinder(workshop: WorkshopIn, units: UnitsIn, body: NewCylinder) -> CylinderOut:
    water = None if body.water_capacity is None else kg(body.water_capacity, units)
    found = workshop.shelf.add(
        body.id,
        body.name,
        body.refrigerant,
        body.kind,
        kg(body.tare, units),
        kg(body.gross, units),
        water,
        body.made(units),
    )
    return cylinder_out(found, units)


@router.post("/cylinders/{cylinder_id}/marks")
def mark_cylinder(
    workshop: WorkshopIn, units: UnitsIn, cylinder_id: str, body: CylinderMarks
) -> CylinderOut:
    """What its collar says: what it may take. It decides what is recovered into it."""
    return cylinder_out(workshop.shelf.mark(cylinder_id, body.made(units)), units)


@router.post("/cylinders/{cylinder_id}/weighings")
def weigh(workshop: WorkshopIn, units: UnitsIn, cylinder_id: str, body: NewWeighing) -> WeighedOut:
    """Take what the scale shows into the book; a loss since the last time is named."""
    found = workshop.shelf.weigh(
        body.id, cylinder_id, kg(body.gross, units), body.visit_id, body.sure
    )
    return WeighedOut(
        cylinder=cylinder_out(workshop.shelf.one(cylinder_id), units),
        found=found.kind if found else "",
        message=found.said.text(units) if found and found.said else "",
    )


@router.post("/cylinders/{cylinder_id}/movements")
def move(workshop: WorkshopIn, units: UnitsIn, cylinder_id: str, body: NewMovement) -> CylinderOut:
    found = workshop.shelf.move(
        body.id, body.kind, kg(body.amount, units), cylinder_id, body.to, body.note
    )
    return cylinder_out(found, units)


@router.get("/cylinders/{cylinder_id}/contents")
def contents(
    workshop: WorkshopIn,
    units: UnitsIn,
    cylinder_id: str,
    temperature: float,
    pressure: float | None = None,
) -> ContentsOut:
    """What a cylinder's pressure at its temperature says is in it."""
    kpa = None if pressure is None else to_si(pressure, Quantity.PRESSURE, units)
    at_c = to_si(temperature, Quantity.TEMPERATURE, units)
    return contents_out(workshop.shelf.contents(cylinder_id, at_c, kpa), units)


@router.get("/ledger")
def ledger(workshop: WorkshopIn, units: UnitsIn) -> LedgerOut:
    """Every movement that stands, and how fast systems lose refrigerant."""
    threshold, broken = workshop.shelf.threshold(), workshop.shelf.damaged()
    return LedgerOut(
        movements=each(
            reversed(workshop.shelf.ledger()),
            lambda row: movement_out(row, units),
            lambda row: f"The entry of {row.happened_at:%Y-%m-%d}",
            broken,
        ),
        leaks=each(
            workshop.shelf.leaks(),
            lambda found: leak_out(found, units, threshold),
            lambda found: f"The leak rate of {found.system.name}",
            broken,
        ),
        threshold=threshold,
        broken=broken,
    )


@router.post("/ledger/threshold")
def choose_threshold(workshop: WorkshopIn, units: UnitsIn, body: ThresholdChosen) -> LedgerOut:
    """Set the yearly leak rate this workshop acts on, in percent."""
    workshop.shelf.set_threshold(body.percent)
    return ledger(workshop, units)


@router.get(
    "/ledger.csv",
    response_class=Response,
    responses=answers_file("text/csv", "A row a movement."),
)
def ledger_file(workshop: WorkshopIn) -> Response:
    """The whole ledger as it was written, corrected entries and all."""
    return Response(ledger_csv(workshop.shelf.written()), media_type="text/csv")
