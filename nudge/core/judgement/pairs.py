"""Two faults at once: the ones that go together, and the order to clear them. One row a pair."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Pair:
    """Two faults as the table of signatures names them; the first is cleared first."""

    faults: tuple[str, str]
    prior: float
    """Of a hundred calls."""
    reason: str


_AIR_FIRST = "air is cheap to put right, and charge cannot be judged before it"

PAIRS: tuple[Pair, ...] = (
    Pair(("filter_dirty", "undercharge"), 1.2, f"the commonest two on one call; {_AIR_FIRST}"),
    Pair(("filter_dirty", "overcharge"), 0.6, f"topped up for a dirty filter; {_AIR_FIRST}"),
    Pair(("evaporator_dirt", "undercharge"), 0.5, f"a neglected system; {_AIR_FIRST}"),
    Pair(("weak_capacitor", "undercharge"), 0.3, f"two ageing parts; {_AIR_FIRST}"),
    Pair(("condenser_dirt", "overcharge"), 0.9, "a wrong top-up on a dirty coil: clean the coil, "
         "read again, then judge charge"),
    Pair(("condenser_dirt", "undercharge"), 0.9, "the dirty coil hides the low head of low charge: "
         "clean, read again"),
    Pair(("condenser_dirt", "filter_dirty"), 0.9, "nobody cleaned either: both are air"),
    Pair(("condenser_dirt", "evaporator_dirt"), 0.4, "nobody cleaned either: both are air"),
    Pair(("condenser_dirt", "weak_capacitor"), 0.3, "dirt outdoors, a tired blower indoors"),
    Pair(("condenser_fan", "undercharge"), 0.2, "the fan first: it can trip the compressor"),
    Pair(("condenser_dirt", "non_condensables"), 0.3, "clean first: the standing test needs a coil "
         "that reaches air temperature"),
    Pair(("filter_dirty", "non_condensables"), 0.2, _AIR_FIRST),
    Pair(("undercharge", "non_condensables"), 0.4, "opened and badly evacuated: recover, evacuate, "
         "weigh in clears both"),
    Pair(("filter_dirty", "drier_restricted"), 0.3, _AIR_FIRST),
    Pair(("drier_restricted", "overcharge"), 0.4, "charged up against a restriction: renew the "
         "drier, weigh in"),
    Pair(("metering_underfeed", "overcharge"), 0.4, "charged up against a starving valve: mend the "
         "valve, weigh in"),
    Pair(("filter_dirty", "metering_underfeed"), 0.3, _AIR_FIRST),
    Pair(("drier_restricted", "undercharge"), 0.3, "a leak repair left the old drier in: renew it, "
         "weigh in"),
    Pair(("filter_dirty", "compressor_worn"), 0.3, _AIR_FIRST),
    Pair(("condenser_dirt", "compressor_worn"), 0.3, "the dirty coil wore it: clean before judging "
         "the compressor"),
    Pair(("filter_dirty", "metering_overfeed"), 0.3, _AIR_FIRST),
    Pair(("overcharge", "metering_overfeed"), 0.2, "charge cannot be judged behind a flooding "
         "device: device first"),
)  # fmt: skip
