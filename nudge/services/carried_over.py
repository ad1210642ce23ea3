"""What a visit leaves open in its system's book by itself, and what a later one closes there."""

from collections.abc import Sequence
from datetime import datetime

from nudge.core.judgement.zero_superheat import OPEN_SAID, UNDER_K, follow, reads_none
from nudge.services.snapshot import Snapshot
from nudge.store.visit_tables import Deferred

MARK = ":no-superheat"
"""Ends the id of an item that a superheat which read none has left open."""


def left_open(snapshot: Snapshot, now: datetime) -> list[Deferred]:
    """A superheat that read none, as far as it was proven; nothing where it stands open already."""
    assessed, visit = snapshot.assessment, snapshot.visit
    if assessed is None or not reads_none(assessed.case):
        return []
    if superheats_open(snapshot):
        return []
    chain = follow(assessed.case)
    text, season = OPEN_SAID[chain.outcome or "open"]
    return [
        Deferred(
            id=f"{visit.id}:{now:%Y%m%dT%H%M%S%f}{MARK}",  # closed, reopened, closed again: another
            system_id=visit.system_id,
            visit_id=visit.id,
            text=text,
            season=season,
            due_on=None,
            created_at=now,
        )
    ]


def superheats_open(snapshot: Snapshot) -> Sequence[Deferred]:
    """What superheats that read none have left open on this system."""
    return [
        row for row in snapshot.folder.deferred if row.id.endswith(MARK) and row.done_at is None
    ]


def reads_gas(snapshot: Snapshot) -> bool:
    """Whether this visit read, while it heated, a superheat that is one."""
    assessed = snapshot.assessment
    if assessed is None or not assessed.case.behaviour.roles.heats:
        return False
    superheat = assessed.case.derived.superheat
    return superheat is not None and superheat >= UNDER_K
