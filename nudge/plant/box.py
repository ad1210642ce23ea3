"""A cold box in time: its thermostat, its defrosts, its goods, its doors, how it pumps down.

The clock calls a defrost; liquid is shut off, the low side is pumped down, then heaters melt the
coil while its fans stand. It ends with the coil warm or by its clock, and drips. Goods give their
heat to the air slowly; an open door lets warm wet air in.
Usual of the trade; the numbers are ours.
"""

from dataclasses import dataclass, replace

from nudge.plant.defrost import INTO_ICE, MELT_KJ_KG
from nudge.plant.room import Room
from nudge.plant.wet_air import WetAir

REST_S = 120.0
"""A compressor that stopped stays off so long."""
PUMPED_S = 90.0
"""What a low side takes to be pumped down."""
COIL_KJ_K_KW = 7.0
"""The room coil's metal, for every kW of nominal cooling."""
INTO_BOX = 0.30
"""Share of the heaters' heat that gets into the box instead of the coil."""
DOOR_KW_K, DOOR_KG_S = 0.045, 0.0011
"""What an open door lets in: heat for every kelvin and kW, water at a usual difference for every
kW [kg/s]."""
STORE_KJ_K_KW = 250.0
"""What a box’s air, walls and shelves hold, for every kW of nominal cooling."""
CREEPS_KPA = 25.0
"""What a pumped-down low side comes back by while it stands [kPa]."""


@dataclass(frozen=True, slots=True)
class Door:
    """A door that stands open, at moments of the plant's own time [s]."""

    from_s: float
    for_s: float


@dataclass(frozen=True, slots=True)
class Box:
    """How a box is set and what stands in it. Temperatures [°C]."""

    set_c: float
    band_k: float = 1.0
    """On this far over its set point, off this far under it."""
    goods_kj_k: float = 0.0
    goods_kw_k: float = 0.0
    defrost: str = "electric"
    every_s: float = 21_600.0
    most_s: float = 1_800.0
    ends_c: float = 10.0
    heater_kw: float = 1.5
    drips_s: float = 180.0
    low_cut_kpa: float = 35.0
    """Where its low-pressure control stops it, pumped down [kPa gauge]."""
    doors: tuple[Door, ...] = ()

    def is_open(self, at_s: float) -> bool:
        """Whether a door stands open then."""
        return any(door.from_s <= at_s < door.from_s + door.for_s for door in self.doors)


@dataclass(frozen=True, slots=True)
class Boxed:
    """What is remembered of a box: its goods and its coil [°C], its clock, its defrost [s]."""

    goods_c: float
    coil_c: float
    calls: bool = True
    since_s: float = 0.0
    """Since the last defrost began."""
    defrost_s: float | None = None
    drip_s: float | None = None
    rested_s: float = REST_S

    @property
    def may_run(self) -> bool:
        """Whether it calls its compressor now."""
        return self.calls and self.defrost_s is None and self.drip_s is None

    @property
    def may_start(self) -> bool:
        return self.may_run and self.rested_s >= REST_S


def held(
    box: Box,
    was: Boxed,
    indoor_c: float,
    ice_kg: float,
    nominal_kw: float,
    is_running: bool,
    dt: float,
) -> tuple[Boxed, float]:
    """A step later: what it calls, and the ice that is left on its coil [kg]."""
    over_k = indoor_c - box.set_c
    calls = over_k > (-box.band_k if was.calls else box.band_k)
    found = replace(
        was,
        calls=calls,
        since_s=was.since_s + dt,
        rested_s=0.0 if is_running else was.rested_s + dt,
    )
    if was.drip_s is not None:
        after = was.drip_s + dt
        return replace(found, drip_s=None if after >= box.drips_s else after), ice_kg
    if was.defrost_s is None:
        if was.since_s < box.every_s or box.defrost == "off_cycle":
            coil = was.coil_c + (indoor_c - was.coil_c) * min(dt / 400, 1)
            return replace(found, coil_c=coil), ice_kg
        return replace(found, defrost_s=0.0, since_s=0.0), ice_kg
    return _melts(box, found, ice_kg, nominal_kw, dt)


def _melts(
    box: Box, was: Boxed, ice_kg: float, nominal_kw: float, dt: float
) -> tuple[Boxed, float]:
    """A step of a defrost: heat into the coil's metal, then into its ice."""
    after = (was.defrost_s or 0.0) + dt
    heats = after > PUMPED_S
    left_kj = box.heater_kw * (1 - INTO_BOX) * dt if heats else 0.0
    coil_c = was.coil_c
    if coil_c >= 0 and ice_kg > 0:
        melts = min(left_kj * INTO_ICE / MELT_KJ_KG, ice_kg)
        ice_kg, left_kj = ice_kg - melts, left_kj - melts * MELT_KJ_KG / INTO_ICE
    coil_c += left_kj / (COIL_KJ_K_KW * nominal_kw)
    if ice_kg > 0:
        coil_c = min(coil_c, 0.5)
    if coil_c >= box.ends_c or after >= box.most_s:
        return replace(was, coil_c=coil_c, defrost_s=None, drip_s=0.0), ice_kg
    return replace(was, coil_c=coil_c, defrost_s=after), ice_kg


def heater_kw(box: Box | None, boxed: Boxed | None) -> float:
    """Heat its defrost puts into the box's air [kW]."""
    if box is None or boxed is None or boxed.defrost_s is None or boxed.defrost_s < PUMPED_S:
        return 0.0
    return INTO_BOX * box.heater_kw


def let_in(box: Box, boxed: Boxed, indoor: WetAir, outdoor: WetAir, at_s: float, kw: float) -> Room:
    """What gets into the box's air besides its walls, as a room's gains [kW, kg/s]."""
    gain = box.goods_kw_k * (boxed.goods_c - indoor.temp_c) + heater_kw(box, boxed)
    moisture = 0.0
    if box.is_open(at_s):
        gain += DOOR_KW_K * kw * (outdoor.temp_c - indoor.temp_c)
        moisture = DOOR_KG_S * kw * max(outdoor.ratio - indoor.ratio, 0.0) / 0.008
    return Room(0.0, 0.0, gain, 0.0, moisture)


def goods_after(box: Box, boxed: Boxed, indoor_c: float, dt: float) -> Boxed:
    """Its goods a step later."""
    if not box.goods_kj_k:
        return boxed
    taken = box.goods_kw_k * (boxed.goods_c - indoor_c) * dt
    return replace(boxed, goods_c=boxed.goods_c - taken / box.goods_kj_k)


def standing_points(box: Box, boxed: Boxed) -> dict[str, float]:
    """What a pumped-down box shows that other standing plant does not: its low side, its coil."""
    share = min(boxed.rested_s / 600, 1.0)
    found = {"suction_pressure": box.low_cut_kpa + CREEPS_KPA * share}
    if boxed.defrost_s is not None or boxed.drip_s is not None:
        found["evaporator_outlet_temp"] = boxed.coil_c
    return found


def walls_of(nominal_kw: float, box_c: float, outdoor_c: float, share: float = 0.6) -> Room:
    """A box whose walls and people take `share` of this system's cooling at these temperatures."""
    load = share * nominal_kw
    ua = 0.8 * load / max(outdoor_c - box_c, 8.0)
    return Room(STORE_KJ_K_KW * nominal_kw, ua, 0.2 * load, 0.8 * nominal_kw, 0.012 * load / 2480.0)
