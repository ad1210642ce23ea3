"""What came before the readings of now: earlier moments of the visit, what was done, history."""

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True)
class Moment:
    """One earlier settled set of readings, in core units, and what was done after it.

    `added_kg` is what went in between the moment before and this one (negative: taken out);
    `done` is an action's key of `ACTIONS`, done since the moment before; "" for none.
    """

    minutes_ago: float
    readings: Mapping[str, float]
    added_kg: float = 0.0
    done: str = ""


@dataclass(frozen=True, slots=True)
class Past:
    """Everything known from before, oldest first. Empty where nobody kept it."""

    moments: tuple[Moment, ...] = ()
    added_since_kg: float = 0.0
    """What went in after the last moment and before the readings of now."""
    done_since: str = ""
    hunting_minutes: float | None = None
    """The period at which the superheat swings now, where a trace shows it."""
    additions: int = 0
    """Times refrigerant was added on earlier visits within two years."""
    recovered_share: float | None = None
    """What was recovered of what should have been in it."""
    weighed_in: bool = False
    """It was evacuated and weighed in on this visit: what was missing before is not missing now."""
    proven_tight: bool = False
    """It was pressure-tested on this visit and held."""
    sheet_left_kg: float = 0.0
    """What of the sheet was not weighed in yet [kg]; minus: so much is over it."""
    corrected: bool = False
    """A reading was corrected or taken back since the first dose."""
    other_loads: tuple[float, ...] = field(default_factory=tuple)
    """Loads [°C of return air] at which the metering device was judged before."""
    renewed: frozenset[str] = frozenset()
    """Parts fitted new since it was opened: `compressor`, `valve`, …"""
    by_scale: bool = False
    """A scale has its sheet in it, and a nitrogen test, not somebody's tick, proved it tight."""

    @property
    def is_weighed_in(self) -> bool:
        """Opened, proven tight and freshly weighed in: what it lacks was never put in."""
        return self.weighed_in and self.proven_tight

    @property
    def is_measured_in(self) -> bool:
        """Tight by test and filled by the scale, and no reading was corrected since a dose."""
        return self.is_weighed_in and self.by_scale and not self.corrected

    @property
    def is_known_short(self) -> bool:
        """By the scale it lacks the rest of its sheet, and by nitrogen it lost nothing since."""
        return self.is_weighed_in and self.sheet_left_kg > 0 and not self.corrected

    def left_before(self, place: int) -> float:
        """What of the sheet was out at an earlier moment, by its place among the moments [kg]."""
        given = sum(moment.added_kg for moment in self.moments[place + 1 :]) + self.added_since_kg
        return self.sheet_left_kg + given

    @property
    def has_doses(self) -> bool:
        """Refrigerant was moved on this visit."""
        return bool(self.added_since_kg) or any(moment.added_kg for moment in self.moments)
