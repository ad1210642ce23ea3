"""Which probe lies: numbers with one thing wrong, and the probe that has to be named."""

import unittest
from dataclasses import replace
from random import Random

from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.probes import PROBE_CHECKS, lying
from nudge.core.settling.seen import Seen
from nudge.core.settling.trace import Trace
from tests.core.field import celsius, readings

TABLE = load_table("R-410A")
# A healthy three-ton system at 90 °F out, 78/65 in: saturations 44 and 108 °F by the table.
HEALTHY = readings(
    suct=128, liq=360, sl=56, ll=99, lli=98, eo=54, dl=158, oa=90, ra=78, wb=65, sa=58
)
STANDING = readings(suct=228, liq=228, sl=90, ll=90, dl=90.5, oa=90, ra=78)


def seen(
    minutes: float | None = 20,
    standing: dict[str, float] | None = None,
    trace=None,
    without: tuple[str, ...] = (),
    **changed: float,
) -> Seen:
    values = HEALTHY | readings(**changed)
    rng = Random(1)
    traces = {}
    for point, value in values.items():
        size = 0.7 if point.endswith("pressure") else 0.05
        times = tuple(float(t) for t in range(0, 240, 2))
        traces[point] = Trace(times, tuple(value + rng.gauss(0, size) for _ in times))
    traces |= trace or {}
    for point in without:
        traces.pop(point)
    mean = {point: value for point, value in values.items() if point not in without}
    return Seen("R-410A", 0.0, traces, mean, frozenset(values), 239.0, minutes, standing or {})


def silent_since(seconds: float) -> Trace:
    return Trace(tuple(float(t) for t in range(int(seconds))), (12.0,) * int(seconds))


LIES = (
    ("silent", "suction_line_temp", {"trace": {"suction_line_temp": silent_since(150)}}),
    ("stuck", "return_air_temp", {"trace": {"return_air_temp": Trace(tuple(range(0, 240, 2)), (25.5,) * 120)}}),
    ("spiking", "liquid_line_temp", {"trace": {"liquid_line_temp": Trace(
        tuple(range(0, 240, 2)), tuple(60.0 if i in (30, 70) else 37.2 + i % 3 / 20 for i in range(120)))}}),
    ("dropping_out", "outdoor_air_temp", {"trace": {"outdoor_air_temp": Trace(
        tuple(range(0, 240, 8)), tuple(32.2 + i % 4 / 20 for i in range(30)))}}),
    ("standing_zero", "suction_pressure", {"standing": STANDING | readings(suct=240)}),
    ("standing_zero", "liquid_pressure", {"standing": STANDING | readings(liq=217)}),
    ("standing_air", "outdoor_air_temp", {"standing": STANDING | readings(oa=97)}),
    ("outdoor_too_warm", "outdoor_air_temp", {"oa": 103}),
    ("liquid_too_cold", "liquid_line_temp", {"ll": 84, "lli": 84}),
    ("wrong_pipe", "suction_line_temp", {"sl": 99}),
    ("wrong_pipe", "liquid_line_temp", {"ll": 56, "lli": 56, "eo": 54}),
    ("swapped", "suction_line_temp", {"sl": 99, "ll": 56, "lli": 99}),
    ("suction_dirt", "suction_line_temp", {"sl": 71}),
    ("outlet_dirt", "evaporator_outlet_temp", {"eo": 62}),
    ("indoor_liquid_dirt", "liquid_line_temp_indoor", {"lli": 89}),
    ("liquid_dirt", "liquid_line_temp", {"ll": 93, "lli": 98}),
    ("discharge_dirt", "discharge_line_temp", {"dl": 115}),
    ("dry_wick", "return_air_wet_bulb", {"wb": 77.5}),
    ("supply_mixed", "supply_air_temp", {"sa": 68}),
)  # fmt: skip


class LyingProbesTest(unittest.TestCase):
    def test_in_heating_the_hot_vapour_line_is_no_swapped_clamp(self):
        hot = seen(sl=172, ll=88, lli=90, ts=34, oa=38, ra=68, sa=96, suct=82, liq=335)
        self.assertIn("swapped", {lie.check for lie in lying(hot)})
        self.assertEqual(lying(replace(hot, heats=True)), [])
        frozen = Trace(tuple(range(0, 240, 2)), (3.3,) * 120)
        still = seen(ts=34, oa=38, trace={"outdoor_air_temp": frozen})
        self.assertIn("stuck", {lie.check for lie in lying(replace(still, heats=True))})

    def test_each_lie_names_its_probe_first(self):
        for check, point, wrong in LIES:
            with self.subTest(check, point=point):
                found = lying(seen(**wrong))
                self.assertTrue(found)
                self.assertEqual((found[0].check, found[0].point), (check, point))
                self.assertGreater(len(found[0].said.text("ip")), 40)

    def test_every_check_has_a_lie_that_trips_it(self):
        tripped = {check for check, _, _ in LIES}
        own = {
            "outdoor_too_warm": {"outdoor_too_warm", "liquid_too_cold"},
            "wrong_pipe": {"wrong_pipe", "swapped"},
            "suction_dirt": {"suction_dirt", "outlet_dirt"},
            "liquid_dirt": {"liquid_dirt", "indoor_liquid_dirt"},
            "wet_and_dry": {"dry_wick"},
        }
        for row in PROBE_CHECKS:
            self.assertLessEqual(own.get(row.key, {row.key}), tripped, row.key)

    def test_a_healthy_kit_is_believed_standing_and_running(self):
        self.assertEqual(lying(seen(standing=STANDING)), [])
        self.assertEqual(lying(seen(minutes=None)), [])

    def test_faults_of_the_machine_are_not_blamed_on_a_probe(self):
        for what, changed in (
            (
                "low charge",
                {
                    "suct": 95,
                    "liq": 300,
                    "sl": 70,
                    "eo": 66,
                    "ll": 93,
                    "lli": 92,
                    "sa": 66,
                    "dl": 175,
                },
            ),
            ("restriction", {"suct": 90, "sl": 74, "eo": 70, "lli": 80, "sa": 67, "dl": 190}),
            ("worn compressor", {"suct": 150, "liq": 320, "sa": 64, "dl": 150, "sl": 62, "eo": 60}),
            ("dirty condenser", {"liq": 440, "ll": 112, "lli": 111, "dl": 180}),
        ):
            with self.subTest(what):
                self.assertEqual(lying(seen(**changed)), [])

    def test_a_swap_names_both(self):
        found = lying(seen(sl=99, ll=56, lli=99))[0]
        self.assertEqual(found.swap_with, "liquid_line_temp")

    def test_pressures_that_stand_apart_are_judged_by_the_saturation_of_the_air(self):
        # Published R-410A: 217 psig at 75 °F, 236 at 80 °F; so about 228 at 78 °F.
        self.assertAlmostEqual(TABLE.bubble.pressure(celsius(78)) - 101.325, 228 * 6.895, delta=12)
