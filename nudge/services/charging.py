"""The nudge on a visit: the visit's own decision as a card, and the ways in."""

from nudge.core.charging.advise import Decided, Nudge, connection_named, nudge_of
from nudge.core.charging.guides import Guide, guides
from nudge.core.vocabulary.actions import ACTIONS
from nudge.services.plates import plate_of
from nudge.services.snapshot import Snapshot


def nudge_for(snapshot: Snapshot, connection: str) -> Nudge | None:
    """The decision of a visit as its card shows it; None while nothing can be assessed.

    Raises: CoreError, for a connection.
    """
    link = connection_named(connection)
    if snapshot.assessment is None:
        return None
    return nudge_of(Decided(snapshot.assessment, snapshot.sized), link)


def guides_for(snapshot: Snapshot) -> list[Guide]:
    """Every way this visit's system can be charged, the one for today first."""
    plate = plate_of(snapshot.visit.system)
    case, watched = None, "subcooling" if plate.metering_device.is_valve else "superheat"
    if snapshot.assessment is not None:
        case, deciding = snapshot.assessment.case, snapshot.assessment.targets.deciding
        if deciding is not None and deciding.judges == "superheat":
            watched = "superheat"
    given = sum(
        (event.amount_kg or 0.0) * ACTIONS[event.kind].moves_charge
        for event in snapshot.visit.standing_events if event.kind in ACTIONS
    )  # fmt: skip
    return guides(plate, case, given, watched)
