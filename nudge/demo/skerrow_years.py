"""Two years of visits worth looking back on, read off the simulated plant: one system that loses
its charge slowly, one whose outdoor coil fouled, one whose blower was slowed on purpose.

Every number comes from the plant in that day's weather; the judge and the book say what they say.
"""

import io
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import cache
from typing import Protocol

from nudge.core.language.units import decimals, degrees_f, from_si
from nudge.core.language.vocabulary.points import POINTS
from nudge.plant.faults import Present, spoiled
from nudge.plant.machine import Conditions, Machine
from nudge.plant.presets import TON_KW, preset
from nudge.plant.sizing import sized
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of
from nudge.services.photos import Photos
from nudge.services.system_records import SystemRecords
from nudge.services.visits import Visits
from nudge.services.work_order import Work
from nudge.store.database import Database

READ = (
    "suction_pressure",
    "liquid_pressure",
    "suction_line_temp",
    "liquid_line_temp",
    "discharge_line_temp",
    "outdoor_air_temp",
    "return_air_temp",
    "return_air_wet_bulb",
    "supply_air_temp",
    "total_external_static",
)
SEEN = ("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
PUT_BACK = (
    "zeroed",
    "clamps",
    "ports",
    "caps",
    "panels",
    "disconnect",
    "thermostat_back",
    "drain_runs",
    "tools",
    "said",
)
STARTED, LOOKED, READ_AT = 3, 9, 27


class SetClock(Protocol):
    """A clock that can be set back, to write a past."""

    now: datetime

    def __call__(self) -> datetime: ...


@dataclass(frozen=True)
class YearKind:
    """Which machine a system of Skerrow is."""

    preset: str
    tons: float
    subcooling_f: float


MACHINES: Mapping[str, YearKind] = {
    "lighthouse-lamp": YearKind("split-3-410-valve", 1.5, 9),
    "net-loft-heat-pump": YearKind("heat-pump-25-454b", 2.5, 11),
    "school-lodge": YearKind("split-3-410-valve", 3, 10),
    "seed-library-stacks": YearKind("split-3-410-valve", 3, 10),
}


@dataclass(frozen=True)
class Day:
    """One visit: the weather and the house, what had become of the system, what was done."""

    id: str
    system_id: str
    complaint: str
    days_ago: int
    kind: str
    outdoor_c: float = 30.0
    indoor: tuple[float, float] = (25.0, 51.0)
    charge: float = 1.0
    air: float = 1.0
    faults: tuple[Present, ...] = ()
    seen: tuple[str, ...] = SEEN
    said: str = ""
    """A line by temperatures alone, in place of the plant's."""
    washed: bool = False
    baseline: bool = False
    notes: tuple[tuple[str, str], ...] = ()
    deferred: tuple[str, str] = ("", "")
    settles: str = ""
    """The visit whose open item is done now."""
    intended: tuple[str, str] = ("", "")
    capacitor: tuple[float, float] | None = None
    written_kg: float | None = None
    picture: str = ""


DAYS: tuple[Day, ...] = (
    Day("lighthouse-1", "lighthouse-lamp", "Commissioned", 725, "commissioning", 29.5,
        (25.4, 52.0), baseline=True, capacitor=(35, 35.2), written_kg=2.72,
        notes=(("outdoor", "Stands on the gallery, in the salt. Flare nuts turned to the mark."),)),
    Day("lighthouse-2", "lighthouse-lamp", "Half-yearly check", 556, "yearly_check", 26.5,
        (24.4, 55.0), charge=0.985),
    Day("lighthouse-3", "lighthouse-lamp", "Yearly check", 372, "yearly_check", 32.0, (25.8, 49.0),
        charge=0.955, capacitor=(35, 34.6)),
    Day("lighthouse-4", "lighthouse-lamp", "Winter look", 258, "cold_charge_check",
        seen=("filter_clean",), said="oa 44 ra 69 sa 61",
        deferred=("Judge the charge again", "over_70"),
        notes=(("refrigerant", "Too cold to judge. A dark ring at the suction flare: oil?"),)),
    Day("lighthouse-5", "lighthouse-lamp", "Yearly check", 31, "yearly_check", 30.5, (25.0, 50.0),
        charge=0.90, notes=(("refrigerant", "Bubbles at the suction flare, slow ones."),),
        settles="lighthouse-4", deferred=("Renew the suction flare and pressure-test", "parts"),
        picture="flare"),
    Day("lodge-summer", "school-lodge", "Half-yearly check, cooling", 160, "yearly_check", 29.0,
        (25.0, 50.0), baseline=True,
        notes=(("indoor", "Blower one step slower since the winter: read anew and kept."),)),
    Day("net-loft-1", "net-loft-heat-pump", "Commissioned", 340, "commissioning", 30.0,
        (25.2, 50.0), baseline=True, written_kg=2.95),
    Day("net-loft-2", "net-loft-heat-pump", "Half-yearly check", 168, "yearly_check", 27.0,
        (24.6, 53.0), faults=(Present("condenser_dirt", 0.15),)),
    Day("net-loft-3", "net-loft-heat-pump", "Loud outside, warm inside", 40, "cooling_complaint",
        32.0, (26.0, 50.0), faults=(Present("condenser_dirt", 0.55),), washed=True,
        seen=("filter_clean", "evaporator_coil_clean", "condenser_coil_dirty", "condenser_fan_ok"),
        notes=(("outdoor", "Net fluff packed into the fins, sea side."),), picture="coil"),
    Day("seed-library-0", "seed-library-stacks", "Yearly check", 718, "yearly_check", 31.0,
        (25.0, 50.0), baseline=True, capacitor=(45, 44.8)),
    Day("seed-library-1", "seed-library-stacks", "Yearly check", 364, "yearly_check", 33.0,
        (25.4, 49.0), capacitor=(45, 43.9)),
    Day("seed-library-2", "seed-library-stacks", "Too dry for the seeds", 122, "cooling_complaint",
        28.5, (24.8, 47.0), air=0.88, intended=("blower_slowed", "Drier air for the seed store."),
        deferred=("Look at the humidity of the stacks again", "cooling")),
)  # fmt: skip


@cache
def machine_of(system_id: str) -> Machine:
    """The machine of a system, charged to what its plate asks for."""
    kind = MACHINES[system_id]
    rating = preset(kind.preset).rating
    return sized(
        replace(rating, nominal_kw=kind.tons * TON_KW, subcooling_k=degrees_f(kind.subcooling_f))
    )


def line_of(day: Day, faults: tuple[Present, ...]) -> str:
    """What a technician would call out that day, off the plant."""
    machine = machine_of(day.system_id)
    if day.air != 1.0:
        blower = machine.blower
        blower = replace(
            blower, most_kg_s=blower.most_kg_s * day.air, set_kg_s=blower.set_kg_s * day.air
        )
        machine = replace(machine, blower=blower)
    held = Conditions(
        air_of(*day.indoor), air_of(day.outdoor_c, 50.0), machine.charge_kg * day.charge
    )
    truth = running_truth(steady(*spoiled(machine, held, list(faults))))
    spoken = []
    for key in READ:
        row = POINTS[key]
        value = from_si(truth[key], row.quantity, "ip")
        spoken.append(f"{row.short[0]} {value:.{decimals(row.quantity, 'ip')}f}")
    return " ".join(spoken)


def live_through(database: Database, clock: SetClock, visits: Visits) -> None:
    """Write every day of the two years, oldest first, and leave the clock where it was."""
    today = clock.now
    work, records = Work(database, clock, visits), SystemRecords(database, clock, visits)
    photos = Photos(database, clock)
    for day in sorted(DAYS, key=lambda one: -one.days_ago):
        clock.now = today - timedelta(days=day.days_ago)
        _visit(day, clock, visits, work, records, photos)
    clock.now = today


def _visit(
    day: Day, clock: SetClock, visits: Visits, work: Work, records: SystemRecords, photos: Photos
) -> None:
    began = clock.now
    visits.open(day.id, day.system_id, day.complaint)
    work.set_kind(day.id, day.kind)

    def at(minute: float) -> None:
        clock.now = began + timedelta(minutes=minute)

    at(STARTED)
    if not day.said:
        visits.happened(day.id, f"{day.id}-on", "system_started", clock.now)
    at(LOOKED)
    for number, key in enumerate(day.seen):
        visits.observe(day.id, f"{day.id}-seen-{number}", key, True)
    if day.capacitor is not None:
        rated, measured = day.capacitor
        entries: dict[str, float | str] = {"motor": "blower", "rated": rated, "measured": measured}
        work.check(day.id, f"{day.id}-capacitor", "capacitor", entries)
    at(READ_AT)
    visits.hear(day.id, f"{day.id}-read", day.said or line_of(day, day.faults), "ip", clock.now)
    if day.picture:
        photos.add(day.id, f"{day.id}-picture", "outdoor", _CAPTION[day.picture], draw(day.picture))
    for number, (part, text) in enumerate(day.notes):
        work.note(day.id, f"{day.id}-note-{number}", part, text)
    if day.washed:
        visits.happened(day.id, f"{day.id}-washed", "condenser_cleaned", clock.now)
        at(READ_AT + 18)
        visits.hear(day.id, f"{day.id}-again", line_of(day, ()), "ip", clock.now)
    if day.intended[0]:
        records.intend(day.id, f"{day.id}-intended", *day.intended)
    if day.deferred[0]:
        records.defer(day.id, f"{day.id}-left", *day.deferred, None)
    if day.settles:
        records.settle_deferred(f"{day.settles}-left", True)
    if day.baseline:
        records.keep_baseline(day.id, f"{day.id}-baseline")
    if day.written_kg is not None:
        records.write_charge(day.system_id, day.written_kg)
    at(READ_AT + 30)
    steps = ("thermostat", "dangers", *(() if day.said else PUT_BACK))
    work.tick_all(day.id, {f"{day.id}-{step}": step for step in steps}, "done")
    work.close(day.id)


_CAPTION = {"flare": "Suction flare, oil at the nut", "coil": "Sea side, before washing"}


def draw(what: str) -> bytes:
    """A small drawing in place of a photograph: nobody's camera was there."""
    from PIL import Image, ImageDraw

    image = Image.new("RGB", (1200, 900), (206, 203, 192))
    pen = ImageDraw.Draw(image)
    if what == "coil":
        for x in range(90, 1120, 14):
            pen.line((x, 110, x, 800), fill=(120, 124, 122), width=5)
        for number in range(900):
            x, y = 90 + (number * 733) % 1020, 330 + (number * 389) % 460
            pen.ellipse((x, y, x + 18 + number % 23, y + 9 + number % 11), fill=(94, 88, 74))
    else:
        pen.line((0, 470, 1200, 430), fill=(168, 104, 58), width=86)
        pen.polygon(
            [(470, 330), (700, 318), (760, 450), (700, 580), (470, 590), (410, 460)],
            fill=(186, 150, 70),
            outline=(90, 66, 24),
        )
        pen.ellipse((560, 560, 660, 700), fill=(52, 44, 34))
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()
