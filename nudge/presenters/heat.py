"""A heating visit over the wire: its balance, its lockouts, the heating line."""

from dataclasses import dataclass, replace
from typing import Literal

from nudge.contract.opened import OpenedOut, opened
from nudge.core.checks.form_findings import number
from nudge.core.checks.heating_forms import CIRCUITS, FEED_FORM
from nudge.core.language.said import Measure, difference, temperature
from nudge.core.language.units import Quantity, UnitSystem, fahrenheit
from nudge.core.language.working import Working
from nudge.core.physics.electrical.feed import judge_feed
from nudge.core.physics.heating.balance import HeatBalance, balance, heating_plate
from nudge.core.physics.heating.house import balance_point
from nudge.core.physics.heating.lockouts import lockouts_said
from nudge.presenters.drawing.heat_layout import DrawnHeat, HeatScene, HeatSeen, heat_lines
from nudge.services.snapshot import Snapshot

INDOOR_C = fahrenheit(70)
"""A house where nobody read its air."""
PLACE_SAID = {
    "short": "less than expected",
    "right": "as expected",
    "over": "more than expected",
    "unknown": "not measured yet",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatRowOut:
    """One number beside what it should be; either may be missing."""

    label: str
    text: str
    """As measured, without its unit; "" where nothing is."""
    now: OpenedOut | None
    expected: OpenedOut | None


@dataclass(frozen=True, slots=True, kw_only=True)
class StripBarOut:
    """One clamp as a bar, in shares of the drawing's width: where it begins, how far it goes."""

    label: str
    text: str
    begins: float
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class StripsOut:
    """The strips' circuits laid end to end under their feed."""

    feed: StripBarOut
    circuits: list[StripBarOut]
    adds_up: bool
    said: str


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatOut:
    """What a heating visit comes to."""

    place: Literal["short", "right", "over", "unknown"]
    said: str
    rows: list[HeatRowOut]
    """Heat, rise, power and COP; each number opens."""
    asides: list[str]
    """What spoils a number."""
    is_guessed: bool
    balance_point: str
    """Outdoor air at which house and pump are even; "" where the house is not known."""
    lockouts: list[str]
    strips: StripsOut | None
    """None until the feed and its circuits were clamped."""
    line: list[DrawnHeat]
    """The heating line laid out, one a frame, smallest first; none without a size on the plate."""


def heat_out(snapshot: Snapshot, units: UnitSystem) -> HeatOut | None:
    """The balance of a visit in heating; None in cooling, or where nothing is assessed."""
    found = snapshot.assessment
    heat = None if found is None else found.case.heat
    if found is None or heat is None:
        return None
    plate, rated = found.case.plate, heating_plate(found.case.plate)
    indoor_c = snapshot.readings.get("return_air_temp", INDOOR_C)
    even_c = None
    if rated is not None and plate.house_loss_w_k:
        even_c = balance_point(rated, plate.house_loss_w_k, indoor_c)
    even = "" if even_c is None else temperature(even_c).text(units)
    line: list[DrawnHeat] = []
    if rated is not None:
        scene = HeatScene(plate, rated, indoor_c, even_c, _seen(snapshot, heat))
        line = heat_lines(scene, _in_words(heat, even, units), units)
    return HeatOut(
        place=heat.place,
        said=PLACE_SAID[heat.place],
        rows=_rows(heat, units),
        asides=[said.text(units) for said in heat.asides],
        is_guessed=heat.is_guessed,
        balance_point=even,
        lockouts=[said.text(units) for said in lockouts_said(plate, even_c)],
        strips=_strips(snapshot, units),
        line=line,
    )


def _strips(snapshot: Snapshot, units: UnitSystem) -> StripsOut | None:
    kept = snapshot.folder.checks.get(FEED_FORM)
    feed = None if kept is None else number(kept.entries, "feed")
    if kept is None or feed is None:
        return None
    found = [number(kept.entries, key) for key in CIRCUITS]
    circuits = [amps for amps in found if amps is not None]
    adds_up, said = judge_feed(feed, circuits)
    whole = max(feed, sum(circuits))
    bars, begins = [], 0.0
    for n, amps in enumerate(circuits, start=1):
        bars.append(_bar(f"Clamp {n}", amps, begins / whole, whole, units))
        begins += amps
    return StripsOut(
        feed=_bar("Feed", feed, 0.0, whole, units),
        circuits=bars,
        adds_up=adds_up,
        said=said.text(units),
    )


def _bar(label: str, amps: float, begins: float, whole: float, units: UnitSystem) -> StripBarOut:
    text = Measure(amps, Quantity.CURRENT).text(units)
    return StripBarOut(label=label, text=text, begins=round(begins, 4), share=amps / whole)


def _rows(heat: HeatBalance, units: UnitSystem) -> list[HeatRowOut]:
    rise = "" if heat.rise_k is None else difference(heat.rise_k).number(units)
    return [
        _row("Heat", heat.delivered, heat.expected, units),
        replace(_row("Rise", None, heat.expected_rise, units), text=rise),
        _row("Power", heat.power, heat.expected_power, units),
        _row("COP", heat.cop, None, units),
    ]


def _row(label: str, now: Working | None, wanted: Working | None, units: UnitSystem) -> HeatRowOut:
    return HeatRowOut(
        label=label,
        text="" if now is None else now.measure.number(units),
        now=None if now is None else opened(now, units),
        expected=None if wanted is None else opened(wanted, units),
    )


def _seen(snapshot: Snapshot, heat: HeatBalance) -> list[HeatSeen]:
    """Today's heat, and those of earlier visits in heating."""
    plate, found = snapshot.plate, []
    for kept in snapshot.around.heated:
        then = balance(plate, kept)
        if then.delivered is not None and "outdoor_air_temp" in kept:
            found.append(HeatSeen(kept["outdoor_air_temp"], then.delivered.value))
    outdoor = snapshot.readings.get("outdoor_air_temp")
    if heat.delivered is not None and outdoor is not None:
        limit = heat.delivered.uncertainty or 0.0
        found.append(HeatSeen(outdoor, heat.delivered.value, limit, is_now=True))
    return found


def _in_words(heat: HeatBalance, even: str, units: UnitSystem) -> str:
    parts = []
    if heat.delivered is not None:
        parts.append(f"Delivered {heat.delivered.measure.text(units)}")
    if heat.expected is not None:
        parts.append(f"expected {heat.expected.measure.text(units)} at this outdoor air")
    if even:
        parts.append(f"balance point {even}")
    return f"Heating line. {', '.join(parts)}." if parts else "Heating line, nothing measured yet."
