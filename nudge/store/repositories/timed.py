"""Tests with time: runs of a visit, and what was entered into them."""

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from nudge.store.visit_tables import TestEntry, TestRun


def runs(session: Session, visit_id: str) -> Sequence[TestRun]:
    """The tests of a visit in the order they were begun."""
    query = select(TestRun).where(TestRun.visit_id == visit_id).order_by(TestRun.sequence)
    return session.scalars(query).all()


def entries(session: Session, visit_id: str) -> Sequence[TestEntry]:
    """All that was entered into the tests of a visit, in order."""
    query = select(TestEntry).where(TestEntry.visit_id == visit_id).order_by(TestEntry.sequence)
    return session.scalars(query).all()


def run(session: Session, visit_id: str, run_id: str) -> TestRun | None:
    query = select(TestRun).where(TestRun.visit_id == visit_id, TestRun.id == run_id)
    return session.scalars(query).one_or_none()


def is_entered(session: Session, entry_id: str) -> bool:
    """Whether an entry is written already: the same one sent twice is one."""
    return session.scalar(select(TestEntry.id).where(TestEntry.id == entry_id)) is not None
