"""The shelf: cylinders, every movement of refrigerant, and the doses of a visit.

A dose is one entry in the ledger and one event on the visit, written together or not at all.
"""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy.orm import Session

from nudge.core.charging.cylinder import CYLINDER_KINDS, CylinderCheck, check_cylinder
from nudge.core.charging.leak_rate import LEAK_THRESHOLDS
from nudge.core.charging.ledger import (
    KNOCKED_MG,
    Found,
    in_mg,
    kind_named,
    standing_entries,
    weighed,
)
from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.services.circuit import check_came_out, check_may_fill
from nudge.services.clock import Clock
from nudge.services.cylinders import (
    CylinderStanding,
    Made,
    check_fluid,
    check_holds,
    check_made,
    check_room,
    cylinder_row,
    entry_of,
    held_mg,
    new_cylinder,
    standing_of,
)
from nudge.services.errors import NotFound
from nudge.services.leaks import Leaks, leaks_of
from nudge.services.movements import (
    LONGEST_NAME,
    check_can_take,
    check_proportion,
    post,
    some_mg,
    weigh,
)
from nudge.services.recovered import condition_now, expected_kg
from nudge.services.snapshot import Snapshot
from nudge.services.sound import sound_movements
from nudge.services.visits import Visits
from nudge.services.yard import Yard
from nudge.store.database import Database
from nudge.store.repositories import book, settings
from nudge.store.repositories import shelf as repository
from nudge.store.shelf_tables import Movement
from nudge.store.tables import Event, Visit

THRESHOLD_KEY = "leak_threshold"


