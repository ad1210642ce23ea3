"""Readings as instruments send them, and where each instrument sits."""

from collections.abc import Sequence
from typing import Annotated

from pydantic import BaseModel, Field

from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict, YesNo
from nudge.core.language.units import UnitSystem
from nudge.presenters.book import Id, Text
from nudge.presenters.errors import ErrorOut, core_errors
from nudge.presenters.live import MOST_READINGS
from nudge.presenters.moments import Moment
from nudge.services.samples import Given, Taken
from nudge.services.workshop import Workshop


class ReadingIn(Strict):
    """One value as a device gives it. `unit` (psi, kPa, F, C …) or the units of the request."""

    channel: Id
    point: Name
    value: Number
    at: Moment | None = None
    unit: Annotated[str, Field(strict=True, max_length=20)] = ""
    label: Annotated[str, Field(strict=True, max_length=60)] = ""

    def to_given(self) -> Given:
        return Given(self.channel, self.point, self.value, self.at, self.unit, self.label)


class ReadingsIn(Strict):
    """A batch. Its id makes it safe to send again; so does each channel and moment."""

    id: Id
    readings: Annotated[list[ReadingIn], Field(min_length=1, max_length=MOST_READINGS)]


class OneReadingIn(ReadingIn):
    """A single reading with its own id, for the smallest scripts."""

    id: Id


class RefusedOut(BaseModel):
    """A reading that was not taken: its place in the batch, and why."""

    number: int
    errors: list[ErrorOut]


class TakenOut(BaseModel):
    """What became of a batch. `clock_moved` [s] is how far the device's clock was set right."""

    kept: int
    repeated: int
    refused: list[RefusedOut]
    clock_moved: float


def taken_out(taken: Taken, units: UnitSystem) -> TakenOut:
    return TakenOut(
        kept=taken.kept,
        repeated=taken.repeated,
        refused=[
            RefusedOut(number=row.number, errors=core_errors(row.error, units))
            for row in taken.refused
        ],
        clock_moved=round(taken.clock_moved_s, 1),
    )


class PlacementIn(Strict):
    """Put an instrument on a point, or take it off ("")."""

    id: Id
    channel: Id
    point: Annotated[str, Field(strict=True, max_length=60)]


class SwapIn(Strict):
    id: Id
    one: Id
    other: Id


class ChannelIn(Strict):
    id: Id
    channel: Id


class IgnoreIn(ChannelIn):
    ignored: YesNo


class KeepIn(Strict):
    """Keep what the instruments say as readings; `reason`, to judge before it has settled."""

    id: Id
    reason: Text = ""


class ChannelPoints:
    """Which point each channel measures, looked up again when a placement says so."""

    def __init__(self, workshop: Workshop, visit_id: str) -> None:
        self._workshop, self._visit_id = workshop, visit_id
        self._known: dict[str, str] = {}

    def of(self, channels: Sequence[str]) -> dict[str, str]:
        if any(channel not in self._known for channel in channels):
            self.forget()
        return self._known

    def forget(self) -> None:
        self._known = self._workshop.instruments.points(self._visit_id)
