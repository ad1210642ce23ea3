"""Suspects ranked by likelihood: prior times what every measured mark and seen fact says."""

from collections.abc import Mapping
from dataclasses import dataclass

from nudge.core.circuit.case import Case
from nudge.core.circuit.derived_table import DERIVED
from nudge.core.judgement.features import Feature
from nudge.core.judgement.suspect_table import OBSERVED, SUSPECTS, Suspect
from nudge.core.said import Said, fahrenheit, say
from nudge.core.settling.breaches import valve_need_kpa
from nudge.core.vocabulary.observations import OBSERVATIONS

STRONG, WEAK = 45.0, 15.0
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
    evidence = [
        (key, _LEVELS[mark.level], mark.said()) for key, mark in marks.items() if key in _MARKS
    ]
    in_full = {key: Said(said.template, said.measures, ".") for key, _, said in evidence}
    facts = [
        (OBSERVED[key], say(f"Seen: {OBSERVATIONS[key].label.lower()}."))
        for key in sorted(case.context.observations)
        if key in OBSERVED
    ]
    around = circumstances(case, readings_doubted)
    weighed: list[tuple[float, Suspect, list[Said], list[Said], tuple[str, ...]]] = []
    for row in _PREPARED[case.plate.metering_device.is_valve]:
        key = row.suspect.key
        weight = row.suspect.prior * around.get(key, 1.0)
        speaks_for: list[Said] = []
        against: list[Said] = []
        for mark, level, said in evidence:
            share = row.odds[mark][level]
            weight *= share / 100
            if share <= WEAK:
                against.append(Said(said.template, said.measures, row.objection[mark]))
            elif share >= STRONG and (level != 1 or key == "none"):
                speaks_for.append(in_full[mark])
        for times_by_suspect, sentence in facts:
            times = times_by_suspect.get(key, 1.0)
            weight *= times
            if times != 1.0:
                (speaks_for if times > 1 else against).append(sentence)
        missing = tuple(text for mark, text in row.telling if mark not in marks)
        weighed.append((weight, row.suspect, speaks_for, against, missing))
    total = sum(weight for weight, *_ in weighed)
    weighed.sort(key=lambda row: -row[0])
    return [
        Belief(suspect, weight / total, tuple(speaks_for), tuple(against), missing)
        for weight, suspect, speaks_for, against, missing in weighed
    ]


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


def odds_of_mark(suspect: Suspect, mark: str, has_valve: bool) -> tuple[float, ...] | None:
    """Of a hundred cases of a suspect, how many read (under, inside, over) at a mark.

    None for a mark that beliefs are not made from.
    """
    row = next(one for one in _PREPARED[has_valve] if one.suspect is suspect)
    return row.odds.get(mark)


def circumstances(case: Case, readings_doubted: bool) -> dict[str, float]:
    """What the air and the valve's pressure difference say before any mark is looked at."""
    indoor, outdoor = (case.readings.get(p) for p in ("return_air_temp", "outdoor_air_temp"))
    drop = case.derived.valve_pressure_difference
    times = {"sensor_suspect": 600.0 if readings_doubted else 0.5}
    if indoor is not None:
        times["low_indoor_load"] = 6.0 if indoor < fahrenheit(70) else 0.4
        times["high_indoor_load"] = 4.0 if indoor > fahrenheit(84) else 0.5
    if drop is not None and case.plate.metering_device.is_valve:
        starved = drop < valve_need_kpa(case.plate.refrigerant)
        times["low_ambient_stacking"] = 15.0 if starved else 0.05
    elif outdoor is not None:
        times["low_ambient_stacking"] = 8.0 if outdoor < fahrenheit(65) else 0.05
    return times
