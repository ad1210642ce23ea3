"""What a roll slip shows: large figures over the settled window, or as they were typed."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, tzinfo

from nudge.core.language.units import UnitSystem, decimals, from_si, spread_from_si, unit_label
from nudge.presenters.register import carried_lines
from nudge.presenters.visits import VisitOut
from nudge.services.register import InstrumentNow
from nudge.services.settled_window import SettledWindow, Spread

ORDER = (
    "superheat",
    "subcooling",
    "suction_pressure",
    "liquid_pressure",
    "suction_line_temp",
    "liquid_line_temp",
    "true_suction_temp",
    "evaporator_outlet_temp",
    "discharge_line_temp",
    "box_air_temp",
    "outdoor_air_temp",
    "return_air_temp",
    "return_air_wet_bulb",
    "supply_air_temp",
    "condenser_inlet_line_temp",
    "condenser_outlet_line_temp",
    "condenser_entering_air_temp",
    "vent_air_temp",
    "outdoor_unit_watts",
)
"""What a slip shows, where it was read, in its order."""
GAPS = ("superheat", "subcooling")


@dataclass(frozen=True, slots=True)
class RollFigure:
    """One large number: its name, its value with its unit, the spread under it, its window."""

    label: str
    value: str
    unit: str
    under: str


@dataclass(frozen=True, slots=True)
class RollSlipOut:
    """A slip's figures, and over which window they were read, in words."""

    figures: Sequence[RollFigure]
    when: str
    instruments: Sequence[str] = ()
    """What it was read with, a line each."""


def roll_slip_out(
    visit: VisitOut,
    window: SettledWindow | None,
    carried: Sequence[InstrumentNow],
    units: UnitSystem,
    zone: tzinfo | None,
) -> RollSlipOut:
    """The figures of a visit, on the clock of a `zone` (None: this machine's), and the instruments
    they were read with, of those that were `carried` at `read_until`.
    """
    return RollSlipOut(
        _figures(visit, window, units),
        _when(visit, window, zone),
        read_with(visit, carried, units, zone),
    )


def read_with(
    visit: VisitOut, carried: Sequence[InstrumentNow], units: UnitSystem, zone: tzinfo | None
) -> list[str]:
    """The instruments that a visit's readings came from, a line each."""
    points = {row.point for row in visit.readings if row.state in ("current", "live")}
    return carried_lines(carried, points, units, zone)


def read_until(visit: VisitOut, window: SettledWindow | None) -> datetime:
    """The moment of the last of what a slip shows."""
    if window is None:
        return roll_moment(visit)
    return datetime.fromtimestamp(window.until_ms / 1000, UTC)


def _figures(visit: VisitOut, window: SettledWindow | None, units: UnitSystem) -> list[RollFigure]:
    """Over the settled window where instruments stood, else as typed."""
    found = _of_its_kind(visit)
    targets = visit.assessment.targets if visit.assessment else {}
    for key in ORDER:
        target = targets.get(key)
        wanted = "" if target is None else f"wanted {target.low:.1f} to {target.high:.1f}"
        spread = window.rows.get(key) if window else None
        if spread is not None:
            found.append(_spread(spread, key, wanted, units))
        elif key in GAPS:
            found += _derived(visit, key, wanted)
        else:
            found += _typed(visit, key)
    return found


def _of_its_kind(visit: VisitOut) -> list[RollFigure]:
    """What only such plant has: a vehicle's three tests, a room's feed, a heat pump's heat."""
    if visit.vehicle is not None:
        rows = [(t.label, t.now, f"passes at {t.passes}") for t in visit.vehicle.tests]
    elif visit.room is not None:
        rows = [(r.label, r.now, f"by design {r.expected}") for r in visit.room.rows[-2:]]
    elif visit.heat is not None:
        rows = [
            (r.label, r.now.text, f"expected {r.expected.text}" if r.expected else "")
            for r in visit.heat.rows
            if r.now is not None
        ]
    else:
        rows = []
    told = ((label, now.partition(" "), under) for label, now, under in rows if now)
    return [RollFigure(label, value, unit, under) for label, (value, _, unit), under in told]


def _spread(row: Spread, key: str, wanted: str, units: UnitSystem) -> RollFigure:
    turn = spread_from_si if key in GAPS else from_si
    mean, least, most = (turn(v, row.quantity, units) for v in (row.mean, row.least, row.most))
    places = decimals(row.quantity, units)
    under = f"{least:.{places}f} to {most:.{places}f}"
    return RollFigure(
        row.label,
        f"{mean:.{places}f}",
        unit_label(row.quantity, units),
        ", ".join(part for part in (under, wanted) if part),
    )


def _derived(visit: VisitOut, key: str, wanted: str) -> Sequence[RollFigure]:
    number = next((one for one in visit.stage[-1].numbers if one.key == key), None)
    if number is None or not number.text or number.text == "—":
        return ()
    return (RollFigure(number.label, number.text, number.unit, wanted),)


def _typed(visit: VisitOut, key: str) -> Sequence[RollFigure]:
    row = next(
        (r for r in visit.readings if r.point == key and r.state in ("current", "live")), None
    )
    if row is None:
        return ()
    return (RollFigure(row.label, f"{row.value:.{row.decimals}f}", row.unit, ""),)


def roll_moment(visit: VisitOut) -> datetime:
    """What a slip is dated: when it was closed, last read or opened."""
    moments = [r.taken_at for r in visit.readings if r.state != "live"]
    last = max(moments, default=None)
    return visit.closed_at or last or visit.opened_at or datetime(2000, 1, 1, tzinfo=UTC)


def _when(visit: VisitOut, window: SettledWindow | None, zone: tzinfo | None) -> str:
    if window is None:
        return f"{roll_moment(visit).astimezone(zone):%Y-%m-%d %H:%M %Z}"
    since, until = (
        datetime.fromtimestamp(ms / 1000, UTC).astimezone(zone)
        for ms in (window.since_ms, window.until_ms)
    )
    return f"Settled, {since:%Y-%m-%d %H:%M:%S} to {until:%H:%M:%S}: mean, least, most"
