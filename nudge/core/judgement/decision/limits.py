"""How sure is sure enough to move refrigerant: one row a number, with its reason."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType


@dataclass(frozen=True, slots=True)
class Limit:
    """One belief [0 to 1] that has to be reached, and why it is that one."""

    key: str
    least: float
    reason: str


_ROWS = (
    Limit("add", 0.90, "Low charge, whatever else is wrong besides: one wrong dose in ten would "
          "be nine too many; the rest of the rule takes those away."),
    Limit("add_alone", 0.60, "Low charge with nothing besides. What stands beside it (air, a "
          "drier) is put right first where it is likelier than this leaves room for."),
    Limit("add_moved", 0.50, "It still leads when any one reading is off by the ± of its kind."),
    Limit("pressure_alone", 0.10, "It still stands with a pressure not believed, where only the "
          "circuit is read: a gauge off its zero moves two numbers, so the rest shows it sooner."),
    Limit("clamp_alone", 0.70, "The same for a line clamp. At 0.40 a clamp in the sun and a loose "
          "one on an overfed coil were added to; a classifier made for it alone did no better."),
    Limit("confirmed_pressure_alone", 0.05, "The same once somebody confirmed the gauge."),
    Limit("confirmed_clamp_alone", 0.40, "The same for a clamp: five numbers cannot tell a "
          "confirmation that lies (the same sun, the same dirt). Another instrument can."),
    Limit("pressure_beside_air", 0.35, "The same for a pressure where the supply air is read as "
          "well: the air side then speaks of its own. At 0.30 a gauge off its zero was added to."),
    Limit("clamp_beside_air", 0.40, "The same for a line clamp where the supply air is read."),
    Limit("clamp_and_superheat", 0.20, "The same with superheat over its window: the other side "
          "of the circuit says so too, and low charge and a restriction part by the liquid clamp "
          "alone, by nature."),
    Limit("confirmed_pressure_beside_air", 0.10, "The same for a gauge somebody confirmed. At 0.04 "
          "gauges off their zero were added to: what stands under this is proved at rest."),
    Limit("confirmed_clamp_beside_air", 0.04, "The same for a confirmed clamp: a confirmation can "
          "lie too, so the rest must not speak flatly against it."),
    Limit("add_again", 0.50, "After a first proven dose that was answered: near its target a "
          "system looks like one with nothing wrong, and the answer is the better witness."),
    Limit("find_leak", 0.50, "An empty system is told by its beliefs too: low charge leads, and "
          "is likelier than everything else together."),
    Limit("leak_without", 0.05, "And no single reading made it: without any one of them the rest "
          "does not speak flatly against it."),
    Limit("no_liquid", 0.85, "No liquid leaves the condenser and low charge is this likely, alone "
          "or not: looking for the leak moves nothing, adding waits for the one reading."),
    Limit("remove", 0.90, "Too much charge with nothing besides: recovered for nothing, it has to "
          "be weighed in again."),
    Limit("remove_moved", 0.60, "It still stands when any one reading is off by its ±."),
    Limit("leads", 0.50, "A suspect believed more than all others together leads."),
    Limit("open", 0.02, "Under this, weighed with everything that was read, what a class is "
          "expected to show guards against nothing: its window is the wider guess of the two."),
    Limit("trim", 0.85, "A trim inside the window is offered only where nothing but charge and "
          "nothing wrong are left."),
)  # fmt: skip

LIMITS: Mapping[str, Limit] = MappingProxyType({row.key: row for row in _ROWS})


def least(key: str) -> float:
    """The belief of a row [0 to 1]."""
    return LIMITS[key].least
