"""How a number came about: the one mechanism that opens it to formula, inputs and source.

A `Formula` is a row: what the number is, how it is written, where it comes from. `work`
fills the row with today's values and carries the inputs' uncertainty through the arithmetic.
An uncertainty is a ± that holds 19 times in 20, in core units.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from math import sqrt
from string import Formatter

from nudge.core.language.said import Measure, Said
from nudge.core.language.units import Quantity

Values = Mapping[str, float]


@dataclass(frozen=True, slots=True)
class Formula:
    """One computed quantity as a technician would look it up.

    `today` is the formula as a template over the names in `uses` and `result`; `uses` are the
    names worth showing as inputs. `own_error` is the method's own ±, beside its inputs'.
    """

    key: str
    label: str
    quantity: Quantity
    meaning: str
    formula: str
    today: str
    uses: tuple[str, ...]
    reference: str
    own_error: float = 0.0


@dataclass(frozen=True, slots=True)
class Input:
    """A value that went in: what it is, where it came from (`typed`, `plate`, …), its ±."""

    key: str
    label: str
    measure: Measure
    source: str
    uncertainty: float | None = None


@dataclass(frozen=True, slots=True)
class Working:
    """A number with everything behind it."""

    formula: Formula
    value: float
    inputs: tuple[Input, ...]
    uncertainty: float | None
    today_said: Said | None = None
    """The formula with today's values, where a rule says it in its own words."""

    @property
    def measure(self) -> Measure:
        return Measure(self.value, self.formula.quantity)

    @property
    def today(self) -> Said:
        """The formula with today's values in it."""
        if self.today_said is not None:
            return self.today_said
        measures = {given.key: given.measure for given in self.inputs} | {"result": self.measure}
        named = {name for _, name, _, _ in Formatter().parse(self.formula.today) if name}
        if named <= measures.keys():
            return Said(self.formula.today, tuple(measures.items()))
        return Said(self.formula.formula + " = {result}", (("result", self.measure),))


def work(
    formula: Formula, value: Callable[[Values], float], inputs: Mapping[str, Input]
) -> Working:
    """A formula worked out: `value` of the inputs' core values, with its uncertainty.

    Raises: whatever `value` raises for the inputs as given.
    """
    values = {key: given.measure.value for key, given in inputs.items()}
    limits = {key: given.uncertainty for key, given in inputs.items() if given.uncertainty}
    shown = tuple(inputs[key] for key in formula.uses if key in inputs)
    spread = propagate(value, values, limits)
    return Working(formula, value(values), shown, with_own_error(spread, formula.own_error))


def propagate(
    value: Callable[[Values], float | None], values: Values, limits: Values
) -> float | None:
    """The ± of one result: see `propagate_all`. None when no input has an uncertainty."""
    return propagate_all(lambda moved: {"": value(moved)}, values, limits).get("")


def propagate_all(
    results: Callable[[Values], Mapping[str, float | None]], values: Values, limits: Values
) -> dict[str, float]:
    """The ± of several results from the ± of independent inputs, all in core units.

    Each input is moved by its own ± both ways; half the change it makes is its share, and
    shares add as squares. Exact for straight lines, close for the trade's formulas (a test
    compares with Monte Carlo). An input at the edge of what is possible (a wet bulb just under
    its dry bulb) is moved one way only. A result no input moves is left out.
    Source: JCGM 100:2008 (GUM), 5.1.2, with numerical derivatives.
    """
    squares: dict[str, float] = {}
    middle = _try(results, values) if limits else {}
    for key, limit in limits.items():
        up, down = (_try(results, {**values, key: values[key] + s * limit}) for s in (1, -1))
        for name, centre in middle.items():
            high, low = up.get(name), down.get(name)
            if centre is None or (high is None and low is None):
                continue
            both = high is not None and low is not None
            change = ((centre if high is None else high) - (centre if low is None else low)) / (
                2 if both else 1
            )
            if change:
                squares[name] = squares.get(name, 0.0) + change**2
    return {name: sqrt(total) for name, total in squares.items()}


def _try(
    results: Callable[[Values], Mapping[str, float | None]], values: Values
) -> Mapping[str, float | None]:
    try:
        return results(values)
    except ValueError:
        return {}


def with_own_error(spread: float | None, own: float) -> float | None:
    """A ± with the method's own error added, as squares add."""
    if spread is None:
        return own or None
    return sqrt(spread**2 + own**2)
