"""The Loop over the wire: stations, levels and gaps in the units asked for."""

from pydantic import BaseModel

from nudge.contract.look_answer import LookOut
from nudge.contract.opened import OpenedOut
from nudge.core.behaviours.loop import Loop
from nudge.core.language.units import Quantity, UnitSystem, from_si


class LevelOut(BaseModel):
    side: str
    label: str
    enters: float
    leaves: float
    give: float = 0.0
    """Either side of an estimate, where no gauge is on; 0 where it is measured."""


class StationOut(BaseModel):
    key: str
    label: str
    side: str
    temperature: float | None
    is_part: bool


class GapOut(BaseModel):
    key: str
    station: str
    level: float
    line: float


class LoopOut(BaseModel):
    """The Loop's stations, levels and gaps, in the units asked for."""

    stations: list[StationOut]
    levels: list[LevelOut]
    gaps: list[GapOut]
    air: dict[str, float]
    heats: bool = False
    """The house is its warm side: the coils stand the other way round."""
    rungs: dict[str, float] = {}
    """By side, the level that a cold room's design asks for today."""


def loop_out(loop: Loop, look: LookOut | None, units: UnitSystem) -> LoopOut:
    """The Loop in `units`; with no gauge on, its levels are the look's estimates."""
    measured = _measured(loop, units)
    return measured if look is None or measured.levels else _estimated(measured, look)


def _measured(loop: Loop, units: UnitSystem) -> LoopOut:
    def shown(celsius: float) -> float:
        return round(from_si(celsius, Quantity.TEMPERATURE, units), 2)

    return LoopOut(
        stations=[
            StationOut(
                key=s.key,
                label=s.label,
                side=s.side,
                temperature=None if s.temp_c is None else shown(s.temp_c),
                is_part=s.is_part,
            )
            for s in loop.stations
        ],
        levels=[
            LevelOut(
                side=level.side,
                label=level.label,
                enters=shown(level.enters_c),
                leaves=shown(level.leaves_c),
            )
            for level in loop.levels
        ],
        gaps=[
            GapOut(key=g.key, station=g.station, level=shown(g.level_c), line=shown(g.line_c))
            for g in loop.gaps
        ],
        air={key: shown(value) for key, value in loop.air.items()},
        heats=loop.heats,
        rungs={side: shown(value) for side, value in loop.rungs.items()},
    )


def _estimated(measured: LoopOut, look: LookOut) -> LoopOut:
    """The same with what the air and the lines make of the two saturations."""
    read = {s.key: s.temperature for s in measured.stations}
    levels, gaps = [], []
    rows = (
        ("high", "Condenser saturation", look.condenser, "subcooling", "liquid_line"),
        ("low", "Evaporator saturation", look.evaporator, "superheat", "suction_line"),
    )
    for side, label, ways, gap, station in rows:
        if not ways:
            continue
        level = _level(side, label, ways[0])
        levels.append(level)
        line = read.get(station)
        if line is not None:
            gaps.append(GapOut(key=gap, station=station, level=level.leaves, line=line))
    return measured.model_copy(update={"levels": levels, "gaps": gaps})


def _level(side: str, label: str, best: OpenedOut) -> LevelOut:
    return LevelOut(
        side=side,
        label=label,
        enters=best.value,
        leaves=best.value,
        give=best.uncertainty or 0.0,
    )
