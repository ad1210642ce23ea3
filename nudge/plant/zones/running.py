"""A multi-zone plant from one moment to the next, led by its own controls.

Thermostats call, each valve is led by its coil, the compressor by its target; rooms follow with
their own lags.
"""

from collections.abc import Sequence
from math import pi, sin

from nudge.plant.zones.built import HOLDS_C, STEPS, TARGET_C
from nudge.plant.zones.circuit import RESTS_S, ZoneCircuit, toward
from nudge.plant.zones.state import CoilWork

SLOWEST_HZ, FASTEST_HZ = 18.0, 105.0
BAND_K, REST_S = 0.5, 180.0
OIL_S = 240.0
TURNS_S = 900.0
"""A plant that serves both turns no sooner than this."""
EVEN = 0.6
"""From this much cooling beside its heating a plant gives off outdoors."""
NO_WORK_K, SEARCHES = 4.0, 0.8
"""A coil so near its room’s air does nothing; its valve opens so fast [steps/s]."""
OPENS_AT = 0.35
"""Where a valve starts."""


class RunningZones(ZoneCircuit):
    """A plant that runs."""

    def thermostat_c(self, n: int) -> float:
        """What the room's thermostat reads."""
        return self.state.rooms[n] + self._sign[n] * self._of_unit.get((n, "room_thermostat"), 0.0)

    def step(self, dt: float) -> None:
        """On by some seconds."""
        state = self.state
        state.at_s += dt
        self._call(dt)
        runs = any(state.is_on) and state.rested_s >= REST_S
        state.main = self._main()
        if not runs:
            self._rest(dt)
            return
        if state.hz == 0.0:
            state.hz = 45.0
            for n, on in enumerate(state.is_on):
                state.steps[n] = OPENS_AT * STEPS if on else 0.0
        elif self._has_too_little_to_do():
            state.hz, state.rested_s = 0.0, 0.0
            self._rest(dt)
            return
        oils = self._oils()
        coils = self._balance(oils)
        self._condense(coils, dt)
        self._lead(coils, dt, oils)
        self._hold(coils, dt)
        self._carry(coils, dt)
        for n, coil in enumerate(coils):
            state.heat_kw[n] = coil.kw
        self._warm(dt)

    def _has_too_little_to_do(self) -> bool:
        """At its slowest it still takes more than the rooms can use."""
        state = self.state
        if state.hz > SLOWEST_HZ + 0.1:
            return False
        if state.main == "cooling":
            return state.boils_c < TARGET_C - 9.0
        return state.condenses_c > HOLDS_C + 8.0

    def _call(self, dt: float) -> None:
        state = self.state
        for n in range(len(self.plant.units)):
            sign = -1.0 if self.heats(n) else 1.0
            off = sign * (self.thermostat_c(n) - self.set_c(n))
            if off > BAND_K:
                if not state.is_on[n]:
                    state.steps[n] = OPENS_AT * STEPS
                state.is_on[n] = True
            elif off < -BAND_K:
                state.is_on[n] = False
        state.rested_s = state.rested_s + dt if state.hz == 0.0 else 1e9

    def _main(self) -> str:
        units = self.plant.units
        heat = sum(u.kw for n, u in enumerate(units) if self.state.is_on[n] and self.heats(n))
        cool = sum(u.kw for n, u in enumerate(units) if self.state.is_on[n] and not self.heats(n))
        state = self.state
        if heat == cool == 0 or (heat and cool and state.at_s - state.turned_s < TURNS_S):
            return state.main
        main = "cooling" if cool > EVEN * heat else "heating"
        if main != state.main:
            state.turned_s = state.at_s
        return main

    def _oils(self) -> bool:
        state = self.state
        if state.at_s >= state.oil_at_s:
            state.oils_until_s = state.at_s + OIL_S
            amount = self._of_plant.get("oil_return")
            between = self._rng.uniform(4.5, 8.0) * 3600
            if amount is not None:
                between = self._rng.uniform(900.0, 1500.0) / amount
            state.oil_at_s = state.at_s + between
        return state.at_s < state.oils_until_s

    def _rest(self, dt: float) -> None:
        state = self.state
        state.hz = 0.0
        out = self.outdoor_c()
        meet = sum(state.rooms) / len(state.rooms)
        for name, ends in (("boils_c", min(meet, out) - 1), ("condenses_c", max(meet, out) - 1)):
            setattr(state, name, toward(getattr(state, name), ends, dt, 200.0))
        for name in ("shell_c", "gas_c", "comes_c"):
            setattr(state, name, toward(getattr(state, name), out, dt, 1500.0))
        for n in range(len(state.rooms)):
            state.heat_kw[n], state.steps[n] = 0.0, 0.0
            state.inlets[n] = toward(state.inlets[n], state.rooms[n], dt, RESTS_S)
            state.outlets[n] = toward(state.outlets[n], state.rooms[n], dt, RESTS_S)
        self._warm(dt)

    def _lead(self, coils: Sequence[CoilWork], dt: float, oils: bool) -> None:
        """The compressor by its target, each valve by its coil's gap as its sensors say it."""
        state, gain = self.state, self.plant.laws.gain
        off = state.boils_c - TARGET_C if state.main == "cooling" else HOLDS_C - state.condenses_c
        wanted = state.hz + max(min(gain * 0.05 * off * dt, 0.5 * dt), -0.5 * dt)
        if oils:
            wanted = max(wanted, 70.0)
        if self._runs_heating() and any(coil.kw > 0 for coil in coils):
            less = 0.02 * (state.boils_c - TARGET_C - 2.0) * dt
            state.outdoors = min(max(state.outdoors - less, 0.03), 1.0)
        else:
            state.outdoors = 1.0
        state.hz = min(max(wanted, SLOWEST_HZ), FASTEST_HZ)
        for n in range(len(coils)):
            if not state.is_on[n]:
                state.steps[n] = 0.1 * STEPS if self.heats(n) else 0.0
                continue
            sign = -1.0 if self.heats(n) else 1.0
            off = sign * (self.thermostat_c(n) - self.set_c(n))
            if self.heats(n):
                aims, now = 10.0, state.condenses_c - self.outlet_read(n)
            else:
                aims = 3.0 + 4.0 * min(max(0.5 - off, 0.0), 1.0)
                now = self.outlet_read(n) - self.inlet_read(n)
            moved = gain * 0.10 * (now - aims) * dt
            if sign * (state.rooms[n] - self.inlet_read(n)) < NO_WORK_K:
                moved = gain * SEARCHES * dt  # nothing comes: it opens until something does
            state.steps[n] = min(max(state.steps[n] + moved, 40.0), float(STEPS))

    def _warm(self, dt: float) -> None:
        """Every room on, by its load, its loss and what its coil does."""
        state, plant, out = self.state, self.plant, self.outdoor_c()
        more = 1 + self._of_plant.get("capacity_short", 0.0)
        for n, unit in enumerate(plant.units):
            usual = 20.0 if self.heats(n) else 25.0
            asked = unit.load * unit.kw * (-1 if self.heats(n) else 1) * more
            still = unit.loss_kw_k * (plant.outdoor_c - usual)
            sun = 0.12 * plant.laws.sun_kw * unit.kw * sin(2 * pi * state.at_s / 21_600.0 + n)
            gains = asked - still + sun
            flow = gains + unit.loss_kw_k * (out - state.rooms[n]) - state.heat_kw[n]
            if "changeover_confusion" in self._of_plant and n < 2:
                flow += 0.08 * unit.kw * (state.rooms[1 - n] - state.rooms[n])
            state.rooms[n] += flow / (unit.store_kj_k * plant.laws.stores) * dt
