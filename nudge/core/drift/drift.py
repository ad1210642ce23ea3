"""What moved since the baseline, at like conditions.

A baseline keeps how far every sign stood from what was expected in its weather; today's are
laid beside them, so weather and load drop out. A move counts against what signs wander from
visit to visit where nothing happened; a cause is named when its signature, and no other half as
well, explains the move. What was changed on purpose takes the signs it moves out of the count.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.behaviours.behaviour import Behaviour
from nudge.core.behaviours.case import Case
from nudge.core.drift.table import Wander, wander
from nudge.core.expectations.by_kind import signs_of
from nudge.core.expectations.signs import Sign
from nudge.core.judgement.departures import departures
from nudge.core.language.errors import UnknownName
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity, degrees_f, difference_of
from nudge.core.language.vocabulary.points import Readings
from nudge.core.physics.circuit.equipment import Feed

FLAG = 12.0
"""Twice the log-likelihood a cause has to win over “nothing happened” to be flagged."""
MOVED_SIGMA = 3.5
"""A single sign this far out is named by itself. At 3 one orifice in twenty was, whose superheat
does not go straight with the weather."""
WIDER = 1.3
"""Real places are less alike from year to year than simulated ones: every σ is widened by this."""
LEAST_SHARE = 0.25
"""Of a signature: less of it than this is not worth a word."""
UNLIKE = frozenset(
    {
        "not_running",
        "run_short",
        "just_changed",
        "not_settled",
        "indoor_below_70",
        "outdoor_below_70",
        "valve_starved",
        "outdoor_out_of_range",
        "standing_pressure_high",
        "reading_confirmed_wrong",
        "ice_on_coil",
        "in_defrost",
        "too_mild_to_heat",
    }
)
"""Gates past which a visit is no like condition: nothing is compared while one is shut."""
LIKE_OUTDOORS_K: Mapping[str, float] = MappingProxyType({"heating": degrees_f(12)})
"""By kind of plant: outdoor air further apart is no like weather. In heating a valve's superheat
and frost go with the cold by laws of their own, which no expectation knows of this machine."""
FLOORS: Mapping[Quantity, float] = MappingProxyType(
    {
        Quantity.TEMPERATURE_DIFFERENCE: 0.35,
        Quantity.PERCENT: 4.0,
        Quantity.TEMPERATURE: 0.5,
        Quantity.RATIO: 0.05,
    }
)
"""No sign is surer than this from one visit to the next (1 σ): clamps go on anew."""


@dataclass(frozen=True, slots=True)
class Cause:
    """What commonly moves signs like that, and what to look at."""

    key: str
    label: str
    look: str


_CAUSES = (
    Cause("charge_lost", "Charge has gone", "It went somewhere: look for the leak."),
    Cause("charge_over", "More charge than before", "Was some added? Look at the ledger."),
    Cause("condenser_fouls", "The outdoor coil fouls", "Look at its face, all round, and wash it."),
    Cause("condenser_fan_slows", "The outdoor fan slows", "Capacitor, blade, bearings."),
    Cause("indoor_air_falls", "Less air indoors", "Filter, grilles, blower wheel, statics."),
    Cause("indoor_coil_fouls", "The indoor coil fouls", "Look at its entering face."),
    Cause("liquid_line_chokes", "The liquid line chokes", "Walk it with one clamp; the drier."),
    Cause("compressor_wears", "The compressor pumps less", "Amps, valves, a reversing valve."),
    Cause("metering_starves", "The metering device starves", "Bulb, screen, setting."),
)
CAUSES: Mapping[str, Cause] = MappingProxyType({row.key: row for row in _CAUSES})


@dataclass(frozen=True, slots=True)
class Intended:
    """Something altered on purpose: signs it moves say nothing of drift afterwards."""

    key: str
    label: str
    moves: tuple[str, ...]
    moves_heated: tuple[str, ...] | None = None
    """What it moves while the house is the warm side; the same, where None."""

    def moves_in(self, kind: Behaviour) -> tuple[str, ...]:
        """The signs it moves of a kind of plant."""
        heated = self.moves_heated if kind.roles.heats else None
        return self.moves if heated is None else heated


_AIR_SIGNS = (
    "airflow",
    "static",
    "filter_drop",
    "temperature_split",
    "evaporator_difference",
    "boiling",
    "capacity",
    "superheat",
    "evaporator_superheat",
)
_HEATED_AIR = (
    "airflow",
    "static",
    "filter_drop",
    "temperature_rise",
    "condensing_over_ambient",
    "approach",
)
"""In heating the indoor air works on the warm coil. Heat, power and subcooling hardly move with it
and stay in the count."""
_INTENDED = (
    Intended("blower_slowed", "Blower slowed", _AIR_SIGNS, _HEATED_AIR),
    Intended("blower_raised", "Blower sped up", _AIR_SIGNS, _HEATED_AIR),
    Intended("filter_kind", "Another kind of filter", ("static", "filter_drop", "airflow"),
             _HEATED_AIR),
    Intended("charge_set", "Charge set anew",
             ("subcooling", "superheat", "evaporator_superheat", "approach", "capacity",
              "discharge_over_stroke", "condensing_over_ambient", "compressor_power")),
    Intended("valve_adjusted", "Metering device set or renewed",
             ("superheat", "evaporator_superheat", "subcooling", "discharge_over_stroke")),
    Intended("outdoor_unit_moved", "Outdoor unit moved or given more room",
             ("condensing_over_ambient", "condenser_air_rise", "compressor_power", "approach"),
             ("evaporator_difference", "condenser_air_rise", "heat_delivered", "superheat")),
)  # fmt: skip
INTENDED: Mapping[str, Intended] = MappingProxyType({row.key: row for row in _INTENDED})


def intended_named(key: str) -> Intended:
    """The row of an intended change. Raises: UnknownName."""
    row = INTENDED.get(key)
    if row is None:
        raise UnknownName("change", key, INTENDED)
    return row


@dataclass(frozen=True, slots=True)
class Moved:
    """One sign: how far it moved since the baseline and how sure that is (1 σ) [core unit]."""

    sign: Sign
    by: float
    sigma: float
    is_intended: bool

    @property
    def is_out(self) -> bool:
        return abs(self.by) > MOVED_SIGMA * self.sigma and not self.is_intended


@dataclass(frozen=True, slots=True)
class Named:
    """A cause that explains the move: how much of its signature, and what it wins."""

    cause: Cause
    share: float
    gain: float


@dataclass(frozen=True, slots=True)
class Drift:
    """A system against its baseline."""

    moved: tuple[Moved, ...]
    causes: tuple[Named, ...]
    """Those that win `FLAG` or more, the best first; look-alikes within a half of it too."""

    @property
    def is_flagged(self) -> bool:
        return bool(self.causes) or any(one.is_out for one in self.moved)

    @property
    def said(self) -> Said:
        """In one sentence."""
        if self.causes:
            first = self.causes[0].cause
            rest = "".join(f", or {one.cause.label.lower()}" for one in self.causes[1:3])
            return say(f"{first.label}{rest}. {first.look}")
        out = [one for one in self.moved if one.is_out]
        if out:
            one = max(out, key=lambda moved: abs(moved.by) / moved.sigma)
            return say(
                f"{one.sign.label} moved by {{by}} since the baseline.",
                by=measure(one.sign, one.by),
            )
        return say("Where it was, within what readings wander.")


def signs_kept(case: Case) -> dict[str, float]:
    """What a baseline keeps of a case: each sign's departure from expectation [core unit].

    The case must carry no history of its own: `Context.own` empty.
    """
    found = departures(case)
    return {key: one.off for key, one in found.items() if not one.sign.is_weather}


def is_compared(kind: Behaviour, feed: Feed) -> bool:
    """Whether anything is known of how such a plant wanders."""
    return bool(wander(kind.key, feed).together)


def is_like(kind: Behaviour, before: Readings, now: Readings) -> bool:
    """Whether the weather of two visits, by their readings, is alike enough to compare them."""
    limit, point = LIKE_OUTDOORS_K.get(kind.key), "outdoor_air_temp"
    if limit is None or point not in before or point not in now:
        return True
    return abs(before[point] - now[point]) <= limit


def drift(
    kind: Behaviour,
    feed: Feed,
    before: Mapping[str, float],
    now: Mapping[str, float],
    intended: Sequence[str] = (),
) -> Drift:
    """Compare two visits' signs, both of a kind of plant. `intended` are keys of `INTENDED` since
    the baseline.
    """
    table, signs = wander(kind.key, feed), signs_of(kind)
    excused = {sign for key in intended for sign in intended_named(key).moves_in(kind)}
    moved = []
    for key in now:
        sigma = None if key not in before else _sigma(table, signs[key])
        if sigma is not None:
            moved.append(Moved(signs[key], now[key] - before[key], sigma, key in excused))
    counted = [one for one in moved if not one.is_intended]
    return Drift(tuple(moved), _causes(table, counted))


def measure(sign: Sign, value: float) -> Measure:
    """A sign's change as it is written: temperatures as differences."""
    return Measure(value, difference_of(sign.quantity))


