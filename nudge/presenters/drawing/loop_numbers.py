"""The four numbers as the Loop says them: value, unit, and where each stands in its window."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from nudge.contract.answer_shapes import AssessOut, TargetOut
from nudge.contract.look_answer import LookOut
from nudge.contract.opened import OpenedOut
from nudge.core.language.units import Quantity, UnitSystem, decimals, unit_label
from nudge.core.physics.circuit.derived_table import DERIVED
from nudge.presenters.drawing.shapes import Side

SLACK = 0.001
"""A value on the edge of its window is in it."""
FOUR: Mapping[str, tuple[Side, str]] = {
    "condenser_saturation": ("high", "liquid_pressure"),
    "evaporator_saturation": ("low", "suction_pressure"),
    "subcooling": ("high", ""),
    "superheat": ("low", ""),
}
"""Each of the four: its side, and the pressure it is read from."""


@dataclass(frozen=True, slots=True)
class FourNumber:
    """One number in words; `text` is "" while it is not known."""

    key: str
    label: str
    side: Side
    text: str
    unit: str
    words: tuple[str, ...]
    short: tuple[str, ...]
    is_estimate: bool = False


def place_in_words(value: float, low: float, high: float, unit: str) -> str:
    """Where a value sits against its window: `↓ 1.0 °F under`."""
    if value < low - SLACK:
        return f"↓ {low - value:.1f} {unit} under"
    if value > high + SLACK:
        return f"↑ {value - high:.1f} {unit} over"
    return "✓ in the window"


def four_numbers(
    answer: AssessOut | None,
    look: LookOut | None,
    pressures: Mapping[str, str],
    called: Mapping[str, str],
    units: UnitSystem,
) -> tuple[FourNumber, ...]:
    """All four, known or not. `pressures` as written by point; `called` as here named."""
    if look is not None:
        return tuple(_estimate(key, look, called, units) for key in FOUR)
    judged = answer is not None and all(
        gate.key != "application_not_judged" for gate in answer.readiness
    )
    return tuple(_measured(key, answer, pressures, called, judged, units) for key in FOUR)


def _measured(
    key: str,
    answer: AssessOut | None,
    pressures: Mapping[str, str],
    called: Mapping[str, str],
    is_judged: bool,
    units: UnitSystem,
) -> FourNumber:
    side, pressure = FOUR[key]
    row, label, unit = DERIVED[key], called.get(key, DERIVED[key].label), _unit(key, units)
    value = answer.derived.get(key) if answer is not None else None
    text = "" if value is None else f"{value:.{decimals(row.quantity, units)}f}"
    if pressure:
        at = pressures.get(pressure)
        said = f"{side} side, at {at}" if at else "no pressure yet"
        return FourNumber(key, label, side, text, unit, (said,), (at or "no pressure",))
    target = answer.targets.get(key) if answer is not None else None
    words = _against(value, target, unit, is_judged)
    return FourNumber(key, label, side, text, unit, words, words[:1])


def _against(
    value: float | None, target: TargetOut | None, unit: str, is_judged: bool
) -> tuple[str, ...]:
    if value is None:
        return ("needs pressure and line",)
    if target is None:
        return ("target needs wet bulb and outdoor air" if is_judged else "no target here",)
    window = f"{target.low:.1f} to {target.high:.1f}, {target.source}"
    return place_in_words(value, target.low, target.high, unit), window


def _ways(look: LookOut, key: str) -> Sequence[OpenedOut]:
    one = {"superheat": look.superheat, "subcooling": look.subcooling}
    if key in one:
        found = one[key]
        return () if found is None else (found,)
    return look.evaporator if key == "evaporator_saturation" else look.condenser


def _estimate(key: str, look: LookOut, called: Mapping[str, str], units: UnitSystem) -> FourNumber:
    side, pressure = FOUR[key]
    ways = _ways(look, key)
    label, unit = called.get(key, DERIVED[key].label), _unit(key, units)
    if not ways:
        return FourNumber(key, label, side, "", unit, ("not known without a gauge",), ("no gauge",))
    best = ways[0]
    give = f"± {best.uncertainty:.0f}" if best.uncertainty else "estimated"
    words, short = f"{give} {unit}, no gauge", give
    gauge = {"suction_pressure": look.suction, "liquid_pressure": look.liquid}.get(pressure)
    if gauge is not None:
        shown = f"{gauge.value:.{gauge.decimals}f}"
        off = f" ± {gauge.uncertainty:.{gauge.decimals}f}" if gauge.uncertainty else ""
        words, short = f"a gauge should show {shown}{off} {gauge.unit}", f"≈{shown} {gauge.unit}"
    return FourNumber(
        key, label, side, f"≈{best.value:.0f}", unit, (words,), (short,), is_estimate=True
    )


def _unit(key: str, units: UnitSystem) -> str:
    quantity: Quantity = DERIVED[key].quantity
    return unit_label(quantity, units)
