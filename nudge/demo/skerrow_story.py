"""The sites, the equipment and two years of calls in Skerrow, as rows."""

from dataclasses import dataclass
from typing import Any

from nudge.core.language.units import M_PER_FT, W_PER_BTU_H, UnitSystem, degrees_f, to_si
from nudge.core.physics.circuit.plate_fields import PLATE_NUMBERS

_PLATE = {row.key: row for row in PLATE_NUMBERS}
_TON_W = 12_000 * W_PER_BTU_H


@dataclass(frozen=True)
class PlannedSystem:
    """A system by its nickname and plate, in field units."""

    id: str
    site_id: str
    name: str
    refrigerant: str
    metering_device: str
    tons: float
    seer: float | None = None
    subcooling_f: float | None = None
    superheat_f: float | None = None
    application: str = "comfort_cooling"
    line_ft: float | None = None
    note: str = ""
    plate: tuple[tuple[str, float], ...] = ()
    """More plate numbers, by key, in field units."""
    indoor_unit: str = ""
    blower_tap: str = ""
    reversing_valve: str = ""
    charts: tuple[tuple[str, str], ...] = ()
    words: tuple[tuple[str, str], ...] = ()
    """What its plate says by a word, by key."""

    def fields(self) -> dict[str, Any]:
        """The row in core units."""
        subcooling, superheat = self.subcooling_f, self.superheat_f
        return {
            "name": self.name,
            "note": self.note,
            "refrigerant": self.refrigerant,
            "metering_device": self.metering_device,
            "application": self.application,
            "nominal_capacity_w": self.tons * _TON_W,
            "rated_seer": self.seer,
            "target_subcooling_k": None if subcooling is None else degrees_f(subcooling),
            "target_superheat_k": None if superheat is None else degrees_f(superheat),
            "line_set_length_m": None if self.line_ft is None else self.line_ft * M_PER_FT,
            "indoor_unit": self.indoor_unit,
            "blower_tap": self.blower_tap,
            "reversing_valve": self.reversing_valve,
            **{
                _PLATE[key].field: to_si(value, _PLATE[key].quantity, "ip")
                for key, value in self.plate
            },
            **dict(self.words),
        }


@dataclass(frozen=True)
class Readings:
    """What the circuit is doing; `air` and other points by their spoken short forms."""

    evaporator_f: float
    superheat_f: float
    condenser_f: float
    subcooling_f: float
    air: tuple[tuple[str, float], ...] = ()


@dataclass(frozen=True)
class StoryStep:
    """Something on a visit, `minute` minutes after it began."""

    minute: int
    event: str | None = None
    seen: tuple[str, ...] = ()
    readings: Readings | None = None
    said: str = ""
    """A call-out as it was shouted, where no gauge was on."""
    units: UnitSystem = "ip"
    """Those it was shouted in."""
    ounces: float = 0.0
    """What went in, where refrigerant was added."""


@dataclass(frozen=True)
class PlannedVisit:
    """A call: past (closed), under way, or due in some days."""

    id: str
    system_id: str
    complaint: str
    days_ago: int = 0
    minutes_ago: int = 0
    steps: tuple[StoryStep, ...] = ()
    closed: bool = True
    due_in_days: int | None = None
    kind: str = ""


def _numbers(**plate: float) -> tuple[tuple[str, float], ...]:
    return tuple(plate.items())


_COILS = """outdoor, A-24 coil, A-36 coil
65, 13, 12
75, 12.5, 11.5
85, 12, 11
95, 11, 10
105, 10, 9"""
_ORIFICE_GRID = """outdoor, 58, 61, 64, 67, 70
65, 15, 20, 25, 30, 35
75, 10, 15, 20, 25, 30
85, 5, 10, 15, 20, 25
95, , , 10, 15, 20
105, , , 6, 11, 16"""
_BLOWER = """static, low, medium, high
0.2, 1480, 1790, 2110
0.4, 1420, 1720, 2030
0.6, 1330, 1620, 1920
0.8, , 1480, 1760"""


def _air(**spoken: float) -> tuple[tuple[str, float], ...]:
    return tuple(spoken.items())


_START = StoryStep(2, event="system_started")
_SEEN_CLEAN = ("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")


def _read(minute: int, *figures: float, **air: float) -> StoryStep:
    evaporator, superheat, condenser, subcooling = figures
    return StoryStep(
        minute, readings=Readings(evaporator, superheat, condenser, subcooling, _air(**air))
    )


