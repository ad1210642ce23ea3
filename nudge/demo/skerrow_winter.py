"""Heat pumps in their winter, both at the school.

The lodge's was checked through last winter, its blower slowed on purpose; a new baseline was kept
in summer. Today it heats as it should, and the superheat at its compressor reads nothing.
The hall's stands simulated, on emergency heat: a second filter sits in its path, and nobody set its
lockouts; its control remembers what made somebody choose so.
"""

from datetime import datetime, timedelta

from nudge.demo.skerrow_live import LiveClock
from nudge.plant.defrost import DefrostBoard
from nudge.plant.faults import Present
from nudge.plant.room import Weather
from nudge.plant.thermostat import Remembered, Thermostat
from nudge.services.instruments import Instruments
from nudge.services.stream import Stream
from nudge.services.system_records import SystemRecords
from nudge.services.visits import Visits
from nudge.services.work_order import Work
from nudge.services.yard import Yard
from nudge.services.yard_called import DAY_S
from nudge.services.yard_work import Winter
from nudge.store.database import Database

SYSTEM_ID, VISIT_ID = "school-lodge", "school-lodge-now"
HALL_ID, HALL_VISIT_ID = "school-hall", "school-hall-live"
HALL_HAS_RUN, PLAYED = 36.0, 2.0
RAN_MINUTES = 38
LAST_WINTER: tuple[tuple[int, str], ...] = (
    (345, "ra 69 rh 36 sa 87.5 oa 34 cfm 1340 ow 2490 iw 430 suct 92 liq 309 ts 38 ll 84.5"),
    (318, "ra 68 rh 34 sa 84.7 oa 22 cfm 1340 ow 2350 iw 430 suct 71 liq 288 ts 23 ll 80.5"),
    (276, "ra 70 rh 38 sa 94.7 oa 48 cfm 1340 ow 2680 iw 435 suct 117 liq 346 ts 54 ll 90.5"),
)
"""How many days ago, and what was called out, half an hour in."""
BASELINE_AGO, SLOWED_AGO, SUMMER_AGO = 345, 276, 160
"""Days ago: last winter's baseline, the blower slowed, the summer's baseline with it so."""
TODAY = "ra 69 rh 37 sa 92 oa 37 cfm 1180 ow 2560 iw 342 suct 97 liq 325 ts 31.2 ll 87"


def set_up_winter(database: Database, clock: LiveClock, visits: Visits) -> None:
    """Last winter's heating checks, closed, and the one under way."""
    order, today = Work(database, clock, visits), clock.now
    records = SystemRecords(database, clock, visits)
    for days_ago, line in LAST_WINTER:
        visit_id = f"{SYSTEM_ID}-{days_ago}"
        _checked(order, visits, clock, visit_id, line, today - timedelta(days=days_ago))
        if days_ago == BASELINE_AGO:
            records.keep_baseline(visit_id, f"{visit_id}-baseline")
        if days_ago == SLOWED_AGO:
            why = "The grilles howled: one step slower, agreed with the school."
            records.intend(visit_id, f"{visit_id}-slowed", "blower_slowed", why)
        visits.close(visit_id)
    clock.now = today - timedelta(days=SUMMER_AGO)
    records.settle_deferred(f"{SYSTEM_ID}-{SLOWED_AGO}-slowed:baseline", True)
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
        around=Winter(
            DefrostBoard("time"),
            Thermostat("test", 21.5, 21.5, (4.8, 4.8)),  # put there when it was met
            (
                Remembered("high_pressure", -6.2 * DAY_S),
                Remembered("high_pressure", -6.1 * DAY_S),
                Remembered("emergency", -6 * DAY_S),
                Remembered("strips_long", -2 * DAY_S),
            ),
        ),
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
