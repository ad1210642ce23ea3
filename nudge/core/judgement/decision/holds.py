"""Whether low charge holds without any one reading, and what would stand behind that reading.

An unconfirmed reading has to be borne out by the rest. One that somebody confirmed needs less,
for the same sun or dirt may still be on it; one that another instrument proved needs nothing.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from nudge.core.checks.table import CHECKS
from nudge.core.judgement.decision.decision import HangsOn
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.limits import least
from nudge.core.judgement.next_checks import is_done
from nudge.core.language.said import Said, say
from nudge.core.language.vocabulary.points import POINTS

NAMES: Mapping[str, str] = {
    "suction_line_temp": "the suction clamp",
    "liquid_line_temp": "the liquid clamp",
    "evaporator_outlet_temp": "the clamp at the coil's outlet",
    "liquid_line_temp_indoor": "the clamp before the device",
    "suction_pressure": "the suction gauge",
    "liquid_pressure": "the liquid gauge",
}
ANOTHER: Mapping[str, tuple[tuple[str, str], ...]] = {
    "liquid_line_temp": (
        (
            "liquid_line_temp_indoor",
            "Read the liquid line indoors as well, near the coil: where "
            "it is about as warm there, the first clamp was right and the line is open",
        ),
        (
            "drier_inlet_temp",
            "Put a second clamp on the liquid line, before the drier and "
            "shaded: where both read the same, it is the pipe",
        ),
    ),
    "suction_line_temp": (
        (
            "true_suction_temp",
            "Put a second clamp on the suction line, at the compressor and "
            "insulated: where both read the same, it is the pipe",
        ),
    ),
}
"""Where another clamp reads the same pipe, out of the reach of what may be wrong at the first:
the most telling place first."""
AT_REST = (
    "Stop it and compare its gauge with the temperature of the resting coil: what the "
    "refrigerant itself says proves a gauge"
)


@dataclass(frozen=True, slots=True)
class Hold:
    """What keeps low charge from being proven, and the one thing that would answer it."""

    said: Said
    hangs_on: HangsOn | None
    is_one_reading: bool = False


def weakest(ground: Ground) -> Hold | None:
    """The pressure or clamp without which low charge falls deepest under its limit, if any."""
    short = {
        point: belief - least(_row(ground, point))
        for point, belief in ground.standing.low_without.items()
        if point not in ground.standing.proved and belief < least(_row(ground, point))
    }
    if not short:
        return None
    point, *others = sorted(short, key=lambda p: short[p])
    name, first = NAMES[point], _another_for(ground, point)
    if first is not None:
        for other in others:
            second = _another_for(ground, other) or again(other)
            if second.key != first.key:
                both = f"{name}, and on {NAMES[other]}"
                said = say(f"This hangs on {both}: each has to be borne out by another reading.")
                return Hold(said, replace(first, also=(second,)), True)
        said = say(f"This hangs on {name} alone: another instrument has to agree with it.")
        return Hold(said, first, True)
    if point in ground.standing.confirmed:
        said = say(f"This hangs on {name} alone, confirmed or not: put another instrument there.")
        return Hold(said, again(point), True)
    verb = "zero it" if point.endswith("pressure") else "move it"
    said = say(f"This hangs on {name} alone: {verb} and read again.")
    return Hold(said, again(point), True)


def _another_for(ground: Ground, point: str) -> HangsOn | None:
    """What else can be read where low charge would not stand without a reading even if that were
    confirmed; None where confirming it is enough, or nothing else can be read.
    """
    confirmed = _row(ground, point, is_confirmed=True)
    enough = ground.standing.low_without[point] >= least(confirmed)
    return None if enough else _another(ground, point)


def _row(ground: Ground, point: str, is_confirmed: bool | None = None) -> str:
    """The row of `LIMITS` that says how low charge has to stand without a reading."""
    place = "beside_air" if "supply_air_temp" in ground.case.readings else "alone"
    kind = "pressure" if point.endswith("pressure") else "clamp"
    if point in ground.standing.confirmed if is_confirmed is None else is_confirmed:
        return f"confirmed_{kind}_{place}"
    if kind == "clamp" and place == "beside_air" and ground.level("superheat") == "high":
        return "clamp_and_superheat"
    return f"{kind}_{place}"


def _another(ground: Ground, point: str) -> HangsOn | None:
    """Another instrument for the same thing; None where it was read and did not settle it."""
    have = set(ground.case.record)
    if point in ANOTHER:
        return next(
            (
                HangsOn("reading", second, say(f"{how}."))
                for second, how in ANOTHER[point]
                if second not in have
            ),
            None,
        )
    check = CHECKS["standing_pressure"]
    if is_done(check, have | ground.case.context.observations):
        return None
    return HangsOn("look", check.key, say(f"{AT_REST}."))


def again(point: str) -> HangsOn:
    """The reading itself, taken again by other means; it is then ticked as confirmed."""
    if point.endswith("pressure"):
        how = "Zero it open to air, then read again"
    elif "_air_" in point:
        how = "Hold a second probe in the same air, out of the sun, then read again"
    else:
        how = (
            "Clean the spot, move the clamp or put a second one beside it, shaded, then read again"
        )
    return HangsOn("reading", point, say(f"{how}; tick “readings confirmed” if it reads the same."))


def named(point: str) -> str:
    """A reading as a person would say it: its instrument, or its place."""
    return NAMES.get(point, POINTS[point].label.lower() if point in POINTS else "one reading")
