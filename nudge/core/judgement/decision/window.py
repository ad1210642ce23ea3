"""What the window itself says: low, right, high, or nothing yet."""

from nudge.core.checks.table import CHECKS
from nudge.core.judgement.decision.decision import ChargeState, HangsOn
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.language.said import say
from nudge.core.language.vocabulary.accuracy import GAP_LIMIT_K
from nudge.core.targets.school import Judged, Level

STATE_OF: dict[Judged, dict[Level, ChargeState]] = {
    "subcooling": {"low": "low", "in": "right", "high": "high"},
    "superheat": {"low": "high", "in": "right", "high": "low"},
    "approach": {"low": "high", "in": "right", "high": "low"},
}
NEEDS = {
    "subcooling": ("liquid pressure and liquid line", "read_liquid_side"),
    "superheat": ("suction pressure and suction line", "read_suction_side"),
    "approach": ("liquid line and outdoor air", "read_outdoor_air"),
}


def state_of(ground: Ground) -> ChargeState:
    """What the deciding school says, by its window alone."""
    mark, school = ground.deciding, ground.targets.deciding
    return "unknown" if mark is None or school is None else STATE_OF[school.judges][mark.level]


def _no_target(ground: Ground) -> Finding | None:
    if ground.targets.deciding is not None:
        return None
    if ground.targets.silent:
        return Finding(ground.targets.silent[0][1])
    if ground.case.plate.has_receiver == "yes":
        said = say(
            "With a receiver subcooling is not the charge: its level is, between its maker's "
            "marks, or a clear sight glass at a steady load."
        )
        seen = any(ground.case.saw(key) for key in ("receiver_right", "receiver_low"))
        hangs = None if seen else HangsOn("test", "read_receiver_level", said)
        return Finding(said, headline="Charge is read at the receiver.", hangs_on=hangs)
    if ground.case.plate.metering_device.is_valve:
        return Finding(say("This method does not apply to this system. Pick another."))
    missing = next(
        (p for p in ("return_air_wet_bulb", "outdoor_air_temp") if p not in ground.case.readings),
        "return_air_wet_bulb",
    )
    said = say(
        "A fixed orifice is judged by superheat, and its target moves with the load: read "
        "return wet bulb and outdoor air, or enter the plate's superheat."
    )
    return Finding(said, hangs_on=HangsOn("reading", missing, said))


def _unread(ground: Ground) -> Finding | None:
    school = ground.targets.deciding
    if school is None or ground.deciding is not None:
        return None
    words, check = NEEDS[school.judges]
    said = say(f"Charge cannot be judged by {school.judges} until you read {words}.")
    point = next(
        (p for p in CHECKS[check].points if p not in ground.case.readings), CHECKS[check].points[0]
    )
    return Finding(said, hangs_on=HangsOn("reading", point, said))


def reads_low(ground: Ground) -> bool:
    return state_of(ground) == "low"


def reads_right(ground: Ground) -> bool:
    return state_of(ground) == "right"


def reads_high(ground: Ground) -> bool:
    return state_of(ground) == "high"


def is_beside(ground: Ground) -> bool:
    """Inside its window, or outside by less than a clamp and a gauge can be off."""
    now = ground.deciding
    return now is not None and max(now.low - now.value, now.value - now.high) <= GAP_LIMIT_K


def came_right(ground: Ground) -> bool:
    """Inside its window; a renewed circuit, as near to it as can be read."""
    return is_beside(ground) if ground.past.is_measured_in else reads_right(ground)


NOTHING: tuple[Rule, ...] = (
    Rule(
        "no_target",
        "charge",
        "Read one more number.",
        "do_not_charge",
        "read",
        "No school can set a target with what is read.",
        _no_target,
    ),
    Rule(
        "unread",
        "charge",
        "Read one more number.",
        "do_not_charge",
        "read",
        "What charge is judged by is not read.",
        _unread,
    ),
)
