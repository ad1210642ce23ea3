"""Which probe lies: cross-checks on what the instruments give, before and while it runs.

A row a check. Each looks at one suspicion, and names the point whose probe it is, what shows
it, and what to do. Numbers that disagree without naming anyone are left to `trust.py`.
"""

from nudge.core.settling.cross_checks import (
    discharge_dirt,
    liquid_dirt,
    outdoor_too_warm,
    standing_air,
    standing_zero,
    suction_dirt,
    supply_mixed,
    wet_and_dry,
    wrong_pipe,
)
from nudge.core.settling.seen import Lie, ProbeCheck, Seen
from nudge.core.settling.signals import dropping_out, silent, spiking, stuck

PROBE_CHECKS: tuple[ProbeCheck, ...] = (
    ProbeCheck(
        "silent", "an instrument that sends nothing for 30 s is off, empty or out of reach", silent
    ),
    ProbeCheck("stuck", "every sensor has noise: no change at all in 100 s is a frozen one", stuck),
    ProbeCheck(
        "spiking", "pipes and air do not jump 9 °F, nor pressures 12 psi, and back", spiking
    ),
    ProbeCheck(
        "dropping_out",
        "one channel that loses a third of what the others send is failing",
        dropping_out,
    ),
    ProbeCheck(
        "standing_zero",
        "standing pressures are equal, and are the saturation of the air",
        standing_zero,
    ),
    ProbeCheck(
        "standing_air", "standing for long, the outdoor unit is as warm as its air", standing_air
    ),
    ProbeCheck(
        "wrong_pipe", "two clamps that read alike on pipes that cannot be alike", wrong_pipe, True
    ),
    ProbeCheck(
        "outdoor_too_warm",
        "a condenser cannot cool its liquid under its own air",
        outdoor_too_warm,
        True,
    ),
    ProbeCheck(
        "suction_dirt", "a suction line gains up to 11 °F and loses none", suction_dirt, True
    ),
    ProbeCheck(
        "liquid_dirt",
        "a liquid line neither warms nor loses 6 °F while feeding its coil well",
        liquid_dirt,
        True,
    ),
    ProbeCheck(
        "discharge_dirt", "entropy: no stroke ends cooler than the ideal one", discharge_dirt, True
    ),
    ProbeCheck(
        "wet_and_dry", "evaporation cools, and no cooled house stays saturated", wet_and_dry
    ),
    ProbeCheck(
        "supply_mixed",
        "energy balance: an ordinary refrigerant side with 70 % of the split "
        "is a probe in mixed air",
        supply_mixed,
        True,
    ),
)


def lying(seen: Seen) -> list[Lie]:
    """Every probe that is caught, the surest first; each point once."""
    found: dict[str, Lie] = {}
    for check in PROBE_CHECKS:
        if seen.heats and check.only_cooling:
            continue
        for lie in check.finds(seen):
            found.setdefault(lie.point, lie)
    return list(found.values())
