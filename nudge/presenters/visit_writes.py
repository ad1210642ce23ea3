"""What is written on a visit, as it is sent."""

from datetime import date
from typing import Annotated, Literal

from pydantic import Field, WithJsonSchema

from nudge.contract.pocket_answer import Entry
from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict, YesNo
from nudge.core.language.units import UnitSystem
from nudge.presenters.book import Id, Text
from nudge.presenters.moments import Moment
from nudge.services.heard import EVENT_KINDS


class NewVisit(Strict):
    id: Id
    system_id: Id
    complaint: Text = ""
    due_on: date | None = None


class VisitChanges(Strict):
    complaint: Text | None = None
    closed: YesNo | None = None
    started: Literal[True] | None = None


class NewCallout(Strict):
    id: Id
    text: str
    heard_at: Moment


class NewCorrection(Strict):
    id: Id
    reading_id: Id
    text: str


class NewWithdrawal(Strict):
    """Take back one reading, or one entry (`of`: a line, a tick, an event …), or the last line."""

    id: Id
    reading_id: Id | None = None
    of: Id | None = None


class NewObservation(Strict):
    id: Id
    key: Name
    seen: YesNo


class NewSlip(Strict):
    """A slip as it was filled in, in the units it was written in."""

    id: Id
    slip: Name
    entries: Annotated[dict[str, Entry], Field(max_length=100)]
    written_in: UnitSystem


class NewEvent(Strict):
    id: Id
    kind: Annotated[Name, WithJsonSchema({"type": "string", "enum": list(EVENT_KINDS)})]
    happened_at: Moment
    amount: Annotated[Number, Field(gt=0)] | None = None
    """Ounces or grams, with refrigerant added or removed."""
    why: Literal["", "short_cycle", "load_control", "float_switch", "door", "other"] = ""
    """Why it does not run, with a system that stopped: one of `STOP_REASONS`."""


class PassedGate(Strict):
    """A gate to judge past, and why; no reason takes it back."""

    id: Id
    gate: Name
    reason: Annotated[str, Field(max_length=300)] = ""
