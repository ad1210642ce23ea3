"""What a visit already shows about its own steps."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from nudge.core.language.said import Said


@dataclass(frozen=True, slots=True)
class Ticked:
    """A step ticked by hand: done, or skipped with a reason."""

    state: str
    reason: str = ""


@dataclass(frozen=True, slots=True)
class Facts:
    """Everything the steps of a visit are judged by."""

    observations: frozenset[str] = frozenset()
    points: frozenset[str] = frozenset()
    """Points that have a reading that counts."""
    findings: Mapping[str, str] = field(default_factory=dict)
    """Forms filled in on this visit, with how each stands: good, watch, bad, noted; "" unknown."""
    doubts: frozenset[str] = frozenset()
    """Gates open on this visit, whatever they do."""
    ticks: Mapping[str, Ticked] = field(default_factory=dict)
    proven: frozenset[str] = frozenset()
    """What ended tests of this visit prove, and still stands."""
    kind: str = ""
    """The kind of call."""
    circuit: str = "charged"
    """The state of its circuit, of `opening/states.py`."""
    passed: frozenset[str] = frozenset()
    """States of its circuit it has been in since it was whole."""
    repairs: frozenset[str] = frozenset()
    """Parts that are renewed, of `checks/fitting.py`."""
    charge_mode: str = ""
    """What an inverter's charge mode is; "" on a system without one."""
    has_recovered: bool = False
    photos: int = 0
    has_complaint: bool = False
    plate_is_known: bool = False
    is_first_visit: bool = True
    connection: str = ""
    has_gauges: bool = False
    is_running: bool = False
    shut: Mapping[str, Said] = field(default_factory=dict)
    """Gates that block judging now, by key, in words."""
    unsettled: Said | None = None
    minutes_unsettled: bool = False
    """A clock gate is shut: it has not run, or stood still, long enough."""
    is_judged: bool = False
    advice: str = ""
    decision: str = ""
    """The key of the visit's decision."""
    reason: Said | None = None
    """Why it decided so."""
    stage: str = ""
    """The stage at which the decision asks for something."""
    leader: str = ""
    has_acted: bool = False
    has_moved_charge: bool = False
    cylinders: tuple[str, ...] = ()
    unweighed: tuple[str, ...] = ()
    """Names of cylinders used and not weighed back since the last dose."""
    read_after_last_change: bool = False
    has_baseline: bool = False
    look: str = ""
    is_cold_call: bool = False
    """It is a charge check on a cold day."""
    hazards: tuple[Said, ...] = ()
