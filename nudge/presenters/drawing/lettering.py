"""Words of a drawing in the small letters: placed by their corner or baseline, and their box."""

from nudge.presenters.drawing.avoid import Box
from nudge.presenters.drawing.frames import LINE, SMALL, text_width
from nudge.presenters.drawing.shapes import Anchor, LetterRole, Letters


def lettered(role: LetterRole, text: str, is_bold: bool, corner: tuple[float, float]) -> Letters:
    """Words whose box has this upper left corner."""
    return said_at(role, text, corner[0], corner[1] + SMALL, "start", is_bold)


def said_at(
    role: LetterRole, text: str, x: float, y: float, anchor: Anchor, is_bold: bool = False
) -> Letters:
    """Words on a baseline."""
    return Letters(
        role=role,
        x=round(x, 1),
        y=round(y, 1),
        anchor=anchor,
        size=SMALL,
        is_bold=is_bold,
        text=text,
    )


def box_of(one: Letters) -> Box:
    """What words cover."""
    width = text_width(one.text, one.size, one.is_bold)
    left = one.x - {"start": 0.0, "middle": width / 2, "end": width}[one.anchor]
    return left, one.y - one.size, left + width, one.y + one.size * (LINE - 1)
