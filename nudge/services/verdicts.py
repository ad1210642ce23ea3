"""Keeping verdicts: what was said, and what later judgements need of it."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from nudge import __version__
from nudge.core.physics.circuit.derived_table import DERIVED
from nudge.core.visit.record.kept import Kept, read_answer, read_kept
from nudge.services.snapshot import Snapshot
from nudge.store.database import Database
from nudge.store.repositories import live
from nudge.store.repositories import visits as repository
from nudge.store.tables import Verdict


def kept_of(row: Verdict) -> Kept:
    """What a verdict keeps in core units, however old it is."""
    return read_kept(row.kept) if row.kept is not None else read_answer(row.answer, row.request)


def to_keep(snapshot: Snapshot) -> Kept | None:
    """What the assessment of now keeps for later; None while there is none."""
    found = snapshot.assessment
    if found is None:
        return None
    derived = found.case.derived
    return Kept(
        advice=found.decision.advice,
        decision=found.decision.key,
        headline=found.decision.headline,
        hazards=tuple(hazard.key for hazard, _ in found.hazards),
        readings=dict(found.case.readings),
        derived={key: value for key in DERIVED if (value := derived.get(key)) is not None},
        off={key: one.off for key, one in found.measured.items()},
    )


def new_verdict(session: Session, snapshot: Snapshot, now: datetime) -> dict[str, Any] | None:
    """The verdict of now, by column; None where nothing is judged, or it was given already."""
    given = snapshot.answer("ip")
    if given is None:
        return None
    answer = given.to_dict()
    if repository.printed_last(session, snapshot.visit.id) == repository.printed(answer):
        return None
    kept = to_keep(snapshot)
    return {
        "visit_id": snapshot.visit.id,
        "given_at": now,
        "version": __version__,
        "answer": answer,
        "kept": kept.to_json() if kept else None,
        "request": {
            "readings": {key: [r.given_value, r.given_unit] for key, r in snapshot.current.items()},
            "minutes_running": snapshot.context.minutes_running,
            "minutes_since_change": snapshot.context.minutes_since_change,
            "observations": sorted(snapshot.observations),
        },
    }


def keep(database: Database, verdict: Mapping[str, Any], written: int) -> None:
    """Add a verdict, unless the visit was written on since it was judged: that one follows."""
    with database.writing(is_entry=False) as session:
        if live.last_written(session, verdict["visit_id"]) == written:
            repository.add_verdict(session, verdict)
