"""What decides while a circuit is opened: it is not started, not judged, and filled by weight."""

from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity

OPEN_HEADLINE = "Do not start it: the circuit is open."
WATCH = (
    say("The scale, not the gauges: it is full when the sheet is in."),
    say("What is left after it stops taking goes into suction in bursts, while it runs."),
)


def _open_circuit(ground: Ground) -> Finding | None:
    context = ground.case.context
    if context.open_circuit is None:
        return None
    return Finding(context.open_circuit, stage=context.open_stage)


def _opened_next(ground: Ground) -> Finding | None:
    if not ground.case.context.is_opened_next:
        return None
    return Finding(
        say(
            "It is locked out to be opened. Recover all of it into a cylinder that may take it, "
            "and weigh what comes: against what belongs in it that is evidence."
        )
    )


def _weigh_the_rest(ground: Ground) -> Finding | None:
    context = ground.case.context
    if context.to_weigh_kg is None or not context.past.proven_tight:
        return None
    return Finding(
        say(
            "It was empty, is proven tight, and {left} of what the sheet asks for is still to go "
            "in. This is weighing, not trimming: what is missing was never put in.",
            left=Measure(context.to_weigh_kg, Quantity.CHARGE),
        ),
        watch=WATCH,
    )


OPEN_CIRCUIT = Rule(
    "open_circuit", "danger", OPEN_HEADLINE, "do_not_charge", "connect",
    "A compressor run in a vacuum arcs and burns out; what was read before it was opened says "
    "nothing of now.", _open_circuit,
)  # fmt: skip
LOCKED_OR_FILLING: tuple[Rule, ...] = (
    Rule("opened_next", "first", "Recover it, then open it.", "do_not_charge", "recover",
         "A circuit locked out to be opened is neither started nor judged.", _opened_next),
    Rule("weigh_the_rest", "first", "Weigh in the rest.", "weigh_in", "fill",
         "A circuit that was empty is filled by weight; its readings say nothing until it is full.",
         _weigh_the_rest),
)  # fmt: skip
