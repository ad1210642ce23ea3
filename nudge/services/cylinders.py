"""What a cylinder holds, may hold and is said to hold: read from its movements."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy.orm import Session

from nudge.core.charging.cylinder import recovery_limit_kg
from nudge.core.charging.ledger import (
    MG_PER_KG,
    LedgerEntry,
    balance,
    in_mg,
    standing_entries,
)
from nudge.core.language.errors import CoreError, Impossible, OutOfRange, UnknownName
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity
from nudge.core.opening.recovery import CONDITIONS, Vessel
from nudge.core.physics.circuit.recovered import Booked
from nudge.services.errors import NotFound
from nudge.services.sound import sound_movements
from nudge.store.repositories import shelf as repository
from nudge.store.shelf_tables import Cylinder, Movement, Weighing
from nudge.store.tables import Visit

CHARGING, RECOVERY = "charging", "recovery"


@dataclass(frozen=True, slots=True)
class CylinderStanding:
    """A cylinder as it stands: what the book says is in it, its fill limit, what was lost."""

    cylinder: Cylinder
    held_mg: int
    limit_mg: int | None
    movements: Sequence[Movement]
    weighings: Sequence[Weighing]
    last_loss: Movement | None


@dataclass(frozen=True, slots=True)
class Made:
    """What a recovery cylinder holds and is made for, of `opening/recovery.py`."""

    condition: str = "clean"
    takes_flammable: bool = False
    rated_kpa: float | None = None
    tested_until: date | None = None


LEAST_KPA, MOST_KPA = 500.0, 10_000.0
"""Service pressures a cylinder may be stamped with [kPa gauge]."""


def check_made(made: Made) -> None:
    """Raises: UnknownName, for what it holds; OutOfRange, for a rating nobody stamps."""
    if made.condition not in CONDITIONS:
        raise UnknownName("condition", made.condition, CONDITIONS)
    if made.rated_kpa is not None and not LEAST_KPA <= made.rated_kpa <= MOST_KPA:
        raise OutOfRange("rating", made.rated_kpa, LEAST_KPA, MOST_KPA, Quantity.PRESSURE)


def new_cylinder(
    cylinder_id: str,
    name: str,
    fluid: str,
    kind: str,
    tare_mg: int,
    water_kg: float | None,
    made: Made,
    now: datetime,
) -> Cylinder:
    """A row for the shelf. Raises: UnknownName, for what it is said to hold."""
    check_made(made)
    return Cylinder(
        id=cylinder_id,
        name=name,
        refrigerant=fluid,
        kind=kind,
        tare_mg=tare_mg,
        water_mg=None if water_kg is None else in_mg(water_kg),
        condition=made.condition,
        takes_flammable=made.takes_flammable,
        rated_kpa=made.rated_kpa,
        tested_until=made.tested_until,
        created_at=now,
        retired_at=None,
    )


def cylinder_row(session: Session, cylinder_id: str) -> Cylinder:
    row = repository.cylinder(session, cylinder_id)
    if row is None:
        raise NotFound("cylinder", cylinder_id)
    return row


def entry_of(row: Movement) -> LedgerEntry:
    to = row.to_cylinder_id or row.system_id or ""
    return LedgerEntry(row.id, row.kind, row.mg, row.cylinder_id, to, row.corrects or "")


def held_mg(session: Session, cylinder_id: str) -> int:
    entries = map(entry_of, sound_movements(repository.movements(session, cylinder_id)))
    return balance(entries).cylinders.get(cylinder_id, 0)


def standing_of(session: Session, row: Cylinder) -> CylinderStanding:
    moved = sound_movements(repository.movements(session, row.id))
    stands = {entry.id for entry in standing_entries(map(entry_of, moved))}
    kept = [m for m in moved if m.id in stands]
    losses = [m for m in kept if m.kind == "lost"]
    return CylinderStanding(
        row,
        balance(map(entry_of, moved)).cylinders.get(row.id, 0),
        limit_mg(row),
        kept,
        repository.weighings(session, row.id),
        losses[-1] if losses else None,
    )


def booked_of(session: Session, visit: Visit) -> Booked | None:
    """What a system's book says of its charge before a visit; None where that recovered nothing."""
    if not any(event.kind == "refrigerant_removed" for event in visit.standing_events):
        return None
    system, began = visit.system, visit.opened_at or visit.created_at
    written = system.written_charge_at
    is_before = written is not None and written < began
    entries = repository.moved(session, system.id, None)
    replaced = {entry.corrects for entry in entries if entry.corrects}
    topped = 0
    for entry in entries:
        if entry.id in replaced:
            continue
        is_own = entry.visit_id == visit.id or entry.happened_at >= began
        if is_own or (is_before and written is not None and entry.happened_at <= written):
            continue
        topped += {"charged": entry.mg, "recovered": -entry.mg}.get(entry.kind, 0)
    return Booked(system.written_charge_kg if is_before else None, max(topped, 0) / MG_PER_KG)


def vessel_of(row: Cylinder, today: date) -> Vessel:
    """A cylinder by what it may take today."""
    in_date = None if row.tested_until is None else row.tested_until >= today
    return Vessel(
        row.name, row.refrigerant, row.condition, row.takes_flammable, row.rated_kpa, in_date
    )


def limit_mg(row: Cylinder) -> int | None:
    if row.kind != RECOVERY or row.water_mg is None:
        return None
    return in_mg(recovery_limit_kg(row.refrigerant, row.water_mg / MG_PER_KG))


def check_fluid(row: Cylinder, fluid: str) -> None:
    if row.refrigerant != fluid:
        raise CoreError(
            "cylinder",
            f"STOP. “{row.name}” holds {row.refrigerant}, the system takes {fluid}. Shut the valve "
            "and take the right cylinder.",
        )


def check_holds(session: Session, row: Cylinder, mg: int) -> None:
    held = held_mg(session, row.id)
    if mg > held:
        raise Impossible(
            "amount",
            say(
                f"“{row.name}” holds {{held}} by the book. Weigh it, or take another.",
                held=Measure(held / 1000, Quantity.SMALL_MASS),
            ),
        )


def check_room(session: Session, row: Cylinder, mg: int) -> None:
    limit = limit_mg(row)
    held = held_mg(session, row.id)
    if limit is not None and held + mg > limit:
        raise Impossible(
            "amount",
            say(
                f"“{row.name}” may hold {{limit}}: 80 % of its volume. It has {{held}}. Liquid "
                "that warms in a full cylinder bursts it. Take another.",
                limit=Measure(limit / MG_PER_KG, Quantity.CHARGE),
                held=Measure(held / MG_PER_KG, Quantity.CHARGE),
            ),
        )