def _checked(*figures: float, **air: float) -> tuple[StoryStep, ...]:
    """A yearly check: start, look, read once settled."""
    return (_START, StoryStep(6, seen=_SEEN_CLEAN), _read(24, *figures, **air))


CARD = {
    "name": "Slipway Workshop",
    "call": "Skerrow 214, or knock at the blue door",
    "licence": "Refrigerant work under the harbour office’s licence",
}
"""The workshop of the demo, as its papers say it."""

SITES: tuple[tuple[str, str], ...] = (
    ("ferry-hall", "Ferry Hall"),
    ("seed-library", "Seed Library"),
    ("pottery-studio", "Pottery Studio"),
    ("net-loft", "Net Loft"),
    ("bakery", "Quay Bakery"),
    ("clinic", "Skerrow Clinic"),
    ("school-kitchen", "School Kitchen"),
    ("lighthouse-museum", "Lighthouse Museum"),
    ("radio-room", "Community Radio Room"),
    ("fish-auction", "Fish Auction"),
    ("harbour-launch", "Harbour Launch"),
)

_THREE_TONS = _numbers(design_pressure_low=236, design_pressure_high=446, factory_charge=5.1,
                       line_length_included=15, liquid_line_size=0.375,
                       vapour_line_size=0.75)  # fmt: skip
_LINE_TABLE = "length, 1/2, 5/8, 3/4\n15, 2.4, 4.0, 5.6\n25, 7.9, 10.4, 13.1\n50, 21.8, 26.4, 31.9"

