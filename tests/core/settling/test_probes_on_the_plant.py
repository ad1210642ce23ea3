"""Probe faults on running simulated systems, with noise: the one at fault is named first.

A few of each; `make study` runs 30 faults and 200 healthy kits on other seeds.
"""

import unittest
from random import Random

from nudge.core.settling.probes import lying
from nudge.core.settling.seen import Seen
from nudge.core.settling.trace import Trace
from nudge.instruments.kit import Ails, new_kit
from nudge.plant.acts import start
from nudge.plant.running import advance
from tests.plant.test_running import begun

STEP_S, MINUTES = 2.0, 15
CASES = (
    ("split-3-410-valve", "low-probe", "wrong_zero", "suction_pressure"),
    ("split-2-22-orifice", "clamp-1", "dirt", "suction_line_temp"),
    ("split-4-454b-valve", "air-1", "sun", "outdoor_air_temp"),
    ("inverter-3-410", "clamp-2", "wrong_pipe", "liquid_line_temp"),
    ("split-35-407c-valve", "air-3", "mixed_air", "supply_air_temp"),
    ("heat-pump-3-410", "clamp-3", "spiking", "discharge_line_temp"),
    ("split-5-410-valve", "high-probe", "stuck", "liquid_pressure"),
)


class OnThePlantTest(unittest.TestCase):
    def named(self, key, *faults, ails=None, seed=1):
        rng = Random(seed)
        scene, state = begun(key, *faults, indoor=(26.0, 50.0))
        kit = new_kit(rng)
        if ails:
            kit = kit.ail(ails[0], (Ails(ails[1], 0.9),))
        rows: dict[str, list[tuple[float, float]]] = {}

        def read(state, kit, seconds):
            for _ in range(round(seconds / STEP_S)):
                state = advance(scene, state, STEP_S)
                kit, values = kit.read(state.truth, STEP_S, rng)
                for held in kit.held:
                    if held.row.key in values and held.point:
                        rows.setdefault(held.point, []).append(
                            (state.seconds, values[held.row.key])
                        )
            return state, kit

        state, kit = read(state, kit, 40)
        standing = {p: sum(v for _, v in r[-10:]) / len(r[-10:]) for p, r in rows.items()}
        state, kit = read(start(state), kit, MINUTES * 60)
        traces = {p: Trace(*map(tuple, zip(*r[-120:], strict=True))) for p, r in rows.items()}
        mean = {p: sum(t.values[-5:]) / 5 for p, t in traces.items()}
        placed = frozenset(h.point for h in kit.held if h.point and h.point != "cylinder_weight")
        seen = Seen(
            scene.machine.fluid, 0.0, traces, mean, placed, state.seconds, MINUTES, standing
        )
        return [lie.point for lie in lying(seen)]

    def test_the_probe_at_fault_is_named_first(self):
        for key, channel, trouble, point in CASES:
            with self.subTest(key, trouble=trouble):
                self.assertEqual(self.named(key, ails=(channel, trouble))[:1], [point])

    def test_an_ill_machine_with_a_sound_kit_accuses_nobody(self):
        for key, fault in (
            ("split-3-410-valve", ("undercharge", 0.7)),
            ("split-3-410-valve", ("drier_restricted", 0.9)),
            ("split-3-410-orifice", ("overcharge", 0.6)),
            ("split-25-22-valve", ("condenser_dirt", 0.8)),
            ("heat-pump-3-410", ("reversing_valve_leak", 0.7)),
            ("split-3-410-valve", ("bulb_loose", 0.9)),
        ):
            with self.subTest(key, fault=fault):
                self.assertEqual(self.named(key, fault), [])
