"""Evidence that no single set of readings holds: what moved, what did not, what was done.

One row an episode; each is looked for between an earlier settled moment and now, or in what
is known of the system's past. Factors multiply a suspect's weight; 1 says nothing.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from types import MappingProxyType

from nudge.core.behaviours.case import Case
from nudge.core.language.errors import CoreError
from nudge.core.language.said import Measure, Said, difference, say
from nudge.core.language.units import G_PER_OZ, Quantity, degrees_f
from nudge.core.physics.circuit.derived import Derived, derive
from nudge.core.physics.circuit.past import Moment
from nudge.core.physics.circuit.recovered import SHORT_SHARE

OTHER_LOAD_K = degrees_f(4)
"""Return air or its wet bulb this far apart is another load."""
HELD_K, MOVED_K = degrees_f(3), degrees_f(7)
FIRST_DOSE_KG = 3 * G_PER_OZ / 1000
ANSWERED_K, HEAD_FELL_K = degrees_f(2), degrees_f(3)
REPEATED = 2


@dataclass(frozen=True, slots=True)
class EpisodeRow:
    """What is looked for, what it says, and how many times likelier it makes each suspect."""

    key: str
    label: str
    reason: str
    finds: Callable[[Case], Said | None]
    factors: Mapping[str, float] = field(default_factory=dict)
    otherwise: float = 1.0
    """The factor of suspects and faults that the row does not name."""

    def factor(self, suspects: tuple[str, ...], faults: tuple[str, ...]) -> float:
        named = [self.factors[key] for key in (*faults, *suspects) if key in self.factors]
        return max(named, default=self.otherwise)


@dataclass(frozen=True, slots=True)
class Episode:
    """A row that was found, in words with its numbers."""

    row: EpisodeRow
    said: Said


def lived_through(case: Case, rows: Sequence[EpisodeRow] | None = None) -> list[Episode]:
    """Every episode this visit and its system's past show, of these rows or of all."""
    found = ((row, row.finds(case)) for row in (EPISODES if rows is None else rows))
    return [Episode(row, said) for row, said in found if said is not None]


def seen_at_two_loads(case: Case) -> bool:
    """Whether the metering device has been watched at two different loads on this visit."""
    return any(_is_other_load(case, moment) for moment in _untouched(case))


def _before(case: Case, moment: Moment) -> Derived | None:
    try:
        return derive(case.plate, moment.readings, case.behaviour.roles)
    except CoreError:
        return None


def _is_other_load(case: Case, moment: Moment) -> bool:
    return any(
        point in case.readings
        and point in moment.readings
        and abs(case.readings[point] - moment.readings[point]) >= OTHER_LOAD_K
        for point in ("return_air_temp", "return_air_wet_bulb")
    )


def _untouched(case: Case) -> list[Moment]:
    """Earlier moments since which nothing was done to the circuit or the air."""
    past = case.context.past
    if past.added_since_kg or past.done_since:
        return []
    found: list[Moment] = []
    for moment in reversed(past.moments):
        found.append(moment)
        if moment.added_kg or moment.done:
            break
    return found


def _superheats(case: Case) -> tuple[float, float] | None:
    """Superheat then and now at another load, nothing touched between; a valve's only."""
    now = case.derived.superheat
    if now is None or not case.plate.metering_device.is_valve:
        return None
    for moment in _untouched(case):
        before = _before(case, moment)
        if _is_other_load(case, moment) and before and before.superheat is not None:
            return before.superheat, now
    return None


def _moves_with_load(case: Case) -> Said | None:
    both = _superheats(case)
    if both is None or abs(both[0] - both[1]) < MOVED_K:
        return None
    return say(
        "Superheat went from {then} to {now} as the load changed: the valve does not hold.",
        then=difference(both[0]),
        now=difference(both[1]),
    )


