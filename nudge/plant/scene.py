"""What a plant runs as, and all that is remembered of it from one step to the next."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from nudge.plant.box import Box, Boxed, let_in
from nudge.plant.circuit import Operating
from nudge.plant.defrost import DefrostBoard, Frosting, frosted
from nudge.plant.faults import Present, spoiled
from nudge.plant.machine import Conditions, Machine
from nudge.plant.newton import Root
from nudge.plant.pumped import Pumped
from nudge.plant.room import Room, Weather
from nudge.plant.thermostat import Called, Thermostat, strips_kw
from nudge.plant.wet_air import WetAir

ICE_KG_PER_KW = 0.12
"""Ice that doubles the coil's resistance, per kW of nominal cooling."""


OF_CHARGE = frozenset({"undercharge", "overcharge", "receiver_short"})
"""Faults that act on what is in it as the scene is set, not again at every step."""


@dataclass(frozen=True, slots=True)
class Scene:
    """A machine, what is wrong with it, the room and weather round it."""

    machine: Machine
    room: Room
    weather: Weather
    faults: tuple[Present, ...] = ()
    heating: bool = False
    speed: float = 1.0
    low_switch: float | None = 0.0
    """Where its low-pressure switch opens [kPa gauge]; None where it has none."""
    board: DefrostBoard | None = None
    """What melts the frost off its outdoor coil in heating; None where nothing frosts."""
    thermostat: Thermostat | None = None
    """What calls it in winter; None where it runs while it is on."""
    box: Box | None = None
    """The cold box it holds; None for any other plant."""

    @property
    def wrong(self) -> frozenset[str]:
        """The keys of what is wrong with it."""
        return frozenset(fault.key for fault in self.faults if fault.severity > 0)


@dataclass(frozen=True, slots=True)
class PlantState:
    """Everything that is remembered from one step to the next."""

    indoor: WetAir
    charge_kg: float
    seconds: float = 0.0
    is_running: bool = False
    changed_at: float = 0.0
    tripped: str = ""
    to_add_kg: float = 0.0
    adding_kg_s: float = 0.0
    spreading_kg: float = 0.0
    slug_kg: float = 0.0
    ice_kg: float = 0.0
    opening: float = 0.3
    coil_superheat_k: float = 0.0
    bulb_superheat_k: float = 0.0
    truth: Mapping[str, float] = field(default_factory=dict)
    quick: Mapping[str, float] = field(default_factory=dict)
    slow: Mapping[str, float] = field(default_factory=dict)
    target: Operating | None = None
    root: Root | None = None
    frosting: Frosting = field(default_factory=Frosting)
    heated: Mapping[str, float] = field(default_factory=dict)
    """What it read as it last heated: amps and watts of a defrost are shares of it."""
    called: Called = field(default_factory=Called)
    boxed: Boxed | None = None
    """What its box remembers."""
    pumped: Pumped | None = None
    """Both lumps, while it runs behind a valve that is shut."""


def now(scene: Scene, state: PlantState) -> tuple[Machine, Conditions]:
    """Machine and conditions with every fault in them. Charge faults act on a whole charge
    when the scene is set, not again here."""
    conditions = Conditions(
        state.indoor,
        scene.weather.at(state.seconds),
        max(state.charge_kg - 0.9 * state.spreading_kg, 1e-3),
        speed=scene.speed,
        heating=scene.heating,
    )
    lasting = tuple(f for f in scene.faults if f.key not in OF_CHARGE)
    machine, conditions = spoiled(scene.machine, conditions, lasting)
    if scene.heating and scene.board is not None:
        machine = frosted(machine, state.frosting, scene.wrong)
    machine = replace(
        machine, strips_kw=machine.strips_kw + strips_kw(scene.thermostat, state.called)
    )
    if state.ice_kg > 0:
        blower, coil = machine.blower, machine.indoor
        thick = state.ice_kg / (ICE_KG_PER_KW * machine.nominal_kw)
        machine = replace(
            machine,
            blower=replace(blower, coil_resistance=blower.coil_resistance * (1 + thick)),
            indoor=replace(coil, conductance=coil.conductance / (1 + 0.2 * thick)),
        )
    return machine, conditions


def room_of(scene: Scene, state: PlantState) -> Room:
    """What surrounds it now: a box's goods, its heaters and its open door with its walls."""
    if scene.box is None or state.boxed is None:
        return scene.room
    outdoor, kw = scene.weather.at(state.seconds), scene.machine.nominal_kw
    more = let_in(scene.box, state.boxed, state.indoor, outdoor, state.seconds, kw)
    return replace(
        scene.room,
        gain_kw=scene.room.gain_kw + more.gain_kw,
        moisture_kg_s=scene.room.moisture_kg_s + more.moisture_kg_s,
    )


def charged(machine: Machine, faults: tuple[Present, ...]) -> float:
    """The charge a scene begins with: the whole one, less or more by its charge faults."""
    air = WetAir(25.0, 0.01, 101.325)
    only = tuple(f for f in faults if f.key in OF_CHARGE)
    short, conditions = spoiled(machine, Conditions(air, air, machine.charge_kg), only)
    return conditions.charge_kg - short.lost_kg
