"""Cousins of the simulated plant: families whose laws differ, not only their constants.

The judge's table is made from all families but one and judged on the one left out, in turn
(`tools.judge_study`). `home` is the plant as it ships. Each row says which law differs and what
stands behind it. A system of a family draws how far it goes; everything is then sized to its
rated point as ever, so that a family differs away from that point, and in its faults.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from random import Random
from types import MappingProxyType

from nudge.plant.machine import Coil, Machine

Shape = Callable[[Machine, Random], Machine]


@dataclass(frozen=True, slots=True)
class Family:
    """One row: which laws differ, and why a real machine might obey them."""

    key: str
    differs: str
    reason: str
    shape: Shape
    plates_by_class: bool = False
    """Its plate states a size and a class, whatever its physics would measure."""


def _home(machine: Machine, _: Random) -> Machine:
    return machine


def _shell(machine: Machine, rng: Random) -> Machine:
    compressor = replace(
        machine.compressor,
        suction_heat=rng.uniform(0.10, 0.22),
        under_best=0.15,
        over_best=rng.uniform(0.03, 0.2),
        clearance=rng.uniform(0.01, 0.06),
        shell_loss=0.02,
    )
    return replace(machine, compressor=compressor, discharge_pipe_loss=rng.uniform(0.06, 0.12))


def _conductances(machine: Machine, rng: Random) -> Machine:
    def moved(coil: Coil, air: float) -> Coil:
        return replace(coil, air_exponent=air, flow_exponent=rng.uniform(0.4, 0.85))

    return replace(
        machine,
        outdoor=moved(machine.outdoor, rng.uniform(0.7, 0.85)),
        indoor=moved(machine.indoor, rng.uniform(0.3, 0.45)),
    )


def _circuits(machine: Machine, rng: Random) -> Machine:
    uneven = rng.uniform(0.08, 0.22)
    return replace(
        machine,
        outdoor=replace(machine.outdoor, uneven=uneven, slip_exponent=rng.uniform(0.85, 1.0)),
        indoor=replace(machine.indoor, slip_exponent=rng.uniform(0.85, 1.0)),
    )


def _valves(machine: Machine, rng: Random) -> Machine:
    device = replace(
        machine.device,
        curve=rng.choice((0.65, 1.7)),
        cross=rng.uniform(0.10, 0.30),
        choked_share=rng.choice((0.40, 0.72)),
        subcooling_gain=rng.choice((0.0, 0.018)),
    )
    return replace(machine, device=device)


def _fans(machine: Machine, rng: Random) -> Machine:
    blower = replace(
        machine.blower, straight=rng.uniform(0.5, 1.0), slackens=rng.uniform(0.15, 0.4)
    )
    fan = replace(machine.fan, face_exponent=rng.uniform(0.35, 0.5), power_exponent=1.5)
    return replace(
        machine,
        blower=blower,
        fan=fan,
        outdoor=replace(machine.outdoor, air_exponent=rng.uniform(0.35, 0.45)),
    )


def _mixed(machine: Machine, rng: Random) -> Machine:
    for shape in (_shell, _conductances, _circuits, _valves, _fans):
        if rng.random() < 0.5:
            machine = shape(machine, rng)
    return machine


_ROWS = (
    Family("home", "the plant as it ships", "the judge's figures at home", _home),
    Family("shell", "suction gas warmed in the shell, efficiency flat or steep, other clearance, "
           "more lost along the discharge pipe", "low-side shells and other strokes", _shell),
    Family("conductances", "other exponents of the conductances in their air, and in the "
           "refrigerant's flow", "louvred and plain fins, grooved and smooth tubes", _conductances),
    Family("circuits", "two uneven condenser circuits; both phases near one speed",
           "real circuits run dry one after the other; mass is where the void law puts it",
           _circuits),
    Family("valves", "curved opening, cross charge, other choking and subcooling gain",
           "bulb charges and ports differ", _valves),
    Family("fans", "straight blower curve, a motor that slackens, other fan laws outdoors",
           "blowers and grilles differ", _fans),
    Family("plates", "plates that state a size and a class, made without the physics",
           "a class is a band, and a size is rounded", _home, plates_by_class=True),
    Family("mixed", "any of these together, plates by class", "machines are never pure", _mixed,
           plates_by_class=True),
)  # fmt: skip

FAMILIES: Mapping[str, Family] = MappingProxyType({row.key: row for row in _ROWS})


def family_of(kind: str) -> tuple[Family, str]:
    """The family and the rest of a kind: `valves/strange orifice`; home where none is said."""
    key, slash, rest = kind.partition("/")
    return (FAMILIES[key], rest) if slash else (FAMILIES["home"], kind)
