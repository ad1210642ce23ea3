"""The tightness film: nitrogen, vacuum and decay of a visit on one sheet of log pressure.

Each test is a frame of the film, as wide as its share of time allows; a decay is split into what
came from outside and what oil and water gave. Beside it, the smallest leak that could still hide.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import log10
from typing import Literal

from nudge.core.language.units import (
    PA_PER_MICRON,
    Quantity,
    UnitSystem,
    atmospheric_kpa,
    from_si,
    to_si,
    unit_label,
)
from nudge.core.tests.nitrogen import limit_kpa
from nudge.presenters.drawing.frames import FRAMES, LINE, SMALL, Frame, FrameKey, text_width
from nudge.presenters.drawing.scales import LinearScale
from nudge.presenters.drawing.shapes import XY, Anchor, LetterRole, Letters
from nudge.services.timed_tests import Tested

LEFT, FOOT, HEAD, RIGHT, GAP = 62.0, 26.0, 26.0, 6.0, 10.0
LEAST_PA, MOST_PA = 2.0, 6e6
KINDS = ("nitrogen", "evacuation", "decay", "standing_pressure")
"""Tests that are a frame of the film."""
POINTS_OF = {
    "nitrogen": "test_pressure",
    "evacuation": "vacuum_level",
    "decay": "vacuum_level",
    "standing_pressure": "liquid_pressure",
}
MOST_FRAMES, MOST_SHORT = 6, 4
LEAST_WIDE = 56.0
TRIPLE_PA = 611.2
MARKS_PA = (
    (500 * PA_PER_MICRON, ""),
    (TRIPLE_PA, "under this, water is ice"),
    (101_325.0, "the air’s pressure"),
)
Role = Literal["grid", "mark", "limit", "frame", "measured", "fitted"]


@dataclass(frozen=True, slots=True, kw_only=True)
class FilmStroke:
    """A line of the film."""

    role: Role
    points: list[XY]


@dataclass(frozen=True, slots=True, kw_only=True)
class FilmShade:
    """A part of a rise: from outside, or from oil and water."""

    role: Literal["outside", "within"]
    points: list[XY]


@dataclass(frozen=True, slots=True, kw_only=True)
class FilmFrame:
    """One test on the film: where it stands, and what is said under it."""

    run_id: str
    label: str
    minutes: float
    x: float
    width: float
    finding: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnFilm:
    """The film in one frame: time to the right by test, log pressure up."""

    frame: FrameKey
    width: float
    height: float
    strokes: list[FilmStroke]
    shades: list[FilmShade]
    letters: list[Letters]
    frames: list[FilmFrame]
    words: str


LOW = replace(FRAMES["desk"], height=262.0, reason="A stage with tests named over it.")
FILM_FRAMES = (replace(FRAMES["hand"], height=262.0), LOW, FRAMES["desk"])


def films_of(
    found: Sequence[Tested], units: UnitSystem, frames: Sequence[Frame] = FILM_FRAMES
) -> list[DrawnFilm]:
    """The film in each frame; none while no test of it has a reading."""
    shown = [one for one in found if one.row.key in KINDS and _rows(one)]
    if not shown:
        return []
    return [
        _lay_out(shown[: MOST_SHORT if frame.is_short else MOST_FRAMES][::-1], units, frame)
        for frame in frames
    ]


def _rows(one: Tested) -> list[tuple[float, float]]:
    """Minutes from its beginning and absolute pressure [Pa]."""
    point = POINTS_OF[one.row.key]
    trace = one.run.trace(point)
    atmosphere = atmospheric_kpa(one.run.plate.elevation_m) * 1000
    gauge = point != "vacuum_level"
    return [
        ((s - one.run.began_s) / 60, max(v * 1000 + atmosphere if gauge else v, 0.1))
        for s, v in zip(trace.seconds, trace.values, strict=True)
        if one.run.began_s <= s <= one.run.until_s
    ]


def _lay_out(found: Sequence[Tested], units: UnitSystem, frame: Frame) -> DrawnFilm:
    every = [p for one in found for _, p in _rows(one)]
    low = max(min([*every, 300 * PA_PER_MICRON]) * 0.7, LEAST_PA)
    high = min(max([*every, 2e5]) * 1.6, MOST_PA)
    y = LinearScale(log10(low), log10(high), frame.height - FOOT - 2 * SMALL * LINE, HEAD)
    strokes, letters = _grid(found, y, units, frame)
    shades: list[FilmShade] = []
    frames: list[FilmFrame] = []
    room = frame.width - LEFT - RIGHT - GAP * (len(found) - 1)
    spans = [max(rows[-1][0], 1.0) for rows in map(_rows, found)]
    shares = [span**0.5 for span in spans]
    left = LEFT
    for one, span, share in zip(found, spans, shares, strict=True):
        wide = max(room * share / sum(shares), LEAST_WIDE if len(found) <= 5 else 30.0)
        wide = min(wide, frame.width - RIGHT - left)
        x = LinearScale(0.0, span, left, left + wide)
        strokes.append(
            FilmStroke(role="frame", points=[(r(left), r(y.start)), (r(left), r(y.end))])
        )
        strokes.append(FilmStroke(role="measured", points=_line(_rows(one), x, y)))
        parts = _split(one, x, y)
        shades += parts
        label = _fitting(one.row.label.partition(":")[0], wide)
        foot = y.start + SMALL * LINE
        letters.append(_letter("axis", left + 2, foot, "start", label, True))
        letters.append(
            _letter("tick", left + 2, foot + SMALL * LINE, "start", _time(span, wide), False)
        )
        frames.append(
            FilmFrame(
                run_id=one.id, label=one.row.label, minutes=round(span, 1), x=r(left),
                width=r(wide), finding=one.outcome.headline.text(units),
            )
        )  # fmt: skip
        left += wide + GAP
    return DrawnFilm(
        frame=frame.key,
        width=frame.width,
        height=frame.height,
        strokes=strokes,
        shades=shades,
        letters=letters,
        frames=frames,
        words=" ".join(
            f"{one.row.label}, {span:.0f} minutes: {one.outcome.headline.text(units)}"
            for one, span in zip(found, spans, strict=True)
        ),
    )


def _grid(
    found: Sequence[Tested], y: LinearScale, units: UnitSystem, frame: Frame
) -> tuple[list[FilmStroke], list[Letters]]:
    """Decades, and the pressures that mean something."""
    strokes, letters = [], []
    right = frame.width - RIGHT
    limit = limit_kpa(found[0].run.plate) * 1000 + 101_325
    taken: list[float] = []
    for pa, words in (*MARKS_PA, (limit, "lower design pressure")):
        if not y.low <= log10(pa) <= y.high:
            continue
        at = y(log10(pa))
        role: Role = "limit" if pa == limit else "mark"
        strokes.append(FilmStroke(role=role, points=[(LEFT, r(at)), (right, r(at))]))
        if all(abs(at - other) > SMALL * LINE for other in taken):
            shown = _text(pa, units)
            letters.append(_letter("tick", LEFT - 4, at + SMALL * 0.35, "end", shown, False))
            taken.append(at)
        if words and not frame.is_short:
            letters.append(_letter("tick", right - 2, at + SMALL + 1, "end", words, False))
    for pa in _decades(y, units):
        at = y(log10(pa))
        strokes.append(FilmStroke(role="grid", points=[(LEFT, r(at)), (right, r(at))]))
        if all(abs(at - other) > SMALL * LINE for other in taken):
            shown = _text(pa, units)
            letters.append(_letter("tick", LEFT - 4, at + SMALL * 0.35, "end", shown, False))
            taken.append(at)
    letters.append(_letter("axis", 4, HEAD - 10, "start", _axis(units), True))
    return strokes, letters


def _decades(y: LinearScale, units: UnitSystem) -> list[float]:
    """Round figures of the vacuum gauge under the air's pressure [Pa]."""
    unit = to_si(1.0, Quantity.VACUUM, units)
    found = [unit * 10.0**power for power in range(7)]
    return [pa for pa in found if y.low < log10(pa) < y.high and pa < 101_000]


