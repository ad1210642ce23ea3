"""An opened circuit: a volume of pipe with nitrogen, leaks, water, old oil, a pump and a gauge.

SI inside: pressures [Pa abs], amounts [mol], water [g], temperatures [°C], volumes [L]. Water
boils as fast as heat reaches it and freezes under its triple point; damp walls and oil give up
what they hold by their own clocks. Only data and `step`; jobs change the data.
"""

from dataclasses import dataclass, replace
from math import exp, log, tanh

GAS, KELVIN, ATMOSPHERE_PA = 8.314462618, 273.15, 101_325.0
TRIPLE_PA = 611.657
WATER_G_MOL, FUSION_J_G, HEAT_J_GK, ICE_J_GK = 18.015, 333.6, 4.19, 2.05
VAPORISATION_J_MOL, SUBLIMATION_J_MOL = 45_050.0, 51_060.0
MIXES_S = 4.0
"""How fast vapour over water comes to its pressure in the pipes, where heat does not hold it up."""
STEP_S = 1.0


@dataclass(frozen=True, slots=True)
class PlantPump:
    """Pump and hoses: speed at the pump [L/s], the least it reaches [Pa], bore and length [cm]."""

    pump_l_s: float = 2.4
    ultimate_pa: float = 4.0
    bore_cm: float = 0.95
    length_cm: float = 120.0
    hoses: int = 1
    cores_in: bool = False
    ballast: bool = True

    def conductance(self, pa: float) -> float:
        """What hoses and cores let through at a mean pressure [L/s]."""
        mbar = pa / 100
        d, length = self.bore_cm, self.length_cm
        each = 135 * d**4 * mbar / length + 12.1 * d**3 / length
        if self.cores_in:
            core = 135 * 0.30**4 * mbar / 1.4 + 12.1 * 0.30**3 / 1.4
            each = 1 / (1 / each + 1 / core)
        return each * self.hoses

    def speed(self, pa: float) -> tuple[float, float]:
        """Speed at the system, and the share of its pressure that is left at the pump [L/s, 1]."""
        at_pump = self.pump_l_s * max(1 - self.ultimate_pa / max(pa, 1e-3), 0.0)
        lets = self.conductance(pa / 2 + self.ultimate_pa / 2)
        if at_pump <= 0:
            return 0.0, 1.0
        return 1 / (1 / at_pump + 1 / lets), lets / (lets + at_pump)


@dataclass(frozen=True, slots=True)
class Opened:
    """What the circuit is like: its volume, leak, and how heat and damp sit in it.

    `leak` is what it lets in against a perfect vacuum [mbar·L/s]; `joint` names where;
    `water_w_k` is the heat that reaches its water; `wall_s` and `oil_s` the clocks of damp walls
    and of refrigerant in the oil at 20 °C; `oil_pa` the pressure the oil would bring it to.
    """

    litres: float
    leak: float = 0.0
    joint: str = ""
    water_w_k: float = 0.004
    wall_s: tuple[float, float] = (600.0, 1_800.0)
    oil_s: float = 500.0
    oil_pa: float = 0.0
    tau_doubles_k: float = 10.0


@dataclass(frozen=True, slots=True)
class Inside:
    """What is in it now."""

    dry_mol: float
    vapour_mol: float = 0.0
    oil_mol: float = 0.0
    liquid_g: float = 0.0
    ice_g: float = 0.0
    water_c: float = 20.0
    wall_g: tuple[float, float] = (0.0, 0.0)
    seconds: float = 0.0

    @property
    def water_g(self) -> float:
        return self.liquid_g + self.ice_g + sum(self.wall_g)


def filled(opened: Opened, pa_abs: float, pipe_c: float, water_g: float = 0.0) -> Inside:
    """A circuit that stands at a pressure of dry gas, with water lying in it."""
    mol = pa_abs * opened.litres / 1000 / (GAS * (pipe_c + KELVIN))
    return Inside(mol, liquid_g=water_g, water_c=pipe_c)


def pressure_pa(opened: Opened, inside: Inside, pipe_c: float) -> float:
    """Total pressure [Pa abs]."""
    mol = inside.dry_mol + inside.vapour_mol + inside.oil_mol
    return mol * GAS * (pipe_c + KELVIN) / (opened.litres / 1000)


def water_pa(celsius: float, over_ice: bool) -> float:
    """Vapour pressure of water [Pa]. Source: Murphy and Koop 2005, equations 7 and 10."""
    k = celsius + KELVIN
    if over_ice:
        return exp(9.550426 - 5723.265 / k + 3.53068 * log(k) - 0.00728332 * k)
    cold = tanh(0.0415 * (k - 218.8)) * (53.878 - 1331.22 / k - 9.44523 * log(k) + 0.014025 * k)
    return exp(54.842763 - 6763.22 / k - 4.21 * log(k) + 0.000367 * k + cold)


def step(
    opened: Opened, inside: Inside, pipe_c: float, seconds: float, pump: PlantPump | None = None
) -> Inside:
    """The circuit this much later; with a pump while one is open to it."""
    left = seconds
    while left > 1e-9:
        dt = min(left, STEP_S)
        inside = _step(opened, inside, pipe_c, dt, pump)
        left -= dt
    return inside


