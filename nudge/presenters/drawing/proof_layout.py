"""The proof strip of a test dose: suction, head and superheat across it, with what was expected."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from nudge.core.language.units import Quantity, UnitSystem, from_si, unit_label
from nudge.core.tests.run import between
from nudge.core.tests.valve import ANSWERS_K, BACK_MIN, superheat_of
from nudge.presenters.drawing.frames import FRAMES, LINE, SMALL, Frame, FrameKey
from nudge.presenters.drawing.scales import LinearScale
from nudge.presenters.drawing.shapes import XY, Letters
from nudge.services.timed_tests import Tested

LEFT, RIGHT, HEAD, FOOT, BETWEEN = 96.0, 8.0, 24.0, 24.0, 12.0
BEFORE_S, AFTER_S = 60.0, 200.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ProofStroke:
    """A line of the strip: a trace, the dose, the moment it should be back by."""

    role: Literal["trace", "dose", "by", "frame"]
    points: list[XY]


@dataclass(frozen=True, slots=True, kw_only=True)
class ProofBox:
    """Where a trace must stay for a valve that is shut."""

    x: float
    y: float
    width: float
    height: float


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnProof:
    """The strip in one frame."""

    frame: FrameKey
    width: float
    height: float
    strokes: list[ProofStroke]
    boxes: list[ProofBox]
    letters: list[Letters]
    words: str


def proofs_of(
    one: Tested, units: UnitSystem, frames: Sequence[Frame] = tuple(FRAMES.values())
) -> list[DrawnProof]:
    """The strip in each frame; none before a dose was given."""
    doses = one.run.marked("dose_given")
    if not doses:
        return []
    return [_lay_out(one, doses[-1].at_s, units, frame) for frame in frames]


def _lay_out(one: Tested, dose_s: float, units: UnitSystem, frame: Frame) -> DrawnProof:
    rows = _traces(one, dose_s, units)
    x = LinearScale(-BEFORE_S, AFTER_S, LEFT, frame.width - RIGHT)
    each = (frame.height - HEAD - FOOT) / max(len(rows), 1)
    strokes = [
        ProofStroke(role="dose", points=[(_r(x(0)), HEAD), (_r(x(0)), frame.height - FOOT)]),
        ProofStroke(
            role="by",
            points=[(_r(x(BACK_MIN * 60)), HEAD), (_r(x(BACK_MIN * 60)), frame.height - FOOT)],
        ),
    ]
    boxes, letters = [], [
        word(x(0) + 3, HEAD - 8, "Dose", True),
        word(x(BACK_MIN * 60) - 3, HEAD - 8, "Back by here", False, "end"),
    ]  # fmt: skip
    for number, (label, unit, points, window) in enumerate(rows):
        top = HEAD + number * each + BETWEEN / 2
        values = [v for _, v in points] + list(window or ())
        low, high = min(values), max(values)
        room = max((high - low) * 0.15, 0.5)
        y = LinearScale(low - room, high + room, top + each - BETWEEN, top)
        if window:
            boxes.append(
                ProofBox(
                    x=_r(x(BACK_MIN * 60)),
                    y=_r(y(window[1])),
                    width=_r(x.end - x(BACK_MIN * 60)),
                    height=_r(y(window[0]) - y(window[1])),
                )
            )
        stroke, said = trace_row(points, x, y, label, unit)
        strokes.append(stroke)
        letters += said
    for minute in (-1, 0, 1, 2, 3):
        letters.append(word(x(minute * 60), frame.height - 6, f"{minute} min", False, "middle"))
    return DrawnProof(
        frame=frame.key,
        width=frame.width,
        height=frame.height,
        strokes=strokes,
        boxes=boxes,
        letters=letters,
        words=f"Proof of the valve: {one.outcome.headline.text(units)}",
    )


_Row = tuple[str, str, list[tuple[float, float]], tuple[float, float] | None]


def _traces(one: Tested, dose_s: float, units: UnitSystem) -> list[_Row]:
    """Label, unit, points and the window it has to be in, of each trace there is."""
    run, found = one.run, list[_Row]()
    for point, label in (("suction_pressure", "Suction"), ("liquid_pressure", "Head")):
        part = between(run.trace(point), dose_s - BEFORE_S, dose_s + AFTER_S)
        if part.values:
            quantity = Quantity.PRESSURE
            rows = [
                (s - dose_s, from_si(v, quantity, units))
                for s, v in zip(part.seconds, part.values, strict=True)
            ]
            before = [v for s, v in rows if s <= 0]
            window = None
            if point == "suction_pressure" and before:
                mean = sum(before) / len(before)
                reach = abs(mean) * 0.12 + 1.0
                window = (mean - reach, mean + reach)
            found.append((label, unit_label(quantity, units), rows, window))
    line = between(run.trace("suction_line_temp"), dose_s - BEFORE_S, dose_s + AFTER_S)
    superheats = [(s - dose_s, superheat_of(run, s)) for s in line.seconds]
    kelvin = [(s, v) for s, v in superheats if v is not None]
    if kelvin:
        quantity = Quantity.TEMPERATURE_DIFFERENCE
        rows = [(s, from_si(v, quantity, units)) for s, v in kelvin]
        before = [v for s, v in rows if s <= 0]
        window = None
        if before:
            mean = sum(before) / len(before)
            reach = from_si(ANSWERS_K, quantity, units)
            window = (mean - reach, mean + 3 * reach)
        found.append(("Superheat", unit_label(quantity, units), rows, window))
    return found


def trace_row(
    points: Sequence[XY], x: LinearScale, y: LinearScale, label: str, unit: str
) -> tuple[ProofStroke, list[Letters]]:
    """One trace of a strip, with its name and where it is now."""
    middle = (y.start + y.end) / 2
    return (
        ProofStroke(role="trace", points=[(_r(x(s)), _r(y(v))) for s, v in points]),
        [
            word(4, middle, label, True),
            word(4, middle + SMALL * LINE, f"{points[-1][1]:.1f} {unit}", False),
        ],
    )


def word(
    x: float,
    y: float,
    text: str,
    is_bold: bool,
    anchor: Literal["start", "middle", "end"] = "start",
) -> Letters:
    return Letters(
        role="axis" if is_bold else "tick",
        x=_r(x),
        y=_r(y),
        anchor=anchor,
        size=SMALL,
        is_bold=is_bold,
        text=text,
    )


def _r(value: float) -> float:
    return round(value, 1)