def _axis(units: UnitSystem) -> str:
    vacuum = unit_label(Quantity.VACUUM, units)
    return f"{vacuum}, over the air {unit_label(Quantity.TEST_PRESSURE, units)}"


def _text(pa: float, units: UnitSystem) -> str:
    """A pressure as its instrument shows it: the gauge over the air’s, the vacuum gauge under."""
    if pa > 101_000:
        gauge = from_si((pa - 101_325) / 1000, Quantity.TEST_PRESSURE, units)
        return f"{gauge:,.1f}" if units == "si_bar" else f"{gauge:,.0f}"
    return f"{from_si(pa, Quantity.VACUUM, units):,.0f}"


def _split(one: Tested, x: LinearScale, y: LinearScale) -> list[FilmShade]:
    """Each stretch of a decay: what oil and water gave over its base, and over that the leak."""
    shades: list[FilmShade] = []
    for curve in one.outcome.curves:
        base = [(t, b) for t, _, _, b in curve]
        within = [(t, b + w) for t, _, w, b in curve]
        whole = [(t, b + w + o) for t, o, w, b in curve]
        for role, lower, upper in (("within", base, within), ("outside", within, whole)):
            points = _line(lower, x, y) + _line(upper, x, y)[::-1]
            shades.append(FilmShade(role=role, points=points))  # type: ignore[arg-type]
    return shades


def _line(rows: Sequence[tuple[float, float]], x: LinearScale, y: LinearScale) -> list[XY]:
    low, high = 10**y.low, 10**y.high
    return [(r(x(t)), r(y(log10(min(max(p, low), high))))) for t, p in rows]


def _time(span: float, wide: float) -> str:
    words = f"{span:.0f} min" if span < 120 else f"{span / 60:.1f} h"
    return words if text_width(words, SMALL) < wide else f"{span:.0f}"


def _fitting(words: str, wide: float) -> str:
    if text_width(words, SMALL, is_bold=True) < wide:
        return words
    first = words.split(maxsplit=1)[0]
    return first if text_width(first, SMALL, is_bold=True) < wide else first[:4] + "."


def _letter(
    role: LetterRole, x: float, y: float, anchor: Anchor, text: str, is_bold: bool
) -> Letters:
    return Letters(role=role, x=r(x), y=r(y), anchor=anchor, size=SMALL, is_bold=is_bold, text=text)


def r(value: float) -> float:
    """A place in a frame, to a tenth of its unit."""
    return round(value, 1)
