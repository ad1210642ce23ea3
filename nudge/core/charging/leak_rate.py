"""How fast a system loses its charge, for the record."""

from dataclasses import dataclass

from nudge.core.language.errors import CoreError
from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, Working, work

YEAR_DAYS = 365.0

ANNUALISED = Formula(
    "leak_rate_annualised",
    "Leak rate, annualised",
    Quantity.PERCENT,
    "What would be lost in a year at the pace since the last addition.",
    "added ÷ full charge × 365 ÷ days since the last addition, at most 365",
    "{added} ÷ {full_charge} × 365 ÷ {days} = {result}",
    ("added", "full_charge", "days"),
    "Annualising method; local code names which one counts.",
)
ROLLING = Formula(
    "leak_rate_rolling",
    "Leak rate, rolling year",
    Quantity.PERCENT,
    "What was added in the last 365 days against the full charge.",
    "all added in 365 days ÷ full charge",
    "{added_in_year} ÷ {full_charge} = {result}",
    ("added_in_year", "full_charge"),
    "Rolling method; local code names which one counts.",
)


@dataclass(frozen=True, slots=True)
class LeakThreshold:
    """A yearly leak rate some rule book acts on: an example to set one's own by."""

    key: str
    label: str
    percent: float
    reason: str


LEAK_THRESHOLDS: tuple[LeakThreshold, ...] = (
    LeakThreshold(
        "comfort", "Comfort cooling", 10.0, "A usual regulatory value; local code decides."
    ),
    LeakThreshold(
        "commercial",
        "Commercial refrigeration",
        20.0,
        "A usual regulatory value; local code decides.",
    ),
    LeakThreshold(
        "industrial", "Industrial process", 30.0, "A usual regulatory value; local code decides."
    ),
)


def annualised(added_kg: float, full_charge_kg: float, days: float) -> Working:
    """Leak rate from one addition [% a year]. Raises: CoreError, for days or charge of zero."""
    if days <= 0 or full_charge_kg <= 0:
        raise CoreError("leak rate", "Give a full charge and at least one day since the last one.")
    return work(
        ANNUALISED,
        lambda v: 100 * v["added"] / v["full_charge"] * YEAR_DAYS / min(v["days"], YEAR_DAYS),
        {
            "added": Input("added", "Added", Measure(added_kg, Quantity.CHARGE), "typed", 0.007),
            "full_charge": Input(
                "full_charge", "Full charge", Measure(full_charge_kg, Quantity.CHARGE), "typed"
            ),
            "days": Input("days", "Days since the last", Measure(days, Quantity.DAYS), "typed"),
        },
    )


def rolling(added_in_year_kg: float, full_charge_kg: float) -> Working:
    """Leak rate over the last 365 days [%]. Raises: CoreError, for a charge of zero."""
    if full_charge_kg <= 0:
        raise CoreError("leak rate", "Give the full charge.")
    return work(
        ROLLING,
        lambda v: 100 * v["added_in_year"] / v["full_charge"],
        {
            "added_in_year": Input(
                "added_in_year",
                "Added in a year",
                Measure(added_in_year_kg, Quantity.CHARGE),
                "typed",
                0.007,
            ),
            "full_charge": Input(
                "full_charge", "Full charge", Measure(full_charge_kg, Quantity.CHARGE), "typed"
            ),
        },
    )
