"""What weighed suspects convict where charge is not judged, and the test that proves it."""

from collections.abc import Set as AbstractSet
from dataclasses import dataclass

from nudge.core.checks.check import Check
from nudge.core.checks.table import CHECKS
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.next_checks import is_done
from nudge.core.judgement.suspect_table import Suspect

SURELY = 0.8
"""A suspect is named beside numbers that are right only when it is believed this much."""
NO_FINDING = frozenset({"none", "something_else"})


@dataclass(frozen=True, slots=True)
class Convicted:
    """A suspect that leads clearly, in words; its next own test, and whether one has shown it."""

    suspect: Suspect
    sentence: str
    next_test: str
    is_seen: bool

    @property
    def is_proven(self) -> bool:
        """Seen, or nothing is left to try: then it is acted on."""
        return self.is_seen or not self.next_test


def convicted(ground: Ground, looks_right: bool, surely: float = SURELY) -> Convicted | None:
    """The suspect the readings convict, surely where the numbers look right; None where they leave
    it open, or find nothing.
    """
    found = ground.diagnosis
    if found is None or found.confidence == "open" or found.faults[0] in NO_FINDING:
        return None
    leader = ground.suspect(found.faults[0])
    if looks_right and ground.belief(leader.key) < surely:
        return None
    done = set(ground.case.readings) | ground.case.context.observations
    checks = [row for key in leader.own_test if _fits(ground, row := CHECKS[key])]
    return Convicted(
        leader,
        found.sentence,
        next((row.key for row in checks if not is_done(row, done)), ""),
        any(_shows(row, done) for row in checks),
    )


def _fits(ground: Ground, check: Check) -> bool:
    return not check.devices or ground.case.plate.metering_device.value in check.devices


def _shows(check: Check, done: AbstractSet[str]) -> bool:
    return check.look is not None and check.look.yes in done