SYSTEMS: tuple[PlannedSystem, ...] = (
    PlannedSystem("ferry-hall-big", "ferry-hall", "Big hall split", "R-410A", "txv", 5, 14, 10,
                  line_ft=65, note="Outdoor unit on the slip roof. Mind the gulls and the ladder.",
                  plate=_numbers(factory_charge=10.5, line_length_included=15,
                                 charge_per_length=0.6, liquid_line_size=0.375,
                                 vapour_line_size=1.125),
                  blower_tap="medium", charts=(("blower_airflow", _BLOWER),)),
    PlannedSystem("ferry-hall-tickets", "ferry-hall", "Ticket office inverter", "R-32", "eev",
                  1.5, 19, 10, line_ft=25),
    PlannedSystem("ferry-chiller", "ferry-hall", "Cold-store chiller", "R-134a", "txv", 8,
                  subcooling_f=9, superheat_f=10.8, line_ft=10,
                  note="Its papers are in kPa and °C: superheat 6 K, subcooling 5 K."),
    PlannedSystem("ferry-hall-kitchen", "ferry-hall", "Kitchen split", "R-410A", "txv", 3, 14, 10,
                  line_ft=25, plate=_numbers(design_pressure_low=236, design_pressure_high=446,
                                             factory_charge=5.1, line_length_included=15,
                                             liquid_line_size=0.375, vapour_line_size=0.75)),
    PlannedSystem("lighthouse-office", "lighthouse-museum", "Keeper’s office split", "R-410A",
                  "txv", 3, 14, 10, line_ft=25, plate=_THREE_TONS,
                  note="The compressor hums and does not start; its breaker trips."),
    PlannedSystem("school-washup", "school-kitchen", "Wash-up split", "R-410A", "txv", 3, 14, 10,
                  line_ft=25, plate=_THREE_TONS),
    PlannedSystem("clinic-pharmacy", "clinic", "Pharmacy inverter", "R-410A", "eev", 3, 18, 10,
                  line_ft=25, charts=(("charge_by_line", _LINE_TABLE),),
                  plate=_numbers(design_pressure_low=236, design_pressure_high=446,
                                 factory_charge=5.5, vapour_line_size=0.625)),
    PlannedSystem("seed-library-stacks", "seed-library", "Stacks split", "R-410A", "txv", 3, 14,
                  10, line_ft=30, note="The seed store must not go over 78 °F for long."),
    PlannedSystem("pottery-kiln", "pottery-studio", "Kiln room split", "R-22", "fixed_orifice",
                  3, 10, line_ft=20, note="Clay dust: look at the outdoor coil every time."),
    PlannedSystem("net-loft-heat-pump", "net-loft", "Loft heat pump", "R-454B", "txv", 2.5, 16,
                  11, line_ft=40),
    PlannedSystem("bakery-proving", "bakery", "Proving room split", "R-410A", "fixed_orifice", 2,
                  13, line_ft=15, charts=(("superheat_by_wet_bulb", _ORIFICE_GRID),),
                  plate=_numbers(factory_charge=4.6, liquid_line_size=0.375,
                                 vapour_line_size=0.75),
                  note="Flour in the filter: two filters, one behind the grille."),
    PlannedSystem("clinic-waiting", "clinic", "Waiting room split", "R-410A", "txv", 4, 14, 12,
                  line_ft=45, indoor_unit="A-36 coil",
                  plate=_numbers(factory_charge=9, liquid_line_size=0.375, vapour_line_size=0.875),
                  charts=(("subcooling_by_outdoor", _COILS),)),
    PlannedSystem("school-lodge", "school-kitchen", "Lodge heat pump", "R-410A", "txv", 3, 15, 10,
                  line_ft=25, note="Behind the lodge, under the stairs to the loft.",
                  plate=_numbers(heat_at_47=36_000, heat_at_17=22_500, power_at_47=3_000,
                                 power_at_17=2_600, lowest_outdoor=-5, strips=9.6, house_loss=640),
                  reversing_valve="present"),
    PlannedSystem("school-hall", "school-kitchen", "Hall heat pump", "R-454B", "txv", 2.5, 16, 10,
                  line_ft=25, note="On emergency heat since last week; nobody knows who set it.",
                  plate=_numbers(heat_at_47=33_400, heat_at_17=22_900, power_at_47=2_540,
                                 power_at_17=2_060, lowest_outdoor=-5, strips=9.6,
                                 house_loss=560),
                  reversing_valve="present"),
    PlannedSystem("school-servery", "school-kitchen", "Servery split", "R-407C", "txv", 3, 12,
                  line_ft=35, note="No charging data on the plate."),
    PlannedSystem("lighthouse-lamp", "lighthouse-museum", "Lamp room split", "R-410A", "txv", 1.5,
                  14, 9, line_ft=55),
    PlannedSystem("radio-transmitter", "radio-room", "Transmitter room split", "R-410A", "txv",
                  3, 14, 10, line_ft=25, plate=_numbers(factory_charge=5.45),
                  note="Stand clear of the mast stay. A second filter sits behind the rack."),
    PlannedSystem("radio-studio", "radio-room", "Studio split", "R-290", "fixed_orifice", 1, 15,
                  line_ft=15, note="Flammable refrigerant: ventilate, no flame, rated tools."),
    PlannedSystem("fish-cold-room", "fish-auction", "Cold room", "R-449A", "txv", 2,
                  superheat_f=8, application="refrigeration",
                  plate=_numbers(box_set_point=36, coil_class=10, condenser_class=25),
                  words=(("has_receiver", "yes"), ("defrost_kind", "off_cycle"))),
    PlannedSystem("fish-freezer", "fish-auction", "Freezer", "R-404A", "txv", 1.5,
                  application="refrigeration", note="Ice underfoot behind the door.",
                  plate=_numbers(box_set_point=-5, coil_class=10, condenser_class=25),
                  words=(("has_receiver", "yes"), ("head_pressure_control", "none"),
                         ("defrost_kind", "electric"))),
    PlannedSystem("seed-library-tower", "seed-library", "Tower plant", "R-410A", "eev", 12.5,
                  application="multi_zone", plate=_numbers(factory_charge=35.3),
                  note="Eleven rooms on six storeys; the plant stands on the roof."),
    PlannedSystem("school-classrooms", "school-kitchen", "Classroom plant", "R-410A", "eev", 6.8,
                  application="multi_zone", plate=_numbers(factory_charge=19.8),
                  note="Six rooms on two storeys; the music room is 2.2."),
    PlannedSystem("launch-van", "harbour-launch", "Launch van", "R-1234yf", "txv", 1,
                  application="vehicle"),
)  # fmt: skip

