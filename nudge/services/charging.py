"""The nudge on a visit: the visit's settled readings and doses, as the advisor wants them."""

from dataclasses import replace
from datetime import datetime

from nudge.core.charging.advise import Dosed, Nudge, advise
from nudge.core.charging.guides import Guide, guides
from nudge.core.errors import CoreError
from nudge.core.said import minutes, say
from nudge.core.settling.breaches import CHANGE_MINUTES
from nudge.core.vocabulary.actions import ACTIONS
from nudge.services.plates import plate_of
from nudge.services.snapshot import Snapshot


def nudge_for(
    snapshot: Snapshot, preferred: tuple[str, ...], now: datetime, connection: str
) -> Nudge | None:
    """What to do with the charge now; None while nothing can be assessed.

    A dose without a settled reading after it waits for one. Raises: CoreError, for a connection.
    """
    if snapshot.assessment is None:
        return None
    past = snapshot.context.past
    rows = [Dosed(-moment.minutes_ago, moment.added_kg, moment.readings) for moment in past.moments]
    latest = max(row.taken_at for row in snapshot.current.values())
    last_dose = max(
        (event.happened_at for event in snapshot.visit.standing_events
         if event.kind in ACTIONS and ACTIONS[event.kind].moves_charge), default=None,
    )  # fmt: skip
    readings = snapshot.assessment.case.readings
    if last_dose is not None and last_dose >= latest:
        # What is on the record is from before the dose: nothing is known of it yet.
        since = max((now - last_dose).total_seconds() / 60, 0.0)
        return _waiting(snapshot, rows, since, preferred, connection)
    rows.append(Dosed(0.0, past.added_since_kg, readings))
    return advise(plate_of(snapshot.visit.system), _first_reading_counts_none(rows),
                  snapshot.context, None, preferred, connection)  # fmt: skip


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


def _first_reading_counts_none(rows: list[Dosed]) -> list[Dosed]:
    """What went in before the first settled reading is in that reading already."""
    first, *rest = rows
    return [Dosed(first.minutes, 0.0, first.readings), *rest]


def _waiting(
    snapshot: Snapshot, rows: list[Dosed], since: float, preferred: tuple[str, ...], connection: str
) -> Nudge:
    plate = plate_of(snapshot.visit.system)
    if not rows:
        raise CoreError("history", "A dose came before any reading. Take the readings.")
    context = replace(snapshot.context, minutes_since_change=since)
    before = advise(plate, _first_reading_counts_none(rows), context, None, preferred, connection)
    left = max(CHANGE_MINUTES[plate.metering_device] - since, 0.0)
    said = say("It settles after the dose: {left} more, then read again.", left=minutes(left))
    if left == 0:
        said = say("It has had its time. Read again: the last readings are from before the dose.")
    return replace(before, action="wait", amount_kg=0.0, wait_minutes=round(left, 1), reason=said,
                   stop=None)  # fmt: skip
