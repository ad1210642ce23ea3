"""Everything a judgement of one kind of plant rests on: one frozen object per kind and device."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cache, partial

from nudge.core.behaviours.behaviour import Behaviour
from nudge.core.checks.check import Check
from nudge.core.checks.looks import Look, times
from nudge.core.checks.table import IN_COOLING, LOOK_OF
from nudge.core.expectations.heating_signs import HEATING_SIGNS
from nudge.core.expectations.room_signs import ROOM_SIGNS
from nudge.core.expectations.signs import SIGNS, Sign
from nudge.core.judgement.heating_suspects import HEATING_SUSPECTS, JUDGED_IN_HEATING
from nudge.core.judgement.over_time import EPISODES, EpisodeRow
from nudge.core.judgement.pairs import PAIRS, Pair
from nudge.core.judgement.proof import ADD_PROOF, REMOVE_PROOF, ProofRow
from nudge.core.judgement.room_suspects import JUDGED_IN_ROOM, ROOM_SUSPECTS
from nudge.core.judgement.shared import SHARED, WIDE, Shared
from nudge.core.judgement.signatures import Signature, read_correlations, read_signatures
from nudge.core.judgement.suspect_table import SUSPECTS, Suspect
from nudge.core.physics.circuit.equipment import Feed


@dataclass(frozen=True, slots=True, eq=False)
class Model:
    """Suspects with what each does to the signs, and what can be looked at, tested and proven.

    Every array of the judge keeps to the order of `signatures`; what is worked out of one model is
    remembered with it, so it is never changed, only made anew.
    """

    feed: Feed
    signatures: tuple[Signature, ...]
    correlations: Mapping[tuple[str, str], float]
    sign_rows: Mapping[str, Sign] = field(default_factory=lambda: SIGNS)
    suspects: Mapping[str, Suspect] = field(default_factory=lambda: SUSPECTS)
    looks: Mapping[str, Look] = field(default_factory=lambda: LOOK_OF)
    """By either of its outcomes."""
    checks: Mapping[str, Check] = field(default_factory=lambda: IN_COOLING)
    pairs: tuple[Pair, ...] = PAIRS
    episodes: tuple[EpisodeRow, ...] = EPISODES
    add_proof: tuple[ProofRow, ...] = ADD_PROOF
    remove_proof: tuple[ProofRow, ...] = REMOVE_PROOF
    shared: tuple[Shared, ...] = SHARED
    """What machines of this kind are off together."""

    @property
    def signs(self) -> frozenset[str]:
        """The signs its tables know."""
        return frozenset(self.signatures[0].moves)

    def times(self, observation: str, faults: tuple[str, ...]) -> float:
        """How many times likelier this outcome is with these faults than without."""
        return times(self.looks.get(observation), observation, faults)


MADE: Mapping[str, Callable[..., Model]] = {
    "heating": partial(
        Model,
        sign_rows=HEATING_SIGNS,
        suspects=HEATING_SUSPECTS,
        checks=JUDGED_IN_HEATING,
        pairs=(),
        episodes=(),
        shared=WIDE,
    ),
} | dict.fromkeys(
    ("freezer", "cooler"),
    partial(
        Model,
        sign_rows=ROOM_SIGNS,
        suspects=ROOM_SUSPECTS,
        checks=JUDGED_IN_ROOM,
        pairs=(),
        episodes=(),
        shared=WIDE,
    ),
)
"""What a kind of plant is judged by, by its key, where it is not what cooling is."""


@cache
def model_of(behaviour: Behaviour, feed: Feed) -> Model | None:
    """The model of a kind of plant by what feeds it; None where its tables know nothing of it."""
    if behaviour.tables is None:
        return None
    signatures = read_signatures(behaviour.tables)[feed]
    if not signatures:
        return None
    together = read_correlations(behaviour.tables)[feed]
    return MADE.get(behaviour.key, Model)(feed, signatures, together)