def _held_at_two_loads(case: Case) -> Said | None:
    both = _superheats(case)
    if both is None or abs(both[0] - both[1]) > HELD_K:
        return None
    return say(
        "Superheat was {then} at one load and {now} at another: the valve holds it.",
        then=difference(both[0]),
        now=difference(both[1]),
    )


def _hunts(case: Case) -> Said | None:
    minutes = case.context.past.hunting_minutes
    if minutes is None:
        return None
    return say(
        "Superheat swings steadily, once in {period} min: it hunts.",
        period=Measure(minutes, Quantity.RATIO),
    )


STARVED_K = degrees_f(15)
"""Superheat from which a valve's evaporator is starved."""


def _dosed(case: Case) -> tuple[Derived, Derived, float] | None:
    """Before and after what went in since the last moment."""
    past = case.context.past
    if not past.moments or past.added_since_kg < FIRST_DOSE_KG:
        return None
    before = _before(case, past.moments[-1])
    return None if before is None else (before, case.derived, past.added_since_kg)


def _dose_did_nothing(case: Case) -> Said | None:
    dosed = _dosed(case)
    if dosed is None:
        return None
    before, now, kg = dosed
    if case.plate.metering_device.is_valve and (now.superheat or 0.0) < STARVED_K:
        return None  # a valve that still holds its superheat has nothing to answer with
    pairs = (
        (before.evaporator_saturation, now.evaporator_saturation),
        (now.superheat, before.superheat),
    )
    rises = [b - a for a, b in pairs if a is not None and b is not None]
    if not rises or max(rises) > ANSWERED_K / 2:
        return None
    return say(
        "{dose} went in and suction did not rise: it is not getting through.",
        dose=Measure(kg, Quantity.CHARGE),
    )


def _dose_answered(case: Case) -> Said | None:
    dosed = _dosed(case)
    if dosed is None:
        return None
    before, now, kg = dosed
    if before.superheat is None or now.superheat is None:
        return None
    if before.superheat - now.superheat < ANSWERED_K:
        return None
    return say(
        "{dose} went in and superheat fell from {then} to {now}.",
        dose=Measure(kg, Quantity.CHARGE),
        then=difference(before.superheat),
        now=difference(now.superheat),
    )


def _after(action: str, key: str, fell: bool) -> Callable[[Case], Said | None]:
    """What a difference did once something was cleaned or changed."""

    def finds(case: Case) -> Said | None:
        past = case.context.past
        if past.done_since != action or not past.moments:
            return None
        before = _before(case, past.moments[-1])
        then, now = (d.get(key) if d else None for d in (before, case.derived))
        if then is None or now is None or (then - now >= HEAD_FELL_K) is not fell:
            return None
        return say(
            f"{_AFTER[action]}, {_DIFFERENCE[key]} went from {{then}} to {{now}}.",
            then=difference(then),
            now=difference(now),
        )

    return finds


def _added_before(case: Case) -> Said | None:
    count = case.context.past.additions
    if count < REPEATED:
        return None
    return say(f"Refrigerant was added on {count} visits within two years.")


def _recovered_short(case: Case) -> Said | None:
    share = case.context.past.recovered_share
    if share is None or share >= SHORT_SHARE or case.context.past.weighed_in:
        return None
    return say(
        "Only {share} of what belongs in it was recovered.",
        share=Measure(100 * share, Quantity.PERCENT),
    )


def _has_new_compressor(case: Case) -> Said | None:
    if "compressor" not in case.context.past.renewed:
        return None
    return say("The compressor was renewed on this visit.")


_AFTER = {
    "condenser_cleaned": "After the outdoor coil was cleaned",
    "filter_changed": "After the filter was changed",
}
_DIFFERENCE = {
    "condensing_over_ambient": "condensing over ambient",
    "evaporator_difference": "the evaporator difference",
}

