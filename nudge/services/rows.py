"""The rows services hand out, under the names the layers above may use. They only read them."""

from nudge.store.live_tables import Import
from nudge.store.tables import Chart, Reading, Site, Slip, System, Verdict, Visit

__all__ = ["Chart", "Import", "Reading", "Site", "Slip", "System", "Verdict", "Visit"]