def _sigma(table: Wander, sign: Sign) -> float | None:
    found = table.sigma(sign.key)
    if found is None:
        return None
    return WIDER * max(found, FLOORS.get(sign.quantity, 0.0))


def _causes(table: Wander, moved: Sequence[Moved]) -> tuple[Named, ...]:
    if not moved:
        return ()
    keys = [one.sign.key for one in moved]
    matrix = [[_covariance(table, moved, i, j) for j in range(len(keys))] for i in range(len(keys))]
    lower = _lower(matrix)
    steps = _solved(lower, [one.by for one in moved])
    best: dict[str, Named] = {}
    for key, signature in table.causes:
        shape = _solved(lower, [signature.get(name, 0.0) for name in keys])
        norm = sum(x * x for x in shape)
        along = sum(x * y for x, y in zip(shape, steps, strict=True))
        if norm <= 0 or along <= 0:
            continue
        share, gain = along / norm, along * along / norm
        is_better = key not in best or gain > best[key].gain
        if gain >= FLAG and share >= LEAST_SHARE and is_better:
            best[key] = Named(CAUSES[key], share, gain)
    found = sorted(best.values(), key=lambda one: -one.gain)
    return tuple(one for one in found if one.gain >= 0.5 * found[0].gain)


def _covariance(table: Wander, moved: Sequence[Moved], i: int, j: int) -> float:
    """Correlations from the table, on the widened σ, drawn a little towards none."""
    one, other = moved[i], moved[j]
    if i == j:
        return one.sigma**2
    together = table.together.get((one.sign.key, other.sign.key), 0.0)
    sigmas = table.sigma(one.sign.key), table.sigma(other.sign.key)
    if not sigmas[0] or not sigmas[1]:
        return 0.0
    correlation = max(-0.8, min(0.8, 0.8 * together / (sigmas[0] * sigmas[1])))
    return correlation * one.sigma * other.sigma


def _lower(matrix: Sequence[Sequence[float]]) -> list[list[float]]:
    """The Cholesky factor; a pivot that rounding made too small is held up."""
    size = len(matrix)
    lower = [[0.0] * size for _ in range(size)]
    for i in range(size):
        for j in range(i + 1):
            rest = matrix[i][j] - sum(lower[i][k] * lower[j][k] for k in range(j))
            if i == j:
                lower[i][i] = max(rest, 0.05 * matrix[i][i]) ** 0.5
            else:
                lower[i][j] = rest / lower[j][j]
    return lower


def _solved(lower: Sequence[Sequence[float]], values: Sequence[float]) -> list[float]:
    found: list[float] = []
    for i, value in enumerate(values):
        rest = value - sum(lower[i][k] * found[k] for k in range(i))
        found.append(rest / lower[i][i])
    return found
