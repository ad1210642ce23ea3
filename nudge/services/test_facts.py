"""What a visit's ended tests prove, and until when it holds."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from nudge.core.language.said import Said, say
from nudge.core.physics.circuit.whole import whole_charge
from nudge.core.tests.table import TESTS
from nudge.services.past import OPENS
from nudge.services.plates import plate_of
from nudge.store.repositories import timed
from nudge.store.tables import Visit
from nudge.store.visit_tables import TestEntry

LOST_WHEN_OPENED = frozenset({"tight", "dry", "evacuated", "valve_shut"})
"""What opening the circuit takes away again."""


CIRCUIT = frozenset({"nitrogen", "evacuation", "decay"})
"""Tests of a circuit that holds no refrigerant."""
MOST_LEFT = 0.30
"""Of its whole charge: with less left in it than this it counts as empty."""


def open_circuit(visit: Visit, tested_at: datetime | None) -> Said | None:
    """That no refrigerant is in it, in words: it was recovered, or is under test, and nothing was
    weighed in since. `tested_at` is when its last circuit test was begun.
    """
    events = visit.standing_events
    added = max((e.happened_at for e in events if e.kind == "refrigerant_added"), default=None)
    taken = sum(
        e.amount_kg or 0.0
        for e in events
        if e.kind == "refrigerant_removed" and (added is None or e.happened_at > added)
    )
    whole = whole_charge(plate_of(visit.system)).kg
    under_test = tested_at is not None and (added is None or tested_at > added)
    if not under_test and taken < (1 - MOST_LEFT) * whole:
        return None
    return say(
        "No refrigerant is in it. Locked out, control voltage off, until it is proven tight and "
        "dry, and weighed in."
    )


@dataclass(frozen=True, slots=True)
class TestsOfVisit:
    """What a visit's tests prove, and how many there are and still run."""

    proven: frozenset[str] = frozenset()
    count: int = 0
    running: int = 0
    circuit_at: datetime | None = None
    """When the last test of an empty circuit was begun, that was not broken off."""


def tests_of(session: Session, visit: Visit) -> TestsOfVisit:
    """The facts that stand: each from the last test of its kind, and not opened since."""
    rows = timed.runs(session, visit.id)
    keys = {row.id: row.key for row in rows}
    entries = timed.entries(session, visit.id)
    over = {entry.run_id for entry in entries if entry.kind in ("ended", "aborted")}
    aborted = {entry.run_id for entry in entries if entry.kind == "aborted"}
    circuit = [row.began_at for row in rows if row.key in CIRCUIT and row.id not in aborted]
    return TestsOfVisit(
        _facts_of(keys, entries, visit),
        len(keys),
        len(keys.keys() - over),
        max(circuit, default=None),
    )


def _facts_of(keys: dict[str, str], entries: Sequence[TestEntry], visit: Visit) -> frozenset[str]:
    proven = set[str]()
    when = {}
    for entry in entries:
        key = keys.get(entry.run_id, "")
        if entry.kind != "ended" or key not in TESTS:
            continue
        proven -= {fact for fact in proven if fact.partition(":")[0] in TESTS[key].proves}
        for fact in entry.proved.get("facts", ()):
            proven.add(str(fact))
            when[str(fact)] = entry.happened_at
    opened = [e.happened_at for e in visit.standing_events if e.kind in OPENS]
    last = max(opened, default=None)
    return frozenset(
        fact
        for fact in proven
        if last is None or fact not in LOST_WHEN_OPENED or when[fact] >= last
    )
