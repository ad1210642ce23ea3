"""What a person sees or tests, and how often it comes out so with each fault: one row a look.

A look has two outcomes, or one that only counts when seen. People miss things and dirt is
relative: no outcome is certain. Faults are named as in the table of signatures.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

LEAST_SHARE = 0.01


@dataclass(frozen=True, slots=True, eq=False)
class Look:
    """`usually` is how often `yes` is seen where none of `with_fault` is there."""

    yes: str
    no: str
    usually: float
    with_fault: Mapping[str, float]
    reason: str
    labels: tuple[str, str] = ("", "")
    """The words of `yes` and of `no`."""
    where: str = ""
    """The group it is ticked in; "" where it is worked out and not ticked."""

    def share(self, faults: tuple[str, ...]) -> float:
        """How often `yes` comes out with these faults in the system."""
        return max((self.with_fault.get(f, self.usually) for f in faults), default=self.usually)


def seen(
    where: str,
    yes: tuple[str, str],
    no: tuple[str, str] | None,
    usually: float,
    reason: str,
    **with_fault: float,
) -> Look:
    """A look by its two outcomes, each with its words, and the group it is ticked in."""
    no = no or ("", "")
    return Look(
        yes[0], no[0], usually, MappingProxyType(with_fault), reason, (yes[1], no[1]), where
    )


LOOSE: tuple[Look, ...] = (
    seen(
        "Indoors: blower",
        ("airflow_low", "Airflow low"),
        ("airflow_ok", "Airflow in range"),
        0.06,
        "measured, or read from the blower's table",
        filter_dirty=0.9,
        evaporator_dirt=0.9,
        weak_capacitor=0.95,
    ),
    seen(
        "Tests: reversing_valve",
        ("reversing_valve_passes", "Reversing valve passes gas"),
        ("reversing_valve_tight", "Reversing valve tight"),
        0.03,
        "its suction lines differ in warmth",
        reversing_valve_leak=0.92,
    ),
    seen(
        "Indoors: indoor_coil",
        ("ice_on_coil", "Ice on coil or line"),
        None,
        0.03,
        "whatever starves the coil of air or refrigerant",
        filter_dirty=0.2,
        evaporator_dirt=0.25,
        weak_capacitor=0.25,
        undercharge=0.15,
        drier_restricted=0.12,
        line_kinked=0.12,
        service_valve=0.12,
        metering_underfeed=0.15,
        low_load=0.1,
    ),
    seen(
        "Refrigerant: liquid_line",
        ("sight_glass_bubbles", "Bubbles in sight glass"),
        ("sight_glass_clear", "Sight glass clear"),
        0.1,
        "a short liquid column, or a drop before the glass",
        undercharge=0.8,
        drier_restricted=0.5,
        line_kinked=0.4,
        service_valve=0.5,
    ),
)
"""Looks nobody is sent to take: they are ticked where they happen to be seen."""


@cache
def times(look: Look | None, observation: str, faults: tuple[str, ...]) -> float:
    """How many times likelier this outcome of a look is with these faults than without."""
    if look is None:
        return 1.0  # a state of the work, such as a wet coil: it gates, and says nothing of faults
    share, usual = look.share(faults), look.usually
    if observation == look.no:
        share, usual = 1 - share, 1 - usual
    return max(share, LEAST_SHARE) / max(usual, LEAST_SHARE)
