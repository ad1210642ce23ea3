"""What duct pressures say: total external static, the filter's share, and who is to blame."""

from collections.abc import Callable
from dataclasses import dataclass

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import PA_PER_IN_WC, Quantity

DESIGN_PA = 0.5 * PA_PER_IN_WC
TOO_HIGH_PA = 0.8 * PA_PER_IN_WC
FILTER_DIRTY_PA = 0.2 * PA_PER_IN_WC
THIN_FILTER_DIRTY_PA = 0.15 * PA_PER_IN_WC
LOPSIDED = 0.65
SLACK_PA = 0.01 * PA_PER_IN_WC


@dataclass(frozen=True, slots=True)
class DuctReading:
    """Static pressures [Pa]. Return is under room pressure, so it is negative."""

    supply_pa: float | None = None
    return_pa: float | None = None
    total_pa: float | None = None
    filter_drop_pa: float | None = None

    @property
    def external_pa(self) -> float | None:
        """Supply minus return; else the total as it was read."""
        if self.supply_pa is not None and self.return_pa is not None:
            return self.supply_pa - self.return_pa
        return self.total_pa


@dataclass(frozen=True, slots=True)
class StaticRule:
    """One thing duct pressures can say; `says` answers None where it does not apply."""

    key: str
    reason: str
    says: Callable[[DuctReading], Said | None]
    is_trouble: bool = True


def starves_the_blower(read: DuctReading) -> bool:
    """Static or filter drop past the point where the air can still be what was set."""
    total, drop = read.external_pa, read.filter_drop_pa
    return (total is not None and total > TOO_HIGH_PA) or (
        drop is not None and drop > FILTER_DIRTY_PA
    )


def _pa(value: float) -> Measure:
    return Measure(value, Quantity.STATIC_PRESSURE)


def _return_positive(read: DuctReading) -> Said | None:
    if read.return_pa is None or read.return_pa <= SLACK_PA:
        return None
    return say(
        "Return static {value} is over room pressure. Before the blower it is under: check the "
        "hose's port, and give it with its minus.",
        value=_pa(read.return_pa),
    )


def _too_high(read: DuctReading) -> Said | None:
    total = read.external_pa
    if total is None or total <= TOO_HIGH_PA:
        return None
    return say(
        "Total external static {total} is over {limit}: a duct or filter problem. Find the larger "
        "half before touching the blower.",
        total=_pa(total),
        limit=_pa(TOO_HIGH_PA),
    )


def _above_design(read: DuctReading) -> Said | None:
    total = read.external_pa
    if total is None or not DESIGN_PA < total <= TOO_HIGH_PA:
        return None
    return say(
        "Total external static {total} is over {limit}, the usual design. Read airflow off the "
        "blower table at this static, not at its rating.",
        total=_pa(total),
        limit=_pa(DESIGN_PA),
    )


def _fair(read: DuctReading) -> Said | None:
    total = read.external_pa
    if total is None or not 0 < total <= DESIGN_PA:
        return None
    return say("Total external static {total} is within the usual design.", total=_pa(total))


def _none(read: DuctReading) -> Said | None:
    total = read.external_pa
    if total is None or total > 0:
        return None
    return say(
        "Total external static {total}: the blower stands, or the hoses are at the wrong ports.",
        total=_pa(total),
    )


def _filter_fair(read: DuctReading) -> Said | None:
    drop = read.filter_drop_pa
    if drop is None or drop > THIN_FILTER_DIRTY_PA:
        return None
    return say("Filter drop {drop}: it passes air.", drop=_pa(drop))


def _filter(read: DuctReading) -> Said | None:
    drop = read.filter_drop_pa
    if drop is None or drop <= THIN_FILTER_DIRTY_PA:
        return None
    if drop <= FILTER_DIRTY_PA:
        return say("Filter drop {drop} is much for a thin filter.", drop=_pa(drop))
    return say(
        "Filter drop {drop} is over {limit}: dirty, or too restrictive for this air.",
        drop=_pa(drop),
        limit=_pa(FILTER_DIRTY_PA),
    )


def _lopsided(read: DuctReading) -> Said | None:
    total = read.external_pa
    if total is None or read.return_pa is None or read.supply_pa is None or total <= DESIGN_PA:
        return None
    share = -read.return_pa / total
    if share > LOPSIDED:
        return say("Most of it is on the return side: filter, grille, return duct.")
    if share < 1 - LOPSIDED:
        return say("Most of it is on the supply side: coil, dampers, supply duct.")
    return None


STATIC_RULES: tuple[StaticRule, ...] = (
    StaticRule(
        "return_positive", "Suction side of a blower is under room pressure.", _return_positive
    ),
    StaticRule(
        "static_too_high", "Over 0.8 in. w.c. most residential blowers lose their air.", _too_high
    ),
    StaticRule(
        "static_above_design", "Most residential units are rated at 0.5 in. w.c.", _above_design
    ),
    StaticRule(
        "static_fair",
        "Up to 0.5 in. w.c. the blower works where it was rated.",
        _fair,
        is_trouble=False,
    ),
    StaticRule("no_static", "A blower that moves air makes pressure.", _none),
    StaticRule(
        "filter_fair",
        "Up to 0.15 in. w.c. even a thin filter is not what holds the air back.",
        _filter_fair,
        is_trouble=False,
    ),
    StaticRule(
        "filter_drop", "Over 0.2 in. w.c. (0.15 for thin ones) is dirty or too tight.", _filter
    ),
    StaticRule(
        "lopsided", "The side with two thirds of the pressure is the side to work on.", _lopsided
    ),
)


def read_static(read: DuctReading) -> list[Said]:
    """Everything the pressures say, in order."""
    return [said for rule in STATIC_RULES if (said := rule.says(read)) is not None]


def static_trouble(read: DuctReading) -> Said | None:
    """The first thing the pressures complain of."""
    says = (rule.says(read) for rule in STATIC_RULES if rule.is_trouble)
    return next((said for said in says if said is not None), None)
