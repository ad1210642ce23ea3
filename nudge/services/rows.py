"""The rows services hand out, under the names the layers above may use. They only read them."""

from nudge.core.language.callout.spoken_units import value_si
from nudge.core.language.vocabulary.points import POINTS
from nudge.store.live_tables import Import
from nudge.store.shelf_tables import Movement
from nudge.store.tables import (
    ChartRow,
    PairedDevice,
    Reading,
    Site,
    SlipRow,
    System,
    TakenBundle,
    Verdict,
    Visit,
)
from nudge.store.visit_tables import Deferred, GuestLink, IntendedChange, Note, Photo, TestRun

__all__ = [
    "ChartRow",
    "Deferred",
    "GuestLink",
    "Import",
    "IntendedChange",
    "Movement",
    "Note",
    "PairedDevice",
    "Photo",
    "Reading",
    "Site",
    "SlipRow",
    "System",
    "TakenBundle",
    "TestRun",
    "Verdict",
    "Visit",
    "si_value",
]


def si_value(row: Reading) -> float:
    """A stored reading in core units."""
    return value_si(row.given_value, row.given_unit, POINTS[row.point].quantity)
