"""Two visits of one system laid over each other: what moved, and whether they are alike at all."""

from collections.abc import Callable
from dataclasses import dataclass

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Measure, Said, difference, say, temperature
from nudge.core.language.units import Quantity, degrees_f
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.circuit.derived_table import DERIVED, formula_of

ALIKE: tuple[tuple[str, float], ...] = (
    ("outdoor_air_temp", degrees_f(8)),
    ("return_air_temp", degrees_f(4)),
    ("return_air_wet_bulb", degrees_f(3)),
)
"""Air within this is like air: what else moved is then the machine's."""
WORKED_OUT = (
    "superheat",
    "subcooling",
    "condensing_over_ambient",
    "evaporator_difference",
    "temperature_split",
    "pressure_ratio",
    "airflow_per_capacity",
    "capacity_total",
)
READ = (
    "suction_pressure",
    "liquid_pressure",
    "outdoor_air_temp",
    "return_air_temp",
    "return_air_wet_bulb",
    "supply_air_temp",
    "airflow",
    "total_external_static",
    "compressor_amps",
    "outdoor_unit_watts",
)
ONLY_COOLED = ("temperature_split", "capacity_total")
HEATED: tuple[tuple[str, str, Callable[[Case], Measure | None]], ...] = (
    (
        "heat_delivered",
        "Heat delivered",
        lambda case: case.heat.delivered.measure if case.heat and case.heat.delivered else None,
    ),
    (
        "heating_power",
        "Power drawn",
        lambda case: case.heat.power.measure if case.heat and case.heat.power else None,
    ),
    (
        "rise",
        "Rise",
        lambda case: (
            difference(case.heat.rise_k) if case.heat and case.heat.rise_k is not None else None
        ),
    ),
)


@dataclass(frozen=True, slots=True)
class Beside:
    """One quantity on both visits [core units]; None where it was not read on one."""

    key: str
    label: str
    quantity: Quantity
    one: float | None
    other: float | None

    @property
    def moved(self) -> float | None:
        """By how much the later one is over the earlier."""
        return None if self.one is None or self.other is None else self.other - self.one


@dataclass(frozen=True, slots=True)
class Compared:
    """Both visits quantity by quantity, and what makes them unlike, in words."""

    rows: tuple[Beside, ...]
    unlike: tuple[Said, ...]
    same_mode: bool


def compared(one: Case, other: Case) -> Compared:
    """Lay two cases of a system over each other, the earlier first."""
    same_mode = one.behaviour.mode == other.behaviour.mode
    heats = one.behaviour.roles.heats and other.behaviour.roles.heats
    rows: list[Beside] = []
    for key in WORKED_OUT:
        if heats and key in ONLY_COOLED:
            continue
        row = formula_of(key, other.derived) if same_mode else DERIVED[key]
        pair = one.derived.get(key), other.derived.get(key)
        rows.append(Beside(key, row.label, row.quantity, *pair))
    for key, label, of in HEATED if heats else ():
        first, last = of(one), of(other)
        quantity = next((m.quantity for m in (first, last) if m is not None), Quantity.RATIO)
        rows.append(Beside(key, label, quantity, first and first.value, last and last.value))
    for point in READ:
        known = POINTS[point]
        pair = one.readings.get(point), other.readings.get(point)
        rows.append(Beside(point, known.label, known.quantity, *pair))
    there = tuple(row for row in rows if row.one is not None or row.other is not None)
    return Compared(there, tuple(_unlike(one, other, same_mode)), same_mode)


def _unlike(one: Case, other: Case, same_mode: bool) -> list[Said]:
    found: list[Said] = []
    if not same_mode:
        found.append(
            say("One was read in cooling, the other in heating: their circuits run the other way.")
        )
    for point, limit in ALIKE:
        first, last = one.readings.get(point), other.readings.get(point)
        if first is not None and last is not None and abs(last - first) > limit:
            found.append(
                say(
                    f"{POINTS[point].label} {{first}} then, {{last}} later: what moved may be the "
                    "weather's.",
                    first=temperature(first),
                    last=temperature(last),
                )
            )
    return found
