"""What a simulated system is made of, and what surrounds it. Only data; SI inside.

Powers [kW], flows [kg/s], pressures [kPa abs], volumes [m³], temperatures [°C], air pressure
drops [Pa]. `sizing.py` makes a machine from its rated point, `faults.py` spoils it.
"""

from dataclasses import dataclass, replace
from math import tanh
from typing import Literal

from nudge.plant.wet_air import WetAir


@dataclass(frozen=True, slots=True)
class Compressor:
    """A hermetic compressor. `clearance` sets how volumetric efficiency falls with ratio."""

    displacement_m3_s: float
    volumetric: float = 0.97
    clearance: float = 0.035
    isentropic: float = 0.70
    best_ratio: float = 2.7
    shell_loss: float = 0.06
    leak: float = 0.0
    """Share of its swept flow that slips back inside."""
    leak_again: float = 0.35
    """Share of the work on what slips back that is done again: worn rings nearly all, a broken
    reed hardly any."""
    over_best: float = 0.10
    under_best: float = 0.45
    """How fast efficiency falls over and under its best pressure ratio."""
    suction_heat: float = 0.0
    """Share of the work that warms the gas before it is drawn in, in a shell at suction."""


@dataclass(frozen=True, slots=True)
class Coil:
    """A finned coil by its conductances at rated air [kW/K], whole face, both sides."""

    volume_m3: float
    ua_air: float
    ua_two_phase: float
    ua_vapour: float
    ua_liquid: float
    rated_air_kg_s: float
    open_face: float = 1.0
    conductance: float = 1.0
    """What dirt leaves of the air-side conductance."""
    bypass: float = 0.0
    """Share of the refrigerant that a blocked part of the face passes uncondensed."""
    air_exponent: float = 0.55
    """Of the air-side conductance in its air."""
    flow_exponent: float = 0.0
    """Of the boiling and condensing conductance in the refrigerant's flow."""
    rated_flow: float = 0.0
    """Refrigerant at its rated point [kg/s]; 0 while no law needs it."""
    slip_exponent: float = 2 / 3
    """Of the density ratio in its slip: 2/3 by Zivi, 1 where both phases go at one speed."""
    uneven: float = 0.0
    """How far two halves of its circuits are from an equal share of the flow."""
    flooded: float = 0.0
    """Share of the face that a head-pressure valve keeps full of liquid."""


@dataclass(frozen=True, slots=True)
class Device:
    """A metering device. `area_m2` is its flow area fully open; `kind` as in the contract.

    An expansion valve opens with the superheat its bulb feels, over `static_superheat_k`, by
    one whole opening every `gradient_k`; an electronic one seeks `target_superheat_k`.
    """

    kind: str
    area_m2: float
    static_superheat_k: float = 3.3
    gradient_k: float = 5.0
    target_superheat_k: float = 6.0
    least_open: float = 0.06
    most_open: float = 1.0
    plugged: float = 0.0
    stuck_at: float | None = None
    is_shut: bool = False
    """It lets nothing through at all."""
    bulb_contact: float = 1.0
    """How much of what the bulb feels is the pipe; the rest is the air round it."""
    bulb_charge: float = 1.0
    choked_share: float = 0.55
    """Of the liquid's vapour pressure, below which what is behind it no longer matters."""
    subcooling_gain: float = 0.010
    """What each kelvin of subcooling passes more, as a share."""
    curve: float = 1.0
    """Power of its opening in the superheat over static: 1 is a straight line."""
    cross: float = 0.0
    """What a warmer bulb charge adds to the static superheat, per kelvin of evaporating over
    its usual: a cross charge asks for more superheat the warmer it works."""
    usual_c: float = 7.0
    """Evaporating where its static superheat is what it was set to."""
    leaks_by: float = 0.0
    """What goes round it through its check valve, as a share of its area."""


@dataclass(frozen=True, slots=True)
class Lines:
    """Both lines and what is in them. Resistances are kPa per (kg/s)², at density 1 kg/m³."""

    suction_volume_m3: float
    liquid_volume_m3: float
    suction_resistance: float
    liquid_resistance: float
    condenser_resistance: float
    suction_ua: float
    liquid_ua: float
    drier_resistance: float
    restriction: float = 0.0
    """Extra resistance at the service valve, the drier or half way along the liquid line."""
    restricted_at: str = "drier"
    receiver_m3: float = 0.0
    subcooler_ua: float = 0.0
    """Of the pass in the condenser's air that its liquid takes behind the receiver [kW/K]."""
    accumulator_m3: float = 0.0


