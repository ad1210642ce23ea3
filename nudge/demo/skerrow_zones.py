"""Two plants with many rooms: the seed library's, short of charge on a hot week, and the school's,
with one valve that has lost its steps. Their logs are files, made by `tools.make_zone_logs`.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import timedelta
from pathlib import Path

from nudge.core.physics.circuit.tubes import LiquidPipe
from nudge.core.physics.zones.parts import IndoorUnit, Parts, parts_of
from nudge.demo.skerrow_live import LiveClock
from nudge.services.visits import Visits
from nudge.services.work_order import Work
from nudge.services.zones import Zones
from nudge.store.database import Database

LOGS = Path(__file__).parent / "logs"
REFRIGERANT = "R-410A"


@dataclass(frozen=True, slots=True)
class PlannedPlant:
    """A plant by its rooms (key, name, kW, pipe and height in m) and the visit that meets it."""

    system_id: str
    visit_id: str
    complaint: str
    file: str
    kw: float
    rooms: tuple[tuple[str, str, float, float, float], ...]
    pipes: tuple[tuple[float, float], ...]
    """Its liquid pipes: outside size [mm] and length together [m]."""
    boxes: Mapping[str, str] = field(default_factory=dict)
    """Its branch boxes, by the storey they hang on."""
    hours_ago: float = 1.0
    """Since its log ended."""
    well: tuple[str, str, int] | None = None
    """An earlier visit at which nothing stood out, its log, and how many days ago that was."""

    @property
    def parts(self) -> Parts:
        rooms = [
            IndoorUnit(
                key,
                name,
                kw * 1000,
                lift,
                length,
                storey=int(key.partition(".")[0]),
                ports=2 if kw > 7.0 else 1,
                group=self.boxes.get(key.partition(".")[0], ""),
            )
            for key, name, kw, length, lift in self.rooms
        ]
        return parts_of(
            REFRIGERANT,
            rooms,
            [LiquidPipe(size, length) for size, length in self.pipes],
            capacity_w=self.kw * 1000,
        )


LIBRARY = PlannedPlant(
    "seed-library-tower",
    "seed-library-hot-week",
    "Warm on every storey since the hot week",
    "seed-library.csv",
    44.0,
    (
        ("6.1", "Drying loft", 4.5, 18.0, -3.3),
        ("6.2", "Germination", 3.6, 24.0, -3.3),
        ("5.1", "Reading room", 7.1, 22.0, -6.6),
        ("5.2", "Catalogue", 3.6, 28.0, -6.6),
        ("4.1", "Herbarium", 5.6, 26.0, -9.9),
        ("4.2", "Mounting", 2.8, 33.0, -9.9),
        ("3.1", "Sorting hall", 7.1, 30.0, -13.2),
        ("2.1", "Office", 2.8, 36.0, -16.5),
        ("2.2", "Lecture", 4.5, 40.0, -16.5),
        ("1.1", "Lobby", 5.6, 38.0, -19.8),
        ("1.2", "Exchange desk", 2.8, 44.0, -19.8),
    ),
    ((15.875, 22.0), (9.525, 41.0), (6.35, 52.0)),
    well=("seed-library-in-june", "seed-library-in-june.csv", 41),
)
SCHOOL = PlannedPlant(
    "school-classrooms",
    "school-room-behind",
    "The music room never gets cool",
    "school.csv",
    24.0,
    (
        ("2.1", "Drawing", 3.6, 18.0, -3.3),
        ("2.2", "Music", 3.6, 22.0, -3.3),
        ("2.3", "Library corner", 2.8, 27.0, -3.3),
        ("1.1", "Canteen", 7.1, 20.0, -6.6),
        ("1.2", "First form", 3.6, 25.0, -6.6),
        ("1.3", "Staff", 2.2, 31.0, -6.6),
    ),
    ((12.7, 14.0), (9.525, 20.0), (6.35, 30.0)),
    {"2": "A", "1": "B"},
)
PLANTS = (LIBRARY, SCHOOL)


def set_up_zones(database: Database, clock: LiveClock, visits: Visits) -> None:
    """A visit under way at each plant, its log read."""
    zones, order, today = Zones(database, clock), Work(database, clock, visits), clock.now
    for plant in PLANTS:
        if plant.well is not None:
            visit_id, file, days = plant.well
            clock.now = today - timedelta(days=days)
            visits.open(visit_id, plant.system_id, "Looked over before summer")
            order.set_kind(visit_id, "multi_zone_log")
            zones.keep_file(visit_id, LOGS / file, plant.parts, clock.now.timestamp())
            clock.now += timedelta(minutes=30)
            visits.amend(visit_id, lambda *_: None)
            visits.close(visit_id)
        clock.now = today - timedelta(minutes=25)
        visits.open(plant.visit_id, plant.system_id, plant.complaint)
        order.set_kind(plant.visit_id, "multi_zone_log")
        clock.now = today
        ends = (today - timedelta(hours=plant.hours_ago)).timestamp()
        zones.keep_file(plant.visit_id, LOGS / plant.file, plant.parts, ends)
        visits.amend(plant.visit_id, lambda *_: None)  # judged as it stands, for Today to show
