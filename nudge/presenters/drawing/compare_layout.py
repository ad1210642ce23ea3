"""Two Loops in one frame, the earlier dashed: on one scale, so that a line that moved is seen."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from nudge.presenters.drawing.avoid import LabelRoom
from nudge.presenters.drawing.frames import FRAMES, Frame, FrameKey
from nudge.presenters.drawing.loop_lines import Scale, scale_of, strokes_of
from nudge.presenters.drawing.loop_words import part_words, tick_words
from nudge.presenters.drawing.shapes import XY, Letters, Line, Side
from nudge.presenters.loops import LoopOut

DRAWN = ("sure", "guess", "estimate", "level")
BEHIND = ("tick", "base", "part")


@dataclass(frozen=True, slots=True, kw_only=True)
class CompareStroke:
    """A line of one of the two, or of the sheet behind them."""

    role: Literal["then", "now", "level_then", "level_now", "tick", "base", "part"]
    side: Side
    points: list[XY]


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnCompare:
    """Both Loops in one frame."""

    frame: FrameKey
    width: float
    height: float
    strokes: list[CompareStroke]
    letters: list[Letters]
    words: str


def compares_of(
    then: LoopOut,
    now: LoopOut,
    words: str,
    frames: Sequence[Frame] = tuple(FRAMES.values()),
) -> list[DrawnCompare]:
    """Both in each frame; none where nothing of one can be drawn."""
    if not then.levels or not now.levels:
        return []
    return [_lay_out(then, now, words, frame) for frame in frames]


def _lay_out(then: LoopOut, now: LoopOut, words: str, frame: Frame) -> DrawnCompare:
    scales = [scale_of(loop, {}, frame) for loop in (then, now)]
    coldest = min(scale.coldest for scale in scales)
    hottest = max(scale.hottest for scale in scales)
    strokes: list[CompareStroke] = []
    sheet: list[Line] = []
    for loop, is_now in ((then, False), (now, True)):
        at = Scale(frame, coldest, hottest, loop.heats)
        lines = strokes_of(loop, at, {})
        if is_now:
            sheet = [line for line in lines if line.role in BEHIND]
        strokes += [_of(line, is_now) for line in lines if line.role in DRAWN]
    at = Scale(frame, coldest, hottest, now.heats)
    room = LabelRoom(frame.width, frame.height)
    letters = [replace(one, is_bold=False) for one in part_words(now, at)]
    letters += tick_words(sheet, room)
    behind = [CompareStroke(role=_behind(line), side="", points=line.points) for line in sheet]
    return DrawnCompare(
        frame=frame.key,
        width=frame.width,
        height=frame.height,
        strokes=[*behind, *strokes],
        letters=letters,
        words=words,
    )


def _of(line: Line, is_now: bool) -> CompareStroke:
    role: Literal["then", "now", "level_then", "level_now"]
    if line.role == "level":
        role = "level_now" if is_now else "level_then"
    else:
        role = "now" if is_now else "then"
    return CompareStroke(role=role, side=line.side, points=line.points)


def _behind(line: Line) -> Literal["tick", "base", "part"]:
    return "tick" if line.role == "tick" else "base" if line.role == "base" else "part"