@dataclass(frozen=True, slots=True)
class Blower:
    """An indoor fan against its ducts; resistances in Pa per (kg/s)²."""

    kind: str
    most_pa: float
    most_kg_s: float
    rated_watts: float
    set_kg_s: float
    return_resistance: float
    filter_resistance: float
    coil_resistance: float
    supply_resistance: float
    speed: float = 1.0
    """Share of its speed a weak capacitor or a wrong tap leaves."""
    straight: float = 0.0
    """How far its curve is a falling straight line instead of a parabola, 0 to 1."""
    slackens: float = 0.0
    """What a constant-airflow motor gives up as the duct chokes, of its set flow."""
    capacitor_uf: float = 7.5
    capacitor_share: float = 1.0


@dataclass(frozen=True, slots=True)
class OutdoorFan:
    """The outdoor fan, and how much of its warm air finds the way back in."""

    watts: float
    share: float = 1.0
    recirculation: float = 0.0
    face_exponent: float = 0.7
    """Of its air in the open share of the coil's face."""
    power_exponent: float = 0.7
    """Of its watts in its air."""


@dataclass(frozen=True, slots=True)
class HeadControl:
    """What holds the head over the weather: a fan that slows or cycles, or a valve that floods
    the condenser. It gives way over `band_k` under `set_c`, where it condenses at least [°C].
    """

    kind: Literal["cycling", "flooded"]
    set_c: float
    band_k: float = 2.5
    least: float = 0.12
    """What it leaves of the fan's air or of the face, fully held."""
    works: float = 1.0
    """How much of its doing is left, 0 where it sticks open."""

    def share(self, condensing_c: float) -> float:
        """What is left of the fan's air, or of the face, while it condenses at this [°C]."""
        half_c = self.set_c - self.band_k / 2
        open_to = (1 + tanh(4 * (condensing_c - half_c) / self.band_k)) / 2
        held = self.least + (1 - self.least) * open_to
        return 1 - self.works * (1 - held)


@dataclass(frozen=True, slots=True)
class Machine:
    """One whole system. `charge_kg` is what it should hold; `nominal_kw` its rated cooling."""

    fluid: str
    application: str
    nominal_kw: float
    compressor: Compressor
    outdoor: Coil
    indoor: Coil
    device: Device
    lines: Lines
    blower: Blower
    fan: OutdoorFan
    charge_kg: float
    volts: float = 230.0
    foreign_gas_kpa: float = 0.0
    """Partial pressure of air left in it, in the condenser at 35 °C."""
    reversing_leak: float = 0.0
    heating_store_kg: float = 0.0
    """What its compensator takes out of circulation in heating."""
    heating_device: Device | None = None
    """What meters in heating, at the outdoor coil; the one device both ways where None."""
    strips_kw: float = 0.0
    """Electric heat that is on behind the indoor coil."""
    is_heat_pump: bool = False
    stock_kg: float = 0.0
    """Of its charge, the liquid that stands in its receiver at the rated point: half of it full."""
    lost_kg: float = 0.0
    """Of its charge, what is gone."""
    head: HeadControl | None = None
    """What holds its head in cold weather; None where nothing does."""
    discharge_pipe_loss: float = 0.04
    """Of its heat over the air, lost between the compressor and 6 in. along the pipe."""

    def turned(self, heating: bool) -> "Machine":
        """As it works in a mode: in heating its heating device meters."""
        if not heating or self.heating_device is None:
            return self
        return replace(self, device=self.heating_device, heating_device=None)


@dataclass(frozen=True, slots=True)
class Conditions:
    """What the machine works in at one moment."""

    indoor: WetAir
    outdoor: WetAir
    charge_kg: float
    surroundings_c: float | None = None
    """Air round the suction and liquid lines; the outdoor air where not said."""
    speed: float = 1.0
    """Compressor speed, of rated; only an inverter's moves."""
    heating: bool = False

    @property
    def lines_c(self) -> float:
        return self.outdoor.temp_c if self.surroundings_c is None else self.surroundings_c
