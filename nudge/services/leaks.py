"""What each system lost in a year, against the threshold of its kind of plant."""

from dataclasses import dataclass
from datetime import datetime, timedelta

from nudge.core.charging.leak_rate import YEAR_DAYS, annualised, rolling
from nudge.core.charging.ledger import MG_PER_KG
from nudge.core.physics.circuit.whole import whole_charge
from nudge.services.plates import plate_of
from nudge.store.tables import System


@dataclass(frozen=True, slots=True)
class Leaks:
    """What a system has had added, and its leak rates [% a year]; None where not known."""

    system: System
    added_mg: int
    annualised: float | None
    rolling: float | None


def leaks_of(system: System, doses: list[tuple[datetime, int]], now: datetime) -> Leaks:
    """By both methods, where the plate says how much it holds."""
    total = sum(mg for _, mg in doses)
    whole = whole_charge(plate_of(system))
    if not system.factory_charge_kg:
        return Leaks(system, total, None, None)
    year = now - timedelta(days=YEAR_DAYS)
    lately = sum(mg for at, mg in doses if at > year) / MG_PER_KG
    days = sorted({at.date() for at, _ in doses})
    by_year = None
    if len(days) > 1:
        last = sum(mg for at, mg in doses if at.date() == days[-1]) / MG_PER_KG
        by_year = annualised(last, whole.kg, (days[-1] - days[-2]).days).value
    return Leaks(system, total, by_year, rolling(lately, whole.kg).value)
