"""What a multi-zone plant's visit comes to: what its log was read as, and nothing without one.

Charge is never trimmed: it is recovered, weighed and weighed in once its look-alikes are excluded.
"""

from nudge.core.judgement.decision.decision import HangsOn, Order
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.words import joined
from nudge.core.language.said import Said, say
from nudge.core.multizone.reading import State, ZoneDecision

NO_TRIM = say("Charge is never trimmed here: recovered, weighed, and weighed in by its sum.")


def _finding(decision: ZoneDecision) -> Finding:
    said = [_plain(decision.reason)]
    if decision.act:
        said.append(_plain(decision.act))
    if decision.caution:
        said.append(_plain(decision.caution))
    said.append(NO_TRIM)
    hangs = None
    if decision.check:
        hangs = HangsOn("test", decision.check, say("It parts what looks alike."))
    return Finding(joined(said), headline=decision.headline, hangs_on=hangs)


def _plain(text: str) -> Said:
    """A sentence that holds no measure."""
    return say(text.replace("{", "(").replace("}", ")"))


def _row(key: str, state: State, order: Order, headline: str, reason: str) -> Rule:
    def finds(ground: Ground) -> Finding | None:
        zones = ground.case.context.zones
        if zones is None or zones.decision.state != state:
            return None
        return _finding(zones.decision)

    return Rule(key, order, headline, "do_not_charge", "judge", reason, finds)


MULTI_ZONE: tuple[Rule, ...] = (
    _row(
        "zones_not_an_hour",
        "not_an_hour",
        "clocks",
        "Not an hour yet.",
        "Such a plant defends its target: only an hour of what counts shows its trouble.",
    ),
    _row(
        "zones_named",
        "named",
        "charge",
        "One pattern leads.",
        "Believed from 60 % on; a charge is acted on only with its look-alikes under 10 %.",
    ),
    _row(
        "zones_open",
        "cannot_tell",
        "charge",
        "This log cannot tell yet.",
        "No pattern is believed enough: what would part the likeliest is asked for.",
    ),
    _row(
        "zones_well",
        "well",
        "charge",
        "Nothing stands out.",
        "Nothing wrong is believed from 60 % on.",
    ),
)
