"""Instruments over the wire: readings in, what they say now out."""

from typing import Literal

from pydantic import BaseModel

from nudge.core.language.units import Quantity, UnitSystem, decimals, from_si, unit_label
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.settling.stability import LOAD, Settling, Steadiness
from nudge.instruments.kit import KINDS, KIT, fits
from nudge.services.live_state import LiveState

MOST_READINGS = 5_000


class InstrumentOut(BaseModel):
    """One channel: where it sits, what it shows, whether it counts. `where` it may go."""

    key: str
    label: str
    source: str
    point: str
    place: str
    counts: bool
    value: float | None
    unit: str
    decimals: int
    seconds_old: float | None
    can_zero: bool
    where: list[str]
    how: str


class QuantityOut(BaseModel):
    """One slow quantity: how it moves and when it will be near enough."""

    key: str
    label: str
    value: float
    per_minute: float
    unit: str
    decimals: int
    steady: bool
    seconds: float


class HuntingOut(BaseModel):
    period_s: float
    swing: float
    unit: str


class LoadOut(BaseModel):
    """A quantity of the load that moves, per ten minutes."""

    label: str
    per_ten_minutes: float
    unit: str


class LieOut(BaseModel):
    """A probe that is caught, and the one it should be exchanged with, if that is it."""

    check: str
    point: str
    channel: str
    message: str
    swap_with: str


class LiveOut(BaseModel):
    """What the instruments of a visit say now."""

    state: Literal["settled", "settling", "hunting", "unknown", "standing"]
    seconds: float | None
    message: str
    quantities: list[QuantityOut]
    hunting: HuntingOut | None
    load: list[LoadOut]
    lies: list[LieOut]
    instruments: list[InstrumentOut]


def live_out(state: LiveState, units: UnitSystem) -> LiveOut:
    found = state.settling
    unsettled = state.unsettled
    return LiveOut(
        state=found.state if found else "standing",
        seconds=found.seconds if found else None,
        message=unsettled.text(units) if unsettled else _settled_words(found),
        quantities=[_quantity(q, units) for q in found.quantities] if found else [],
        hunting=_hunting(found, units),
        load=_load(found, units) if found else [],
        lies=[_lie(state, number, units) for number in range(len(state.lies))],
        instruments=_instruments(state, units),
    )


def _settled_words(found: Settling | None) -> str:
    return "Settled." if found else "Standing: not running."


def _quantity(q: Steadiness, units: UnitSystem) -> QuantityOut:
    moved = (
        Quantity.PRESSURE_DIFFERENCE
        if q.row.quantity is Quantity.PRESSURE
        else Quantity.TEMPERATURE_DIFFERENCE
    )
    return QuantityOut(
        key=q.row.key,
        label=q.row.label,
        value=round(from_si(q.value, q.row.quantity, units), 2),
        per_minute=round(from_si(q.per_minute, moved, units), 3),
        unit=unit_label(q.row.quantity, units),
        decimals=decimals(q.row.quantity, units),
        steady=q.is_steady,
        seconds=round(q.seconds),
    )


def _hunting(found: Settling | None, units: UnitSystem) -> HuntingOut | None:
    if found is None or found.hunting is None:
        return None
    kelvin = Quantity.TEMPERATURE_DIFFERENCE
    return HuntingOut(
        period_s=round(found.hunting.period_s),
        swing=round(from_si(found.hunting.swing, kelvin, units), 1),
        unit=unit_label(kelvin, units),
    )


def _load(found: Settling, units: UnitSystem) -> list[LoadOut]:
    kelvin = Quantity.TEMPERATURE_DIFFERENCE
    return [
        LoadOut(
            label=POINTS[row.key].label,
            per_ten_minutes=round(from_si(found.load_per_minute[row.key] * 10, kelvin, units), 1),
            unit=unit_label(kelvin, units),
        )
        for row in LOAD
        if row.key in found.load_per_minute
    ]


def _lie(state: LiveState, number: int, units: UnitSystem) -> LieOut:
    lie = state.lies[number]
    holders = {point: value.channel for point, value in state.values.items()}
    return LieOut(
        check=lie.check,
        point=lie.point,
        channel=holders.get(lie.point, ""),
        message=lie.said.text(units),
        swap_with=holders.get(lie.swap_with, ""),
    )


_KIND_OF = {row.key: row.kind for row in KIT}


def _instruments(state: LiveState, units: UnitSystem) -> list[InstrumentOut]:
    last = {value.channel: value.at_ms for value in state.values.values()}
    rows = []
    for placed in state.placed:
        now, key = placed.now, placed.channel.key
        point = POINTS.get(now.point) if now else None
        shown = state.shows.get(key)
        kind = _KIND_OF.get(key)
        rows.append(
            InstrumentOut(
                key=key,
                label=placed.channel.label,
                source=placed.channel.source,
                point=now.point if now else "",
                place=point.label if point else "off",
                counts=bool(now and now.counts and now.point),
                value=None
                if shown is None or point is None
                else round(from_si(shown, point.quantity, units), 3),
                unit=unit_label(point.quantity, units) if point else "",
                decimals=decimals(point.quantity, units) if point else 0,
                seconds_old=round((state.now_ms - last[key]) / 1000, 1) if key in last else None,
                can_zero=KINDS[kind].can_zero if kind else True,
                where=_where(kind, point.quantity if point else None),
                how=now.how if now else "",
            )
        )
    return rows


def _where(kind: str | None, quantity: Quantity | None) -> list[str]:
    """A simulated instrument goes where its kind goes; a real one where its quantity does."""
    if kind is not None:
        return [point for point in POINTS if fits(kind, point)]
    return [key for key, row in POINTS.items() if quantity in (None, row.quantity)]
