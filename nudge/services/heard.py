"""What may be written on a visit: what happened, how much moved, what was called out.

Each is checked against the system it is written for before anything is kept.
"""

from datetime import datetime, timedelta

from nudge.core.language.callout.parser import HeardLine as Heard
from nudge.core.language.callout.parser import Misheard, parse_callout
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.units import Quantity, UnitSystem
from nudge.core.language.vocabulary.actions import ACTIONS, PLATE_CORRECTED
from nudge.core.physics.circuit.equipment import device_named
from nudge.core.physics.refrigerant.saturation import is_in_vacuum, saturation_at
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.breaches import CHANGE_MINUTES
from nudge.store.tables import System, Visit

EVENT_KINDS = ("system_started", "system_stopped", *ACTIONS, PLATE_CORRECTED)
"""Started, stopped, an action of `ACTIONS`, or a plate written right."""
LARGEST_AMOUNT_KG = 25.0
_ON_THE_CIRCUIT = {"low", "high"}


def ready_after(visit: Visit, kind: str, moment: datetime) -> datetime | None:
    """From when it may be read again after something was done; None where nothing settles."""
    if kind not in ACTIONS:
        return None
    return moment + timedelta(minutes=CHANGE_MINUTES[device_named(visit.system.metering_device)])


def event_kind(kind: str) -> str:
    """The kind itself. Raises: UnknownName, with the nearest."""
    if kind not in EVENT_KINDS:
        raise UnknownName("event", kind, EVENT_KINDS)
    return kind


def check_amount(kind: str, amount_kg: float | None) -> None:
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