VISITS: tuple[PlannedVisit, ...] = (
    # Under way now.
    PlannedVisit(
        "seed-library-now", "seed-library-stacks", "Warm by the afternoon", minutes_ago=31,
        closed=False,
        steps=(
            _START,
            StoryStep(5, seen=("filter_clean", "condenser_coil_clean")),
            _read(26, 39.8, 12.2, 104.8, 8.8, oa=88, ra=76, wb=64),
        ),
    ),
    PlannedVisit(
        "pottery-now", "pottery-kiln", "Runs all day, never catches up", minutes_ago=52,
        closed=False,
        steps=(
            _START,
            StoryStep(8, seen=_SEEN_CLEAN),
            _read(24, 36.0, 25.0, 104.0, 3.0, oa=86, ra=76, wb=64, sa=62),
        ),
    ),
    PlannedVisit(
        "clinic-now", "clinic-waiting", "Cold coil, warm room, again", minutes_ago=44,
        closed=False,
        steps=(
            _START,
            StoryStep(7, seen=("filter_clean", "evaporator_coil_clean", "condenser_coil_clean")),
            _read(25, 33.4, 27.0, 103.0, 13.5, oa=87, ra=77, wb=65, lli=78),
        ),
    ),
    PlannedVisit(
        "net-loft-now", "net-loft-heat-pump", "Yearly check", minutes_ago=4, closed=False,
        steps=(_START,),
    ),
    PlannedVisit(
        "ferry-hall-now", "ferry-hall-big", "Yearly check", minutes_ago=22, closed=False,
        steps=(
            _START,
            StoryStep(6, seen=_SEEN_CLEAN),
            StoryStep(19, said="sl 53.5 ll 95.5 oa 87 ra 76.5 wb 64.5 sa 57.5 rst -0.28 sst 0.24"),
        ),
    ),
    # Due.
    PlannedVisit("school-due", "school-servery", "Yearly check before term", due_in_days=-3),
    PlannedVisit("lighthouse-due", "lighthouse-lamp", "Look at the slow drift", due_in_days=0),
    PlannedVisit("bakery-due", "bakery-proving", "Filter and yearly check", due_in_days=2),
    PlannedVisit("fish-due", "fish-cold-room", "Door seal changed, read again", due_in_days=9),
    # The clinic was charged twice for what was a restriction.
    PlannedVisit(
        "clinic-1", "clinic-waiting", "Not cooling. Refrigerant added", days_ago=418,
        steps=(_START, _read(22, 34.0, 24.0, 99.5, 9.5, oa=84, ra=76, wb=64),
               StoryStep(24, event="refrigerant_added", ounces=12),
               _read(38, 34.0, 24.0, 101.0, 11.0, oa=84, ra=76, wb=64)),
    ),
    PlannedVisit(
        "clinic-2", "clinic-waiting", "Not cooling again. Refrigerant added", days_ago=96,
        steps=(_START, _read(20, 33.0, 26.0, 104.5, 12.5, oa=89, ra=78, wb=66),
               StoryStep(22, event="refrigerant_added", ounces=10),
               _read(36, 33.0, 26.0, 106.0, 14.0, oa=89, ra=78, wb=66)),
    ),
    # The rest of the book.
    PlannedVisit("ferry-hall-1", "ferry-hall-big", "Yearly check", days_ago=380,
                 steps=_checked(41.0, 14.0, 106.0, 10.4, oa=88, ra=77, wb=65, sa=57)),
    PlannedVisit("ferry-hall-2", "ferry-hall-big", "Hot hall after a sandy week", days_ago=58,
                 steps=(_START, StoryStep(6, seen=("filter_clean", "condenser_coil_dirty")),
                        _read(20, 44.0, 13.0, 127.0, 12.0, oa=89, ra=80, wb=67))),
    PlannedVisit("tickets-1", "ferry-hall-tickets", "Commissioned", days_ago=203,
                 steps=(_START, StoryStep(6, seen=_SEEN_CLEAN),
                        _read(38, 44.0, 9.0, 98.0, 10.3, oa=84, ra=77, wb=64))),
    PlannedVisit("pottery-1", "pottery-kiln", "Yearly check", days_ago=349,
                 steps=_checked(40.0, 12.0, 112.0, 10.0, oa=88, ra=76, wb=64, sa=58)),
    PlannedVisit("bakery-1", "bakery-proving", "Weak air at the grilles", days_ago=210,
                 steps=(_START, StoryStep(5, seen=("filter_dirty",)),
                        _read(18, 29.0, 3.5, 99.0, 10.0, oa=84, ra=78, wb=66, sa=50))),
    PlannedVisit("school-1", "school-servery", "Yearly check", days_ago=368,
                 steps=_checked(41.0, 11.0, 108.0, 11.0, oa=86, ra=76, wb=64, sa=57)),
    PlannedVisit("radio-1", "radio-studio", "Quiet but warm", days_ago=120,
                 steps=(_START, _read(9, 40.0, 18.0, 104.0, 8.0, oa=85, ra=68, wb=58))),
    PlannedVisit("fish-1", "fish-cold-room", "Evening check", days_ago=12,
                 steps=(_START, _read(30, 26.0, 8.5, 96.0, 9.0, oa=72, box=36))),
    PlannedVisit("launch-van-1", "launch-van", "Vents lukewarm", days_ago=45,
                 steps=(_START, _read(16, 38.0, 9.0, 118.0, 9.0, oa=82, vent=49))),
)  # fmt: skip
