"""The heating line laid out in a frame: heat over outdoor air.

The plate's line with its notch of frost, what the house loses, where the two cross, the lockouts
at the foot, today's dot with its ±, and the dots of last winter.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from nudge.core.language.units import Quantity, UnitSystem, fahrenheit, from_si, unit_label
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.heating.expected import HeatingPlate, expected_heat
from nudge.presenters.drawing.avoid import LabelRoom
from nudge.presenters.drawing.frames import FRAMES, LINE, SMALL, Frame, FrameKey, text_width
from nudge.presenters.drawing.lettering import box_of, lettered, said_at
from nudge.presenters.drawing.scales import LinearScale, ticks
from nudge.presenters.drawing.shapes import XY, Letters

LEFT, RIGHT, HEAD, FOOT = 56.0, 10.0, 30.0, 44.0
KINKS_C = tuple(fahrenheit(f) for f in (-5, 17, 35, 44.99, 45, 47, 65))
"""Where the plate's line turns."""
COLDEST_C, WARMEST_C = fahrenheit(-5), fahrenheit(65)
DOT, EARLIER = 9.0, 5.0
REACH = ((14.0, -24.0), (14.0, 8.0), (-14.0, -24.0), (-14.0, 8.0), (14.0, -46.0), (-14.0, 30.0))
"""How far from its place a name may stand: right or left of it, over or under."""
HeatRole = Literal["grid", "plate", "house", "lockout", "whisker", "balance"]


@dataclass(frozen=True, slots=True)
class HeatSeen:
    """A heat that was measured: where, how much [°C, W], its ±, and whether it is today's."""

    outdoor_c: float
    heat_w: float
    limit_w: float = 0.0
    is_now: bool = False


@dataclass(frozen=True, slots=True)
class HeatScene:
    """What the picture is made of: plate, house [W/K, °C], balance point, heats that were seen."""

    plate: Plate
    rated: HeatingPlate
    indoor_c: float
    balance_c: float | None
    seen: Sequence[HeatSeen]


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatStroke:
    role: HeatRole
    points: list[XY]


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatDot:
    """A heat measured on a day."""

    x: float
    y: float
    is_now: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnHeat:
    """The heating line in one frame."""

    frame: FrameKey
    width: float
    height: float
    strokes: list[HeatStroke]
    letters: list[Letters]
    dots: list[HeatDot]
    words: str


@dataclass(frozen=True, slots=True)
class _Field:
    x: LinearScale
    y: LinearScale
    frame: Frame

    def at(self, outdoor_c: float, heat_w: float) -> XY:
        return round(self.x(outdoor_c), 1), round(self.y(heat_w), 1)


def heat_lines(
    scene: HeatScene,
    words: str,
    units: UnitSystem,
    frames: Sequence[Frame] = tuple(FRAMES.values()),
) -> list[DrawnHeat]:
    """The line in each frame; `words` are the whole of it read out."""
    return [_lay_out(scene, words, units, frame) for frame in frames]


def _lay_out(scene: HeatScene, words: str, units: UnitSystem, frame: Frame) -> DrawnHeat:
    field = _field(scene, frame)
    plate = HeatStroke(role="plate", points=[field.at(c, _heat(scene, c)) for c in KINKS_C])
    house = _house(scene, field)
    grid, letters = _axes(field, units)
    locks, lock_letters = _lockouts(scene.plate, field)
    room = LabelRoom(frame.width, frame.height)
    for stroke in (plate, *house, *locks):
        room.draw(stroke.points)
    letters += lock_letters
    for one in letters:
        room.take(box_of(one))
    dots, whiskers = _dots(scene, field)
    for dot in dots:
        room.take((dot.x - DOT, dot.y - DOT, dot.x + DOT, dot.y + DOT))
    letters += _names(scene, field, room)
    balance = []
    if scene.balance_c is not None:
        x, y = field.at(scene.balance_c, _heat(scene, scene.balance_c))
        balance = [HeatStroke(role="balance", points=[(x, y), (x, frame.height - FOOT)])]
    return DrawnHeat(
        frame=frame.key,
        width=frame.width,
        height=frame.height,
        strokes=[*grid, *locks, *balance, *house, plate, *whiskers],
        letters=letters,
        dots=dots,
        words=words,
    )


def _heat(scene: HeatScene, outdoor_c: float) -> float:
    return expected_heat(scene.rated, outdoor_c).value


def _loss(scene: HeatScene, outdoor_c: float) -> float:
    return (scene.plate.house_loss_w_k or 0.0) * max(scene.indoor_c - outdoor_c, 0.0)


def _field(scene: HeatScene, frame: Frame) -> _Field:
    top = max(
        _heat(scene, WARMEST_C),
        *(one.heat_w + one.limit_w for one in scene.seen),
        min(_loss(scene, COLDEST_C), 1.2 * _heat(scene, WARMEST_C)),
    )
    return _Field(
        LinearScale(COLDEST_C, WARMEST_C, LEFT, frame.width - RIGHT),
        LinearScale(0.0, 1.06 * top, frame.height - FOOT, HEAD),
        frame,
    )


