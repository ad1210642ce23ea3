"""The four numbers as blocks on the Loop: at their levels, and in or beside their gaps."""

from collections.abc import Sequence
from itertools import product

import numpy as np

from nudge.presenters.drawing.avoid import LabelRoom
from nudge.presenters.drawing.frames import LINE, SMALL, Frame, digits_width, text_width
from nudge.presenters.drawing.loop_lines import Scale
from nudge.presenters.drawing.loop_numbers import FourNumber
from nudge.presenters.drawing.shapes import NumberBlock
from nudge.presenters.loops import LoopOut

PAD = 4.0


NAME_OFF = 6.0
"""Between a number and what stands beside it."""


UNIT_SIZE = 0.42
"""The unit's letters, as a share of the number's."""


DOWN = 8.0
"""How finely a number's height is tried."""


ACROSS, APART = 0.25, 0.8
"""How much a number dislikes each unit of distance from its gap."""


def number_blocks(
    loop: LoopOut, numbers: Sequence[FourNumber], at: Scale, room: LabelRoom
) -> list[NumberBlock]:
    """The levels' numbers at their levels first, then the gaps' in or beside their gaps."""
    of_levels = [one for one in numbers if one.key.endswith("_saturation")]
    of_gaps = [one for one in numbers if not one.key.endswith("_saturation")]
    return [
        *(_level_block(loop, one, at, room) for one in of_levels),
        *(_gap_block(loop, one, at, room) for one in of_gaps),
    ]


def _sizes(one: FourNumber, frame: Frame, is_beside: bool) -> tuple[float, float, list[str]]:
    """Width and height of a block, and the words it has room for."""
    words = list(one.short if frame.is_short else one.words)
    number = digits_width(one.text or "—", frame.number)
    number += text_width(f" {one.unit}", frame.number * UNIT_SIZE)
    if is_beside:
        # beside the number: its name over what it is read from
        said = [one.label if not frame.is_short else one.label.partition(" ")[0], *words]
        beside = max(text_width(line, SMALL) for line in said)
        return number + 8 + beside, max(frame.number, 2 * SMALL * LINE), said
    under = max(text_width(line, SMALL, n == 0) for n, line in enumerate(words))
    number = digits_width(one.text or "—", frame.number) + NAME_OFF
    width = max(number + max(text_width(one.label, SMALL), text_width(one.unit, SMALL)), under)
    return width, frame.number + len(words) * SMALL * LINE + 2, words


def _block(
    one: FourNumber, box: tuple[float, float, float, float], frame: Frame, said: list[str]
) -> NumberBlock:
    x, y, width, height = box
    return NumberBlock(
        key=one.key,
        label=one.label,
        side=one.side,
        x=round(x, 1),
        y=round(y, 1),
        width=round(width, 1),
        height=round(height, 1),
        size=frame.number,
        text=one.text,
        unit=one.unit,
        words=said,
        is_beside=one.key.endswith("_saturation"),
        is_estimate=one.is_estimate,
    )


def _level_block(loop: LoopOut, one: FourNumber, at: Scale, room: LabelRoom) -> NumberBlock:
    """Over the upper level or under the lower one; where it is unknown, where it would be."""
    frame = at.frame
    width, height, said = _sizes(one, frame, True)
    level = next((each for each in loop.levels if each.side == one.side), None)
    if one.side == "high":
        y = at.y(max(level.enters, level.leaves + level.give)) if level else frame.head
        left, right, tops = frame.width * 0.09, frame.width * 0.53, [y - height - PAD]
    else:
        y = (
            at.y(min(level.enters, level.leaves - level.give))
            if level
            else frame.height - frame.foot - frame.under
        )
        left, right, tops = frame.width * 0.555, frame.width, [y + PAD]
    slide = max(right - width - left, 0)
    steps = [left + slide * n / 6 for n in range(7)] if slide else [max(right - width, 0)]
    if one.side == "low":
        steps.reverse()
    x, y = room.settle((width, height), product(steps, tops))
    return _block(one, (x, y, width, height), frame, said)


def _gap_block(loop: LoopOut, one: FourNumber, at: Scale, room: LabelRoom) -> NumberBlock:
    """In its gap where that is tall enough, else near it, on its own side of the machine."""
    frame = at.frame
    width, height, said = _sizes(one, frame, False)
    gap = next((each for each in loop.gaps if each.key == one.key), None)
    is_high = one.side == "high"
    station = gap.station if gap else "liquid_line" if is_high else "suction_line"
    x, middle = at.x(at.place(station)), frame.height / 2
    ends = sorted((at.y(gap.level), at.y(gap.line))) if gap else [middle, middle]
    left, right = (0.0, frame.width * 0.55) if is_high else (frame.width * 0.565, frame.width)
    wanted = (x + 24, x + 12, x - width - 10, x - width / 2, left, right - width)
    lefts = sorted({min(max(one, left), max(right - width, left)) for one in wanted})
    lowest = frame.height - frame.foot - height
    tops = [n * DOWN for n in range(int(lowest // DOWN) + 1)]
    centre = (ends[0] + ends[1] - height) / 2
    away_x = np.abs(np.asarray(lefts) + width / 2 - x) * ACROSS
    away_y = np.abs(np.asarray(tops) - centre) * APART
    px, py = room.settle_on_grid((width, height), lefts, tops, away_x[:, None] + away_y)
    return _block(one, (px, py, width, height), frame, said)
