"""The rows services hand out, under the names the layers above may use. They only read them."""

from nudge.store.tables import Reading, Site, System, Verdict, Visit

__all__ = ["Reading", "Site", "System", "Verdict", "Visit"]
