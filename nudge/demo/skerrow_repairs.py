"""Three circuits to be opened and closed up again, each played to its end on a simulated system.

A compressor to swap, in a circuit with eight grams of water; a valve that has shut for good; a new
inverter on its line set.
"""

from datetime import timedelta

from nudge.demo.skerrow_live import LiveClock
from nudge.plant.faults import Present
from nudge.plant.room import Weather
from nudge.services.instruments import Instruments
from nudge.services.stream import Stream
from nudge.services.visits import Visits
from nudge.services.work_order import Work
from nudge.services.yard import Yard
from nudge.store.database import Database

BEGAN_BEFORE = timedelta(minutes=25)
EIGHT_GRAMS = 0.4
"""Of a wet circuit's twenty."""
_SUMMER, _ROOM = Weather(28.0, 0.5, 50.0, start_hour=10.0), (25.0, 50.0)
REPAIRS = (
    ("compressor-live", "lighthouse-office", "Hums and trips its breaker.", "repair",
     "split-3-410-valve",
     (Present("compressor_worn", 0.9), Present("undercharge", 0.68),
      Present("wet_circuit", EIGHT_GRAMS)), 31),
    ("valve-live", "school-washup", "No cold air since the weekend.", "repair",
     "split-3-410-valve", (Present("valve_shut", 1.0),), 37),
    ("inverter-live", "clinic-pharmacy", "New machine, to be started.", "new_installation",
     "inverter-3-410", (), 41),
)  # fmt: skip
"""Visit, system, complaint, kind of call, plant, what is wrong with it, seed."""


def set_up_repairs(database: Database, clock: LiveClock, visits: Visits) -> None:
    """Open the three visits, their systems standing."""
    yard = Yard(database, clock, visits, Instruments(database, clock, Stream(database)))
    work = Work(database, clock, visits)
    today = clock.now
    for number, (visit_id, system_id, complaint, kind, plant, faults, seed) in enumerate(REPAIRS):
        clock.now = today - BEGAN_BEFORE - number * BEGAN_BEFORE
        visits.open(visit_id, system_id, complaint)
        yard.set_up(
            visit_id, plant, faults, _SUMMER, _ROOM, seed, opened=kind == "new_installation"
        )
        work.set_kind(visit_id, kind)
        yard.play(visit_id, 2.0)
    clock.now = today
