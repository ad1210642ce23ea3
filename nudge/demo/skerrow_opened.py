"""A circuit that was open: the village hall's kitchen split, its valve renewed this morning.

A flare at the outdoor unit leaked under nitrogen and was made anew; it held, was evacuated, and
has stood isolated for a quarter of an hour when the demo begins.
"""

from datetime import timedelta

from nudge.demo.skerrow_live import LiveClock
from nudge.plant.faults import Present
from nudge.plant.room import Weather
from nudge.services.instruments import Instruments
from nudge.services.stream import Stream
from nudge.services.timed_tests import TimedTests
from nudge.services.visits import Visits
from nudge.services.work_order import Work
from nudge.services.yard import Yard
from nudge.store.database import Database

VISIT_ID, SYSTEM_ID = "kitchen-valve-live", "ferry-hall-kitchen"
LEAKS_MIN, HOLDS_MIN, PUMPS_MIN, STANDS_MIN = 8.0, 17.0, 22.0, 14.0
BETWEEN_MIN = 2.0


def set_up_opened(database: Database, clock: LiveClock, visits: Visits) -> None:
    """Play the morning up to the clock's present, and leave the decay under way."""
    story = _Story(database, clock, visits)
    today = clock.now
    whole = LEAKS_MIN + HOLDS_MIN + PUMPS_MIN + STANDS_MIN + 7 * BETWEEN_MIN
    clock.now = today - timedelta(minutes=whole)
    visits.open(VISIT_ID, SYSTEM_ID, "Valve renewed; commission it again.")
    story.yard.set_up(
        VISIT_ID,
        "split-3-410-valve",
        (Present("valve_shut", 1.0), Present("joint_leak", 0.5)),
        Weather(22.0, 0.5, 50.0, start_hour=9.0),
        (22.0, 50.0),
        seed=23,
    )
    Work(database, clock, visits).set_kind(VISIT_ID, "commissioning")
    story.do("recover_all", "open_circuit", "raise_nitrogen")
    first = story.begin("nitrogen", {"gas": "nitrogen", "litres": 11.0})
    story.play(LEAKS_MIN)
    story.tests.mark(VISIT_ID, first, f"{first}-bubbles", "joint_bubbles", "outdoor_vapour")
    story.end(first)
    story.do("release_nitrogen", "mend_joint", "raise_nitrogen")
    second = story.begin("nitrogen", {"gas": "nitrogen", "litres": 11.0})
    story.play(HOLDS_MIN)
    story.tests.mark(VISIT_ID, second, f"{second}-dry", "joints_dry")
    story.end(second)
    story.do("release_nitrogen", "open_pump")
    pumps = story.begin("evacuation", {"hose": "3/8", "cores": "out", "gauge": "system"})
    story.play(PUMPS_MIN)
    story.end(pumps)
    story.do("shut_pump")
    story.begin("decay", {"gauge": "system", "oil": "used", "litres": 11.0})
    story.play(max((today - clock.now).total_seconds() / 60, 1.0))
    clock.now = today
    visits.amend(VISIT_ID, lambda *_: None)


class _Story:
    def __init__(self, database: Database, clock: LiveClock, visits: Visits) -> None:
        self.clock = clock
        instruments = Instruments(database, clock, Stream(database))
        self.yard = Yard(database, clock, visits, instruments)
        self.tests = TimedTests(database, clock, visits)
        self.number = 0

    def do(self, *jobs: str) -> None:
        """Jobs one after the other, a little time between them."""
        for job in jobs:
            self.number += 1
            self.play(BETWEEN_MIN / len(jobs))
            self.yard.work(VISIT_ID, f"{VISIT_ID}-{self.number}", job)

    def begin(self, key: str, settings: dict[str, float | str]) -> str:
        self.number += 1
        run_id = f"{VISIT_ID}-test-{self.number}"
        self.tests.begin(VISIT_ID, run_id, key, settings)
        return run_id

    def end(self, run_id: str) -> None:
        self.tests.end(VISIT_ID, run_id, f"{run_id}-end")

    def play(self, minutes: float) -> None:
        self.clock.now += timedelta(minutes=minutes)
        self.yard.play(VISIT_ID, minutes, every_s=4.0)
