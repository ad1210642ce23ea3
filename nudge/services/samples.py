"""What an instrument sent: understood, refused, and how wrong its clock is."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from nudge.core.language.callout.spoken_units import unit_said
from nudge.core.language.errors import CoreError
from nudge.core.language.units import UnitSystem, to_si
from nudge.core.language.vocabulary.points import check_believable, point

CLOCK_SKEW = timedelta(minutes=2)


OLDEST = timedelta(hours=36)


@dataclass(frozen=True, slots=True)
class Given:
    """One value as an instrument sent it. Without `unit`, in the units of the request."""

    channel: str
    point: str
    value: float
    at: datetime | None = None
    unit: str = ""
    label: str = ""


@dataclass(frozen=True, slots=True)
class Refused:
    """One value that was not taken, and why."""

    number: int
    error: CoreError


@dataclass(frozen=True, slots=True)
class Taken:
    """What became of a batch."""

    kept: int
    repeated: int
    refused: tuple[Refused, ...]
    clock_moved_s: float
    """How far the device's clock was set right; 0 when it was."""


def understood(
    given: Sequence[Given], units: UnitSystem, now: datetime
) -> tuple[list[tuple[Given, float, datetime]], list[Refused]]:
    """Values in core units with their moments, and those that cannot be."""
    values, refused = [], []
    for number, row in enumerate(given):
        try:
            where = point(row.point)
            if row.unit:
                value = unit_said(row.unit, where.quantity).to_si(row.value)
            else:
                value = to_si(row.value, where.quantity, units)
            check_believable(where, value)
        except CoreError as error:
            refused.append(Refused(number, error))
            continue
        values.append((row, value, row.at or now))
    return values, refused


def clock_error(values: Sequence[tuple[Given, float, datetime]], now: datetime) -> timedelta:
    """How far to move a batch whose device's clock is wrong: so that it ends now."""
    newest = max((at for _, _, at in values), default=now)
    if newest > now + CLOCK_SKEW or newest < now - OLDEST:
        return now - newest
    return timedelta()
