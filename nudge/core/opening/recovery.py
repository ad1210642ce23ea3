"""Where recovered refrigerant may go, and what may become of it: one row a rule."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from nudge.core.language.errors import Impossible
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity, fahrenheit
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.core.physics.refrigerant.saturation import pressures_at
from nudge.core.physics.refrigerant.table import load_table

Condition = Literal["clean", "mixed", "burnt"]
CONDITIONS: Mapping[str, str] = MappingProxyType(
    {
        "clean": "One refrigerant, clean",
        "mixed": "Mixed, or not known",
        "burnt": "From a burnt compressor: acid",
    }
)
HOT_C = fahrenheit(130)
"""A van in the sun. There its pressure must stay under a quarter over its service pressure."""
HOT_OVER = 1.25
"""Transport rule: 130 °F, 5/4 of the service pressure."""


@dataclass(frozen=True, slots=True)
class Vessel:
    """A recovery cylinder: what is in it and what it is made for.

    `takes_flammable`: relief valve and left-hand thread for A2L and A3. `rated_kpa` is its service
    pressure [kPa gauge], None where nobody wrote it down. `in_date`: False past its test date.
    """

    name: str
    refrigerant: str
    condition: str = "clean"
    takes_flammable: bool = False
    rated_kpa: float | None = None
    in_date: bool | None = None


@dataclass(frozen=True, slots=True)
class Coming:
    """What comes out of a system."""

    refrigerant: str
    condition: str = "clean"


Asks = Callable[[Vessel, Coming], bool]


@dataclass(frozen=True, slots=True)
class VesselRule:
    """Why a cylinder may not take what comes: `stops` is refused, the rest is said."""

    key: str
    asks: Asks
    said: str
    reason: str
    stops: bool = True


def _burns(name: str) -> bool:
    return refrigerant(name).safety_class != "A1"


def hot_kpa(name: str) -> float:
    """Pressure of a refrigerant's liquid at 130 °F [kPa gauge], or at the top of its table."""
    table = load_table(name)
    kpa, _ = pressures_at(table, min(HOT_C, table.bubble.high_c), 0.0)
    return kpa


VESSEL_RULES: tuple[VesselRule, ...] = (
    VesselRule(
        "another",
        lambda v, c: v.condition == "clean" and v.refrigerant != c.refrigerant,
        "STOP. “{name}” holds {holds}, this is {comes}. Mixed, neither can be reclaimed. Take "
        "another cylinder.",
        "A mixture is destroyed at cost, not reclaimed.",
    ),
    VesselRule(
        "burnt_into_clean",
        lambda v, c: c.condition == "burnt" and v.condition == "clean",
        "STOP. Acid came with it: “{name}” holds clean refrigerant. Take a cylinder marked for "
        "burnt.",
        "Acid in one charge spoils the whole cylinder.",
    ),
    VesselRule(
        "mixed_into_clean",
        lambda v, c: c.condition == "mixed" and v.condition == "clean",
        "STOP. What comes is mixed or unknown: “{name}” holds clean refrigerant. Take a cylinder "
        "marked mixed.",
        "A mixture is destroyed at cost, not reclaimed.",
    ),
    VesselRule(
        "clean_into_spoiled",
        lambda v, c: c.condition == "clean" and v.condition != "clean",
        "“{name}” is marked {condition}: clean refrigerant put into it is lost. Take a clean one.",
        "What is clean can be used again.",
    ),
    VesselRule(
        "flammable",
        lambda v, c: _burns(c.refrigerant) and not v.takes_flammable,
        "STOP. {comes} burns: “{name}” is not marked for flammable refrigerant (left-hand thread, "
        "its own relief valve).",
        "An A1 cylinder’s valve and relief are not made for what burns.",
    ),
    VesselRule(
        "too_weak",
        lambda v, c: v.rated_kpa is not None and hot_kpa(c.refrigerant) > HOT_OVER * v.rated_kpa,
        "STOP. {comes} reaches {hot} in a hot van; “{name}” is rated {rated}.",
        "A cylinder is rated for what it may meet, not for what it meets today.",
    ),
    VesselRule(
        "out_of_date",
        lambda v, _: v.in_date is False,
        "STOP. “{name}” is past its test date: it is not filled again before it is tested.",
        "A cylinder is tested every five years, or as its stamp says.",
    ),
    VesselRule(
        "rating_unknown",
        lambda v, _: v.rated_kpa is None,
        "Nobody wrote down what pressure “{name}” is rated for: read its collar.",
        "Old cylinders are rated for less than today’s refrigerants reach.",
        stops=False,
    ),
)


