"""Puts the Skerrow data into an empty database, through the same services a person uses.

Nothing here writes a verdict: readings go in as call-outs and the judge says what it says.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory

from nudge.core.charging.ledger import MG_PER_KG
from nudge.core.language.units import G_PER_OZ, Quantity, atmospheric_kpa, from_si, to_si
from nudge.core.physics.refrigerant.table import load_table
from nudge.demo.skerrow_live import set_up_live
from nudge.demo.skerrow_opened import set_up_opened
from nudge.demo.skerrow_other_plant import OTHER_PLANT_NOW
from nudge.demo.skerrow_repairs import set_up_repairs
from nudge.demo.skerrow_shelf import (
    BOUGHT_DAYS_AGO,
    CARRIED_FOR_DAYS,
    CYLINDER_OF,
    CYLINDERS,
    INSTRUMENTS,
    RECOVERY_MARKS,
    WEIGHED,
)
from nudge.demo.skerrow_story import CARD, SITES, SYSTEMS, VISITS, PlannedVisit, Readings
from nudge.demo.skerrow_winter import set_up_winter
from nudge.demo.skerrow_years import live_through
from nudge.demo.skerrow_zones import set_up_zones
from nudge.services.book import Book
from nudge.services.clock import system_clock
from nudge.services.instruments import Instruments
from nudge.services.register import Register, Sheet
from nudge.services.shelf import Shelf
from nudge.services.stream import Stream
from nudge.services.visits import Visits
from nudge.services.work_order import Work
from nudge.services.workshop_card import WorkshopCard
from nudge.services.yard import Yard
from nudge.store.copies import named, put_back
from nudge.store.database import BACKUPS, FILE, Database
from nudge.store.tables import System


@dataclass
class _SetClock:
    """A clock the story sets."""

    now: datetime

    def __call__(self) -> datetime:
        return self.now


def fill_folder(folder: Path) -> bool:
    """Give a data folder without sites the Skerrow data, all of it or none; whether it did.

    It is written beside the database and takes its place when it is complete: a start that is cut
    short leaves nothing half done. Raises: CannotOpen, for a folder that cannot be used.
    """
    if (folder / FILE).exists():
        database = Database(folder)
        has_sites = bool(Book(database, system_clock).sites())
        database.close()
        if has_sites:
            return False
    with TemporaryDirectory(prefix=".demo-", dir=folder) as beside:
        database = Database(Path(beside))
        fill_if_empty(database)
        database.close()
        aside = named("before-demo", system_clock(), "%Y-%m-%d-%H%M%S")
        put_back(Path(beside) / FILE, folder / FILE, folder / BACKUPS / aside)
    return True


def fill_if_empty(database: Database, now: datetime | None = None) -> bool:
    """Write the Skerrow data if there are no sites yet; answers whether it did."""
    clock = _SetClock(now or system_clock())
    book, visits = Book(database, clock), Visits(database, clock)
    if book.sites():
        return False
    today = clock.now
    WorkshopCard(database, clock).write(CARD)
    register_instruments(Register(database, clock), clock, today)
    for site_id, name in SITES:
        book.add_site(site_id, name)
    for row in SYSTEMS:
        book.add_system(row.id, row.site_id, row.fields())
        for kind, text in row.charts:
            book.set_chart(row.id, f"{row.id}-{kind}", kind, text, "ip")
    yard = Yard(database, clock, visits, Instruments(database, clock, Stream(database)))
    shelf = Shelf(database, clock, visits, yard)
    clock.now = today - timedelta(days=BOUGHT_DAYS_AGO)
    for cylinder in CYLINDERS:
        shelf.add(*cylinder)
    shelf.mark("shelf-recovery", RECOVERY_MARKS)
    clock.now = today
    live_through(database, clock, visits)
    for visit in (*VISITS, *OTHER_PLANT_NOW):
        _play(visit, book, visits, Work(database, clock, visits), shelf, clock, today)
    for days_ago, cylinder_id, drop_kg in WEIGHED:
        clock.now = today - timedelta(days=days_ago)
        found = shelf.one(cylinder_id)
        gross = (found.cylinder.tare_mg + found.held_mg) / MG_PER_KG - drop_kg
        shelf.weigh(f"{cylinder_id}-{days_ago}", cylinder_id, gross, sure=True)
    clock.now = today
    set_up_live(database, clock, visits)
    set_up_opened(database, clock, visits)
    set_up_repairs(database, clock, visits)
    set_up_winter(database, clock, visits)
    set_up_zones(database, clock, visits)
    return True


def register_instruments(register: Register, clock: _SetClock, today: datetime) -> None:
    """What the workshop carries since before its first visit; its humidity probe is out of
    calibration, its gauges were zeroed this morning.
    """
    clock.now = today - timedelta(days=CARRIED_FOR_DAYS)
    for key, name, sort, fixed, until_days, hose_days in INSTRUMENTS:
        hoses = None if hose_days is None else today.date() - timedelta(days=hose_days)
        until = today.date() + timedelta(days=until_days)
        register.add(key, name, sort, Sheet(fixed, None, until, hoses))
    clock.now = today - timedelta(hours=2)
    register.zeroed("reg-gauges")
    clock.now = today


def _play(
    story: PlannedVisit,
    book: Book,
    visits: Visits,
    work: Work,
    shelf: Shelf,
    clock: _SetClock,
    today: datetime,
) -> None:
    if story.due_in_days is not None:
        clock.now = today - timedelta(days=30)
        due_on = (today + timedelta(days=story.due_in_days)).date()
        visits.open(story.id, story.system_id, story.complaint, due_on)
        return
    began = today - timedelta(days=story.days_ago, minutes=story.minutes_ago)
    clock.now = began
    visits.open(story.id, story.system_id, story.complaint)
    if story.kind:
        work.set_kind(story.id, story.kind)
    for number, step in enumerate(story.steps):
        clock.now = began + timedelta(minutes=step.minute)
        step_id = f"{story.id}-{number}"
        if step.event == "refrigerant_added":
            cylinder = CYLINDER_OF[book.system(story.system_id).system.refrigerant]
            kg = step.ounces * G_PER_OZ / 1000
            shelf.dose(story.id, step_id, cylinder, kg, removes=False)
        elif step.event is not None:
            visits.happened(story.id, step_id, step.event, clock.now)
        for place, seen in enumerate(step.seen):
            visits.observe(story.id, f"{step_id}-{place}", seen, True)
        line = step.said
        if step.readings is not None:
            line = call_out(book.system(story.system_id).system, step.readings)
        if line:
            visits.hear(story.id, step_id, line, step.units, clock.now)
    if story.closed:
        visits.close(story.id)


def call_out(system: System, readings: Readings) -> str:
    """The line a technician would shout for these saturations, superheat and subcooling."""
    table = load_table(system.refrigerant)
    dew_c = to_si(readings.evaporator_f, Quantity.TEMPERATURE, "ip")
    bubble_c = to_si(readings.condenser_f, Quantity.TEMPERATURE, "ip")
    atmosphere = atmospheric_kpa(system.elevation_m)
    suction, liquid = (
        from_si(kpa - atmosphere, Quantity.PRESSURE, "ip")
        for kpa in (table.dew.pressure(dew_c), table.bubble.pressure(bubble_c))
    )
    spoken = {
        "suct": f"{suction:.0f}",
        "liq": f"{liquid:.0f}",
        "sl": f"{readings.evaporator_f + readings.superheat_f:.1f}",
        "ll": f"{readings.condenser_f - readings.subcooling_f:.1f}",
        **{name: f"{value:g}" for name, value in readings.air},
    }
    return " ".join(f"{name} {value}" for name, value in spoken.items())