EPISODES: tuple[EpisodeRow, ...] = (
    EpisodeRow(
        "superheat_moves_with_load", "Superheat moves with load",
        "A valve that holds superheat at one load only is a valve in trouble, or one short of "
        "liquid to control with.",
        _moves_with_load,
        MappingProxyType({"metering_overfeed": 4, "metering_underfeed": 3, "undercharge": 1.5,
                          "liquid_line_restriction": 1.5, "low_ambient_stacking": 2, "none": 0.2}),
    ),
    EpisodeRow(
        "superheat_held_at_two_loads", "Superheat held at two loads",
        "One reading is one condition; held at two, the valve works.",
        _held_at_two_loads,
        MappingProxyType({"metering_overfeed": 0.25, "metering_underfeed": 0.3, "none": 1.5}),
    ),
    EpisodeRow(
        "hunting", "Superheat hunts",
        "An oversized or eager valve, a bulb on the wrong spot, a starved or nearly starved one.",
        _hunts,
        MappingProxyType({"metering_overfeed": 6, "metering_underfeed": 2,
                          "low_ambient_stacking": 2, "low_indoor_load": 1.5, "undercharge": 1.3,
                          "none": 0.3}),
    ),
    EpisodeRow(
        "dose_did_nothing", "A dose did not raise suction",
        "Refrigerant that does not reach the evaporator is stacking before a restriction.",
        _dose_did_nothing,
        MappingProxyType({"liquid_line_restriction": 5, "metering_underfeed": 5,
                          "low_ambient_stacking": 2, "undercharge": 0.15}),
    ),
    EpisodeRow(
        "dose_answered", "A dose brought superheat down",
        "Low charge answers a dose; a restriction hardly does.",
        _dose_answered,
        MappingProxyType({"undercharge": 2, "liquid_line_restriction": 0.4,
                          "metering_underfeed": 0.4}),
    ),
    EpisodeRow(
        "cleaned_condenser_answered", "Cleaning the outdoor coil brought the head down",
        "What the cleaning took away was condenser air; it is behind you now.",
        _after("condenser_cleaned", "condensing_over_ambient", fell=True),
        MappingProxyType({"condenser_dirt": 0.15}),
    ),
    EpisodeRow(
        "cleaned_condenser_did_nothing", "Cleaning the outdoor coil changed nothing",
        "Head that stays up with a clean coil is charge, air in the system, or the fan.",
        _after("condenser_cleaned", "condensing_over_ambient", fell=False),
        MappingProxyType({"condenser_dirt": 0.1, "overcharge": 2, "non_condensables": 2}),
    ),
    EpisodeRow(
        "changed_filter_answered", "A new filter raised suction",
        "What the filter took away was airflow; it is behind you now.",
        _after("filter_changed", "evaporator_difference", fell=True),
        MappingProxyType({"filter_dirty": 0.1}),
    ),
    EpisodeRow(
        "changed_filter_did_nothing", "A new filter changed nothing",
        "Then it was not the filter: coil, blower, duct, or the refrigerant side.",
        _after("filter_changed", "evaporator_difference", fell=False),
        MappingProxyType({"filter_dirty": 0.1}),
    ),
    EpisodeRow(
        "compressor_renewed", "Compressor renewed",
        "What was fitted new on this visit is seldom what is wrong with it.",
        _has_new_compressor,
        MappingProxyType({"inefficient_compressor": 0.15}),
    ),
    EpisodeRow(
        "added_before", "Refrigerant added on earlier visits",
        "A system does not use refrigerant up: it leaks, or charge never was the fault.",
        _added_before,
        MappingProxyType({"undercharge": 1.6, "liquid_line_restriction": 1.4,
                          "metering_underfeed": 1.4, "overcharge": 1.5}),
    ),
    EpisodeRow(
        "recovered_short", "Less recovered than belongs in it",
        "What was missing at recovery was missing while it ran.",
        _recovered_short,
        MappingProxyType({"undercharge": 6, "overcharge": 0.1}),
    ),
)  # fmt: skip
