"""Instruments over the wire: readings in, what they say now out."""

from typing import Annotated, Literal

from pydantic import AwareDatetime, BaseModel, Field

from nudge.api.errors import ErrorOut, core_errors
from nudge.api.schemas.book import Id, Text
from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict
from nudge.core.language.units import Quantity, UnitSystem, decimals, from_si, unit_label
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.settling.stability import LOAD, Settling, Steadiness
from nudge.instruments.kit import KINDS, KIT, fits
from nudge.services.instruments import Given, Taken
from nudge.services.live_state import LiveState
from nudge.services.series import TraceRows, Traces
from nudge.services.yard import YardView
from nudge.services.yard_jobs import JOBS

MOST_READINGS = 5_000


class ReadingIn(Strict):
    """One value as a device gives it. `unit` (psi, kPa, F, C …) or the units of the request."""

    channel: Id
    point: Name
    value: Number
    at: AwareDatetime | None = None
    unit: Annotated[str, Field(strict=True, max_length=20)] = ""
    label: Annotated[str, Field(strict=True, max_length=60)] = ""

    def to_given(self) -> Given:
        return Given(self.channel, self.point, self.value, self.at, self.unit, self.label)


class ReadingsIn(Strict):
    """A batch. Its id makes it safe to send again; so does each channel and moment."""

    id: Id
    readings: Annotated[list[ReadingIn], Field(min_length=1, max_length=MOST_READINGS)]


class OneReadingIn(ReadingIn):
    """A single reading with its own id, for the smallest scripts."""

    id: Id


class RefusedOut(BaseModel):
    """A reading that was not taken: its place in the batch, and why."""

    number: int
    errors: list[ErrorOut]


class TakenOut(BaseModel):
    """What became of a batch. `clock_moved` [s] is how far the device's clock was set right."""

    kept: int
    repeated: int
    refused: list[RefusedOut]
    clock_moved: float


def taken_out(taken: Taken, units: UnitSystem) -> TakenOut:
    return TakenOut(
        kept=taken.kept,
        repeated=taken.repeated,
        refused=[
            RefusedOut(number=row.number, errors=core_errors(row.error, units))
            for row in taken.refused
        ],
        clock_moved=round(taken.clock_moved_s, 1),
    )


class PlacementIn(Strict):
    """Put an instrument on a point, or take it off ("")."""

    id: Id
    channel: Id
    point: Annotated[str, Field(strict=True, max_length=60)]


class SwapIn(Strict):
    id: Id
    one: Id
    other: Id


class ChannelIn(Strict):
    id: Id
    channel: Id


class IgnoreIn(ChannelIn):
    ignored: bool


class KeepIn(Strict):
    """Keep what the instruments say as readings; `reason`, to judge before it has settled."""

    id: Id
    reason: Text = ""


class JobIn(Strict):
    """A job on a simulated system; `amount` in oz or g where it takes one."""

    id: Id
    job: Name
    amount: Number | None = None


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


class TraceOut(BaseModel):
    """One trace: for each column its moment [ms], mean, least and most."""

    key: str
    label: str
    side: str
    unit: str
    decimals: int
    rows: list[tuple[int, float, float, float]]
    steady: list[tuple[int, int]]


class MarkOut(BaseModel):
    """Something that was done, at a moment [ms]."""

    at: int
    kind: str
    label: str


class SeriesOut(BaseModel):
    """Traces over a span; `first` and `last` are the ends of everything there is."""

    since: int
    until: int
    first: int | None
    last: int | None
    traces: list[TraceOut]
    marks: list[MarkOut]


def series_out(found: Traces, units: UnitSystem) -> SeriesOut:
    return SeriesOut(
        since=found.since_ms,
        until=found.until_ms,
        first=found.first_ms,
        last=found.last_ms,
        traces=[_trace(trace, units) for trace in found.traces],
        marks=[MarkOut(at=m.at_ms, kind=m.kind, label=m.label) for m in found.marks],
    )


def _trace(trace: TraceRows, units: UnitSystem) -> TraceOut:
    def shown(value: float) -> float:
        return round(from_si(value, trace.quantity, units), 3)

    return TraceOut(
        key=trace.key,
        label=trace.label,
        side=trace.side,
        unit=unit_label(trace.quantity, units),
        decimals=decimals(trace.quantity, units),
        rows=[(at, shown(mean), shown(low), shown(high)) for at, mean, low, high in trace.rows],
        steady=list(trace.steady),
    )


class JobOut(BaseModel):
    key: str
    label: str
    caution: str
    takes_amount: bool


class YardOut(BaseModel):
    """A simulated system as somebody standing there sees it."""

    title: str
    is_running: bool
    tripped: str
    adding: float
    cylinder: float
    unit: str
    liquid_return: bool
    valve_is_open: bool
    jobs: list[JobOut]


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


def yard_out(view: YardView, units: UnitSystem) -> YardOut:
    small = Quantity.SMALL_MASS
    return YardOut(
        title=view.title,
        is_running=view.is_running,
        tripped=view.tripped,
        adding=round(from_si(view.adding_kg * 1000, small, units), 1),
        cylinder=round(from_si(view.cylinder_kg, Quantity.MASS, units), 2),
        unit=unit_label(Quantity.MASS, units),
        liquid_return=view.slug_kg > 0.15,
        valve_is_open=view.valve_is_open,
        jobs=[
            JobOut(key=j.key, label=j.label, caution=j.caution, takes_amount=j.takes_amount)
            for j in JOBS.values()
            if j.key != ("start_system" if view.is_running else "stop_system")
        ],
    )