def _house(scene: HeatScene, field: _Field) -> list[HeatStroke]:
    """What the house loses, from where it leaves the field down to no loss at all."""
    if not scene.plate.house_loss_w_k:
        return []
    most = field.y.high / scene.plate.house_loss_w_k
    first = max(COLDEST_C, scene.indoor_c - most)
    last = min(WARMEST_C, scene.indoor_c)
    ends = [field.at(c, _loss(scene, c)) for c in (first, last)]
    return [HeatStroke(role="house", points=ends)]


def _axes(field: _Field, units: UnitSystem) -> tuple[list[HeatStroke], list[Letters]]:
    frame, foot, right = field.frame, field.frame.height - FOOT, field.frame.width - RIGHT
    strokes, letters = [], []
    low, high = (from_si(c, Quantity.TEMPERATURE, units) for c in (COLDEST_C, WARMEST_C))
    across = LinearScale(low, high, LEFT, right)
    up = LinearScale(0.0, from_si(field.y.high, Quantity.CAPACITY, units), foot, HEAD)
    for value in ticks(0.0, up.high, 5):
        at = round(up(value), 1)
        strokes.append(HeatStroke(role="grid", points=[(LEFT, at), (right, at)]))
        letters.append(said_at("tick", f"{value:,.0f}", LEFT - 6, at + 5, "end"))
    for value in ticks(low, high, 7 if not frame.is_short else 4):
        at = round(across(value), 1)
        strokes.append(HeatStroke(role="grid", points=[(at, HEAD), (at, foot)]))
        letters.append(said_at("tick", f"{value:g}", at, foot + 17, "middle"))
    unit = unit_label(Quantity.CAPACITY, units)
    letters.append(said_at("axis", f"heat, {unit}", 4, 18, "start"))
    outdoors = f"outdoors, {unit_label(Quantity.TEMPERATURE, units)}"
    letters.append(said_at("axis", outdoors, right, frame.height - 8, "end"))
    return strokes, letters


def _lockouts(plate: Plate, field: _Field) -> tuple[list[HeatStroke], list[Letters]]:
    """Where strips and compressor may not run, as bars at the foot."""
    foot = field.frame.height - FOOT
    strokes, letters = [], []
    for level, (name, start, end) in enumerate(
        (
            ("strips off", plate.strips_off_over_c, WARMEST_C),
            ("compressor off", COLDEST_C, plate.compressor_off_under_c),
        )
    ):
        if start is None or end is None or not COLDEST_C <= start < end <= WARMEST_C:
            continue
        y = round(foot - 7 - 9 * level, 1)
        left, right = round(field.x(start), 1), round(field.x(end), 1)
        strokes.append(HeatStroke(role="lockout", points=[(left, y), (right, y)]))
        is_left = start == COLDEST_C
        letters.append(
            said_at("axis", name, left if is_left else right, y - 5, "start" if is_left else "end")
        )
    return strokes, letters


def _dots(scene: HeatScene, field: _Field) -> tuple[list[HeatDot], list[HeatStroke]]:
    dots, whiskers = [], []
    for one in sorted(scene.seen, key=lambda seen: seen.is_now):
        if not COLDEST_C <= one.outdoor_c <= WARMEST_C:
            continue
        x, y = field.at(one.outdoor_c, one.heat_w)
        dots.append(HeatDot(x=x, y=y, is_now=one.is_now))
        if one.is_now and one.limit_w:
            ends = [field.at(one.outdoor_c, one.heat_w + s * one.limit_w) for s in (-1, 1)]
            whiskers.append(HeatStroke(role="whisker", points=ends))
    return dots, whiskers


def _names(scene: HeatScene, field: _Field, room: LabelRoom) -> list[Letters]:
    """The lines by name, where they cover nothing; today's dot first."""
    wanted: list[tuple[str, bool, XY]] = []
    for one in scene.seen:
        if one.is_now and COLDEST_C <= one.outdoor_c <= WARMEST_C:
            wanted.append(("today", True, field.at(one.outdoor_c, one.heat_w)))
    if scene.balance_c is not None:
        at = field.at(scene.balance_c, _heat(scene, scene.balance_c))
        wanted.append(("balance point", False, at))
    wanted.append(("plate", False, field.at(fahrenheit(56), _heat(scene, fahrenheit(56)))))
    if scene.plate.house_loss_w_k:
        cold = max(COLDEST_C + 4, scene.indoor_c - field.y.high / scene.plate.house_loss_w_k + 4)
        wanted.append(("the house loses", False, field.at(cold, _loss(scene, cold))))
    found = []
    for text, is_bold, (x, y) in wanted:
        size = (text_width(text, SMALL, is_bold), SMALL * LINE)
        places = [(x + dx if dx > 0 else x + dx - size[0], y + dy) for dx, dy in REACH]
        found.append(lettered("step", text, is_bold, room.settle(size, places)))
    return found
