"""What a multi-zone plant's own sensors write down, sample by sample, and its drawing."""

from array import array

from nudge.core.physics.zones.log import ZoneLog
from nudge.core.physics.zones.parts import IndoorUnit, Parts
from nudge.core.physics.zones.points import MODES, OUTDOOR, ZONE_POINTS, Address
from nudge.plant.zones.built import FLUID, HOLDS_C, STEPS, TARGET_C, Chance, ZonePlant
from nudge.plant.zones.faults import ZONE_FAULTS
from nudge.plant.zones.running import RunningZones

OFFSET_K = 0.25
"""How far a sensor in order stands off, 1 σ."""
SET = frozenset({"evaporating_target", "condensing_target", "set_point"})
"""What is no sensor."""
WETS = (0.15, 0.5, 0.85)
"""How full an accumulator is when its lower, middle and upper band stand in liquid."""
BACK_K, GAS_BACK_K = 2.2, 60.0
"""The superheat the subcoolers' vapour comes back with; what gas in their feed adds to it."""
BANDS = ("accumulator_bottom_temp", "accumulator_middle_temp", "accumulator_top_temp")


def watched(running: RunningZones, hours: float, step_s: float, rng: Chance) -> ZoneLog:
    """Run a plant and write its log."""
    columns: dict[Address, array[float]] = {}
    times = array("d")
    noise = running.plant.laws.noise_k
    offsets: dict[Address, float] = {}
    for _ in range(round(hours * 3600 / step_s)):
        running.step(step_s)
        times.append(running.state.at_s)
        for address, value in sampled(running).items():
            shown = value
            if ZONE_POINTS[address[1]].quantity is not None and address[1] not in SET:
                if address not in offsets:
                    offsets[address] = rng.gauss(0, OFFSET_K)
                shown = round(value + offsets[address] + rng.gauss(0, noise), 1)
            columns.setdefault(address, array("d")).append(shown)
    return ZoneLog(times, columns)


def sampled(running: RunningZones) -> dict[Address, float]:
    """Every sensor at this moment, in core units."""
    state, plant = running.state, running.plant
    runs = state.hz > 0
    mode = state.main if runs else "off"
    if runs and state.at_s < state.oils_until_s:
        mode = "oil_return"
    level = state.in_accumulator_kg / plant.full_kg
    out = running.outdoor_c()
    bypasses = any(w.key == "hot_gas_bypass" for w in running.wrong) and runs
    found: dict[str, float] = {
        "compressor_hz": round(state.hz),
        "evaporating_target": TARGET_C,
        "evaporating_temp": state.boils_c,
        "condensing_target": HOLDS_C,
        "condensing_temp": state.condenses_c,
        "discharge_temp": state.gas_c,
        "shell_temp": state.shell_c,
        "accumulator_inlet_temp": state.comes_c,
        "liquid_temp": state.condenses_c - state.subcools_k if runs else out,
        "liquid_between_temp": state.condenses_c - state.first_k if runs else out,
        "subcooler_return_temp": state.boils_c + BACK_K + GAS_BACK_K * state.quality,
        "bypass_temp": state.gas_c - 15.0 if bypasses else out + 4.0,
        "outdoor_air": out,
        "fan": round(100 * state.fan) if runs else 0.0,
        "mode": float(MODES[mode]),
    }
    for band, wets in zip(BANDS, WETS, strict=True):
        found[band] = state.boils_c + 0.3 if level >= wets else max(state.comes_c, state.boils_c)
    told = {(OUTDOOR, point): value for point, value in found.items()}
    for n, unit in enumerate(plant.units):
        heats = running.heats(n)
        told |= {
            (unit.name, "room_temp"): running.thermostat_c(n),
            (unit.name, "set_point"): round(2 * running.set_c(n)) / 2,
            (unit.name, "return_air"): state.rooms[n],
            (unit.name, "coil_inlet"): state.inlets[n],
            (unit.name, "coil_outlet"): running.outlet_read(n),
            (unit.name, "valve_steps"): float(round(state.steps[n])),
            (unit.name, "calls"): float(state.is_on[n]),
            (unit.name, "room_mode"): float(MODES["heating" if heats else "cooling"]),
        }
    return told


def drawn(plant: ZonePlant) -> Parts:
    """The plant's drawing."""
    rooms = tuple(
        IndoorUnit(
            unit.name,
            f"Room {unit.name}",
            unit.kw * 1000,
            unit.lift_m,
            unit.length_m,
            storey=int(unit.name.partition(".")[0]),
            ports=unit.ports,
            wide_steps=float(STEPS),
        )
        for unit in plant.units
    )
    return Parts(FLUID, rooms, plant.kw * 1000, plant.serves == "mixed")


def present(running: RunningZones) -> tuple[tuple[str, str], ...]:
    """What is wrong in it: pattern and part; exchanged ports at both their rooms."""
    units, found = running.plant.units, []
    for wrong in running.wrong:
        if ZONE_FAULTS[wrong.key].of == "plant":
            found.append((wrong.key, OUTDOOR))
            continue
        found.append((wrong.key, units[wrong.unit].name))
        if wrong.key == "wrong_port":
            found.append((wrong.key, units[(wrong.unit + 1) % len(units)].name))
    return tuple(found)
