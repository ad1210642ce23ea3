"""The circuit of a multi-zone plant: what evaporates where, what condenses, where its charge is.

The compressor takes what evaporates at the pressure where both are equal; the condensers give off
what was taken up and the work.
"""

from collections.abc import Sequence
from math import exp, pi, sin, sqrt

from nudge.core.language.units import ZERO_C_IN_K
from nudge.plant.fluid import load_fluid
from nudge.plant.zones.built import (
    EFFECT_KJ_KG,
    FLUID,
    HOLDS_C,
    STEPS,
    Chance,
    Unit,
    ZonePlant,
)
from nudge.plant.zones.faults import Wrong
from nudge.plant.zones.state import CoilWork, ZoneState

KPA_K_LOW, KPA_K_HIGH = 27.0, 55.0
"""How steep the vapour pressure of the fluid is, cold and warm [kPa/K]."""
LIFT_KPA_M = 9.8
GIVES_KJ_KG = 195.0
"""What a kilogram gives off in a coil that heats."""
SUBCOOL_K, COOLERS_K = 12.0, 15.0
"""A condenser's subcooling at most; what the two subcoolers add."""
FIRST_SHARE = 0.3
"""Of what both add, the first's."""
STILL_AIR = 0.12
"""What a coil takes with its fan at rest, in shares."""
SHELL_K, SHELL_S = 16.0, 240.0
HOTTEST_C = 112.0
"""Past this, liquid is let in to cool the gas."""
RESTS_S = 200.0
"""How fast a coil at rest comes to its room's air."""


