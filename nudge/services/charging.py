"""The nudge on a visit: the visit's own decision as a card, and the ways in."""

from nudge.core.charging.advise import Decided, Nudge, connection_named, nudge_of
from nudge.core.charging.guides import Guide, guides
from nudge.core.charging.ways import CONNECTIONS
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.services.snapshot import Snapshot


def nudge_for(snapshot: Snapshot, connection: str = "") -> Nudge | None:
    """The decision of a visit as its card shows it; None while nothing can be assessed.

    By the connection said on the visit unless one is named. Raises: CoreError, for one nothing
    can be charged through.
    """
    if snapshot.assessment is None:
        return None
    chosen = connection or snapshot.visit.connection
    if not connection and not (chosen in CONNECTIONS and CONNECTIONS[chosen].can_charge):
        chosen = "hose_manifold"  # gauges that only read: a hose comes before any dose
    link = connection_named(chosen)
    return nudge_of(Decided(snapshot.assessment, snapshot.sized), link)


def guides_for(snapshot: Snapshot) -> list[Guide]:
    """Every way this visit's system can be charged, the one for today first."""
    plate = snapshot.plate
    case, watched = None, "subcooling" if plate.metering_device.is_valve else "superheat"
    if snapshot.assessment is not None:
        case, deciding = snapshot.assessment.case, snapshot.assessment.targets.deciding
        if deciding is not None and deciding.judges == "superheat":
            watched = "superheat"
    given = sum(
        (event.amount_kg or 0.0) * ACTIONS[event.kind].moves_charge
        for event in snapshot.visit.standing_events
        if event.kind in ACTIONS
    )
    return guides(plate, case, given, watched)
