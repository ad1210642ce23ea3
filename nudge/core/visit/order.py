"""Where a visit stands: each stage with its steps, what is open, what blocks judging and why."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.said import Said, say
from nudge.core.language.vocabulary.stages import Stage
from nudge.core.opening.states import STATES, WHOLE
from nudge.core.visit.calls import STAGES, Call
from nudge.core.visit.facts import Facts
from nudge.core.visit.step_row import BLOCKED, StepRow
from nudge.core.visit.steps import STEP_KEYS, STEPS

StepIs = Literal["done", "open", "skipped"]
StageIs = Literal["done", "here", "open", "blocked", "if_needed"]
LONGEST_REASON = 300


@dataclass(frozen=True, slots=True)
class StepState:
    """A step as it stands; `by_hand` where only a person can say so."""

    row: StepRow
    state: StepIs
    reason: str
    by_hand: bool

    @property
    def not_measured(self) -> bool:
        """Said to be done by hand, where a test would have proven it."""
        return bool(self.row.proven_by) and self.by_hand and self.state == "done"


@dataclass(frozen=True, slots=True)
class StageState:
    """A stage as it stands: its steps, and why it is blocked, where it is."""

    stage: Stage
    label: str
    state: StageIs
    steps: tuple[StepState, ...]
    why: Said | None = None

    @property
    def open_steps(self) -> int:
        return sum(step.state == "open" for step in self.steps)


@dataclass(frozen=True, slots=True)
class Order:
    """The whole visit in order, the stage it is at, and what must not be left open."""

    call: Call
    stages: tuple[StageState, ...]
    here: Stage
    dangers: tuple[Said, ...]
    """What is dangerous to leave as it is, in words."""


def order_of(call: Call, facts: Facts) -> Order:
    """Lay out a visit's stages for its kind of call."""
    found: list[StageState] = []
    before = standing_before(call, facts)
    for stage in call.stages:
        steps = tuple(
            _step(row, facts)
            for row in STEPS
            if row.stage == stage
            and (not row.calls or call.key in row.calls)
            and row.applies(facts)
        )
        found.append(_stage(stage, steps, call, facts, before))
    here = _here(found, facts)
    stages = tuple(
        StageState(one.stage, one.label, "here", one.steps, one.why)
        if one.stage == here and one.state != "blocked"
        else one
        for one in found
    )
    return Order(call, stages, here, _dangers(stages, facts))


def _here(stages: Sequence[StageState], facts: Facts) -> Stage:
    """Where the decision asks for something; before there is one, the first stage that holds
    judging up; else the first open one past all that is done.
    """
    wanted = facts.stage or ("" if facts.circuit in WHOLE else STATES[facts.circuit].stage)
    asked = next((one.stage for one in stages if one.stage == wanted), None)
    if asked is not None:
        return asked
    for one in stages:
        holds = any(s.state == "open" and s.row.blocks == "judging" for s in one.steps)
        if holds and one.state in ("open", "blocked"):
            return one.stage
    last = max((n for n, one in enumerate(stages) if one.state == "done"), default=-1)
    ahead = [one.stage for one in stages[last + 1 :] if one.state in ("open", "blocked")]
    return ahead[0] if ahead else "close"


def standing_before(call: Call, facts: Facts) -> tuple[StepState, ...]:
    """The steps that stand before judging, and are neither done nor skipped with a reason."""
    steps = (
        _step(row, facts)
        for row in STEPS
        if row.blocks == "judging"
        and (not row.calls or call.key in row.calls)
        and row.stage in call.stages
        and row.applies(facts)
    )
    return tuple(step for step in steps if step.state == "open")


def check_tick(step: str, state: str, reason: str) -> None:
    """Raises: UnknownName; CoreError, for skipping what blocks without a reason."""
    row = STEP_KEYS.get(step)
    if row is None:
        raise UnknownName("step", step, STEP_KEYS)
    if state not in ("done", "skipped", ""):
        raise CoreError("state", "A step is done, skipped, or open again (“”).")
    if len(reason) > LONGEST_REASON:
        raise CoreError("reason", f"Keep the reason under {LONGEST_REASON} letters.")
    if state == "skipped" and row.blocks and not reason.strip():
        raise CoreError(
            "reason",
            f"“{row.label}” stands before {BLOCKED[row.blocks]}. Say why it is "
            "skipped: the reason is printed.",
        )


def _step(row: StepRow, facts: Facts) -> StepState:
    ticked = facts.ticks.get(row.key)
    if row.shows is not None and row.shows(facts):
        return StepState(row, "done", "", by_hand=False)
    if ticked is not None and ticked.state == "done":
        return StepState(row, "done", "", by_hand=True)
    if ticked is not None and ticked.state == "skipped":
        return StepState(row, "skipped", ticked.reason, by_hand=True)
    return StepState(row, "open", "", by_hand=row.shows is None)


def _stage(
    stage: Stage,
    steps: tuple[StepState, ...],
    call: Call,
    facts: Facts,
    before: tuple[StepState, ...],
) -> StageState:
    label = STAGES[stage]
    why = _blocked(stage, facts, before)
    if not steps and why is None:
        return StageState(stage, label, "if_needed", steps)  # nobody did anything: no tick
    is_done = all(step.state != "open" for step in steps)
    if stage in call.if_needed and not _is_called_for(facts):
        return StageState(stage, label, "done" if is_done else "if_needed", steps)
    if why is not None:
        return StageState(stage, label, "blocked", steps, why)
    return StageState(stage, label, "done" if is_done else "open", steps)


def _is_called_for(facts: Facts) -> bool:
    """Gauges are on, or the look without them asks for them."""
    return facts.has_gauges or bool(facts.connection) or facts.look == "connect"


def _blocked(stage: Stage, facts: Facts, before: tuple[StepState, ...]) -> Said | None:
    if stage == "judge" and facts.shut:
        return facts.reason
    if stage == "judge" and before and facts.has_gauges:
        return first_said(before)
    if stage == "settle" and facts.unsettled is not None:
        return facts.unsettled
    if stage == "act" and facts.is_judged and facts.shut and facts.stage != "act":
        return say("Nothing to act on until it can be judged.")
    return None


def first_said(before: Sequence[StepState]) -> Said:
    """What is to be done before anything is judged, in words."""
    names = [step.row.label[0].lower() + step.row.label[1:] for step in before]
    return say(f"First: {', '.join(names)}. Do it, or say why it is skipped.")


def _dangers(stages: Sequence[StageState], facts: Facts) -> tuple[Said, ...]:
    found = [
        say(f"{step.row.label}: not done.")
        for stage in stages
        for step in stage.steps
        if step.row.blocks == "closing" and step.state == "open"
    ]
    state = STATES[facts.circuit]
    if state.is_empty or facts.circuit == "broken":
        left = (
            f"The circuit is left “{state.label.lower()}”: lock it out, cap it, and say so on it."
        )
        found.append(say(left))
    return (*found, *facts.hazards)