class ZoneCircuit:
    """A plant with what is wrong in it, its pipes and coils just now."""

    def __init__(self, plant: ZonePlant, wrong: Sequence[Wrong], rng: Chance, at_s: float) -> None:
        self.plant, self.wrong, self._rng = plant, tuple(wrong), rng
        self._fluid = load_fluid(FLUID)
        self._of_plant = {w.key: w.amount for w in wrong if w.unit < 0}
        self._of_unit = {(w.unit, w.key): w.amount for w in wrong if w.unit >= 0}
        self._sign = {n: rng.choice((-1, 1)) for n in range(len(plant.units))}
        count = len(plant.units)
        self.state = ZoneState(
            at_s,
            [
                unit.set_c + rng.uniform(0.2, 2.0) * (-1 if self.heats(n) else 1)
                for n, unit in enumerate(plant.units)
            ],
            [0.0] * count,
            [False] * count,
            [24.0] * count,
            [24.0] * count,
            heat_kw=[0.0] * count,
            main="heating" if plant.serves == "heating" else "cooling",
            oil_at_s=at_s + rng.uniform(0.2, 4.0) * 3600,
        )
        if "oil_return" in self._of_plant:
            self.state.oil_at_s = at_s + rng.uniform(200.0, 1200.0)

    def heats(self, n: int) -> bool:
        plant = self.plant
        if "changeover_confusion" in self._of_plant and n < 2:
            return n == 1
        return plant.serves == "heating" or (plant.serves == "mixed" and plant.units[n].heats)

    def set_c(self, n: int) -> float:
        if "changeover_confusion" in self._of_plant and n < 2:
            return (20.0, 25.5)[n]
        return self.plant.units[n].set_c

    def outdoor_c(self) -> float:
        day = 2 * pi * (self.state.at_s / 86_400 - 0.375)
        return self.plant.outdoor_c + self.plant.swing_k * sin(day)

    def inlet_read(self, n: int) -> float:
        return self.state.inlets[n]

    def outlet_read(self, n: int) -> float:
        """The coil's outlet as its sensor says it."""
        off = self._of_unit.get((n, "coil_sensor_off"), 0.0)
        return self.state.outlets[n] + self._sign[n] * off

    def _opening(self, n: int, oils: bool) -> float:
        """How far a coil's valve really is open, 0 to 1."""
        fault, k = self._of_unit, n
        for (who, key), _ in fault.items():
            if key == "wrong_port":
                pair = (who, (who + 1) % len(self.plant.units))
                if n in pair:
                    k = pair[1 - pair.index(n)]
        asked = 0.6 if oils and self.state.main == "cooling" else self.state.steps[k] / STEPS
        asked = fault.get((n, "valve_stuck_open"), fault.get((n, "valve_stuck_shut"), asked))
        asked = max(asked - fault.get((n, "valve_lost_steps"), 0.0), 0.0)
        asked = max(asked, fault.get((n, "valve_leaking"), 0.0))
        screen = fault.get((n, "strainer_clogged"))
        if screen is not None and asked > 0:
            way = 0.5 * (1 - screen)
            asked = 1 / sqrt(1 / asked**2 + 1 / way**2)
        return asked

    def _air_kw_k(self, n: int) -> float:
        unit = self.plant.units[n]
        clean = 1 - self._of_unit.get((n, "indoor_coil_dirty"), 0.0)
        return unit.ua_kw_k * clean * (1.0 if self.state.is_on[n] else STILL_AIR)

    def _cools(self, n: int) -> bool:
        """Whether a unit's ports lead to the low side just now."""
        if "reversing_valve_stuck" in self._of_plant:
            return self.heats(n)
        return not self.heats(n)

    def _balance(self, oils: bool) -> list[CoilWork]:
        """Every coil at the pressure where the compressor takes what boils."""
        state = self.state
        low, high = state.boils_c - 5.0, state.boils_c + 5.0
        low, high = max(low, -38.0), min(high, 26.0)
        openings = [self._opening(n, oils) for n in range(len(self.plant.units))]
        for _ in range(9):
            middle = (low + high) / 2
            if self._boiled(middle, openings)[0] > self._taken(middle):
                low = middle
            else:
                high = middle
        state.boils_c = (low + high) / 2
        return self._boiled(state.boils_c, openings)[1]

    def _taken(self, boils_c: float) -> float:
        plant, state = self.plant, self.state
        pe, pc = self._fluid.dew_kpa(boils_c), self._fluid.dew_kpa(state.condenses_c)
        fills = max(1 - plant.laws.pumps * (pc / pe - 1), 0.1)
        worn = 1 - self._of_plant.get("compressor_not_pumping", 0.0)
        density = self._fluid.at(pe).vapour_rho
        moved = state.hz * plant.sweeps * density * fills * worn
        passed = self._passed_kg_s(pe, pc)
        return moved - passed

    def _passed_kg_s(self, pe: float, pc: float) -> float:
        """Hot gas that goes round by a bypass or a reversing valve."""
        share = self._of_plant.get("hot_gas_bypass", 0.0)
        share += self._of_plant.get("reversing_valve_leaking", 0.0)
        return share * self.plant.flow_kg_s * sqrt(max(pc - pe, 0.0) / 1900.0)

    def _boiled(self, boils_c: float, openings: Sequence[float]) -> tuple[float, list[CoilWork]]:
        state, plant = self.state, self.plant
        pe, pc = self._fluid.dew_kpa(boils_c), self._fluid.bubble_kpa(state.condenses_c)
        coils, total = [], 0.0
        for n, unit in enumerate(plant.units):
            if self._cools(n):
                coil = self._evaporates(n, unit, boils_c, pe, pc, openings[n])
                total += coil.boils
            else:
                coil = self._condenses(n, unit, pe, pc, openings[n])
            coils.append(coil)
        if self._runs_heating():
            span = max(self.outdoor_c() - boils_c, 0.0)
            clean = 1 - self._of_plant.get("outdoor_coil", 0.0)
            fed = 1 / (1 + plant.laws.flash * state.quality)
            took = 0.92 * fed * plant.kw / 8.0 * clean * state.outdoors * span
            total += took / EFFECT_KJ_KG
        return total, coils

    def _runs_heating(self) -> bool:
        """Whether the outdoor coil is on the low side just now."""
        return (self.state.main == "heating") != ("reversing_valve_stuck" in self._of_plant)

    def _evaporates(
        self, n: int, unit: Unit, boils_c: float, pe: float, pc: float, opening: float
    ) -> CoilWork:
        state, plant = self.state, self.plant
        share = min(state.hz / 75.0, 1.4)
        loss = 70.0 * unit.length_m / 50.0 * share**plant.laws.losses
        at_c = boils_c + loss / KPA_K_LOW
        drop = LIFT_KPA_M * unit.lift_m + 90.0 * unit.length_m / 50.0 * share**2
        spare_k = state.subcools_k - drop / KPA_K_HIGH
        quality = state.quality + max(-spare_k, 0.0) * 1.8 / EFFECT_KJ_KG
        push = max(pc - drop - pe - loss, 0.0)
        flow = unit.valve_kg_s * opening**plant.laws.valve * sqrt(push / 1700.0)
        flow /= 1 + plant.laws.flash * quality
        span = max(state.rooms[n] - at_c, 0.0)
        most = self._air_kw_k(n) * span / EFFECT_KJ_KG
        if flow >= most:
            return CoilWork(flow, most, most * EFFECT_KJ_KG, 0.0, at_c, flow - most)
        dry = 1 - flow / most if most > 0 else 1.0
        gap = span * (1 - exp(-plant.laws.wets * dry))
        return CoilWork(flow, flow, flow * EFFECT_KJ_KG, gap, at_c)

    def _condenses(self, n: int, unit: Unit, pe: float, pc: float, opening: float) -> CoilWork:
        """A coil that heats: its valve holds liquid back. Heat it gives off is negative."""
        state = self.state
        push = max(pc - pe, 0.0) * 0.5
        flow = unit.valve_kg_s * opening**self.plant.laws.valve * sqrt(push / 1700.0)
        span = max(state.condenses_c - state.rooms[n], 0.0)
        most = self._air_kw_k(n) * 0.8 * span / GIVES_KJ_KG
        if flow >= most:
            return CoilWork(most, 0.0, -most * GIVES_KJ_KG, 1.0, state.condenses_c)
        held = 1 - flow / most if most > 0 else 1.0
        gap = span * (1 - exp(-1.6 * held))
        return CoilWork(flow, 0.0, -flow * GIVES_KJ_KG, gap, state.condenses_c)

    def _condense(self, coils: Sequence[CoilWork], dt: float) -> None:
        state, plant = self.state, self.plant
        taken = sum(coil.boils for coil in coils) * EFFECT_KJ_KG
        if self._runs_heating():
            taken = self._taken(state.boils_c) * EFFECT_KJ_KG
        lift = max(state.condenses_c - state.boils_c, 5.0)
        given = max(taken, 0.0) * (1 + lift / 190.0)
        pe, pc = self._fluid.dew_kpa(state.boils_c), self._fluid.dew_kpa(state.condenses_c)
        given += self._passed_kg_s(pe, pc) * 25.0
        in_rooms = -sum(coil.kw for coil in coils if coil.kw < 0)
        if self._runs_heating():
            state.fan = 1.0
            slope = (
                sum(self._air_kw_k(n) * 0.8 for n, c in enumerate(coils) if c.kw < 0)
                or 0.05 * plant.kw
            )
            ends = state.condenses_c + (given - in_rooms) / slope
        else:
            clean = 1 - self._of_plant.get("outdoor_coil", 0.0)
            flooded = max(self._free_kg(coils) / plant.left_kg - 1.0, 0.0)
            surface = plant.kw * 1.27 / 10.0 * clean * (1 - 0.12 * min(flooded, 3.0))
            rejects = max(given - in_rooms, 0.0)
            free = self.outdoor_c() + rejects / surface
            # Its fan slows: on a cool day, and for the rooms that heat.
            ends = max(free, HOLDS_C - 3.0 if in_rooms > 0 else 30.0)
            needs = rejects / surface / max(ends - self.outdoor_c(), 0.5)
            state.fan = toward(state.fan, min(max(needs, 0.05), 1.0), dt, 30.0)
        ends = min(max(ends, state.condenses_c - 12), state.condenses_c + 12, 68.0)
        state.condenses_c = toward(state.condenses_c, ends, dt, 35.0)

    def _free_kg(self, coils: Sequence[CoilWork]) -> float:
        """Liquid that is left for the condenser."""
        plant, state = self.plant, self.state
        lost = 1 - self._of_plant.get("low_charge", 0.0) + self._of_plant.get("overcharge", 0.0)
        held = plant.pipes_kg + 0.12 * plant.kw
        for unit, coil, on in zip(plant.units, coils, state.is_on, strict=True):
            starved = min(coil.gap_k / 15.0, 1.0) if coil.kw >= 0 else 0.2
            held += unit.kw * (0.055 * (1 - 0.4 * starved) if on else 0.03)
        return plant.charge_kg * lost - held - state.in_accumulator_kg

    def _hold(self, coils: Sequence[CoilWork], dt: float) -> None:
        """Where the charge is: subcooling, quality at the liquid line, the accumulator."""
        plant, state = self.plant, self.state
        full = plant.full_kg
        flooded = sum(coil.flood for coil in coils) * 0.3 * dt
        given_back = state.in_accumulator_kg * plant.laws.drains / 700.0 * dt
        over = max(self._free_kg(coils) / plant.left_kg - 1.9, 0.0) * plant.left_kg / 250.0 * dt
        state.in_accumulator_kg = min(
            max(state.in_accumulator_kg + flooded + over - given_back, 0.0), full
        )
        plugged = self._of_plant.get("accumulator_full")
        if plugged is not None:
            state.in_accumulator_kg = max(state.in_accumulator_kg, plugged * full)
        left = self._free_kg(coils) / plant.left_kg
        if plant.laws.fills:
            ends = SUBCOOL_K * (1 - exp(-max(left, 0.0)))
        else:
            ends = min(7.6 * max(left, 0.0), SUBCOOL_K + 1)
        dry = min(max(-left, 0.0) * 0.25, 0.3)
        state.quality = toward(state.quality, dry, dt, 60.0)
        more = COOLERS_K * (1 - min(dry / 0.1, 1.0))
        state.subcools_k = toward(state.subcools_k, ends + more, dt, 60.0)
        state.first_k = toward(state.first_k, ends + FIRST_SHARE * more, dt, 60.0)

    def _carry(self, coils: Sequence[CoilWork], dt: float) -> None:
        """Temperatures of what comes back, goes out, and of the sensors on each coil."""
        state, plant = self.state, self.plant
        pe, pc = self._fluid.dew_kpa(state.boils_c), self._fluid.dew_kpa(state.condenses_c)
        flows = [(c.boils, c.at_c + c.gap_k) for c in coils if c.boils > 0]
        if self._runs_heating():
            flows.append(
                (
                    max(self._taken(state.boils_c) - sum(f for f, _ in flows), 0.0),
                    state.boils_c + 4.0,
                )
            )
        passed = self._passed_kg_s(pe, pc)
        flows.append((passed * 1.3, state.gas_c - 18.0))
        whole = sum(flow for flow, _ in flows) or 1e-9
        mixed = sum(flow * at for flow, at in flows) / whole
        wet = state.in_accumulator_kg / plant.full_kg
        state.comes_c = toward(state.comes_c, max(mixed, state.boils_c), dt, 45.0)
        worn = self._of_plant.get("compressor_not_pumping", 0.0)
        hot = (state.comes_c + ZERO_C_IN_K) * (pc / pe) ** (0.18 * (1 + 0.35 * worn)) - ZERO_C_IN_K
        state.gas_c = toward(state.gas_c, min(hot, HOTTEST_C), dt, 150.0)
        floods = min(max((wet - 0.3) / 0.35, 0.0), 1.0)
        if "accumulator_full" in self._of_plant:
            floods = 0.0  # what cannot drain does not come back
        shell = state.boils_c + SHELL_K * (1 - floods)
        shell += 0.6 * max(state.comes_c - state.boils_c - 4.0, -4.0) * (1 - floods)
        state.shell_c = toward(state.shell_c, shell, dt, SHELL_S)
        lag = plant.laws.lag_s
        for n, coil in enumerate(coils):
            moves = coil.flow > 0.02 * plant.units[n].valve_kg_s
            inlet = outlet = state.rooms[n]
            if moves and coil.kw >= 0:
                inlet, outlet = coil.at_c, min(coil.at_c + coil.gap_k, state.rooms[n])
            elif moves:
                inlet, outlet = state.gas_c - 8.0, coil.at_c - coil.gap_k
            slow = lag if moves else RESTS_S
            state.inlets[n] = toward(state.inlets[n], inlet, dt, slow)
            state.outlets[n] = toward(state.outlets[n], outlet, dt, slow)


def toward(now: float, ends: float, dt: float, slow_s: float) -> float:
    """On from `now` to where it ends, slowly."""
    return ends + (now - ends) * exp(-dt / slow_s)
