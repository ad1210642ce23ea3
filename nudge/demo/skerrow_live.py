"""The visit under way on a simulated system: the community radio room's transmitter split.

Two things are wrong with it, and air comes first: a filter nobody knew of, and a charge that
is a fifth short. It has run for twelve minutes when the demo begins.
"""

from datetime import datetime, timedelta
from typing import Protocol

from nudge.plant.faults import Present
from nudge.plant.room import Weather
from nudge.services.instruments import Instruments
from nudge.services.stream import Stream
from nudge.services.visits import Visits
from nudge.services.yard import Yard
from nudge.store.database import Database

VISIT_ID = "radio-room-live"
SYSTEM_ID = "radio-transmitter"
STANDING_MINUTES, RUNNING_MINUTES = 2.0, 12.0


class LiveClock(Protocol):
    """A clock that can be set back, to write a past."""

    now: datetime

    def __call__(self) -> datetime: ...


def set_up_live(database: Database, clock: LiveClock, visits: Visits) -> None:
    """Open the visit, let its system stand and run up to the clock's present, and leave it on."""
    instruments = Instruments(database, clock, Stream(database))
    yard = Yard(database, clock, visits, instruments)
    today = clock.now
    clock.now = today - timedelta(minutes=STANDING_MINUTES + RUNNING_MINUTES)
    visits.open(VISIT_ID, SYSTEM_ID, "Warm since Tuesday; the transmitter keeps tripping.")
    yard.set_up(
        VISIT_ID,
        "split-3-410-valve",
        (Present("filter_dirty", 0.55), Present("undercharge", 0.42)),
        Weather(32.0, 3.0, 48.0, start_hour=14.5),
        (26.5, 52.0),
        seed=11,
    )
    _until(yard, clock, STANDING_MINUTES)
    yard.work(VISIT_ID, f"{VISIT_ID}-start", "start_system")
    _until(yard, clock, RUNNING_MINUTES)
    clock.now = today
    visits.amend(VISIT_ID, lambda *_: None)  # judged as it stands, for Today to show


def _until(yard: Yard, clock: LiveClock, minutes: float) -> None:
    """Play on to the clock's own future, so that what is written then bears that time."""
    began = clock.now
    clock.now = began + timedelta(minutes=minutes)
    yard.play(VISIT_ID, minutes)
