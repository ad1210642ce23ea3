"""A slip of the Pocket on its way into a visit."""

from collections.abc import Mapping
from dataclasses import dataclass

from nudge.core.calculators.blanks import BLANKS
from nudge.core.calculators.pocket import Filled, fill_pocket, slip_named
from nudge.core.calculators.slip import SlipLine
from nudge.core.language.callout.spoken_units import unit_for
from nudge.core.language.errors import CoreError
from nudge.core.language.units import UnitSystem, from_si
from nudge.core.language.vocabulary.points import POINTS


@dataclass(frozen=True, slots=True)
class SentReading:
    """A reading a slip brings: the point, the number and unit as given, where it came from."""

    point: str
    value: float
    unit: str
    source: str


def filled_slip(slip: str, entries: Mapping[str, float | str], units: UnitSystem) -> Filled:
    """One slip worked out again from what was entered.

    Raises: UnknownName; the first refusal among the blanks of this slip; CoreError, when it
    comes to nothing.
    """
    blanks = slip_named(slip).blanks
    pocket = fill_pocket({k: v for k, v in entries.items() if k in blanks}, units, [slip])
    for problem in pocket.problems.values():
        raise problem
    filled = pocket.filled[0]
    if filled.problem is not None:
        raise filled.problem
    if not filled.outcome.lines:
        wanted = ", ".join(filled.outcome.needs)
        raise CoreError("slip", f"There is nothing on this slip yet. It needs {wanted}.")
    return filled


def readings_of(
    slip: str, entries: Mapping[str, float | str], units: UnitSystem
) -> list[SentReading]:
    """The readings a slip brings into a visit. Raises: as `filled_slip`."""
    filled = filled_slip(slip, entries, units)
    found: dict[str, SentReading] = {}
    for key in filled.slip.blanks:
        value, point = entries.get(key), BLANKS[key].point
        if point is not None and isinstance(value, (int, float)):
            found[point] = SentReading(point, float(value), _unit(point, units), "typed")
    for line in filled.outcome.lines:
        if line.reading is not None and line.reading not in found:
            found[line.reading] = _worked_out(line, line.reading, units)
    return list(found.values())


def _worked_out(line: SlipLine, point: str, units: UnitSystem) -> SentReading:
    value = from_si(line.working.value, POINTS[point].quantity, units)
    return SentReading(point, round(value, 3), _unit(point, units), "estimated")


def _unit(point: str, units: UnitSystem) -> str:
    unit = unit_for("", POINTS[point].quantity, units)
    assert unit is not None, point  # every quantity of a point has a unit in every system
    return unit.label
