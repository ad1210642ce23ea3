"""The stage of a visit: its Loop in every frame, whatever is known of it so far."""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from nudge.contract.answer_shapes import AssessOut
from nudge.contract.look_answer import LookOut
from nudge.core.language.units import Quantity, UnitSystem, from_si, unit_label
from nudge.core.language.units import fahrenheit as celsius_of
from nudge.presenters.drawing.frames import FRAMES, LABEL, Frame, text_width
from nudge.presenters.drawing.loop_layout import lay_out_loop
from nudge.presenters.drawing.loop_numbers import FourNumber, four_numbers
from nudge.presenters.drawing.shapes import DrawnLoop, Letters, LineRole
from nudge.presenters.loops import LevelOut, LoopOut, StationOut

FIRST_CLAMP = "First: a clamp on the suction line"
NOTHING_IN_IT = "No refrigerant in it"
_SKETCHED = ((105.0, "high", "Condenser saturation"), (42.0, "low", "Evaporator saturation"))
_SKETCHED_LINES = {"liquid_line": 92.0, "suction_line": 58.0}
"""What an empty Loop looks like [°F]: a healthy machine's, dashed, with no figures on it."""


def stage_of(
    loop: LoopOut | None,
    answer: AssessOut | None,
    look: LookOut | None,
    pressures: Mapping[str, str],
    called: Mapping[str, str],
    units: UnitSystem,
    frames: Sequence[Frame] = tuple(FRAMES.values()),
    is_open: bool = False,
) -> list[DrawnLoop]:
    """The Loop in each frame. Without a reading it is a sketch that says where to begin, or, of
    a circuit without refrigerant (`is_open`), that there is nothing to read.
    """
    numbers = four_numbers(answer, look, pressures, called, units)
    unit = unit_label(Quantity.TEMPERATURE_DIFFERENCE, units)
    if loop is None or not _shows(loop):
        said = NOTHING_IN_IT if is_open else FIRST_CLAMP
        return [_empty(numbers, units, frame, said) for frame in frames]
    windows = {
        key: (target.low, target.high) for key, target in (answer.targets if answer else {}).items()
    }
    restricted = {
        (step.start, step.end): f"restricted, {step.drop:.1f} {unit}"
        for step in (answer.walk if answer else ())
        if step.state == "restricted"
    }
    degrees = unit_label(Quantity.TEMPERATURE, units)
    return [lay_out_loop(loop, windows, numbers, restricted, degrees, frame) for frame in frames]


def _shows(loop: LoopOut) -> bool:
    return bool(loop.levels or loop.air) or any(s.temperature is not None for s in loop.stations)


def _empty(numbers: Sequence[FourNumber], units: UnitSystem, frame: Frame, said: str) -> DrawnLoop:
    def shown(fahrenheit: float) -> float:
        return from_si(celsius_of(fahrenheit), Quantity.TEMPERATURE, units)

    levels = [
        LevelOut(side=side, label=label, enters=shown(at), leaves=shown(at))
        for at, side, label in _SKETCHED
    ]
    stations = [
        StationOut(key=key, label=key, side=side, temperature=shown(at), is_part=False)
        for (key, at), side in zip(_SKETCHED_LINES.items(), ("high", "low"), strict=True)
    ]
    sketch = LoopOut(stations=stations, levels=levels, gaps=[], air={}, heats=False)
    drawn = lay_out_loop(sketch, {}, numbers, {}, "", frame)
    clamp = next(mark for mark in drawn.marks if mark.key == "suction_line")
    keeps: dict[str, LineRole] = {
        "sure": "guess",
        "guess": "guess",
        "level": "estimate",
        "base": "base",
    }
    strokes = [
        replace(stroke, role=keeps[stroke.role]) for stroke in drawn.strokes if stroke.role in keeps
    ]
    half = text_width(said, LABEL, True) / 2
    first = Letters(
        role="first",
        key="suction_line",
        x=round(min(clamp.x, frame.width - half - 2), 1),
        y=round(clamp.y + 30, 1),
        anchor="middle",
        size=LABEL,
        is_bold=True,
        text=said,
    )
    return replace(
        drawn,
        strokes=strokes,
        letters=[first],
        marks=[clamp],
        is_empty=True,
        numbers=[replace(n, words=[] if not n.is_beside else n.words[:1]) for n in drawn.numbers],
        words=f"The Loop, empty. {said}.",
    )