def check_vessel(vessel: Vessel, coming: Coming) -> tuple[Said, ...]:
    """What is to be minded where a cylinder may take it.

    Raises: Impossible, naming the first rule that stops it.
    """
    minded = []
    for rule in VESSEL_RULES:
        if not rule.asks(vessel, coming):
            continue
        said = _said(rule, vessel, coming)
        if rule.stops:
            raise Impossible("cylinder", said)
        minded.append(said)
    return tuple(minded)


def _said(rule: VesselRule, vessel: Vessel, coming: Coming) -> Said:
    words = rule.said
    for key, value in (
        ("name", vessel.name),
        ("holds", vessel.refrigerant),
        ("comes", coming.refrigerant),
        ("condition", vessel.condition),
    ):
        words = words.replace(f"{{{key}}}", value.replace("{", "(").replace("}", ")"))
    measures = {}
    if "{hot}" in words:
        measures["hot"] = Measure(hot_kpa(coming.refrigerant), Quantity.PRESSURE)
        measures["rated"] = Measure(vessel.rated_kpa or 0.0, Quantity.PRESSURE)
    return say(words, **measures)


Fate = Literal["reuse", "recycle", "reclaim", "destroy"]


@dataclass(frozen=True, slots=True)
class FateRow:
    """What may become of recovered refrigerant; the first that applies."""

    key: Fate
    label: str
    applies: Callable[["Came"], bool]
    said: str


@dataclass(frozen=True, slots=True)
class Came:
    """What came out, and of what: `acid` none, slight or strong ("" untested)."""

    condition: str = "clean"
    acid: str = ""
    was_air_in_it: bool = False
    is_blend: bool = False
    leaked: bool = False


FATES: tuple[FateRow, ...] = (
    FateRow(
        "destroy",
        "To be destroyed, or separated by who can",
        lambda c: c.condition == "mixed",
        "Mixed or unknown: nobody puts it back. Mark the cylinder and hand it in.",
    ),
    FateRow(
        "reclaim",
        "Reclaim",
        lambda c: c.condition == "burnt" or c.acid == "strong",
        "Acid came with it: hand it in for reclaim. Charge with virgin or reclaimed refrigerant.",
    ),
    FateRow(
        "reclaim",
        "Reclaim",
        lambda c: c.was_air_in_it,
        "Air was in it: it is not put back. Hand it in for reclaim.",
    ),
    FateRow(
        "reclaim",
        "Reclaim",
        lambda c: c.is_blend and c.leaked,
        "A blend that leaked is no longer the blend it was: hand it in for reclaim.",
    ),
    FateRow(
        "recycle",
        "Through a drier, and back into this owner’s system",
        lambda c: c.acid == "slight",
        "A trace of acid: through an acid-holding drier, and only back into the owner’s own "
        "system.",
    ),
    FateRow(
        "reuse",
        "Back into this owner’s system",
        lambda c: c.acid == "none",
        "Clean by the test: it may go back into the owner’s own system, nowhere else.",
    ),
    FateRow(
        "recycle",
        "Through a drier, and back into this owner’s system",
        lambda _: True,
        "Untested: through a drier, and only back into the owner’s own system. An acid test tells "
        "more.",
    ),
)


def fate_of(came: Came) -> FateRow:
    """What may become of it. The owner's own system or reclaim; nothing else there is."""
    return next(row for row in FATES if row.applies(came))