class Shelf:
    """The use cases of cylinders and the ledger."""

    def __init__(self, database: Database, clock: Clock, visits: Visits, yard: Yard) -> None:
        self._database, self._clock = database, clock
        self._visits, self._yard = visits, yard

    def all(self) -> list[CylinderStanding]:
        """Every cylinder on the shelf."""
        with self._database.reading() as session:
            return [standing_of(session, row) for row in repository.cylinders(session)]

    def one(self, cylinder_id: str) -> CylinderStanding:
        """Raises: NotFound."""
        with self._database.reading() as session:
            return standing_of(session, cylinder_row(session, cylinder_id))

    def add(
        self,
        cylinder_id: str,
        name: str,
        fluid: str,
        kind: str,
        tare_kg: float,
        gross_kg: float,
        water_kg: float | None = None,
        made: Made | None = None,
    ) -> CylinderStanding:
        """Put a cylinder on the shelf with what is in it now.

        Raises: UnknownName, for a refrigerant; CoreError, for a name or a weight that is none.
        """
        fluid, made = refrigerant(fluid).name, made or Made()
        if kind not in CYLINDER_KINDS:
            raise CoreError("kind", "A cylinder is for charging or for recovery. Say which.")
        if not name.strip() or len(name) > LONGEST_NAME:
            raise CoreError("name", f"Give the cylinder a name, at most {LONGEST_NAME} letters.")
        tare, gross = in_mg(tare_kg), in_mg(gross_kg)
        if gross < tare:
            raise CoreError("weight", "It weighs less than empty. Check the tare and the scale.")
        now = self._clock()
        with self._database.writing() as session:
            if repository.cylinder(session, cylinder_id) is None:
                session.add(
                    new_cylinder(cylinder_id, name.strip(), fluid, kind, tare, water_kg, made, now)
                )
                session.flush()
                if gross > tare:
                    post(session, f"{cylinder_id}:filled", "bought", gross - tare, cylinder_id, now)
                weigh(session, f"{cylinder_id}:first", cylinder_id, gross, now)
        return self.one(cylinder_id)

    def mark(self, cylinder_id: str, made: Made) -> CylinderStanding:
        """Write down what a cylinder holds and is made for. Raises: NotFound, UnknownName."""
        check_made(made)
        with self._database.writing() as session:
            row = cylinder_row(session, cylinder_id)
            row.condition, row.takes_flammable = made.condition, made.takes_flammable
            row.rated_kpa, row.tested_until = made.rated_kpa, made.tested_until
        return self.one(cylinder_id)

    def weigh(
        self,
        weighing_id: str,
        cylinder_id: str,
        gross_kg: float,
        visit_id: str | None = None,
        sure: bool = False,
    ) -> Found | None:
        """Take what the scale shows into the book; what was lost since is answered, and posted.

        Raises: CoreError, for less than the empty cylinder; and, unless `sure`, for a difference
        of a pound: a knocked scale or another cylinder.
        """
        gross = in_mg(gross_kg)
        with self._database.writing() as session:
            row = cylinder_row(session, cylinder_id)
            if any(w.id == weighing_id for w in repository.weighings(session, cylinder_id)):
                return None
            found = weighed(held_mg(session, cylinder_id), gross, row.tare_mg)
            if found is not None and found.mg > KNOCKED_MG and not sure:
                raise Impossible(
                    "weight",
                    say(
                        f"{{off}} off the book for “{row.name}”. Is it this cylinder, standing "
                        "free and still? Weigh it again, or say that you are sure.",
                        off=Measure(found.mg / 1000, Quantity.SMALL_MASS),
                    ),
                )
            now = self._clock()
            if found is not None:
                post(
                    session,
                    f"{weighing_id}:found",
                    found.kind,
                    found.mg,
                    cylinder_id,
                    now,
                    visit_id=visit_id,
                )
            weigh(session, weighing_id, cylinder_id, gross, now, visit_id)
        return found

    def move(
        self,
        entry_id: str,
        kind: str,
        kg: float,
        cylinder_id: str,
        to: str | None = None,
        note: str = "",
    ) -> CylinderStanding:
        """Enter a movement that belongs to no visit: bought, returned, moved into another.

        Raises: CoreError, for more than is there, another refrigerant, a full recovery cylinder.
        """
        if kind_named(kind).key not in ("bought", "returned", "moved"):
            raise CoreError(
                "movement",
                "Charged and recovered are entered on a visit; what was "
                "lost or found comes from weighing.",
            )
        mg = some_mg(kg)
        with self._database.writing() as session:
            if repository.movement(session, entry_id) is None:
                row = cylinder_row(session, cylinder_id)
                if kind != "bought":
                    check_holds(session, row, mg)
                if kind == "moved":
                    if to is None or to == cylinder_id:
                        raise CoreError("cylinder", "Say which other cylinder it went into.")
                    other = cylinder_row(session, to)
                    check_fluid(other, row.refrigerant)
                    check_room(session, other, mg)
                else:
                    to = None
                    if kind == "bought":
                        check_room(session, row, mg)
                post(session, entry_id, kind, mg, cylinder_id, self._clock(), to=to, note=note)
        return self.one(cylinder_id)

    def dose(
        self,
        visit_id: str,
        dose_id: str,
        cylinder_id: str,
        kg: float,
        removes: bool,
        sure: bool = False,
    ) -> Snapshot:
        """Write a dose down: into the ledger and onto the visit, and into a simulated system.

        Raises: CoreError, for the wrong refrigerant or cylinder, for more than it holds or may
        hold; and, unless `sure`, for a dose out of all proportion.
        """
        mg, kind = some_mg(kg), "recovered" if removes else "charged"
        before, clock = self._visits.snapshot(visit_id), self._clock
        with self._database.reading() as session:
            if repository.movement(session, dose_id) is not None:
                return before
        if removes:
            check_came_out(before, kg)
        else:
            check_may_fill(before)
        comes, expected = condition_now(before), in_mg(expected_kg(before, removes))

        def enter(session: Session, visit: Visit) -> None:
            now, cylinder = clock(), cylinder_row(session, cylinder_id)
            check_can_take(session, cylinder, visit, removes, mg, comes, now.date())
            if not sure:
                check_proportion(session, visit, kind, mg, now, expected)
            post(
                session,
                dose_id,
                kind,
                mg,
                cylinder_id,
                self._clock(),
                system_id=visit.system_id,
                visit_id=visit_id,
            )

        event = "refrigerant_removed" if removes else "refrigerant_added"
        snapshot = self._visits.happened(visit_id, dose_id, event, self._clock(), kg, also=enter)
        self._yard.let_in(visit_id, -kg if removes else kg)
        return snapshot

    def correct_dose(self, visit_id: str, dose_id: str, entry_id: str, kg: float) -> Snapshot:
        """A mistyped dose: another entry stands in its place, on the visit and in the ledger.

        0 takes it back. Raises: NotFound; CoreError, for more than the cylinder held.
        """
        mg = in_mg(kg)

        def enter(session: Session, visit: Visit) -> None:
            old = repository.movement(session, dose_id)
            if old is None or old.visit_id != visit_id:
                raise NotFound("dose", dose_id)
            if repository.movement(session, entry_id) is not None:
                return
            if any(m.corrects == dose_id for m in repository.of_visit(session, visit_id)):
                raise CoreError("dose", "This dose was corrected already. Correct the newer entry.")
            row = cylinder_row(session, old.cylinder_id)
            more = mg - old.mg
            if old.kind == "charged" and more > 0:
                check_holds(session, row, more)
            post(
                session,
                entry_id,
                old.kind,
                mg,
                old.cylinder_id,
                old.happened_at,
                system_id=old.system_id,
                visit_id=visit_id,
                corrects=dose_id,
            )
            before = next((e for e in visit.events if e.id == dose_id), None)
            if before is not None:
                visit.events.append(
                    Event(
                        id=entry_id,
                        kind=before.kind,
                        happened_at=before.happened_at,
                        amount_kg=kg,
                        corrects=dose_id,
                    )
                )

        return self._visits.amend(visit_id, enter, entry_id)

    def contents(self, cylinder_id: str, temp_c: float, kpa: float | None) -> CylinderCheck:
        """What a cylinder's pressure says of what is in it, by its temperature."""
        with self._database.reading() as session:
            fluid = cylinder_row(session, cylinder_id).refrigerant
        return check_cylinder(fluid, temp_c, kpa)

    def ledger(self) -> Sequence[Movement]:
        """Every movement that stands, oldest first."""
        with self._database.reading() as session:
            rows = sound_movements(repository.movements(session))
        stands = {entry.id for entry in standing_entries(map(entry_of, rows))}
        return [row for row in rows if row.id in stands]

    def damaged(self) -> list[str]:
        """Entries of the ledger nobody can read, in words."""
        with self._database.reading() as session:
            rows = repository.movements(session)
        known = {row.id for row in sound_movements(rows)}
        return [
            f"The entry of {row.happened_at:%Y-%m-%d}, “{row.kind[:20]}”, is of no kind there is."
            for row in rows
            if row.id not in known
        ]

    def written(self) -> Sequence[Movement]:
        """The ledger as it was written, corrected entries and all, oldest first."""
        with self._database.reading() as session:
            return repository.movements(session)

    def threshold(self) -> float:
        """The yearly leak rate this workshop acts on [%]."""
        with self._database.reading() as session:
            kept = settings.all_settings(session).get(THRESHOLD_KEY, "")
        return float(kept) if kept else LEAK_THRESHOLDS[0].percent

    def set_threshold(self, percent: float) -> None:
        """Raises: CoreError, for a rate that is none."""
        if not 0 < percent <= 100:
            raise CoreError("threshold", "A leak threshold lies between 0 and 100 % a year.")
        with self._database.writing() as session:
            settings.choose(session, THRESHOLD_KEY, f"{percent:g}", self._clock())

    def leaks(self) -> list[Leaks]:
        """Every system that refrigerant was added to, and how fast it loses it."""
        now = self._clock()
        with self._database.reading() as session:
            added: dict[str, list[tuple[datetime, int]]] = {}
            for row in self.ledger():
                if row.kind == "charged" and row.system_id and row.mg:
                    added.setdefault(row.system_id, []).append((row.happened_at, row.mg))
            found = []
            for system_id, doses in added.items():
                system = book.system(session, system_id)
                if system is not None:
                    found.append(leaks_of(system, doses, now))
        return sorted(found, key=lambda one: -(one.rolling or 0.0))
