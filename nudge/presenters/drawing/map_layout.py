"""The target map laid out in a frame: superheat against subcooling, and every step to here."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import hypot

from nudge.contract.advice import AdviceOut
from nudge.contract.answer_shapes import AssessOut, SuspectOut, TargetOut
from nudge.core.language.units import Quantity, UnitSystem, from_si, unit_label
from nudge.presenters.drawing.avoid import LabelRoom
from nudge.presenters.drawing.frames import FRAMES, LINE, SMALL, Frame, text_width
from nudge.presenters.drawing.lettering import box_of, lettered, said_at
from nudge.presenters.drawing.scales import LinearScale, ticks
from nudge.presenters.drawing.shapes import (
    DrawnMap,
    LetterRole,
    Letters,
    MapRing,
    MapStep,
    MapStroke,
)
from nudge.presenters.footprints import FootprintOut

LEFT, FOOT, HEAD, RIGHT = 38.0, 44.0, 30.0, 8.0
"""Room round the field [units of the frame]: figures, figures and a name, a name, none."""
LEAST_SUBCOOLING_K, LEAST_SUPERHEAT_K, ROUND_K = 9.0, 13.0, 1.7
"""What the field shows at least, from none up, and the room round it all."""
CORNER, NOW, BEFORE = 12.0, 9.0, 5.0
"""Arms of the window's corners; half of the present's dot and of an earlier one's."""
LEAST_RING, LEAST_ARROW = 8.0, 30.0
"""No ring thinner than this; no arrow shorter."""
MOST_NAMED = 6
"""Steps that are all named; of more, the first, the last and those with work before them."""
HOURS_FROM_MIN = 90.0
REACH = (0.0, 22.0, -22.0, 44.0, -44.0, 66.0)
"""How far from its dot a name may move up or down."""


@dataclass(frozen=True, slots=True)
class _Field:
    x: LinearScale
    y: LinearScale
    frame: Frame

    def at(self, subcooling: float, superheat: float) -> tuple[float, float]:
        return round(self.x(subcooling), 1), round(self.y(superheat), 1)


def maps_of(
    footprints: Sequence[FootprintOut],
    answer: AssessOut | None,
    advice: AdviceOut | None,
    units: UnitSystem,
    frames: Sequence[Frame] = tuple(FRAMES.values()),
) -> list[DrawnMap]:
    """The map in each frame; none while there is nothing to put on it. All in the same units."""
    if answer is None or not footprints:
        return []
    return [_lay_out(footprints, answer, _ahead_of(advice), units, frame) for frame in frames]


@dataclass(frozen=True, slots=True)
class _Ahead:
    """Where a dose is expected to put it: ranges of both numbers, and its name."""

    subcooling: tuple[float, float]
    superheat: tuple[float, float]
    action: str
    name: str


def _ahead_of(advice: AdviceOut | None) -> _Ahead | None:
    if advice is None or advice.action not in ("add", "remove"):
        return None
    if not {"subcooling", "superheat"} <= advice.expected.keys():
        return None
    across, up = advice.expected["subcooling"], advice.expected["superheat"]
    name = f"after {advice.amount:.1f} {advice.amount_unit}"
    return _Ahead((across.low, across.high), (up.low, up.high), advice.action, name)


def _lay_out(
    footprints: Sequence[FootprintOut],
    answer: AssessOut,
    ahead: _Ahead | None,
    units: UnitSystem,
    frame: Frame,
) -> DrawnMap:
    field = _field(footprints, answer.targets, ahead, units, frame)
    unit = unit_label(Quantity.TEMPERATURE_DIFFERENCE, units)
    window = _window(answer.targets, field)
    steps = [field.at(one.subcooling, one.superheat) for one in footprints]
    path = [MapStroke(role="path", points=list(pair)) for pair in pairwise(steps)]
    grid, letters = _axes(field, unit)
    room = LabelRoom(frame.width, frame.height)
    for stroke in (*window, *path):
        room.draw(stroke.points)
    for one in letters:
        room.take(box_of(one))
    for x, y in steps:
        room.take((x - NOW, y - NOW, x + NOW, y + NOW))
    arrow, ring = _forecast(ahead, steps[-1], field, room)
    letters += _names(footprints, steps, room, frame.is_short)
    return DrawnMap(
        frame=frame.key,
        width=frame.width,
        height=frame.height,
        strokes=[*grid, *window, *path, *arrow],
        letters=letters,
        steps=[MapStep(x=x, y=y, is_now=n == len(steps) - 1) for n, (x, y) in enumerate(steps)],
        suspects=_suspected(answer.suspects, field, room),
        ahead=ring,
        words=_in_words(footprints, unit),
    )


