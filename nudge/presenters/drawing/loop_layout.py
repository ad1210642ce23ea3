"""The Loop laid out in a frame: its lines, then every word where it covers nothing else."""

from collections.abc import Mapping, Sequence

from nudge.presenters.drawing.avoid import LabelRoom
from nudge.presenters.drawing.frames import Frame
from nudge.presenters.drawing.loop_blocks import number_blocks
from nudge.presenters.drawing.loop_lines import AIR_NAMES, PLACE, Scale, scale_of, strokes_of
from nudge.presenters.drawing.loop_numbers import FourNumber
from nudge.presenters.drawing.loop_words import (
    air_words,
    discharge_words,
    part_words,
    reading_words,
    rung_words,
    step_words,
    tick_words,
)
from nudge.presenters.drawing.shapes import (
    DrawnLoop,
    Line,
    ReadingMark,
    Side,
    Touch,
)
from nudge.presenters.loops import LoopOut

POINT_OF = {
    "discharge_line": "discharge_line_temp",
    "liquid_line": "liquid_line_temp",
    "drier_in": "drier_inlet_temp",
    "drier_out": "drier_outlet_temp",
    "liquid_line_indoor": "liquid_line_temp_indoor",
    "evaporator_outlet": "evaporator_outlet_temp",
    "suction_line": "suction_line_temp",
    "compressor_in": "true_suction_temp",
}
"""The point each station is read at."""
REACH = 22.0
"""Half of what a finger needs."""


def lay_out_loop(
    loop: LoopOut,
    windows: Mapping[str, tuple[float, float]],
    numbers: Sequence[FourNumber],
    restricted: Mapping[tuple[str, str], str],
    unit: str,
    frame: Frame,
) -> DrawnLoop:
    """Lay a Loop out.

    `windows` by gap, `restricted` the words of a step by the points it lies between; all in one
    unit of temperature, as the loop is.
    """
    at = scale_of(loop, windows, frame)
    strokes = strokes_of(loop, at, windows)
    marks = _marks(loop, at)
    room = LabelRoom(frame.width, frame.height)
    for stroke in strokes:
        if stroke.role not in ("tick", "band", "base", "part"):
            room.draw(stroke.points)
    for mark in marks:
        room.take((mark.x - 8, mark.y - 8, mark.x + 8, mark.y + 8))
    steps = _steps(marks, restricted)
    strokes += [step for step, _ in steps]
    for step, _ in steps:
        room.take(_around(step))
    letters = part_words(loop, at)
    blocks = number_blocks(loop, numbers, at, room)
    letters += [step_words(step, words, room, at) for step, words in steps]
    letters += [reading_words(mark, room) for mark in marks]
    letters += air_words(loop, at, room)
    letters += rung_words(loop, at, room)
    letters += discharge_words(loop, at, room, strokes)
    letters += tick_words(strokes, room)
    return DrawnLoop(
        frame=frame.key,
        width=frame.width,
        height=frame.height,
        strokes=strokes,
        letters=letters,
        numbers=blocks,
        marks=marks,
        places=_places(loop, marks, at),
        words=_in_words(numbers, marks, unit),
    )


def _marks(loop: LoopOut, at: Scale) -> list[ReadingMark]:
    found = []
    for station in loop.stations:
        value = station.temperature
        if value is None or station.key == "discharge_line" or station.key not in PLACE:
            continue
        x, y = at.at(at.place(station.key), value)
        side: Side = "high" if station.side == "high" else "low"
        point = POINT_OF.get(station.key, "")
        found.append(ReadingMark(key=station.key, point=point, side=side, x=x, y=y, value=value))
    return found


def _steps(
    marks: Sequence[ReadingMark], restricted: Mapping[tuple[str, str], str]
) -> list[tuple[Line, str]]:
    """Where the walk found too large a step: across the line, half way."""
    by_point = {mark.point: mark for mark in marks}
    found = []
    for (start, end), words in restricted.items():
        one, other = by_point.get(start), by_point.get(end)
        if one is None or other is None:
            continue
        x, y = (one.x + other.x) / 2, (one.y + other.y) / 2
        found.append((Line(role="restricted", key=f"{start}:{end}", points=[(x, y)]), words))
    return found


def _around(step: Line) -> tuple[float, float, float, float]:
    x, y = step.points[0]
    return x - 12, y - 18, x + 12, y + 18


def _places(loop: LoopOut, marks: Sequence[ReadingMark], at: Scale) -> list[Touch]:
    """Where a finger meets each station: on its reading, or at the foot."""
    read = {mark.key: mark for mark in marks}
    foot = at.frame.height - at.frame.foot - REACH / 2
    found = []
    for station in loop.stations:
        point = POINT_OF.get(station.key, "")
        if not point or station.key not in PLACE:
            continue
        mark = read.get(station.key)
        x, y = (mark.x, mark.y) if mark else (at.x(at.place(station.key)), foot)
        found.append(
            Touch(
                key=station.key,
                point=point,
                label=station.label,
                x=x,
                y=y,
                is_read=mark is not None,
            )
        )
    for key, value in loop.air.items():
        if key in at.along:
            x, y = at.at(sum(at.along[key]) / 2, value)
            found.append(Touch(key=key, point=key, label=AIR_NAMES[key], x=x, y=y, is_read=True))
    return found


def _in_words(numbers: Sequence[FourNumber], marks: Sequence[ReadingMark], unit: str) -> str:
    """Temperatures in their own unit, gaps in theirs: a level is no difference."""
    said = [
        f"{one.label} {one.text} {one.unit}, {one.words[0].lstrip('↑↓✓ ')}"
        for one in numbers
        if one.text
    ]
    said += [f"{mark.key.replace('_', ' ')} {mark.value:.1f} {unit}" for mark in marks]
    return f"The Loop. {'; '.join(said)}." if said else "The Loop. Nothing is read yet."
