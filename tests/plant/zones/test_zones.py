"""The simulated plant with many rooms does what such plants do."""

import unittest
from functools import cache
from random import Random

from nudge.plant.zones.built import FAMILIES, TARGET_C, built
from nudge.plant.zones.faults import ZONE_FAULTS, Wrong
from nudge.plant.zones.running import RunningZones


@cache
def ran(key="", amount=0.0, unit=-1, serves="cooling", family="home", hours=2.5):
    rng = Random("zones")
    plant = built(rng, serves, FAMILIES[family], 6)
    running = RunningZones(plant, [Wrong(key, amount, unit)] if key else [], rng, 12 * 3600.0)
    for _ in range(round(hours * 180)):
        running.step(20.0)
    return running


class ZonesTest(unittest.TestCase):
    def test_healthy_in_every_family_rooms_hold_what_they_want(self):
        for family in FAMILIES:
            for serves in ("cooling", "heating"):
                with self.subTest(family, serves=serves):
                    plant = ran(serves=serves, family=family)
                    off = [abs(room - plant.set_c(n)) for n, room in enumerate(plant.state.rooms)]
                    self.assertLess(sum(off) / len(off), 2.0)

    def test_short_of_charge_it_holds_its_target_and_loses_its_subcooling(self):
        short, well = ran("low_charge", 0.38).state, ran().state
        self.assertAlmostEqual(short.boils_c, TARGET_C, delta=4.0)
        self.assertLess(short.subcools_k, well.subcools_k - 8)
        self.assertGreater(max(short.steps), 0.9 * max(well.steps))

    def test_too_much_of_it_wets_the_shell(self):
        over, well = ran("overcharge", 0.55).state, ran().state
        self.assertLess(over.shell_c - over.boils_c, well.shell_c - well.boils_c - 5)

    def test_hot_gas_that_goes_round_warms_what_comes(self):
        for key in ("hot_gas_bypass", "reversing_valve_leaking"):
            leaks, well = ran(key, 0.22).state, ran().state
            self.assertGreater(leaks.comes_c - leaks.boils_c, well.comes_c - well.boils_c + 5, key)

    def test_a_valve_that_is_shut_leaves_its_room_alone(self):
        shut = ran("valve_stuck_shut", 0.0, 1)
        off = [room - shut.set_c(n) for n, room in enumerate(shut.state.rooms)]
        self.assertEqual(max(range(6), key=off.__getitem__), 1)
        self.assertGreater(off[1], 3.0)

    def test_exchanged_ports_serve_the_wrong_room(self):
        crossed = ran("wrong_port", 1.0, 0)
        behind = max(crossed.state.rooms[n] - crossed.set_c(n) for n in (0, 1))
        self.assertGreater(behind, 2.0)

    def test_every_fault_runs_in_what_it_may_serve(self):
        for row in ZONE_FAULTS.values():
            for serves in row.serves:
                with self.subTest(row.key, serves=serves):
                    unit = 1 if row.of == "room" else -1
                    state = ran(row.key, row.high, unit, serves, hours=0.5).state
                    self.assertTrue(all(-60 < room < 90 for room in state.rooms))
                    self.assertTrue(-45 < state.boils_c < 40 and 10 < state.condenses_c < 75)
