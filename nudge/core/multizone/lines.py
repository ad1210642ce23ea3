"""What the pipes of a plant with many rooms cost: loss to a coil, and lift.

A coil many storeys away boils warmer than its plant says, and liquid that is lifted arrives with
less subcooling than it left with. What the pipes hold is the weigh-in sheet's.
"""

from collections.abc import Mapping, Sequence
from math import isnan

from nudge.core.language.errors import CoreError
from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, Working, work
from nudge.core.physics.refrigerant.states import load_states
from nudge.core.physics.zones.log import ROOM_ON_S, ZoneLog, states
from nudge.core.physics.zones.parts import IndoorUnit, Parts
from nudge.core.physics.zones.points import MODES, OUTDOOR

GRAVITY = 9.80665
LEAST_SAMPLES, MOST_SAMPLES = 12, 1500
"""Fewer samples of a coil at work say nothing of its pipe; more say nothing more of a mean."""
_T, _P, _D = Quantity.TEMPERATURE, Quantity.PRESSURE_DIFFERENCE, Quantity.TEMPERATURE_DIFFERENCE
LINE_LOSS = Formula(
    "zone_line_loss",
    "Lost in the pipe",
    _P,
    "By how much the coil boils at a higher pressure than the plant: what its suction pipe takes.",
    "saturation at the coil’s inlet − saturation at the plant’s evaporating temperature",
    "P_sat({coil_inlet}) − P_sat({evaporating_temp}) = {result}",
    ("coil_inlet", "evaporating_temp"),
    "Refrigerant tables, dew; means while it calls and cools.",
)
LIFT = Formula(
    "zone_lift",
    "Lifted liquid",
    _P,
    "What the column of liquid takes on its way up to the room. Minus where the room hangs lower: "
    "there it gains.",
    "liquid density × g × height over the plant",
    "density of liquid at {leaves} × g × {lift} = {result}",
    ("leaves", "lift"),
    "Hydrostatics; density from the packaged tables at the plant’s liquid.",
)
LIFT_SUBCOOLING = Formula(
    "zone_lift_subcooling",
    "Subcooling the lift takes",
    _D,
    "So much of the subcooling after the subcoolers is gone before the room’s valve: under it, the "
    "valve is fed gas.",
    "saturation at the plant’s pressure − saturation at the pressure left after the lift",
    "T_sat({high}) − T_sat({left}) = {result}",
    ("high", "left"),
    "Refrigerant tables.",
)
FORMULAS = (LINE_LOSS, LIFT, LIFT_SUBCOOLING)


class PlantLines:
    """What the pipes of one plant cost, by its log: means of so many samples that count."""

    def __init__(self, log: ZoneLog, parts: Parts) -> None:
        self._log, self._parts = log, parts
        self._kept = kept_samples(log)
        self._condensing = mean_at(log.column(OUTDOOR, "condensing_temp"), self._kept)
        self._liquid = mean_at(log.column(OUTDOOR, "liquid_temp"), self._kept)

    def of_room(self, key: str) -> Mapping[str, Working]:
        """What the pipes to one room cost, of what the log tells: by formula.

        Raises: CoreError, for a room the drawing has not.
        """
        unit = self._parts.room(key)
        found = [self._loss(key), *self._lifted(unit)]
        return {one.formula.key: one for one in found if one is not None}

    def _cooling(self, key: str) -> list[int]:
        """Samples that count, in which the room has cooled for a while."""
        log = self._log
        calls, way = log.column(key, "calls"), log.column(key, "room_mode")
        if calls is None:
            return []
        held, cooling = states(calls, log.times_s), float(MODES["cooling"])
        way = way or log.column(OUTDOOR, "mode")
        return [
            i for i in self._kept if held[i] >= ROOM_ON_S and (way is None or way[i] == cooling)
        ]

    def _loss(self, key: str) -> Working | None:
        at_work = self._cooling(key)
        inlet = mean_at(self._log.column(key, "coil_inlet"), at_work)
        boiling = mean_at(self._log.column(OUTDOOR, "evaporating_temp"), at_work)
        if inlet is None or boiling is None:
            return None
        dew = load_states(self._parts.refrigerant).saturation.dew
        if not all(dew.low_c <= t <= dew.high_c for t in (inlet, boiling)):
            return None
        return work(
            LINE_LOSS,
            lambda v: dew.pressure(v["coil_inlet"]) - dew.pressure(v["evaporating_temp"]),
            {
                "coil_inlet": Input("coil_inlet", "Coil inlet", Measure(inlet, _T), "imported"),
                "evaporating_temp": Input(
                    "evaporating_temp", "Evaporating at the plant", Measure(boiling, _T), "imported"
                ),
            },
        )

    def _lifted(self, unit: IndoorUnit) -> list[Working]:
        """The lift’s pressure, and the subcooling it takes."""
        condensing = self._condensing
        if unit.lift_m == 0.0 or condensing is None:
            return []
        states_of = load_states(self._parts.refrigerant)
        bubble = states_of.saturation.bubble
        leaves = min(condensing if self._liquid is None else self._liquid, bubble.high_c)
        try:
            high = bubble.pressure(condensing)
            lift = work(
                LIFT,
                lambda v: states_of.liquid(v["leaves"]).density * GRAVITY * v["lift"] / 1000,
                {
                    "leaves": Input("leaves", "Liquid leaves at", Measure(leaves, _T), "imported"),
                    "lift": Input(
                        "lift",
                        "Height over the plant",
                        Measure(unit.lift_m, Quantity.LENGTH),
                        "plate",
                    ),
                },
            )
            left = high - lift.value
            taken = work(
                LIFT_SUBCOOLING,
                lambda v: bubble.temperature(v["high"]) - bubble.temperature(v["left"]),
                {
                    "high": Input("high", "Saturation at the plant", _absolute(high), "computed"),
                    "left": Input("left", "After the lift", _absolute(left), "computed"),
                },
            )
        except CoreError:  # off the refrigerant's table
            return []
        return [lift, taken]


def _absolute(kpa: float) -> Measure:
    return Measure(kpa, Quantity.ABSOLUTE_PRESSURE)


def kept_samples(log: ZoneLog) -> Sequence[int]:
    """Samples that count, thinned to as many as a mean needs."""
    return log.kept[:: max(len(log.kept) // MOST_SAMPLES, 1)]


def mean_at(column: Sequence[float] | None, at: Sequence[int]) -> float | None:
    """The mean of a column where it is there; None for too few."""
    if column is None:
        return None
    there = [column[i] for i in at if not isnan(column[i])]
    return sum(there) / len(there) if len(there) >= LEAST_SAMPLES else None
