"""The joints of a split laid out: indoor coil, drier and lines, outdoor unit, a dot a joint."""

from dataclasses import dataclass
from typing import Literal

from nudge.core.tests.joints import JOINTS, joints_of
from nudge.core.tests.run import Run
from nudge.presenters.drawing.shapes import XY

WIDTH, HEIGHT = 362.0, 176.0
AT: dict[str, XY] = {
    "indoor_liquid": (86, 52),
    "metering": (52, 52),
    "indoor_vapour": (86, 124),
    "drier_in": (166, 52),
    "drier_out": (128, 52),
    "outdoor_liquid": (232, 52),
    "outdoor_vapour": (232, 124),
    "liquid_port": (268, 28),
    "suction_port": (268, 150),
    "compressor_stubs": (318, 110),
}
"""Where each joint is. Touches need 34 units between them."""


@dataclass(frozen=True, slots=True, kw_only=True)
class JointStroke:
    """A part or a line of the drawing."""

    role: Literal["unit", "liquid", "vapour", "part"]
    points: list[XY]


@dataclass(frozen=True, slots=True, kw_only=True)
class JointDot:
    """A joint: where it is, and how it stands."""

    key: str
    label: str
    x: float
    y: float
    state: Literal["untested", "dry", "bubbles", "mended"]


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnJoints:
    """The drawing; the names stand in a list beside it."""

    width: float
    height: float
    strokes: list[JointStroke]
    dots: list[JointDot]


def joints_drawn(run: Run) -> DrawnJoints:
    """The joints of a run with what was noted of each."""
    states = joints_of(run)
    return DrawnJoints(
        width=WIDTH,
        height=HEIGHT,
        strokes=[
            JointStroke(role="unit", points=_box(14, 22, 72, 140)),
            JointStroke(role="unit", points=_box(232, 10, 124, 158)),
            JointStroke(role="liquid", points=[(30, 52), (128, 52), (166, 52), (300, 52)]),
            JointStroke(role="vapour", points=[(30, 124), (318, 124), (318, 96)]),
            JointStroke(role="part", points=_box(134, 44, 26, 16)),
            JointStroke(role="part", points=_box(302, 62, 34, 34)),
            JointStroke(role="liquid", points=[(268, 52), (268, 28)]),
            JointStroke(role="vapour", points=[(268, 124), (268, 150)]),
        ],
        dots=[
            JointDot(key=key, label=label, x=AT[key][0], y=AT[key][1], state=states[key])
            for key, label in JOINTS.items()
        ],
    )


def _box(x: float, y: float, width: float, height: float) -> list[XY]:
    return [(x, y), (x + width, y), (x + width, y + height), (x, y + height), (x, y)]
