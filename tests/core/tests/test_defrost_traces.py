"""Defrosts drawn by hand, minute by minute: each missing event has to name its part."""

import unittest
from itertools import pairwise

from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.settling.trace import Trace
from nudge.core.tests.run import Run, TestMark
from nudge.core.tests.table import judged

PLATE = Plate("R-410A", MeteringDevice.TXV, nominal_capacity_w=10_550.0)
HOT, COLD, FAN = 70.0, -3.0, 1.1
Corner = tuple[float, float]


def line(*corners: Corner) -> Trace:
    """A trace every two seconds, straight between corners [s, value]."""
    rows = []
    for (a, va), (b, vb) in pairwise(corners):
        steps = max(int((b - a) / 2), 1)
        rows += [(a + (b - a) * n / steps, va + (vb - va) * n / steps) for n in range(steps)]
    rows.append(corners[-1])
    return Trace(tuple(s for s, _ in rows), tuple(v for _, v in rows))


def falls(at: float, back: float, end: float, cold: float = COLD) -> Trace:
    """A vapour line that turns cold at a moment, and hot again at another."""
    corners = [(0.0, HOT), (at, HOT), (at + 50, cold), (back, cold)]
    return line(*corners, (back + 90, HOT), (end, HOT)) if back < end else line(*corners)


def stops(at: float, back: float, end: float) -> Trace:
    corners = [(0.0, FAN), (at, FAN), (at + 2, 0.0), (min(back, end), 0.0)]
    return line(*corners, (back + 2, FAN), (end, FAN)) if back < end else line(*corners)


def melts(at: float, clear: float, back: float, end: float, warmest: float = 14.0) -> Trace:
    """A liquid line: warm from the house, cold while ice melts, warm again at the end."""
    corners = [(0.0, 28.0), (at, 28.0), (at + 60, 2.0), (clear, 2.0), (min(back, end), warmest)]
    return line(*corners, (end, 26.0)) if back < end else line(*corners)


def run(vapour: Trace, liquid: Trace, fan: Trace, marks=((120.0,)), **settings: float) -> Run:
    end = max(vapour.seconds[-1], fan.seconds[-1])
    outdoor = line((0.0, 1.0), (end, 1.0))
    return Run(
        "defrost",
        PLATE,
        0.0,
        end,
        settings,
        {
            "suction_line_temp": vapour,
            "liquid_line_temp": liquid,
            "condenser_fan_amps": fan,
            "outdoor_air_temp": outdoor,
        },
        marks=tuple(TestMark("forced", at) for at in marks),
    )


def clock_end(warmest: float, **settings: float) -> Run:
    return run(
        falls(120, 720, 800), melts(120, 500, 720, 800, warmest), stops(120, 720, 800), **settings
    )


class DefrostTracesTest(unittest.TestCase):
    def test_all_four_events_are_found_at_their_moments_and_it_works(self):
        # Melted at 250 s, warmed 12 K in 36 s: 3 s a kelvin.
        found = judged(run(falls(120, 290, 420), melts(120, 250, 286, 420), stops(124, 290, 420)))
        self.assertEqual((found.state, found.key), ("passed", "works"))
        self.assertEqual(found.proves, ("defrosts",))
        moments = {n.key: n.measure.value for n in found.numbers}
        self.assertAlmostEqual(moments["fan_off"], 4, delta=3)
        self.assertAlmostEqual(moments["fan_on"], 170, delta=4)
        self.assertAlmostEqual(moments["took"], 170 / 60, delta=0.1)

    def test_every_missing_event_names_its_part(self):
        warm = line((0.0, 28.0), (500.0, 27.0))
        for key, one in {
            "never_called": run(
                line((0.0, HOT), (400.0, HOT)), warm, line((0.0, FAN), (400.0, FAN))
            ),
            "valve_stuck": run(
                line((0.0, HOT), (120.0, HOT), (400.0, 58.0)), warm, stops(122, 900, 400)
            ),
            "fan_runs_on": run(
                falls(120, 900, 500), melts(120, 480, 900, 500), line((0.0, FAN), (500.0, FAN))
            ),
            "does_not_end": clock_end(warmest=42.0),
            "no_heat_for_it": clock_end(warmest=5.0),
        }.items():
            with self.subTest(key):
                found = judged(one)
                self.assertEqual((found.state, found.key), ("failed", key))
                self.assertTrue(found.says)
                self.assertEqual(found.proves, ())

    def test_a_coil_that_warms_slowly_once_clear_has_too_little_heat(self):
        # 12 K in 120 s: 10 s a kelvin.
        slow = run(falls(120, 400, 500), melts(120, 280, 400, 500), stops(124, 400, 500))
        self.assertEqual(judged(slow).key, "no_heat_for_it")

    def test_more_frost_than_the_clock_melts_proves_nothing(self):
        found = judged(clock_end(warmest=5.0, every=90.0, humidity=98.0))
        self.assertEqual((found.state, found.key), ("cannot_tell", "more_frost"))

    def test_what_was_not_read_from_the_beginning_or_with_a_hole_is_not_judged(self):
        late = run(falls(6, 160, 300), melts(6, 120, 156, 300), stops(6, 160, 300), marks=())
        self.assertEqual(judged(late).key, "late")
        whole = falls(120, 290, 420)
        kept = [
            (s, v) for s, v in zip(whole.seconds, whole.values, strict=True) if not 130 < s < 260
        ]
        holed = Trace(tuple(s for s, _ in kept), tuple(v for _, v in kept))
        found = judged(run(holed, melts(120, 250, 286, 420), stops(124, 290, 420)))
        self.assertEqual(found.key, "silent")

    def test_a_dip_before_it_does_not_hide_a_defrost(self):
        dips = line((0.0, HOT), (40.0, HOT), (70.0, 45.0), (110.0, HOT), (320.0, HOT),
                    (370.0, COLD), (490.0, COLD), (580.0, HOT), (620.0, HOT))  # fmt: skip
        found = judged(run(dips, melts(320, 450, 486, 620), stops(324, 490, 620), marks=(320.0,)))
        self.assertEqual(found.key, "works")

    def test_it_waits_without_hurry(self):
        hot = line((0.0, HOT), (200.0, HOT))
        on = line((0.0, FAN), (200.0, FAN))
        self.assertEqual(judged(run(hot, hot, on, marks=())).key, "heats")
        asked = judged(run(hot, hot, on, marks=(120.0,)))
        self.assertEqual((asked.state, asked.key), ("running", "asked"))
        self.assertAlmostEqual(asked.ready_in, 3 - 80 / 60, delta=0.1)
        self.assertEqual(judged(Run("defrost", PLATE, 0.0, 10.0)).key, "waiting")
