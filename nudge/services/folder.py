"""A visit's folder: what hangs on it beside its readings and events, read in one go."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from sqlalchemy.orm import Session

from nudge.services.test_facts import TestsOfVisit, tests_of
from nudge.store.repositories import shelf, whole_visit
from nudge.store.shelf_tables import Movement
from nudge.store.tables import Base, Visit
from nudge.store.visit_tables import (
    Baseline,
    CheckRow,
    Deferred,
    GuestLink,
    IntendedChange,
    Note,
    Photo,
    TestRun,
    Tick,
)

Hung = frozenset[type[Base]]
"""The tables that hold anything of a visit or its system."""


@dataclass(frozen=True, slots=True)
class Folder:
    """Rows of a visit, and of its system where they bear on it."""

    ticks: Mapping[str, Tick] = field(default_factory=dict)
    checks: Mapping[str, CheckRow] = field(default_factory=dict)
    """The last of every check on this visit."""
    checks_before: Mapping[str, CheckRow] = field(default_factory=dict)
    """The last of every check on this system, whichever visit it was on."""
    notes: Sequence[Note] = ()
    photos: Sequence[Photo] = ()
    links: Sequence[GuestLink] = ()
    """Links that still live."""
    baselines: Mapping[str, Baseline] = field(default_factory=dict)
    """Those of its system that hold, by mode."""
    intended: Sequence[IntendedChange] = ()
    deferred: Sequence[Deferred] = ()
    """What is left for later on this system, and not done."""
    cylinders: Mapping[str, str] = field(default_factory=dict)
    """Names by id of those refrigerant moved from or into, the one used last standing last."""
    weighed_at: Mapping[str, datetime] = field(default_factory=dict)
    """When each of them was last on the scale."""
    tests: TestsOfVisit = field(default_factory=TestsOfVisit)
    """Its tests with time: what the ended ones prove, how many run."""
    closed_before: int = 0
    """How many closed visits the system has had besides this one."""

    def has_baseline_of(self, visit_id: str) -> bool:
        """Whether one of the baselines that hold was kept on this visit."""
        return any(one.visit_id == visit_id for one in self.baselines.values())


def folder_of(session: Session, visit: Visit, now: datetime, has: Hung) -> Folder:
    """Everything that hangs on a visit; tables it is not in are not asked."""
    entries = shelf.of_visit(session, visit.id) if Movement in has else ()
    moved = [entry.cylinder_id for entry in entries]
    used = list(dict.fromkeys(reversed(moved)))[::-1]
    every = whole_visit.checks(session, visit.system_id)
    return Folder(
        ticks=whole_visit.ticks(session, visit.id) if Tick in has else {},
        checks={row.key: row for row in every if row.visit_id == visit.id},
        checks_before={row.key: row for row in every},
        notes=whole_visit.notes(session, visit.id) if Note in has else (),
        photos=whole_visit.photos(session, visit.id) if Photo in has else (),
        links=[row for row in whole_visit.links(session, visit.id) if lives(row, now)]
        if GuestLink in has
        else (),
        baselines=whole_visit.baselines(session, visit.system_id) if Baseline in has else {},
        intended=whole_visit.intended(session, visit.system_id) if IntendedChange in has else (),
        deferred=[
            row for row in whole_visit.deferred(session, visit.system_id) if row.done_at is None
        ]
        if Deferred in has
        else (),
        cylinders=shelf.names(session, used),
        weighed_at=shelf.last_weighed(session, used),
        tests=tests_of(session, visit) if TestRun in has else TestsOfVisit(),
        closed_before=whole_visit.visits_before(session, visit),
    )


def lives(link: GuestLink, now: datetime) -> bool:
    """Whether a link still opens."""
    return link.revoked_at is None and now < link.expires_at
