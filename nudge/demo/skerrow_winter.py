"""Heat pumps in their winter, both at the school.

The lodge's was checked through last winter and again today: it heats as it should, and the
superheat at its compressor reads nothing. The hall's stands simulated, on emergency heat: a second
filter sits in its path, and nobody set its lockouts.
"""

from datetime import datetime, timedelta

from nudge.demo.skerrow_live import LiveClock
from nudge.plant.defrost import DefrostBoard
from nudge.plant.faults import Present
from nudge.plant.room import Weather
from nudge.services.instruments import Instruments
from nudge.services.stream import Stream
from nudge.services.visits import Visits
from nudge.services.work_order import Work
from nudge.services.yard import Yard
from nudge.store.database import Database

SYSTEM_ID, VISIT_ID = "school-lodge", "school-lodge-now"
HALL_ID, HALL_VISIT_ID = "school-hall", "school-hall-live"
HALL_HAS_RUN, PLAYED = 36.0, 2.0
RAN_MINUTES = 38
LAST_WINTER: tuple[tuple[int, str], ...] = (
    (345, "ra 69 rh 36 sa 90 oa 34 cfm 1180 ow 2520 iw 340 suct 92 liq 318 ts 38 ll 86"),
    (318, "ra 68 rh 34 sa 87 oa 22 cfm 1180 ow 2380 iw 340 suct 71 liq 296 ts 23 ll 82"),
    (276, "ra 70 rh 38 sa 98 oa 48 cfm 1180 ow 2710 iw 345 suct 117 liq 356 ts 54 ll 92"),
)
"""How many days ago, and what was called out, half an hour in."""
TODAY = "ra 69 rh 37 sa 92 oa 37 cfm 1180 ow 2560 iw 342 suct 97 liq 325 ts 31.2 ll 87"


def set_up_winter(database: Database, clock: LiveClock, visits: Visits) -> None:
    """Last winter's heating checks, closed, and the one under way."""
    order, today = Work(database, clock, visits), clock.now
    for days_ago, line in LAST_WINTER:
        visit_id = f"{SYSTEM_ID}-{days_ago}"
        _checked(order, visits, clock, visit_id, line, today - timedelta(days=days_ago))
        visits.close(visit_id)
    clock.now = today - timedelta(minutes=RAN_MINUTES + 1)
    _checked(order, visits, clock, VISIT_ID, TODAY, clock.now)
    clock.now = today
    _on_emergency_heat(database, clock, visits)


def _on_emergency_heat(database: Database, clock: LiveClock, visits: Visits) -> None:
    """The hall's heat pump, met while it heats: its visit under way, its readings coming in."""
    yard = Yard(database, clock, visits, Instruments(database, clock, Stream(database)))
    order, today = Work(database, clock, visits), clock.now
    clock.now = today - timedelta(minutes=HALL_HAS_RUN + PLAYED + 1)
    visits.open(HALL_VISIT_ID, HALL_ID, "On emergency heat; the bill doubled.")
    order.set_kind(HALL_VISIT_ID, "no_heat")
    clock.now = today - timedelta(minutes=HALL_HAS_RUN + PLAYED)
    visits.happened(HALL_VISIT_ID, f"{HALL_VISIT_ID}-start", "system_started", clock.now)
    clock.now = today - timedelta(minutes=PLAYED)
    yard.set_up(
        HALL_VISIT_ID,
        "heat-pump-25-454b",
        (Present("second_filter", 0.7),),
        Weather(2.5, 1.0, 78.0),
        (19.5, 38.0),
        seed=23,
        board=DefrostBoard("time"),
        has_run_minutes=HALL_HAS_RUN,
    )
    clock.now = today
    yard.play(HALL_VISIT_ID, PLAYED)
    visits.amend(HALL_VISIT_ID, lambda *_: None)  # judged as it stands, for Today to show


def _checked(
    order: Work, visits: Visits, clock: LiveClock, visit_id: str, line: str, began: datetime
) -> None:
    clock.now = began
    visits.open(visit_id, SYSTEM_ID, "Half-yearly check, heating")
    order.set_kind(visit_id, "heating_check")
    visits.happened(visit_id, f"{visit_id}-start", "system_started", clock.now)
    clock.now = began + timedelta(minutes=RAN_MINUTES)
    visits.hear(visit_id, f"{visit_id}-read", line, "ip", clock.now)