def _field(
    footprints: Sequence[FootprintOut],
    targets: Mapping[str, TargetOut],
    ahead: _Ahead | None,
    units: UnitSystem,
    frame: Frame,
) -> _Field:
    """Both scales: everything that stands on the map fits into them."""

    def shown(kelvin: float) -> float:
        return from_si(kelvin, Quantity.TEMPERATURE_DIFFERENCE, units)

    across = [0.0, shown(LEAST_SUBCOOLING_K), *(one.subcooling for one in footprints)]
    up = [0.0, shown(LEAST_SUPERHEAT_K), *(one.superheat for one in footprints)]
    for key, values in (("subcooling", across), ("superheat", up)):
        if key in targets:
            values += [targets[key].low, targets[key].high]
    if ahead is not None:
        across += ahead.subcooling
        up += ahead.superheat
    pad = shown(ROUND_K)
    return _Field(
        LinearScale(min(across) - pad, max(across) + pad, LEFT, frame.width - RIGHT),
        LinearScale(min(up) - pad, max(up) + pad, frame.height - FOOT, HEAD),
        frame,
    )


def _axes(field: _Field, unit: str) -> tuple[list[MapStroke], list[Letters]]:
    frame, x, y = field.frame, field.x, field.y
    foot, right = frame.height - FOOT, frame.width - RIGHT
    strokes, letters = [], []
    for value in ticks(y.low, y.high, 5):
        at = round(y(value), 1)
        strokes.append(MapStroke(role="grid", points=[(LEFT, at), (right, at)]))
        letters.append(said_at("tick", f"{value:g}", LEFT - 6, at + 5, "end"))
    for value in ticks(x.low, x.high, 6):
        at = round(x(value), 1)
        strokes.append(MapStroke(role="grid", points=[(at, HEAD), (at, foot)]))
        letters.append(said_at("tick", f"{value:g}", at, foot + 17, "middle"))
    letters.append(said_at("axis", f"superheat, {unit}", 4, 18, "start"))
    letters.append(said_at("axis", f"subcooling, {unit}", right, frame.height - 8, "end"))
    return strokes, letters


def _window(targets: Mapping[str, TargetOut], field: _Field) -> list[MapStroke]:
    """Where both windows cross lies the target: its corners. One alone is a band of two lines."""
    across, up = targets.get("subcooling"), targets.get("superheat")
    left, right = (field.x(across.low), field.x(across.high)) if across else (LEFT, field.x.end)
    top, bottom = (field.y(up.high), field.y(up.low)) if up else (HEAD, field.y.start)
    left, right, top, bottom = (round(v, 1) for v in (left, right, top, bottom))
    if across is None and up is None:
        return []
    if across is None or up is None:
        edges = (
            [[(left, top), (right, top)], [(left, bottom), (right, bottom)]]
            if across is None
            else [[(left, top), (left, bottom)], [(right, top), (right, bottom)]]
        )
        return [MapStroke(role="window", points=edge) for edge in edges]
    around = [(left, top), (right, top), (right, bottom), (left, bottom), (left, top)]
    arm = min(CORNER, (right - left) / 2, (bottom - top) / 2)
    corners = [
        [(x, y + arm * down), (x, y), (x + arm * along, y)]
        for x, along in ((left, 1), (right, -1))
        for y, down in ((top, 1), (bottom, -1))
    ]
    return [
        MapStroke(role="window", points=around),
        *(MapStroke(role="corner", points=corner) for corner in corners),
    ]


def _names(
    footprints: Sequence[FootprintOut],
    steps: Sequence[tuple[float, float]],
    room: LabelRoom,
    is_short: bool,
) -> list[Letters]:
    """When each step was, and what was done before it; the latest first, it must be read."""
    last = len(footprints) - 1
    found = []
    for n in range(last, -1, -1):
        step = footprints[n]
        if len(footprints) > MOST_NAMED and n not in (0, last) and not step.done:
            continue
        when = "now" if n == last else _ago(step.minutes_ago)
        is_told = step.done and (n == last or not is_short)
        text = f"{when}: {step.done.lower()}" if is_told else when
        found.append(_named("step", text, n == last, room, _beside(steps[n], text, n == last)))
    return found


def _beside(dot: tuple[float, float], text: str, is_bold: bool) -> Sequence[tuple[float, float]]:
    """Left and top of a name that belongs to a dot: to its right, to its left, over and under."""
    (x, y), width, high = dot, text_width(text, SMALL, is_bold), SMALL * LINE
    sides = (x + NOW + 4, x - NOW - 4 - width, x - width / 2)
    places = [(left, y - high - 2 + off) for off in REACH for left in sides[:2]]
    return [*places, (sides[2], y - NOW - high), (sides[2], y + NOW + 2)]


