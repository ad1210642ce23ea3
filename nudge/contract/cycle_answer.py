"""The running cycle and its pressure-enthalpy chart as JSON, in the caller's units."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from nudge.core.language.units import SEA_LEVEL_KPA, Quantity, UnitSystem, from_si, unit_label
from nudge.core.physics.circuit.cycle import Corner, Cycle, PressureEnthalpyChart

Points = Sequence[tuple[float, float]]


@dataclass(frozen=True, slots=True)
class CornerOut:
    key: str
    label: str
    enthalpy: float
    pressure: float
    temperature: float
    estimated: bool


@dataclass(frozen=True, slots=True)
class CycleOut:
    """The corners there are readings for, pressure absolute; what they come to."""

    corners: list[CornerOut]
    effect: float | None
    work: float | None
    compression: float | None


@dataclass(frozen=True, slots=True)
class IsolineOut:
    """One line of the chart: its value, and (enthalpy, absolute pressure) pairs."""

    value: float
    points: list[tuple[float, float]]


@dataclass(frozen=True, slots=True)
class PressureEnthalpyOut:
    """Chart data: dome and isolines."""

    units: UnitSystem
    refrigerant: str
    enthalpy_unit: str
    pressure_unit: str
    temperature_unit: str
    gauge_unit: str
    bubble: list[tuple[float, float]]
    dew: list[tuple[float, float]]
    isotherms: list[IsolineOut]
    qualities: list[IsolineOut]
    isentropes: list[IsolineOut]
    saturation: list[tuple[float, float, float]]
    """(gauge pressure at sea level, bubble, dew) along the dome: what a rule is drawn from."""


def chart_answer(chart: PressureEnthalpyChart, units: UnitSystem) -> PressureEnthalpyOut:
    """A chart in `units`."""
    return PressureEnthalpyOut(
        units,
        chart.fluid,
        unit_label(Quantity.ENTHALPY, units),
        unit_label(Quantity.ABSOLUTE_PRESSURE, units),
        unit_label(Quantity.TEMPERATURE, units),
        unit_label(Quantity.PRESSURE, units),
        _points(chart.bubble, units),
        _points(chart.dew, units),
        [
            IsolineOut(round(from_si(t, Quantity.TEMPERATURE, units), 1), _points(line, units))
            for t, line in chart.isotherms.items()
        ],
        _isolines(chart.qualities, units),
        _isolines(chart.isentropes, units),
        [
            (
                round(from_si(kpa - SEA_LEVEL_KPA, Quantity.PRESSURE, units), 3),
                round(from_si(bubble_c, Quantity.TEMPERATURE, units), 3),
                round(from_si(dew_c, Quantity.TEMPERATURE, units), 3),
            )
            for kpa, bubble_c, dew_c in chart.saturation
        ],
    )


def cycle_answer(cycle: Cycle, units: UnitSystem) -> CycleOut:
    """A cycle in `units`."""

    def enthalpy(value: float | None) -> float | None:
        return None if value is None else round(from_si(value, Quantity.ENTHALPY, units), 2)

    return CycleOut(
        [_corner(corner, units) for corner in cycle.corners],
        enthalpy(cycle.effect_kj_kg),
        enthalpy(cycle.work_kj_kg),
        None if cycle.compression is None else round(cycle.compression, 3),
    )


def _isolines(lines: Mapping[float, Points], units: UnitSystem) -> list[IsolineOut]:
    return [IsolineOut(value, _points(points, units)) for value, points in lines.items()]


def _points(points: Points, units: UnitSystem) -> list[tuple[float, float]]:
    return [
        (
            round(from_si(h, Quantity.ENTHALPY, units), 2),
            round(from_si(p, Quantity.ABSOLUTE_PRESSURE, units), 3),
        )
        for h, p in points
    ]


def _corner(corner: Corner, units: UnitSystem) -> CornerOut:
    return CornerOut(
        corner.key,
        corner.label,
        round(from_si(corner.enthalpy, Quantity.ENTHALPY, units), 2),
        round(from_si(corner.kpa_abs, Quantity.ABSOLUTE_PRESSURE, units), 3),
        round(from_si(corner.temp_c, Quantity.TEMPERATURE, units), 2),
        corner.estimated,
    )
