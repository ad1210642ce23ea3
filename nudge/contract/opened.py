"""A number opened: what it is, its formula with today's values, inputs, uncertainty, reference."""

from collections.abc import Mapping
from dataclasses import dataclass

from nudge.core.language.said import Measure, worded
from nudge.core.language.units import (
    Quantity,
    UnitSystem,
    decimals,
    from_si,
    spread_from_si,
    unit_label,
)
from nudge.core.language.working import Working

SOURCE_WORDS = {
    "typed": "typed",
    "live": "from a probe",
    "imported": "from a file",
    "estimated": "estimated",
    "simulated": "simulated",
    "computed": "worked out",
    "plate": "plate",
    "assumed": "assumed",
}


@dataclass(frozen=True, slots=True)
class InputOut:
    """A value that went in; `source` in words."""

    key: str
    label: str
    text: str
    source: str
    uncertainty: str | None


@dataclass(frozen=True, slots=True)
class OpenedOut:
    """`value` and `uncertainty` (±, 19 times in 20) in the units asked for; `text` as written."""

    key: str
    label: str
    value: float
    unit: str
    decimals: int
    text: str
    uncertainty: float | None
    uncertainty_text: str | None
    meaning: str
    formula: str
    today: str
    inputs: list[InputOut]
    reference: str


def opened(working: Working, units: UnitSystem) -> OpenedOut:
    """A working as JSON in `units`."""
    formula, quantity = working.formula, working.formula.quantity
    return OpenedOut(
        key=formula.key,
        label=worded(formula.label, units),
        value=round(from_si(working.value, quantity, units), 4),
        unit=unit_label(quantity, units),
        decimals=decimals(quantity, units),
        text=working.measure.text(units),
        uncertainty=_spread(working.uncertainty, quantity, units),
        uncertainty_text=_spread_text(working.uncertainty, quantity, units),
        meaning=worded(formula.meaning, units),
        formula=worded(formula.formula, units),
        today=working.today.text(units),
        inputs=[
            InputOut(
                key=given.key,
                label=given.label,
                text=given.measure.text(units),
                source=SOURCE_WORDS.get(given.source, worded(given.source, units)),
                uncertainty=_spread_text(given.uncertainty, given.measure.quantity, units),
            )
            for given in working.inputs
        ],
        reference=worded(formula.reference, units),
    )


def opened_all(workings: Mapping[str, Working], units: UnitSystem) -> dict[str, OpenedOut]:
    """Many, under the keys they have."""
    return {key: opened(working, units) for key, working in workings.items()}


def _spread(value: float | None, quantity: Quantity, units: UnitSystem) -> float | None:
    return None if value is None else round(spread_from_si(value, quantity, units), 4)


def _spread_text(value: float | None, quantity: Quantity, units: UnitSystem) -> str | None:
    """`±0.6 °F`: one decimal more than the number has where it would round to nothing."""
    if value is None:
        return None
    if quantity is Quantity.CHARGE and units == "ip":
        return "±" + Measure(value, quantity).text(units)
    shown, places = spread_from_si(value, quantity, units), decimals(quantity, units)
    if places < 4 and shown < 0.95 * 10**-places:
        places += 1
    number = f"{shown:,.{places}f}" if shown >= 1000 else f"{shown:.{places}f}"
    return f"±{number} {unit_label(quantity, units)}".rstrip()
