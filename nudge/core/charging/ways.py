"""Ways to bring a charge right, and the ways to connect for it: one row each, with its reason."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from nudge.core.language.units import G_PER_OZ, degrees_f
from nudge.core.physics.circuit.equipment import MeteringDevice

KG_PER_OZ = G_PER_OZ / 1000
SUPERHEAT_FLOOR_K = degrees_f(5)
"""Superheat never goes under this on the way in."""


@dataclass(frozen=True, slots=True)
class ChargeWay:
    """How a charge is trimmed: how near is right [K], and how long to wait after a dose [min].

    `room_k` is how far past the target even the optimistic end of a dose may go.
    """

    key: str
    label: str
    near_k: float
    room_k: float
    wait_minutes: float
    reason: str
    share: float = 1.0
    """Of the dose that would otherwise be given."""


_ROWS = (
    ChargeWay("trim_by_subcooling", "Trim by subcooling", degrees_f(1), degrees_f(3), 10,
        "A valve holds superheat by itself, so the liquid behind it tells the charge."),
    ChargeWay("trim_by_superheat", "Trim by superheat", degrees_f(2), degrees_f(4), 6,
        "An orifice passes what the pressures push: superheat tells whether that is enough."),
    ChargeWay("inverter_charge_mode", "Inverter in its charge mode", degrees_f(1), degrees_f(1), 10,
        "Run at full speed by its own charge mode for 30 minutes; subcooling on the plate ±1, "
        "additions 10 minutes apart, and the mode ended afterwards."),
    ChargeWay("cold_with_collar", "Cold day, discharge collar", degrees_f(1.5), degrees_f(3), 10,
        "Discharge air is held back until the condenser stands as on a warm day and the valve has "
        "its pressure; then the charge is trimmed in smaller steps.", 0.5),
    ChargeWay("weigh_in", "Weigh in from vacuum", degrees_f(3), degrees_f(3), 15,
        "An empty system gets what the plate and its line set ask for; nothing is guessed."),
    ChargeWay("remove", "Recover a surplus", degrees_f(1), degrees_f(3), 10,
        "Into a recovery cylinder, filled to 80 % at most, never to air."),
)  # fmt: skip

WAYS: Mapping[str, ChargeWay] = MappingProxyType({row.key: row for row in _ROWS})


def way_for(
    device: MeteringDevice, judged: str, removes: bool, has_collar: bool = False
) -> ChargeWay:
    """The way a running system is trimmed, by its device, what is judged, and a collar."""
    if has_collar and not removes:
        return WAYS["cold_with_collar"]
    if device is MeteringDevice.EEV:
        return WAYS["inverter_charge_mode"]
    if judged == "superheat":
        return WAYS["trim_by_superheat"]
    return WAYS["remove"] if removes else WAYS["trim_by_subcooling"]


@dataclass(frozen=True, slots=True)
class WayStep:
    """One step of a checklist, and the caution that stands beside it; "" where none is."""

    text: str
    caution: str = ""


@dataclass(frozen=True, slots=True)
class Connection:
    """A way to connect a cylinder: its largest burst [kg], its hose, and its steps.

    `hose_m` and `hose` are what stays full of liquid unless it is bled into suction; 0 where
    the way has no such hose. `can_charge` is False for ways that only read.
    """

    key: str
    label: str
    good_for: str
    can_charge: bool
    burst_kg: float
    hose_m: float
    hose: str
    steps: tuple[WayStep, ...]
    purge: str = ""
    """What has to be purged before it may charge, and what is lost by it."""


_FITTING = WayStep(
    "Hold the fitting by its sides; turn it fully home, or fully off, without stopping.",
    "Hand clear of the end and the back. Butyl gloves and eye protection; never cotton "
    "gloves, never a finger to stop a leak.",
)
_ZERO = WayStep("Zero the instruments open to air before they go on.")
_WEIGH = WayStep(
    "Cylinder in its pouring position on the scale, hose still: zero, and write the weight down."
)
_SUCTION = WayStep(
    "Feed the suction side only, in short bursts, watching superheat.",
    "Never a steady stream of liquid, never into the high side of a running system.",
)
_PURGE = WayStep(
    "Purge the hose with a breath of refrigerant.",
    "No more than the law calls minimal. Ventilate: it displaces air.",
)
_BLEED = WayStep(
    "High side off first and quickly; bleed the liquid in the hoses into suction, then disconnect.",
    "Liquid left in a shut hose bursts it in a hot van.",
)
_PROVE = WayStep("Bubble-test both ports through a vented cap, put the caps with seals back on.")

_CONNECTIONS = (
    Connection(
        "hose_manifold",
        "Hoses and manifold",
        "Old, dyed or dirty systems, and recovery: liquid boils off in the hose on its way in.",
        True,
        3 * KG_PER_OZ,
        1.5,
        "1/4",
        (_ZERO, _FITTING, _PURGE, _WEIGH, _SUCTION, _BLEED, _PROVE),
        "Two or three hoses, each with a breath: most gas lost; air where one is forgotten.",
    ),
    Connection(
        "probe_and_tee",
        "Probe and tee on the suction port",
        "Charging with probes: nothing between the cylinder and the port for liquid to boil in.",
        True,
        1 * KG_PER_OZ,
        0.9,
        "1/4",
        (
            _ZERO,
            _FITTING,
            _PURGE,
            _WEIGH,
            WayStep(
                "Throttle the liquid at the tee: bursts of a second or two.",
                "No hose volume to boil it in: smaller shots, or liquid reaches the compressor.",
            ),
            _SUCTION,
            _BLEED,
            _PROVE,
        ),
        "One short hose with a breath; the probes bring no air.",
    ),
    Connection(
        "core_tool",
        "Core tool with side port",
        "An accurate low side and fast evacuation; the core is out while it is on.",
        True,
        2 * KG_PER_OZ,
        1.5,
        "3/8",
        (
            _ZERO,
            _FITTING,
            _PURGE,
            _WEIGH,
            _SUCTION,
            _BLEED,
            WayStep(
                "Look at the core, put it back, and prove that it holds before the tool comes off."
            ),
            _PROVE,
        ),
        "One wide hose with a breath. Shut the tool before the hose comes off: the core is out.",
    ),
    Connection(
        "probes",
        "Probes, no hoses",
        "Checks without charging: the smallest loss of all.",
        False,
        0.0,
        0.0,
        "",
        (_ZERO, _FITTING, _PROVE),
        "Nothing to purge, nothing lost but the breath at the fitting.",
    ),
    Connection(
        "nothing",
        "No gauges",
        "A yearly check of a known system by its temperatures.",
        False,
        0.0,
        0.0,
        "",
        (),
    ),
)

CONNECTIONS: Mapping[str, Connection] = MappingProxyType({row.key: row for row in _CONNECTIONS})

Leaves = Literal["liquid", "either"]


@dataclass(frozen=True, slots=True)
class Pouring:
    """How refrigerant leaves its cylinder, and why."""

    leaves: Leaves
    position: str
    reason: str


POUR_LIQUID = Pouring(
    "liquid",
    "Upside down, or by its dip tube",
    "A blend must leave as liquid: as vapour its parts leave in different shares, and what stays "
    "is no longer the blend.",
)
POUR_EITHER = Pouring(
    "either",
    "Upright or upside down",
    "One substance: liquid and vapour are the same. Liquid is faster and goes in throttled.",
)
