"""What a drawing is made of: strokes, letters, numbers that open, places to touch."""

from dataclasses import dataclass
from typing import Literal

from nudge.presenters.drawing.frames import FrameKey

Side = Literal["high", "low", ""]
LineRole = Literal[
    "tick", "level", "sure", "guess", "estimate", "band", "air", "gap", "bracket", "restricted",
    "base", "part", "leader", "rung",
]  # fmt: skip
LetterRole = Literal[
    "tick", "part", "air", "reading", "restricted", "discharge", "first", "axis", "step", "ring",
]  # fmt: skip
Anchor = Literal["start", "middle", "end"]
XY = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A line through points; `key` names what it stands for."""

    role: LineRole
    side: Side = ""
    key: str = ""
    points: list[XY]


@dataclass(frozen=True, slots=True, kw_only=True)
class Letters:
    """A few words; `y` is their baseline."""

    role: LetterRole
    key: str = ""
    x: float
    y: float
    anchor: Anchor
    size: float
    is_bold: bool
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class NumberBlock:
    """One of the four numbers where it lives: its box, the number, the words under or beside it."""

    key: str
    label: str
    side: Side
    x: float
    y: float
    width: float
    height: float
    size: float
    text: str
    """"" where nothing is known yet."""
    unit: str
    words: list[str]
    """The first is what the bracket says; in short frames there is no more than that."""
    is_beside: bool
    """Words stand beside the number (a level) and not under it (a gap)."""
    is_estimate: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingMark:
    """A reading on the line."""

    key: str
    point: str
    side: Side
    x: float
    y: float
    value: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Touch:
    """A station that can carry a probe, and where a finger meets it."""

    key: str
    point: str
    label: str
    x: float
    y: float
    is_read: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnLoop:
    """The Loop in one frame. Height is temperature; the gaps are the verdict."""

    frame: FrameKey
    width: float
    height: float
    strokes: list[Line]
    letters: list[Letters]
    numbers: list[NumberBlock]
    marks: list[ReadingMark]
    places: list[Touch]
    words: str
    """The whole drawing read out."""
    is_empty: bool = False
    """A sketch: nothing is read yet."""


@dataclass(frozen=True, slots=True, kw_only=True)
class MapStroke:
    """A line of the target map."""

    role: Literal["grid", "window", "corner", "path", "arrow"]
    points: list[XY]


@dataclass(frozen=True, slots=True, kw_only=True)
class MapStep:
    """A settled moment of the visit: a dot."""

    x: float
    y: float
    is_now: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class MapRing:
    """A place on the map with its name: where a suspect would put this system, or the dose."""

    key: str
    cx: float
    cy: float
    rx: float
    ry: float
    name: Letters


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnMap:
    """The target map in one frame: subcooling to the right, superheat up."""

    frame: FrameKey
    width: float
    height: float
    strokes: list[MapStroke]
    letters: list[Letters]
    steps: list[MapStep]
    suspects: list[MapRing]
    """One a suspect; drawn while it is spoken of."""
    ahead: MapRing | None
    """Where the dose is expected to put it."""
    words: str
    """The whole drawing read out."""
