"""What may be written on a visit: what happened, how much moved, what was called out.

Each is checked against the system it is written for before anything is kept.
"""

from datetime import datetime, timedelta
from typing import Literal

from nudge.core.callout.parser import Callout as Heard
from nudge.core.callout.parser import Misheard, parse_callout
from nudge.core.errors import CoreError
from nudge.core.refrigerant.saturation import is_in_vacuum, saturation_at
from nudge.core.refrigerant.table import load_table
from nudge.core.settling.breaches import CHANGE_MINUTES
from nudge.core.units import Quantity, UnitSystem
from nudge.core.vocabulary.actions import ACTIONS
from nudge.core.vocabulary.equipment import device_named
from nudge.store.tables import System, Visit

EventKind = Literal[
    "system_started",
    "system_stopped",
    "something_changed",
    "filter_changed",
    "evaporator_cleaned",
    "condenser_cleaned",
    "blower_mended",
    "bulb_fixed",
    "drier_renewed",
    "metering_renewed",
    "refrigerant_added",
    "refrigerant_removed",
    "collar_on",
    "collar_off",
    "plate_changed",
    "plate_corrected",
]
"""Started, stopped, a plate written right, or an action of `ACTIONS`."""
LARGEST_AMOUNT_KG = 25.0
_ON_THE_CIRCUIT = {"low", "high"}


def ready_after(visit: Visit, kind: str, moment: datetime) -> datetime | None:
    """From when it may be read again after something was done; None where nothing settles."""
    if kind not in ACTIONS:
        return None
    return moment + timedelta(minutes=CHANGE_MINUTES[device_named(visit.system.metering_device)])


def check_amount(kind: EventKind, amount_kg: float | None) -> None:
    moves = kind in ACTIONS and ACTIONS[kind].moves_charge
    if amount_kg is None:
        return
    if not moves:
        raise CoreError("amount", "An amount belongs to refrigerant added or removed only.")
    if not 0 < amount_kg <= LARGEST_AMOUNT_KG:
        raise CoreError("amount", "Give an amount over zero and at most 25 kg (880 oz) at once.")


def hear_for_system(text: str, units: UnitSystem, system: System) -> Heard:
    """Hear a call-out, and ask about pressures this system's refrigerant cannot have."""
    heard = parse_callout(text, units)
    table = load_table(system.refrigerant)
    spoken, misheard = [], list(heard.misheard)
    for reading in heard.spoken:
        row = reading.point
        if row.quantity is Quantity.PRESSURE and row.side in _ON_THE_CIRCUIT:
            if row.side == "low" and is_in_vacuum(table, reading.value_si, system.elevation_m):
                spoken.append(reading)  # below the table's foot: a vacuum, and evidence
                continue
            try:
                saturation_at(table, reading.value_si, system.elevation_m)
            except CoreError as refused:
                misheard.append(Misheard(reading.start, reading.end, refused.text(units)))
                continue
        spoken.append(reading)
    return Heard(tuple(spoken), tuple(misheard), heard.corrects)


def nothing_said(text: str) -> Misheard:
    return Misheard(0, len(text), "There is no reading in that. Say a point and a number: suct 118")
