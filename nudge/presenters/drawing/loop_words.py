"""The words on the Loop: readings, air, parts and findings, each out of the others' way."""

from collections.abc import Sequence

from nudge.presenters.drawing.avoid import LabelRoom
from nudge.presenters.drawing.frames import LABEL, SMALL, text_width
from nudge.presenters.drawing.loop_lines import AIR_NAMES, CONDENSER, EVAPORATOR, Scale
from nudge.presenters.drawing.shapes import Anchor, LetterRole, Letters, Line, ReadingMark
from nudge.presenters.loops import LoopOut

SHORT_PART = {
    "compressor_out": "Comp.",
    "condenser": "Cond.",
    "liquid_line": "Liquid",
    "metering_device": "Device",
    "evaporator": "Evap.",
    "suction_line": "Suction",
    "compressor_in": "Suction",
}


PUSHED = 36.0
"""How far a part's name may stand from its part."""


DOWNS = (13, -11, 28, -26, 44, -42)
"""Where the air's name may stand from its line, best first."""


def _letters(
    role: LetterRole,
    text: str,
    size: float,
    is_bold: bool,
    room: LabelRoom,
    around: Sequence[tuple[float, float]],
    key: str = "",
) -> Letters:
    """Words whose middle may stand at each of `around`, best first."""
    width, height = text_width(text, size, is_bold), size * 1.1
    places = [(x - width / 2, y - height / 2) for x, y in around]
    left, top = room.settle((width, height), places)
    middle, baseline = left + width / 2, top + size * 0.88
    return _said(role, text, size, is_bold, (middle, baseline), "middle", key)


def _said(
    role: LetterRole,
    text: str,
    size: float,
    is_bold: bool,
    at: tuple[float, float],
    anchor: Anchor,
    key: str = "",
) -> Letters:
    return Letters(
        role=role,
        key=key,
        x=round(at[0], 1),
        y=round(at[1], 1),
        anchor=anchor,
        size=size,
        is_bold=is_bold,
        text=text,
    )


def reading_words(mark: ReadingMark, room: LabelRoom) -> Letters:
    text = f"{mark.value:.1f}"
    half, x, y = text_width(text, SMALL, True) / 2, mark.x, mark.y
    under = 1 if mark.side == "high" else -1
    around = [
        (x - half - 10, y + under * 10),
        (x, y + under * 19),
        (x + half + 12, y + under * 12),
        (x - half - 12, y),
        (x + half + 12, y),
        (x, y - under * 19),
        (x - half - 10, y - under * 12),
        (x + half + 10, y - under * 14),
        (x, y + under * 34),
        (x, y - under * 34),
    ]
    return _letters("reading", text, SMALL, True, room, around, mark.key)


def air_words(loop: LoopOut, at: Scale, room: LabelRoom) -> list[Letters]:
    found = []
    for key, value in loop.air.items():
        if key not in AIR_NAMES or key not in at.along:
            continue
        name = AIR_NAMES[key].partition(" ")[0] if at.frame.is_short else AIR_NAMES[key]
        text = f"{name} {value:.1f}"
        x, y = at.at(sum(at.along[key]) / 2, value)
        off = text_width(text, SMALL) / 2 + 8
        around = [(x + dx, y + dy) for dy in DOWNS for dx in (0, 20, -20, 45, 70, off, -off)]
        found.append(_letters("air", text, SMALL, False, room, around, key))
    return found


def rung_words(loop: LoopOut, at: Scale, room: LabelRoom) -> list[Letters]:
    """What a cold room's design asks for, said beside its rung."""
    found = []
    for key, value in loop.rungs.items():
        ends = CONDENSER if key == "high" else EVAPORATOR
        text = f"{value:.1f}" if at.frame.is_short else f"design {value:.1f}"
        x, y = at.at(sum(ends) / 2, value)
        off = (ends[1] - ends[0]) * at.frame.width / 2 + text_width(text, SMALL) / 2 + 8
        around = [(x + dx, y + dy) for dx in (0, off, -off) for dy in (18, -8, 5, 32, -22)]
        found.append(_letters("air", text, SMALL, False, room, around, f"rung:{key}"))
    return found


def step_words(step: Line, words: str, room: LabelRoom, at: Scale) -> Letters:
    x, y = step.points[0]
    text = words.rsplit(",", maxsplit=1)[-1].strip() if at.frame.is_short else words
    sides = (0, 40, -40, 80, -80)
    around = [(x + dx, y + dy) for dy in (30, -28, 46, 62, -44, 80, 100) for dx in sides]
    return _letters("restricted", text, LABEL, True, room, around, step.key)


def discharge_words(
    loop: LoopOut, at: Scale, room: LabelRoom, strokes: list[Line]
) -> list[Letters]:
    """The discharge line is off the scale: an arrow up, and its figure."""
    value = next((s.temperature for s in loop.stations if s.key == "discharge_line"), None)
    if value is None:
        return []
    x = at.x(at.place("discharge_line"))
    strokes.append(Line(role="leader", side="high", key="discharge", points=[(x, 20.0), (x, 6.0)]))
    text = f"{value:.0f}" if at.frame.is_short else f"Discharge line {value:.0f}"
    half = text_width(text, SMALL, True) / 2
    around = [(x + half + 8, 10), (x + half + 8, 26), (half, 34), (half, 50)]
    return [_letters("discharge", text, SMALL, True, room, around, "discharge_line")]


def tick_words(strokes: Sequence[Line], room: LabelRoom) -> list[Letters]:
    """A tick keeps its figure only where that stands in nobody's way."""
    found = []
    for stroke in strokes:
        if stroke.role != "tick":
            continue
        y, text = stroke.points[0][1], f"{stroke.key}°"
        box = (0.0, y - SMALL - 2, text_width(text, SMALL), y - 1)
        if y > SMALL and room.is_free(box):
            found.append(_said("tick", text, SMALL, False, (0.0, y - 4), "start"))
    return found


def part_words(loop: LoopOut, at: Scale) -> list[Letters]:
    """The parts along the foot, in the order the refrigerant meets them."""
    frame, y = at.frame, at.frame.height - 8
    found, free, named = [], 0.0, set[str]()
    for station in loop.stations:
        if station.key not in SHORT_PART or station.label in named:
            continue
        named.add(station.label)
        text = _short_of(station.key, station.label) if frame.is_short else station.label
        width = text_width(text, SMALL)
        wanted = max(at.x(at.place(station.key)) - width / 2, 0.0)
        left = min(max(wanted, free), frame.width - width)
        if left < free or left - wanted > PUSHED:
            continue
        free = left + width + 6
        where = (left + width / 2, y)
        found.append(_said("part", text, SMALL, False, where, "middle", station.key))
    return found


def _short_of(key: str, label: str) -> str:
    return SHORT_PART[key] if "coil" not in label else label.partition(" ")[0]
