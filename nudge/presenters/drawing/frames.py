"""The frames a drawing is laid out for: how large, how its letters are, what it has room to say."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

FrameKey = Literal["hand", "desk"]

SMALL, LABEL = 14.0, 15.0
"""Letters of a drawing, in a frame's units; a frame is never drawn smaller than it is."""
LINE = 1.22
"""Height of a line of letters, as a multiple of its size."""
WIDE_DIGIT, WIDE_LETTER, BOLD = 0.62, 0.535, 1.06
"""Widths as shares of the size: of the mono digits, of running text, and how much bold adds."""


@dataclass(frozen=True, slots=True)
class Frame:
    """One size of drawing. A larger stage stretches the largest frame that fits into it."""

    key: FrameKey
    width: float
    height: float
    number: float
    """Size of the four numbers."""
    head: float
    """LabelRoom over the upper level, for its number."""
    under: float
    """LabelRoom under the lower level, for its number."""
    foot: float
    """LabelRoom for the parts' names."""
    is_short: bool
    """Too narrow for sources and long names: they are said where the number opens."""
    reason: str


FRAMES: Mapping[FrameKey, Frame] = MappingProxyType(
    {
        one.key: one
        for one in (
            Frame("hand", 362, 330, 34, 46, 44, 26, True, "A phone; a small laptop stretches it."),
            Frame("desk", 816, 400, 46, 62, 58, 32, False, "A laptop and up; the file's paper."),
        )
    }
)


def text_width(words: str, size: float, is_bold: bool = False) -> float:
    """How wide running text comes out, on the safe side."""
    return len(words) * size * WIDE_LETTER * (BOLD if is_bold else 1.0)


def digits_width(words: str, size: float) -> float:
    """How wide a number comes out, in the mono letters of numbers."""
    return len(words) * size * WIDE_DIGIT
