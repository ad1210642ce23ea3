"""The defrost strip: vapour line, liquid line and fan current under the four expected events.

An event stands where the trace shows it; one that is missing keeps its place open and dashed.
"""

from collections.abc import Sequence

from nudge.core.language.units import UnitSystem, from_si, unit_label
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.tests.defrost import FAN, LIQUID, VAPOUR, Events, events_of
from nudge.core.tests.run import between
from nudge.presenters.drawing.frames import FRAMES, SMALL, Frame, text_width
from nudge.presenters.drawing.proof_layout import DrawnProof, ProofStroke, trace_row, word
from nudge.presenters.drawing.scales import LinearScale
from nudge.services.timed_tests import Tested

LEFT, RIGHT, HEAD, FOOT, BETWEEN = 96.0, 8.0, 66.0, 24.0, 12.0
BEFORE_S, AFTER_S, LEAST_S = 60.0, 60.0, 240.0
TRACES = ((VAPOUR, "Vapour line"), (LIQUID, "Liquid line"), (FAN, "Fan current"))
LANES = (
    ("valve", "Valve turns"),
    ("fan_off", "Fan stops"),
    ("vapour", "Cold"),
    ("fan_on", "Fan back"),
)
"""The four, in the order they come, each by its own line of letters so that none meets another."""


def defrosts_of(
    one: Tested, units: UnitSystem, frames: Sequence[Frame] = tuple(FRAMES.values())
) -> list[DrawnProof]:
    """The strip in each frame; none before a defrost began or was asked for."""
    found, asked = events_of(one.run), one.run.marked("forced")
    began = found.began if found.began is not None else asked[-1].at_s if asked else None
    if began is None:
        return []
    return [_lay_out(one, found, began, units, frame) for frame in frames]


def _lay_out(
    one: Tested, found: Events, began_s: float, units: UnitSystem, frame: Frame
) -> DrawnProof:
    last = (found.fan_on or one.run.until_s) + AFTER_S - began_s
    x = LinearScale(-BEFORE_S, max(last, LEAST_S), LEFT, frame.width - RIGHT)
    foot = frame.height - FOOT
    strokes, letters = [], []
    for lane, (key, label) in enumerate(LANES):
        moment: float | None = getattr(found, key)
        y = 12.0 + lane * (HEAD - 12) / len(LANES)
        if moment is None:
            letters.append(word(4, y, f"{label}: not seen", False))
            continue
        at = x(moment - began_s)
        strokes.append(
            ProofStroke(role="dose", points=[(round(at, 1), y + 2), (round(at, 1), foot)])
        )
        if at > (x.start + x.end) / 2:
            letters.append(word(at - 4, y, label, True, "end"))
        else:
            letters.append(word(at + 4, y, label, True))
    rows = [(point, label) for point, label in TRACES if one.run.trace(point).values]
    each = (foot - HEAD) / max(len(rows), 1)
    for number, (point, label) in enumerate(rows):
        part = between(one.run.trace(point), began_s - BEFORE_S, began_s + max(last, LEAST_S))
        if not part.values:
            continue
        quantity = POINTS[point].quantity
        values = [from_si(value, quantity, units) for value in part.values]
        low, high = min(values), max(values)
        room = max((high - low) * 0.12, 0.4)
        top = HEAD + number * each + BETWEEN / 2
        y_of = LinearScale(low - room, high + room, top + each - BETWEEN, top)
        points = [(s - began_s, v) for s, v in zip(part.seconds, values, strict=True)]
        stroke, named = trace_row(points, x, y_of, label, unit_label(quantity, units))
        strokes.append(stroke)
        letters += named
    step = 1 if last < 400 else 2
    for minute in range(-1, int(max(last, LEAST_S) // 60) + 1, step):
        said = f"{minute} min"
        most = frame.width - text_width(said, SMALL) / 2  # the last one may stand at the edge
        at = min(x(minute * 60), most)
        letters.append(word(at, frame.height - 6, said, False, "middle"))
    return DrawnProof(
        frame=frame.key,
        width=frame.width,
        height=frame.height,
        strokes=strokes,
        boxes=[],
        letters=letters,
        words=f"The defrost: {one.outcome.headline.text(units)}",
    )
