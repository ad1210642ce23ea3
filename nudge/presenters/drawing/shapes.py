"""What a drawing is made of: strokes, letters, numbers that open, places to touch."""

from typing import Literal

from pydantic import BaseModel

from nudge.presenters.drawing.frames import FrameKey

Side = Literal["high", "low", ""]
LineRole = Literal[
    "tick", "level", "sure", "guess", "estimate", "band", "air", "gap", "bracket", "restricted",
    "base", "part", "leader",
]  # fmt: skip
Anchor = Literal["start", "middle", "end"]
XY = tuple[float, float]


class Line(BaseModel):
    """A line through points; `key` names what it stands for."""

    role: LineRole
    side: Side = ""
    key: str = ""
    points: list[XY]


class Letters(BaseModel):
    """A few words; `y` is their baseline."""

    role: Literal[
        "tick", "part", "air", "reading", "restricted", "discharge", "first", "axis", "step", "ring"
    ]
    key: str = ""
    x: float
    y: float
    anchor: Anchor
    size: float
    is_bold: bool
    text: str


class NumberBlock(BaseModel):
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


class ReadingMark(BaseModel):
    """A reading on the line."""

    key: str
    point: str
    side: Side
    x: float
    y: float
    value: float


class Touch(BaseModel):
    """A station that can carry a probe, and where a finger meets it."""

    key: str
    point: str
    label: str
    x: float
    y: float
    is_read: bool


class DrawnLoop(BaseModel):
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


class MapStroke(BaseModel):
    """A line of the target map."""

    role: Literal["grid", "window", "corner", "path", "arrow"]
    points: list[XY]


class MapStep(BaseModel):
    """A settled moment of the visit: a dot."""

    x: float
    y: float
    is_now: bool


class MapRing(BaseModel):
    """A place on the map with its name: where a suspect would put this system, or the dose."""

    key: str
    cx: float
    cy: float
    rx: float
    ry: float
    name: Letters


class DrawnMap(BaseModel):
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
