"""Everything a rule of the decision may look at, worked out once and only when it is asked for."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from nudge.core.behaviours.case import Case
from nudge.core.gaugeless.decide import Gaugeless
from nudge.core.judgement.beliefs import Posterior
from nudge.core.judgement.decision.doses import (
    IN_VAIN,
    DoseAnswer,
    dose_answers,
    unanswered,
)
from nudge.core.judgement.decision.limits import least
from nudge.core.judgement.decision.robust import Standing, stands
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.diagnosis import Diagnosis
from nudge.core.judgement.features import Feature
from nudge.core.judgement.hazards import Hazard
from nudge.core.judgement.next_checks import Proposal, next_checks
from nudge.core.judgement.proof import ADD_PROOF, REMOVE_PROOF, Proof, prove
from nudge.core.judgement.suspect_table import SUSPECTS, Suspect
from nudge.core.language.said import Said
from nudge.core.physics.circuit.past import Moment, Past
from nudge.core.settling.gate import Breach
from nudge.core.settling.trust import TrustCheck
from nudge.core.targets import fallback_subcooling, plate_subcooling
from nudge.core.targets.choose import Targets
from nudge.core.targets.school import Level


@dataclass(frozen=True)
class Ground:
    """A case with its target, doubts, gates, marks, hazards, beliefs and doses."""

    case: Case
    targets: Targets
    doubts: Sequence[tuple[TrustCheck, Said]] = ()
    breaches: Sequence[Breach] = ()
    marks: Mapping[str, Feature] = field(default_factory=dict)
    hazards: Sequence[tuple[Hazard, Said]] = ()
    weighing: Posterior | None = None
    diagnosis: Diagnosis | None = None
    look: Gaugeless | None = None
    measured: Mapping[str, Departure] = field(default_factory=dict)
    """The signs the readings allow."""
    proven_at: Callable[[Moment, int], bool] = lambda _, __: False
    """Whether an earlier moment, by its place, was itself a proven case of moving refrigerant."""
    method: str | None = None
    preferred: Sequence[str] = ()

    @property
    def past(self) -> Past:
        """What came before the readings of now."""
        return self.case.context.past

    def proof_of_low(self, is_answered: bool = False) -> Proof:
        """What is missing, and what speaks against it, before anything is added."""
        rows = ADD_PROOF if self.weighing is None else self.weighing.model.add_proof
        return prove(rows, self.case, self.marks, is_answered, self.leaves_open)

    def proof_of_high(self) -> Proof:
        """The same before anything is taken out."""
        rows = REMOVE_PROOF if self.weighing is None else self.weighing.model.remove_proof
        return prove(rows, self.case, self.marks, is_feared=self.leaves_open)

    def leaves_open(self, suspect: str) -> bool:
        """Whether what was read leaves a suspect open; everything is while nothing is weighed."""
        return self.weighing is None or self.belief(suspect) >= least("open")

    @property
    def target_is_guessed(self) -> bool:
        """Charge is judged by a figure that stands in for a plate's nobody gave."""
        school = self.targets.deciding
        return school is not None and school.key == fallback_subcooling.KEY

    def suspect(self, name: str) -> Suspect:
        """The row of a suspect, in the model it was weighed by."""
        return (SUSPECTS if self.weighing is None else self.weighing.model.suspects)[name]

    @cached_property
    def blocking(self) -> list[Breach]:
        return [breach for breach in self.breaches if breach.effect == "blocks"]

    @cached_property
    def answers(self) -> tuple[DoseAnswer, ...]:
        """Every dose of this visit, and whether it was answered."""
        return dose_answers(self.case)

    @cached_property
    def checks(self) -> Sequence[Proposal]:
        """What would settle most per minute, best first."""
        if self.weighing is None:
            return ()
        return next_checks(self.case, self.weighing, self.measured)

    @property
    def standing_low(self) -> float:
        """The belief in low charge as it stands, without asking how well it holds."""
        return 0.0 if self.weighing is None else self.weighing.besides("undercharge")

    def first_was_proven(self) -> bool:
        """Whether the reading before the first dose of this visit said to move some."""
        moments = self.case.context.past.moments
        dosed = [number for number, moment in enumerate(moments) if moment.added_kg]
        first = dosed[0] if dosed else len(moments)
        return first > 0 and self.proven_at(moments[first - 1], first - 1)

    @cached_property
    def goes_well(self) -> bool:
        """Refrigerant moved one way on this visit: the first dose was proven, the last one that
        can be told was answered, and no reading was corrected since.
        """
        answers = self.answers
        told = [one.answered for one in answers if one.answered is not None]
        return (
            bool(told)
            and told[-1]
            and unanswered(answers) < IN_VAIN
            and len({one.amount_kg > 0 for one in answers}) == 1
            and not self.case.context.past.corrected
            and self.first_was_proven()
        )

    @property
    def is_brought_to_plate(self) -> bool:
        """A renewed circuit, tight by test and filled by the scale, with no dose told yet: what is
        left is its sheet against the subcooling its plate asks for.
        """
        school = self.targets.deciding
        told = any(one.answered is not None or one.went_wrong_way for one in self.answers)
        if school is None or school.key != plate_subcooling.KEY or told:
            return False
        return self.past.is_measured_in and unanswered(self.answers) < IN_VAIN

    @property
    def given_kg(self) -> float:
        return sum(one.amount_kg for one in self.answers)

    @property
    def deciding(self) -> Feature | None:
        """The measured quantity that decides, against its window; None unread or untargeted."""
        school = self.targets.deciding
        return None if school is None else self.marks.get(school.judges)

    def level(self, key: str) -> Level | None:
        return self.marks[key].level if key in self.marks else None

    @property
    def leader(self) -> str:
        return next(iter(self.weighing.suspects)) if self.weighing else ""

    def belief(self, suspect: str) -> float:
        """The belief in one suspect, alone or in a pair, 0 to 1."""
        return 0.0 if self.weighing is None else self.weighing.suspects.get(suspect, 0.0)

    @cached_property
    def standing(self) -> Standing:
        """How the belief in low and in high charge stands when readings move or are left out."""
        return stands(self.case, self.weighing, self.measured, self.method, self.preferred)