def vented(opened: Opened, inside: Inside, pipe_c: float, pa_abs: float) -> Inside:
    """Dry nitrogen let in, or the gas let out, to a pressure; what water there is stays."""
    kt = GAS * (pipe_c + KELVIN) / (opened.litres / 1000)
    others = inside.vapour_mol + inside.oil_mol
    wanted = pa_abs / kt
    if wanted >= others:
        return replace(inside, dry_mol=wanted - others)
    share = wanted / (others + inside.dry_mol)
    return replace(
        inside,
        dry_mol=inside.dry_mol * share,
        vapour_mol=inside.vapour_mol * share,
        oil_mol=inside.oil_mol * share,
    )


def _step(
    opened: Opened, inside: Inside, pipe_c: float, dt: float, pump: PlantPump | None
) -> Inside:
    volume = opened.litres / 1000
    kt = GAS * (pipe_c + KELVIN) / volume
    total = pressure_pa(opened, inside, pipe_c)
    share = total / ATMOSPHERE_PA
    inward = opened.leak * 0.1 * (1 - share * share) / (GAS * (pipe_c + KELVIN))
    if inward >= 0:
        inside = replace(inside, dry_mol=inside.dry_mol + inward * dt)
    else:
        out = max(1 + inward * dt * kt / max(total, 1.0), 0.0)
        inside = replace(inside, dry_mol=inside.dry_mol * out, vapour_mol=inside.vapour_mol * out)
    if pump is not None:
        speed, _ = pump.speed(total)
        keeps = exp(-speed / opened.litres * dt)
        inside = replace(
            inside,
            dry_mol=inside.dry_mol * keeps,
            vapour_mol=inside.vapour_mol * keeps,
            oil_mol=inside.oil_mol * keeps,
        )
    inside = _boiled(opened, inside, pipe_c, dt, kt)
    inside = _given_up(opened, inside, pipe_c, dt, kt)
    return replace(inside, seconds=inside.seconds + dt)


def _boiled(opened: Opened, inside: Inside, pipe_c: float, dt: float, kt: float) -> Inside:
    """Water boils or falls out as its heat allows; it freezes and thaws at 0 °C."""
    grams = inside.liquid_g + inside.ice_g
    partial = inside.vapour_mol * kt
    if grams <= 1e-9:
        over = partial - water_pa(pipe_c, pipe_c < 0)
        if over <= 0:
            return replace(inside, liquid_g=0.0, ice_g=0.0, water_c=pipe_c)
        fell = over / kt * (1 - exp(-dt / MIXES_S))
        return replace(
            inside,
            vapour_mol=inside.vapour_mol - fell,
            liquid_g=fell * WATER_G_MOL,
            water_c=pipe_c,
        )
    iced = inside.ice_g > 0.5 * grams
    latent = SUBLIMATION_J_MOL if iced else VAPORISATION_J_MOL
    temp, passes = inside.water_c, 1 / (kt * MIXES_S)
    full = water_pa(temp, iced)
    slope = (water_pa(temp + 0.05, iced) - full) / 0.05
    heat = inside.liquid_g * HEAT_J_GK + inside.ice_g * ICE_J_GK
    rate = passes * (full - partial)
    pull = opened.water_w_k * (pipe_c - temp) - latent * rate
    moved = dt * pull / (heat + dt * (opened.water_w_k + latent * passes * slope))
    temp_after = temp + moved
    rate = passes * (full + slope * moved - partial)
    boiled = min(rate * dt, grams / WATER_G_MOL)
    liquid, ice = inside.liquid_g, inside.ice_g
    if boiled > 0:
        from_ice = min(boiled * WATER_G_MOL * (ice / grams), ice)
        ice -= from_ice
        liquid = max(liquid - (boiled * WATER_G_MOL - from_ice), 0.0)
    else:
        liquid -= boiled * WATER_G_MOL
    liquid, ice, temp_after = _frozen(liquid, ice, temp_after)
    return replace(
        inside,
        vapour_mol=inside.vapour_mol + boiled,
        liquid_g=liquid,
        ice_g=ice,
        water_c=temp_after,
    )


def _frozen(liquid: float, ice: float, temp: float) -> tuple[float, float, float]:
    heat = liquid * HEAT_J_GK + ice * ICE_J_GK
    if temp < 0 and liquid > 0:
        freezes = min(-temp * heat / FUSION_J_G, liquid)
        back = freezes * FUSION_J_G / max(heat, 1e-9)
        return liquid - freezes, ice + freezes, min(temp + back, 0.0)
    if temp > 0 and ice > 0:
        melts = min(temp * heat / FUSION_J_G, ice)
        back = melts * FUSION_J_G / max(heat, 1e-9)
        return liquid + melts, ice - melts, max(temp - back, 0.0)
    return liquid, ice, temp


def _given_up(opened: Opened, inside: Inside, pipe_c: float, dt: float, kt: float) -> Inside:
    """What damp walls and old oil let go of."""
    warm = 2 ** ((pipe_c - 20) / opened.tau_doubles_k)
    thirst = max(1 - inside.vapour_mol * kt / water_pa(pipe_c, pipe_c < 0), 0.0)
    first, second = inside.wall_g
    gone = [
        grams * (1 - exp(-dt * warm * thirst / clock))
        for grams, clock in zip((first, second), opened.wall_s, strict=True)
    ]
    oil = inside.oil_mol
    if opened.oil_pa > 0:
        lack = max(opened.oil_pa / kt - oil, 0.0)
        oil += lack * (1 - exp(-dt * warm / opened.oil_s))
    return replace(
        inside,
        vapour_mol=inside.vapour_mol + sum(gone) / WATER_G_MOL,
        wall_g=(first - gone[0], second - gone[1]),
        oil_mol=oil,
    )
