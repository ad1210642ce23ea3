"""What a visit's ended tests prove, and until when it holds."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from nudge.core.language.vocabulary.actions import OPENS
from nudge.core.opening.followed import SHOWN_BY
from nudge.core.tests.table import TESTS
from nudge.store.repositories import timed
from nudge.store.tables import Visit
from nudge.store.visit_tables import TestEntry

LOST_WHEN_OPENED = frozenset({"tight", "dry", "evacuated", "valve_shut"})
"""What opening the circuit takes away again."""


CIRCUIT = frozenset(SHOWN_BY)
"""Tests of a circuit that holds no refrigerant."""


@dataclass(frozen=True, slots=True)
class TestsOfVisit:
    """What a visit's tests prove, and how many there are and still run."""

    proven: frozenset[str] = frozenset()
    count: int = 0
    running: int = 0
    on_empty: tuple[tuple[str, datetime], ...] = ()
    """Tests of an empty circuit that were not broken off: which, and when it was begun."""

    @property
    def circuit_at(self) -> datetime | None:
        """When the last of them was begun."""
        return max((at for _, at in self.on_empty), default=None)


def tests_of(session: Session, visit: Visit) -> TestsOfVisit:
    """The facts that stand: each from the last test of its kind, and not opened since."""
    rows = timed.runs(session, visit.id)
    keys = {row.id: row.key for row in rows}
    entries = timed.entries(session, visit.id)
    over = {entry.run_id for entry in entries if entry.kind in ("ended", "aborted")}
    aborted = {entry.run_id for entry in entries if entry.kind == "aborted"}
    on_empty = [
        (row.key, row.began_at) for row in rows if row.key in CIRCUIT and row.id not in aborted
    ]
    return TestsOfVisit(
        _facts_of(keys, entries, visit),
        len(keys),
        len(keys.keys() - over),
        tuple(on_empty),
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