def _forecast(
    ahead: _Ahead | None, now: tuple[float, float], field: _Field, room: LabelRoom
) -> tuple[list[MapStroke], MapRing | None]:
    """The ring a dose should land in, and an arrow to it where it is not just here."""
    if ahead is None:
        return [], None
    (left, right), (low, high) = ahead.subcooling, ahead.superheat
    cx, cy = field.at((left + right) / 2, (low + high) / 2)
    rx = max(abs(field.x(right) - field.x(left)) / 2, LEAST_RING)
    ry = max(abs(field.y(high) - field.y(low)) / 2, LEAST_RING)
    found = _Ring(ahead.action, ahead.name, cx, cy, rx, ry, field.frame.width)
    ring = found.drawn(room.settle(found.size, found.places))
    away = hypot(cx - now[0], cy - now[1])
    if away <= LEAST_ARROW:
        return [], ring
    dx, dy = (cx - now[0]) / away, (cy - now[1]) / away
    tail = (now[0] + dx * CORNER, now[1] + dy * CORNER)
    barbs = [(cx - dx * 10 + s * dy * 6, cy - dy * 10 - s * dx * 6) for s in (-1, 1)]
    lines = [[tail, (cx, cy)], [barbs[0], (cx, cy), barbs[1]]]
    arrow = [MapStroke(role="arrow", points=[_rounded(p) for p in line]) for line in lines]
    for stroke in arrow:
        room.draw(stroke.points)
    return arrow, ring


def _suspected(suspects: Sequence[SuspectOut], field: _Field, room: LabelRoom) -> list[MapRing]:
    """Where each suspect would put this system; drawn one at a time, so none is in the way."""
    rings = []
    for one in suspects:
        if one.lands is None:
            continue
        lands = one.lands
        cx, cy = field.at(lands.subcooling, lands.superheat)
        rx = abs(field.x(lands.subcooling + lands.subcooling_spread) - field.x(lands.subcooling))
        ry = abs(field.y(lands.superheat + lands.superheat_spread) - field.y(lands.superheat))
        rings.append(
            _Ring(one.fault, f"{one.label} would be here", cx, cy, rx, ry, field.frame.width)
        )
    return [ring.drawn(room.best(ring.size, ring.places)) for ring in rings]


@dataclass(frozen=True, slots=True)
class _Ring:
    """A ring before its name has a place."""

    key: str
    name: str
    cx: float
    cy: float
    rx: float
    ry: float
    right: float
    """Where the frame ends."""

    @property
    def size(self) -> tuple[float, float]:
        return text_width(self.name, SMALL, True), SMALL * LINE

    @property
    def places(self) -> list[tuple[float, float]]:
        """Left and top of its name: under it, over it, farther under, across it."""
        (width, high), under, over = self.size, self.cy + self.ry + 4, self.cy - self.ry - 4
        return [
            (min(max(self.cx + dx - width / 2, 2.0), self.right - width - 2), top)
            for top in (under, over - high, under + 20, self.cy - high / 2)
            for dx in (0.0, self.rx, -self.rx, width / 2, -width / 2)
        ]

    def drawn(self, place: tuple[float, float]) -> MapRing:
        return MapRing(
            key=self.key,
            cx=self.cx,
            cy=self.cy,
            rx=round(self.rx, 1),
            ry=round(self.ry, 1),
            name=lettered("ring", self.name, True, place),
        )


def _named(
    role: LetterRole,
    text: str,
    is_bold: bool,
    room: LabelRoom,
    places: Sequence[tuple[float, float]],
) -> Letters:
    size = (text_width(text, SMALL, is_bold), SMALL * LINE)
    return lettered(role, text, is_bold, room.settle(size, places))


def _rounded(point: tuple[float, float]) -> tuple[float, float]:
    return round(point[0], 1), round(point[1], 1)


def _ago(minutes: float) -> str:
    hours = minutes >= HOURS_FROM_MIN
    return f"{minutes / 60:.0f} h ago" if hours else f"{minutes:.0f} min ago"


def _in_words(footprints: Sequence[FootprintOut], unit: str) -> str:
    steps = [
        f"{one.done + ', then ' if one.done else ''}superheat {one.superheat:.1f}, "
        f"subcooling {one.subcooling:.1f} {unit}"
        for one in footprints
    ]
    return f"The target map. {'; '.join(steps)}."
