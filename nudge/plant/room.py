"""The space a system works on, and the weather outside: warms, cools, dries."""

from dataclasses import dataclass
from math import pi, sin

from nudge.plant.wet_air import WetAir, air_of, saturated_ratio

HOUR_S = 3600.0


@dataclass(frozen=True, slots=True)
class Room:
    """A space by what it stores and what gets in.

    `store_kj_k` is heat to warm it 1 K (air, walls, things), `ua` [kW/K] to outdoors, `gain_kw`
    from people and sun; `water_kg` is what its air and stuffs give up per unit humidity ratio,
    `moisture_kg_s` what gets in.
    """

    store_kj_k: float
    ua: float
    gain_kw: float
    water_kg: float
    moisture_kg_s: float


@dataclass(frozen=True, slots=True)
class Weather:
    """Outdoor air: a mean [°C] with a daily swing, warmest at 16 h, and a humidity there."""

    mean_c: float
    swing_k: float = 0.0
    relative_humidity: float = 45.0
    start_hour: float = 14.0
    kpa: float = 101.325

    def at(self, seconds: float) -> WetAir:
        """Air this long after the start; its water stays, its temperature swings."""
        hour = self.start_hour + seconds / HOUR_S
        temp_c = self.mean_c + self.swing_k * sin(2 * pi * (hour - 10) / 24)
        water = air_of(self.mean_c, self.relative_humidity, self.kpa).ratio
        return WetAir(temp_c, min(water, 0.95 * saturated_ratio(temp_c, self.kpa)), self.kpa)


def room_for(nominal_kw: float, indoor: WetAir, outdoor: WetAir, share: float = 0.8) -> Room:
    """A house whose load is `share` of this system's nominal cooling at these conditions."""
    sensible = 0.75 * share * nominal_kw
    difference = max(outdoor.temp_c - indoor.temp_c, 4.0)
    ua = 0.6 * sensible / max(difference, 8.0)
    gain = sensible - ua * (outdoor.temp_c - indoor.temp_c)
    moisture = 0.25 * share * nominal_kw / 2480.0
    return Room(420.0 * nominal_kw, ua, gain, 60.0 * nominal_kw, moisture)


def heated_room(nominal_kw: float, indoor: WetAir, outdoor: WetAir, share: float = 0.7) -> Room:
    """A house that loses `share` of this system's nominal capacity at these conditions."""
    difference = max(indoor.temp_c - outdoor.temp_c, 6.0)
    gain = 0.05 * nominal_kw
    return Room(
        420.0 * nominal_kw, (share * nominal_kw + gain) / difference, gain, 60.0 * nominal_kw, 0.0
    )


def stepped(
    room: Room,
    indoor: WetAir,
    outdoor: WetAir,
    sensible_kw: float,
    latent_kw: float,
    seconds: float,
) -> WetAir:
    """The room's air after this long with this much heat and water taken out."""
    heat = room.ua * (outdoor.temp_c - indoor.temp_c) + room.gain_kw - sensible_kw
    temp_c = indoor.temp_c + heat * seconds / room.store_kj_k
    water = room.moisture_kg_s - latent_kw / 2480.0
    ratio = indoor.ratio + water * seconds / room.water_kg
    most = 0.98 * saturated_ratio(temp_c, indoor.kpa)
    return WetAir(temp_c, min(max(ratio, 1e-4), most), indoor.kpa)
