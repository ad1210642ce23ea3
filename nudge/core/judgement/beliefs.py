"""Suspects ranked by likelihood: prior times what every measured mark and seen fact says."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from nudge.core.circuit.case import Case
from nudge.core.circuit.derived import DERIVED
from nudge.core.judgement.features import Feature
from nudge.core.judgement.suspect_table import OBSERVED, SUSPECTS, Suspect
from nudge.core.said import Said, fahrenheit, say
from nudge.core.settling.gates import valve_need_kpa
from nudge.core.vocabulary.observations import OBSERVATIONS

STRONG, WEAK = 45.0, 12.0
"""Of a hundred cases: a mark this common speaks for a suspect, this rare against it."""

_LEVELS = {"low": 0, "in": 1, "high": 2}
_WOULD_SHOW = ("low", "in range", "high")
_MARKS = tuple(
    k for k in DERIVED if k == "superheat" or any(k in s.marks for s in SUSPECTS.values())
)


@dataclass(frozen=True, slots=True)
class Belief:
    """One suspect: how likely (all sum to one), and the evidence both ways."""

    suspect: Suspect
    belief: float
    speaks_for: tuple[Said, ...]
    speaks_against: tuple[Said, ...]
    missing: tuple[str, ...]


def rank_suspects(case: Case, marks: Mapping[str, Feature], readings_doubted: bool) -> list[Belief]:
    """Every suspect with its belief, likeliest first. Beliefs sum to one.

    Naive Bayes over three levels a mark. `readings_doubted` is whether trust checks failed.
    """
    has_valve = case.plate.metering_device.is_valve
    evidence = [(mark.key, _LEVELS[mark.level], mark.said()) for mark in marks.values()]
    seen = sorted(case.context.observations)
    weighed: list[Belief] = []
    for row in _PREPARED[has_valve]:
        suspect = row.suspect
        weight = suspect.prior * _circumstance(case, suspect.key, readings_doubted)
        speaks_for, against = [], []
        for mark, level, said in evidence:
            weight *= row.odds[mark][level] / 100
            if row.odds[mark][level] >= STRONG and (level != 1 or suspect.key == "none"):
                speaks_for.append(Said(f"{said.template}.", said.measures))
            elif row.odds[mark][level] <= WEAK:
                against.append(Said(said.template + row.objection[mark], said.measures))
        for fact in seen:
            times = OBSERVED.get(fact, {}).get(suspect.key, 1.0)
            weight *= times
            if times != 1.0:
                sentence = say(f"Seen: {OBSERVATIONS[fact].label.lower()}.")
                (speaks_for if times > 1 else against).append(sentence)
        missing = tuple(text for mark, text in row.telling if mark not in marks)
        weighed.append(Belief(suspect, weight, tuple(speaks_for), tuple(against), missing))
    total = sum(belief.belief for belief in weighed)
    weighed.sort(key=lambda belief: -belief.belief)
    return [replace(belief, belief=belief.belief / total) for belief in weighed]


@dataclass(frozen=True, slots=True)
class _Prepared:
    """A suspect's row made ready for one kind of metering device; odds of a hundred."""

    suspect: Suspect
    odds: Mapping[str, tuple[float, ...]]
    objection: Mapping[str, str]
    telling: tuple[tuple[str, str], ...]


def _prepare(suspect: Suspect, has_valve: bool) -> _Prepared:
    raw = {mark: suspect.odds(mark, has_valve) for mark in _MARKS}
    odds = {m: tuple(100 * share / sum(o) for share in o) for m, o in raw.items()}
    would_show = {m: _WOULD_SHOW[o.index(max(o))] for m, o in odds.items()}
    name = suspect.label.lower()
    return _Prepared(
        suspect,
        odds,
        {m: f"; {name} would show it {would_show[m]}." for m in _MARKS},
        tuple(
            (m, f"{DERIVED[m].label} is not measured.")
            for m in _MARKS
            if max(odds[m][0], odds[m][2]) >= STRONG
        ),
    )


_PREPARED = {valve: [_prepare(s, valve) for s in SUSPECTS.values()] for valve in (True, False)}


def _circumstance(case: Case, key: str, readings_doubted: bool) -> float:
    """What the air and the valve's pressure difference say before any mark is looked at."""
    indoor, outdoor = (case.readings.get(p) for p in ("return_air_temp", "outdoor_air_temp"))
    drop = case.derived.valve_pressure_difference
    if key == "sensor_suspect":
        return 60.0 if readings_doubted else 0.5
    if key == "low_indoor_load" and indoor is not None:
        return 6.0 if indoor < fahrenheit(70) else 0.4
    if key == "high_indoor_load" and indoor is not None:
        return 4.0 if indoor > fahrenheit(84) else 0.5
    if key == "low_ambient_stacking":
        if drop is not None and case.plate.metering_device.is_valve:
            return 15.0 if drop < valve_need_kpa(case.plate.refrigerant) else 0.05
        if outdoor is not None:
            return 8.0 if outdoor < fahrenheit(65) else 0.05
    return 1.0
