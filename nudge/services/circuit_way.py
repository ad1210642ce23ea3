"""Where the circuit of a visit stands, read from the record: also from visits before this one."""

from collections.abc import Iterable

from sqlalchemy.orm import Session

from nudge.core.language.said import Said, say
from nudge.core.language.vocabulary.actions import OPENS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.opening.first_fill import FirstFill, first_fill
from nudge.core.opening.followed import ADDED, REMOVED, SHOWN_BY, Happening, Way, follow
from nudge.core.opening.states import STATES
from nudge.core.physics.circuit.whole import whole_charge
from nudge.core.visit.calls import call_named
from nudge.services.plates import plate_of
from nudge.services.test_facts import TestsOfVisit, tests_of
from nudge.store.repositories import visits as repository
from nudge.store.tables import Event, Reading, Visit

ON_THE_CIRCUIT = frozenset({"low", "high"})
PREFIX = "circuit_"
CIRCUIT_EVENTS = tuple(f"{PREFIX}{key}" for key in STATES if key != "charged")
"""Kinds of events that say which state a circuit was brought to."""
BEARING = (*CIRCUIT_EVENTS, ADDED, REMOVED, *sorted(OPENS))


def way_of(session: Session, visit: Visit, tests: TestsOfVisit) -> Way:
    """Where its circuit stands now, opened on this visit or left open on one before it."""
    own = [*_happenings(visit.standing_events, visit.id), *_shown(tests, visit.id)]
    own += _let_in(visit, own)
    before = _before(session, visit)
    return _followed(visit, [*before, *own])


def fill_of(visit: Visit, way: Way) -> FirstFill:
    """What is weighed into it before it runs."""
    return first_fill(plate_of(visit.system), way.out_kg, brought_kg=brought_in_kg(visit))


def brought_in_kg(visit: Visit) -> float:
    """What a new outdoor unit brings behind its shut service valves [kg]."""
    if visit.kind != "new_installation":
        return 0.0
    return plate_of(visit.system).factory_charge_kg or 0.0


def _followed(visit: Visit, happenings: Iterable[Happening]) -> Way:
    plate = plate_of(visit.system)
    return follow(
        happenings,
        whole_charge(plate).kg,
        first_fill(plate).kg,
        call_named(visit.kind).begins,
    )


def _happenings(events: Iterable[Event], visit_id: str) -> list[Happening]:
    return [
        Happening(
            _key_of(event.kind),
            event.happened_at.timestamp(),
            event.amount_kg or 0.0,
            event.note or "",
            visit_id,
            event.kind in CIRCUIT_EVENTS,
        )
        for event in events
        if event.kind in BEARING
    ]


def _let_in(visit: Visit, own: Iterable[Happening]) -> list[Happening]:
    """A new machine’s factory charge comes in as its service valves are opened."""
    broken = [one for one in own if one.key == "broken"]
    kg = brought_in_kg(visit)
    return [Happening(ADDED, broken[0].at, kg, visit=visit.id)] if broken and kg > 0 else []


def _key_of(kind: str) -> str:
    if kind in OPENS:
        return "opened"
    return kind.removeprefix(PREFIX)


def _shown(tests: TestsOfVisit, visit_id: str) -> list[Happening]:
    return [Happening(SHOWN_BY[key], at.timestamp(), visit=visit_id) for key, at in tests.on_empty]


def _before(session: Session, visit: Visit) -> list[Happening]:
    """What the visits before it left open; nothing where the last of them left it whole."""
    rows = repository.bearing_before(session, visit, BEARING)
    if not rows:
        return []
    found = [one for row in rows for one in _happenings([row], row.visit_id)]
    if not _followed(visit, found).is_open:
        return []
    last = repository.visit(session, rows[-1].visit_id)
    tests = [] if last is None else _shown(tests_of(session, last), last.id)
    return sorted([*found, *tests], key=lambda one: one.at)


def proven_before(session: Session, visit: Visit, way: Way) -> frozenset[str]:
    """That it is tight, proven on the visit that left it open, where it was not opened since.

    Dry is not carried over a night: a decay tells it anew.
    """
    earlier = next((e.visit for e in reversed(way.entered) if e.visit != visit.id), "")
    opened_here = any(e.state == "opened" and e.visit == visit.id for e in way.entered)
    last = repository.visit(session, earlier) if earlier and way.is_open else None
    if last is None or opened_here:
        return frozenset()
    return tests_of(session, last).proven & {"tight"}


def said_of(way: Way) -> Said | None:
    """That no refrigerant is in it, in words; None where some is."""
    if not way.is_empty:
        return None
    return say(
        f"No refrigerant is in it. {STATES[way.state].said} Locked out, control voltage off, until "
        "it is proven tight and dry, and weighed in."
    )


def since_opened(rows: dict[str, Reading], way: Way) -> dict[str, Reading]:
    """Without what was read on the circuit before it was filled again: it says nothing of now."""
    over = [e.at for e in way.entered if STATES[e.state].is_empty or e.state == "broken"]
    emptied = max(over, default=None)
    if emptied is None and not way.is_empty:
        return rows
    return {
        point: row
        for point, row in rows.items()
        if POINTS[point].side not in ON_THE_CIRCUIT
        or not (way.is_empty or row.taken_at.timestamp() < (emptied or 0.0))
    }


def left_to_weigh(way: Way, fill: FirstFill | None) -> float | None:
    """What of the first fill is still to go in [kg], while the vacuum is broken; else None."""
    return max(fill.kg - way.in_kg, 0.0) if fill and way.state == "broken" else None
