"""The Pocket as JSON: its blanks, its slips filled, the cycle they come to."""

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from nudge.contract.cycle_answer import CycleOut, cycle_answer
from nudge.contract.opened import OpenedOut, opened
from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict, YesNo
from nudge.core.calculators.blanks import BLANKS
from nudge.core.calculators.pocket import SLIPS, Filled, Pocketful, fill_pocket
from nudge.core.calculators.slip import SlipBlank, SlipLine
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.units import UnitSystem, decimals, from_si, to_si, unit_label
from nudge.core.physics.circuit.cycle import Cycle, run_cycle

Entry = Number | Annotated[str, Field(strict=True, max_length=80)]


class PocketIn(Strict):
    """`POST /api/pocket`: what is filled in. `slips` asks for some slips only, `cycle` for the
    running cycle too.

    An entry is in `units`, unless `written_in` says in which it was typed.
    """

    units: UnitSystem = "ip"
    entries: Annotated[dict[str, Entry], Field(max_length=100)]
    written_in: dict[str, UnitSystem] = Field(default_factory=dict)
    slips: Annotated[list[Name], Field(max_length=40)] | None = None
    cycle: YesNo = True


@dataclass(frozen=True, slots=True)
class SlipChoiceOut:
    key: str
    label: str


@dataclass(frozen=True, slots=True)
class BlankOut:
    """A blank: a number in `unit` between `low` and `high`, or one of `choices`."""

    key: str
    label: str
    unit: str
    low: float
    high: float
    hint: str
    usual: str
    choices: list[SlipChoiceOut]


@dataclass(frozen=True, slots=True)
class SlipShapeOut:
    """`seldom` are those of its blanks that most people leave empty."""

    key: str
    title: str
    blanks: list[str]
    seldom: list[str]
    caution: str | None


@dataclass(frozen=True, slots=True)
class PocketShapeOut:
    """What the Pocket holds, before anything is filled in."""

    units: UnitSystem
    blanks: list[BlankOut]
    slips: list[SlipShapeOut]


@dataclass(frozen=True, slots=True)
class LineOut:
    """A number a slip came to, and its window where it has one."""

    number: OpenedOut
    low: float | None
    high: float | None
    place: Literal["low", "in", "high"] | None
    source: str


@dataclass(frozen=True, slots=True)
class SlipOut:
    """A slip worked out; `text` is the slip as it is copied."""

    key: str
    lines: list[LineOut]
    words: list[str]
    needs: list[str]
    problem: str | None
    text: str


@dataclass(frozen=True, slots=True)
class BlankProblemOut:
    message: str
    nearest: list[str]


@dataclass(frozen=True, slots=True)
class PocketOut:
    """`entries` are the numbers taken, in `units`; `problems` the entries that were refused."""

    units: UnitSystem
    entries: dict[str, float]
    slips: list[SlipOut]
    problems: dict[str, BlankProblemOut]
    cycle: CycleOut | None


def pocket_shape(units: UnitSystem) -> PocketShapeOut:
    """Every blank and slip, labelled in `units`."""
    slips = [
        SlipShapeOut(
            slip.key,
            slip.title,
            list(slip.blanks),
            list(slip.seldom),
            slip.caution.text(units) if slip.caution else None,
        )
        for slip in SLIPS
    ]
    return PocketShapeOut(units, [_blank(blank, units) for blank in BLANKS.values()], slips)


def fill_request(request: PocketIn) -> PocketOut:
    """Fill the Pocket. Raises: UnknownName, for a blank or slip that does not exist."""
    units = request.units
    pocket = fill_pocket(request.entries, units, request.slips, request.written_in)
    return PocketOut(
        units,
        _taken(request, pocket),
        [_slip(filled, pocket, units) for filled in pocket.filled],
        {key: _problem(error, units) for key, error in pocket.problems.items()},
        cycle_answer(_running(pocket), units) if request.cycle else None,
    )


def _taken(request: PocketIn, pocket: Pocketful) -> dict[str, float]:
    quantities = {key: BLANKS[key].quantity for key in request.entries}
    return {
        key: round(from_si(pocket.entered[key], quantity, request.units), 4)
        for key, quantity in quantities.items()
        if quantity is not None and key in pocket.entered and key not in pocket.problems
    }


def slip_text(filled: Filled, pocket: Pocketful, units: UnitSystem) -> str:
    """A slip as it is copied: title, what was entered, what it came to."""
    lines = [filled.slip.title]
    for key in filled.slip.blanks:
        shown = _entered(BLANKS[key], pocket, units)
        if shown:
            lines.append(f"  {BLANKS[key].label}: {shown}")
    for line in filled.outcome.lines:
        number = opened(line.working, units)
        off = f" {number.uncertainty_text}" if number.uncertainty_text else ""
        lines.append(f"  = {number.label}: {number.text}{off}")
    lines += [f"  {said.text(units)}" for said in filled.outcome.words]
    return "\n".join(lines)


def _running(pocket: Pocketful) -> Cycle:
    entered = pocket.entered
    return run_cycle(entered.pick("refrigerant"), entered, entered.get("elevation", 0.0))


def _blank(blank: SlipBlank, units: UnitSystem) -> BlankOut:
    choices = [SlipChoiceOut(key, label) for key, label in blank.choices]
    if blank.quantity is None:
        return BlankOut(blank.key, blank.label, "", 0, 0, blank.hint, blank.usual, choices)
    low, high = (
        round(from_si(to_si(end, blank.quantity, "ip"), blank.quantity, units), 3)
        for end in (blank.low, blank.high)
    )
    usual = ""
    if blank.usual:
        number = from_si(to_si(float(blank.usual), blank.quantity, "ip"), blank.quantity, units)
        usual = f"{number:.{decimals(blank.quantity, units)}f}"
    unit = unit_label(blank.quantity, units)
    return BlankOut(blank.key, blank.label, unit, low, high, blank.hint, usual, choices)


def _slip(filled: Filled, pocket: Pocketful, units: UnitSystem) -> SlipOut:
    return SlipOut(
        filled.slip.key,
        [_line(line, units) for line in filled.outcome.lines],
        [said.text(units) for said in filled.outcome.words],
        list(filled.outcome.needs),
        filled.problem.text(units) if filled.problem else None,
        slip_text(filled, pocket, units),
    )


def _line(line: SlipLine, units: UnitSystem) -> LineOut:
    quantity = line.working.formula.quantity

    def shown(value: float | None) -> float | None:
        return None if value is None else round(from_si(value, quantity, units), 3)

    number = opened(line.working, units)
    return LineOut(number, shown(line.low), shown(line.high), line.place, line.source)


def _entered(blank: SlipBlank, pocket: Pocketful, units: UnitSystem) -> str:
    if blank.quantity is None:
        return dict(blank.choices).get(pocket.entered.pick(blank.key), "")
    if blank.key not in pocket.entered:
        return ""
    value = from_si(pocket.entered[blank.key], blank.quantity, units)
    return f"{round(value, 4):g} {unit_label(blank.quantity, units)}".rstrip()


def _problem(error: CoreError, units: UnitSystem) -> BlankProblemOut:
    nearest = error.nearest if isinstance(error, UnknownName) else []
    return BlankProblemOut(error.text(units), nearest)
