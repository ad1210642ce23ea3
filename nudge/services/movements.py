"""Writing into the cylinders' book: a movement, a weighing, and what must not be written twice."""

from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session

from nudge.core.charging.ledger import in_mg
from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity
from nudge.core.opening.recovery import Coming, check_vessel
from nudge.core.physics.circuit.whole import whole_charge
from nudge.services.cylinders import (
    CHARGING,
    RECOVERY,
    check_fluid,
    check_holds,
    check_room,
    vessel_of,
)
from nudge.services.plates import plate_of
from nudge.store.repositories import shelf as repository
from nudge.store.shelf_tables import Cylinder, Movement, Weighing
from nudge.store.tables import Visit

TYPED_TWICE_WITHIN = timedelta(seconds=90)


LARGE_SHARE = 0.25
"""A dose over this share of a whole charge is asked about: pounds typed as ounces."""
EXPECTED_SLACK = 1.05
LONGEST_NAME = 120


def is_typed_twice(session: Session, visit: Visit, kind: str, mg: int, now: datetime) -> bool:
    """Whether the very same dose was written on this visit within the last minutes."""
    return any(
        row.kind == kind and row.mg == mg and now - row.happened_at < TYPED_TWICE_WITHIN
        for row in repository.of_visit(session, visit.id)
    )


def some_mg(kg: float) -> int:
    mg = in_mg(kg)
    if mg == 0:
        raise CoreError("amount", "Give an amount over zero.")
    return mg


def post(
    session: Session,
    entry_id: str,
    kind: str,
    mg: int,
    cylinder_id: str,
    at: datetime,
    to: str | None = None,
    system_id: str | None = None,
    visit_id: str | None = None,
    note: str = "",
    corrects: str | None = None,
) -> None:
    session.add(
        Movement(
            id=entry_id,
            kind=kind,
            mg=mg,
            cylinder_id=cylinder_id,
            to_cylinder_id=to,
            system_id=system_id,
            visit_id=visit_id,
            note=note[:LONGEST_NAME],
            corrects=corrects,
            happened_at=at,
            recorded_at=at,
        )
    )
    session.flush()


def weigh(
    session: Session,
    weighing_id: str,
    cylinder_id: str,
    gross_mg: int,
    at: datetime,
    visit_id: str | None = None,
) -> None:
    session.add(
        Weighing(
            id=weighing_id,
            cylinder_id=cylinder_id,
            visit_id=visit_id,
            gross_mg=gross_mg,
            weighed_at=at,
        )
    )


def check_can_take(
    session: Session,
    cylinder: Cylinder,
    visit: Visit,
    removes: bool,
    mg: int,
    condition: str,
    today: date,
) -> None:
    """Whether this cylinder may give or take the dose; `condition` is of what would come out.

    Raises: CoreError.
    """
    if removes:
        if cylinder.kind == RECOVERY:
            check_vessel(vessel_of(cylinder, today), Coming(visit.system.refrigerant, condition))
        elif cylinder.condition == "clean":
            check_fluid(cylinder, visit.system.refrigerant)
        if cylinder.kind != RECOVERY:
            raise CoreError(
                "cylinder",
                f"“{cylinder.name}” is no recovery cylinder. Never put "
                "used refrigerant into a charging cylinder.",
            )
        check_room(session, cylinder, mg)
    else:
        check_fluid(cylinder, visit.system.refrigerant)
        if cylinder.kind != CHARGING:
            raise CoreError(
                "cylinder",
                f"“{cylinder.name}” is a recovery cylinder: what is "
                "in it is used. Charge from a virgin or reclaimed one.",
            )
        check_holds(session, cylinder, mg)


def check_proportion(
    session: Session, visit: Visit, kind: str, mg: int, now: datetime, expected_mg: int = 0
) -> None:
    """Ask about a dose typed twice, or in pounds for ounces; a whole fill of so much is expected.

    Raises: Impossible.
    """
    dose = Measure(mg / 1000, Quantity.SMALL_MASS)
    if is_typed_twice(session, visit, kind, mg, now):
        raise Impossible(
            "amount",
            say(
                "{dose} was written down a moment ago. Was it given twice? Say that you "
                "are sure, or leave it.",
                dose=dose,
            ),
        )
    is_expected = mg <= round(EXPECTED_SLACK * expected_mg)
    if not is_expected and mg > LARGE_SHARE * in_mg(whole_charge(plate_of(visit.system)).kg):
        raise Impossible(
            "amount",
            say(
                "{dose} is a quarter of a whole charge or more. Ounces, not pounds? Say "
                "that you are sure, or correct it.",
                dose=dose,
            ),
        )
