"""Nothing found wrong, an outcome of any call: what was tested, what not, what would tell."""

from dataclasses import dataclass

from nudge.reports.attached import Subject

RIGHT = frozenset({"leave", "heat_right"})
"""Decisions that leave the system as it is, by advice or by key."""
NOT_TOLD = frozenset({"none", "something_else"})
CLOSING = frozenset({"close"})
WORTH_NAMING = 0.005
MOST = 6


@dataclass(frozen=True, slots=True)
class NothingFound:
    """The outcome in four lines."""

    tested: str
    not_tested: str
    likeliest: str
    brings_it_back: str

    def pairs(self) -> list[tuple[str, str]]:
        """Line by line, those that say something."""
        rows = (
            ("Tested", self.tested),
            ("Not tested", self.not_tested),
            ("Likeliest, if it comes back", self.likeliest),
            ("It would come back with", self.brings_it_back),
        )
        return [(label, words) for label, words in rows if words]


def nothing_found(subject: Subject) -> NothingFound | None:
    """The outcome of a visit on which nothing was wrong; None where something was, or where
    nothing could be judged.
    """
    visit, order = subject.visit, subject.order
    assessed = visit.assessment
    is_left = visit.look is not None and visit.look.decision == "leave_caps_on"
    if assessed is None and not is_left:
        return None
    if assessed is not None and not is_left:
        decision = assessed.decision
        if not {decision.key, decision.advice} & RIGHT or assessed.hazards:
            return None
    if any(check.state in ("bad", "watch") for check in order.checks):
        return None
    read = [r.label.lower() for r in visit.readings if r.state != "void"]
    done = [check.label.lower() for check in order.checks if check.entries]
    steps = [
        step.label
        for stage in order.stages
        if stage.key not in CLOSING
        for step in stage.steps
        if step.state != "done"
    ]
    others = [
        s
        for s in (assessed.suspects if assessed is not None else ())
        if s.fault not in NOT_TOLD and s.belief >= WORTH_NAMING
    ]
    first = others[0] if others else None
    return NothingFound(
        ", ".join(dict.fromkeys([*read, *done])),
        "; ".join(list(dict.fromkeys(steps))[:MOST]),
        f"{first.label} ({first.belief:.0%})" if first is not None else "",
        f"{first.told_apart_by}." if first is not None else "",
    )
