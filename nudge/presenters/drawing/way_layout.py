"""The way of an opened circuit as a line of pressure: what stands in it, state by state.

Up is pressure: refrigerant and nitrogen stand over the air's own, a vacuum under it.
"""

from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from nudge.core.opening.followed import Way
from nudge.core.opening.states import STATES
from nudge.presenters.drawing.shapes import XY, Letters

WIDTH, HEIGHT = 340.0, 118.0
LEFT, RIGHT, FOOT, HEAD = 14.0, 14.0, 30.0, 14.0
SMALL, LARGE = 14.0, 15.0
STANDS = {
    "charged": 0.62,
    "recovered": -0.06,
    "opened": 0.0,
    "pressurised": 1.0,
    "released": 0.0,
    "evacuating": -0.34,
    "isolated": -0.34,
    "broken": 0.3,
    "weighed": 0.62,
    "trimmed": 0.62,
}
"""How high each state stands, of the nitrogen's pressure; 0 is the air's own."""
LOW, HIGH = -0.42, 1.05
StateStands = Literal["behind", "passed_over", "here", "ahead"]


@dataclass(frozen=True, slots=True, kw_only=True)
class WayStroke:
    """A piece of the line: behind, passed over, or ahead; or the air's own pressure."""

    role: Literal["behind", "passed_over", "ahead", "air"]
    points: list[XY]


@dataclass(frozen=True, slots=True, kw_only=True)
class WayDot:
    """A state on the line."""

    state: str
    stands: StateStands
    x: float
    y: float


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnWay:
    """The way, laid out."""

    width: float
    height: float
    strokes: list[WayStroke]
    dots: list[WayDot]
    letters: list[Letters]
    words: str


def stands_of(way: Way) -> dict[str, StateStands]:
    """Where every state lies on the way, in order."""
    entered = {one.state for one in way.entered}
    passed = {key for one in way.entered for key in one.skipped} - entered
    order = list(STATES)
    here = order.index(way.state)
    found: dict[str, StateStands] = {}
    for number, key in enumerate(order):
        if number == here:
            found[key] = "here"
        elif number > here:
            found[key] = "ahead"
        else:
            found[key] = "passed_over" if key in passed else "behind"
    return found


def draw_way(way: Way) -> DrawnWay:
    """Lay the way out: the line, its dots, the name of the state it is in and of the next."""
    stands, keys = stands_of(way), list(STATES)
    places = {key: _place(number, key) for number, key in enumerate(keys)}
    strokes = [WayStroke(role="air", points=[(LEFT, _y(0.0)), (WIDTH - RIGHT, _y(0.0))])]
    for one, other in pairwise(keys):
        there = stands[other]
        role: Literal["behind", "passed_over", "ahead"] = "behind"
        if there == "ahead":
            role = "ahead"
        elif "passed_over" in (there, stands[one]):
            role = "passed_over"
        strokes.append(WayStroke(role=role, points=[places[one], places[other]]))
    here = keys.index(way.state)
    letters = [_letter(places[keys[here]], STATES[keys[here]].label, is_bold=True)]
    return DrawnWay(
        width=WIDTH,
        height=HEIGHT,
        strokes=strokes,
        dots=[
            WayDot(state=key, stands=stands[key], x=places[key][0], y=places[key][1])
            for key in keys
        ],
        letters=letters,
        words=f"The way of the circuit, {here + 1} of {len(keys)}: {STATES[way.state].label}.",
    )


def _place(number: int, key: str) -> XY:
    step = (WIDTH - LEFT - RIGHT) / (len(STATES) - 1)
    return round(LEFT + number * step, 1), _y(STANDS[key])


def _y(height: float) -> float:
    room = HEIGHT - HEAD - FOOT
    return round(HEAD + room * (HIGH - height) / (HIGH - LOW), 1)


def _letter(place: XY, text: str, is_bold: bool) -> Letters:
    x, _ = place
    anchor: Literal["start", "middle", "end"] = "middle"
    half = len(text) * SMALL * 0.3
    if x - half < 0:
        anchor = "start"
    elif x + half > WIDTH:
        anchor = "end"
    return Letters(
        role="step",
        key="",
        x=max(min(x, WIDTH), 0.0) if anchor == "middle" else (0.0 if anchor == "start" else WIDTH),
        y=HEIGHT - 8.0,
        anchor=anchor,
        size=LARGE,
        is_bold=is_bold,
        text=text,
    )
