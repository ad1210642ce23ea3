"""The front end's pure functions, run in Node: numbers, dates, scales, how a drawing fits."""

import json
import os
import subprocess
import tempfile
import unittest
from itertools import pairwise
from pathlib import Path

from tests.web.bundled import bundled

ENTRY = """
export * from './src/lib/format'
export * from './src/lib/scale'
export * from './src/drawing/frame'
export * from './src/lib/ruleGeometry'
export * from './src/lib/phGeometry'
export * from './src/lib/entryText'
export * from './src/lib/stripGeometry'
"""


class PureFunctionsTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.bundle = Path(folder.name) / "pure.mjs"
        cls.bundle.write_text(bundled(ENTRY, "esm"))

    def run_js(self, expression):
        """The JSON value of a JavaScript expression over the bundle's exports, in UTC."""
        program = f"import * as js from '{self.bundle}'; console.log(JSON.stringify({expression}))"
        done = subprocess.run(
            ["node", "--input-type=module", "-e", program],
            capture_output=True,
            text=True,
            check=True,
            env={"TZ": "UTC", "PATH": os.environ["PATH"]},
        )
        return json.loads(done.stdout)

    def test_numbers(self):
        cases = ((12, 1, "12.0"), (-5.25, 1, "−5.3"), (-0.01, 1, "0.0"), (118.4, 0, "118"))
        calls = ",".join(f"js.formatNumber({v},{d})" for v, d, _ in cases)
        self.assertEqual(self.run_js(f"[{calls}]"), [text for *_, text in cases])

    def test_typed_numbers_take_a_comma_or_a_point_and_nothing_else(self):
        cases = (
            ("4.5", 4.5),
            (" 4,5 ", 4.5),
            ("-0,3", -0.3),
            ("0", 0),
            ("", None),
            ("  ", None),
            ("4.5.6", None),
            ("four", None),
            ("4 oz", None),
        )
        calls = ",".join(f"js.numberIn({json.dumps(text)})" for text, _ in cases)
        self.assertEqual(self.run_js(f"[{calls}]"), [value for _, value in cases])

    def test_a_sentence_lowered_keeps_its_units(self):
        self.assertEqual(
            self.run_js("[js.lowered('When it is over 70 °F'), js.lowered(''), js.lowered('Éte')]"),
            ["when it is over 70 °F", "", "éte"],
        )

    def test_due_dates_are_calendar_days(self):
        cases = (
            ("2026-07-14", "today"),
            ("2026-07-15", "tomorrow"),
            ("2026-07-13", "1 day late"),
            ("2026-07-11", "3 days late"),
            ("2026-07-23", "in 9 days"),
            ("2027-07-14", "in 365 days"),
        )
        calls = ",".join(
            f"js.dueInWords('{d}', new Date('2026-07-14T23:59:00Z'))" for d, _ in cases
        )
        self.assertEqual(self.run_js(f"[{calls}]"), [text for _, text in cases])

    def test_minutes(self):
        self.assertEqual(
            self.run_js("[0, 59, 60, 65, 600].map(js.inMinutes)"),
            ["0 min", "59 min", "1 h 00", "1 h 05", "10 h 00"],
        )

    def test_scale_and_ticks(self):
        self.assertEqual(
            self.run_js("[0, 50, 100].map(js.linearScale([0, 100], [300, 0]))"), [300, 150, 0]
        )
        self.assertEqual(self.run_js("js.ticks(38, 106, 5)"), [40, 60, 80, 100])
        self.assertEqual(self.run_js("js.linearScale([5, 5], [0, 10])(5)"), 5)

    def test_what_people_type_as_a_number(self):
        for text, value in (
            ("118", 118),
            ("10,5", 10.5),
            ("36,000", 36000),
            ("1,234,567", 1234567),
            (" 7 ", 7),
            ("−0.3", -0.3),
            ("-0.3", -0.3),
            ("", ""),
            ("ten", "ten"),
            ("1.2.3", "1.2.3"),
        ):
            with self.subTest(text):
                self.assertEqual(self.run_js(f"js.readEntry({json.dumps(text)})"), value)

    def test_a_rule_grades_both_scales_and_puts_pressure_where_it_boils(self):
        rows = [[10 * i, 2 * i - 50, 2 * i - 49] for i in range(1, 61)]
        rule = f"js.ruleGeometry({rows}, 20, false, 400)"
        pressures = self.run_js(f"{rule}.pressures")
        temperatures = self.run_js(f"{rule}.temperatures")
        self.assertEqual(self.run_js(f"{rule}.x(20)"), 200)
        for ticks in (pressures, temperatures):
            self.assertGreater(len(ticks), 10)
            self.assertTrue(all(a["x"] < b["x"] for a, b in pairwise(ticks)))
            self.assertTrue(all(0 <= tick["x"] <= 400 for tick in ticks))
            long = [tick for tick in ticks if tick["long"]]
            self.assertTrue(2 <= len(long) <= 9)
        for tick in pressures:  # here dew = p / 5 - 49, and x runs evenly with temperature
            dew = tick["value"] / 5 - 49
            self.assertAlmostEqual(tick["x"], 200 + (dew - 20) / 26 * 200, delta=0.01)

    def test_a_logarithmic_scale_has_round_ticks(self):
        self.assertEqual(self.run_js("js.logTicks(14, 600)"), [20, 50, 100, 200, 500])
        self.assertEqual(self.run_js("js.logTicks(0.9, 30)"), [1, 2, 5, 10, 20])

    def test_the_cycle_closes_only_when_it_is_whole(self):
        chart = {
            "bubble": [[80, 20], [100, 100], [130, 400]],
            "dew": [[190, 20], [195, 100], [190, 400]],
            "isotherms": [{"value": 40, "points": [[98, 120], [100, 100], [195, 100], [210, 20]]}],
            "qualities": [{"value": 0.5, "points": [[135, 20], [160, 400]]}],
            "isentropes": [{"value": 1.8, "points": [[200, 50], [215, 300]]}],
        }
        corners = [
            {
                "key": k,
                "label": k,
                "enthalpy": h,
                "pressure": p,
                "temperature": 0,
                "estimated": False,
            }
            for k, h, p in (
                ("suction", 198, 100),
                ("discharge", 214, 300),
                ("liquid", 120, 300),
                ("fed", 120, 100),
            )
        ]
        box = {"left": 50, "top": 10, "right": 450, "bottom": 310}

        def draw(some):
            cycle = json.dumps({"corners": some})
            return self.run_js(f"js.phGeometry({json.dumps(chart)}, {cycle}, {json.dumps(box)})")

        whole, part = draw(corners), draw(corners[:1] + corners[2:])
        self.assertEqual(whole["cycle"].count("L"), 4)
        self.assertTrue(whole["cycle"].endswith(whole["cycle"][1:].split("L")[0]))
        self.assertEqual(part["cycle"].count("L"), 2)
        self.assertEqual(draw([])["cycle"], "")
        for corner in whole["corners"]:
            self.assertTrue(50 <= corner["x"] <= 450, corner)
            self.assertTrue(10 <= corner["y"] <= 310, corner)
        at = {corner["key"]: corner for corner in whole["corners"]}
        self.assertEqual(at["liquid"]["x"], at["fed"]["x"])
        self.assertLess(at["discharge"]["y"], at["suction"]["y"])  # more pressure stands higher

    def test_a_strip_is_widened_to_what_has_come_since_and_to_its_window(self):
        laid_out = "{low: 8, high: 14}"
        for fresh, around, wanted in (
            ([], [], [8, 14]),
            ([[1, 15, 14.8, 15.3], [2, 9, 9, 9]], [], [8, 15.3]),
            ([], [6, 15], [6, 15]),
            ([[1, 2, 1.5, 2]], [9, 10], [1.5, 14]),
        ):
            with self.subTest(fresh=fresh, around=around):
                found = self.run_js(f"js.widened({laid_out}, {fresh}, {around})")
                self.assertEqual(found, wanted)

    def test_zooming_keeps_the_moment_under_the_finger(self):
        found = self.run_js(
            "js.zoomed({from: 0, to: 1000000}, 0.5, 250000, {from: 0, to: 4000000})"
        )
        self.assertEqual(found["to"] - found["from"], 500_000)
        self.assertEqual((250_000 - found["from"]) / 500_000, 0.25)
        for factor, length in ((1e-9, 30_000), (1e9, 4_400_000)):
            limits = self.run_js(
                f"js.zoomed({{from: 0, to: 1000000}}, {factor}, 0, {{from: 0, to: 4000000}})"
            )
            self.assertAlmostEqual(limits["to"] - limits["from"], length, places=3)

    def test_a_gap_is_a_gap(self):
        columns = [[t, 1, 1, 1] for t in (0, 10, 20, 95, 105, 300)]
        runs = self.run_js(f"js.runs({columns}, 30)")
        self.assertEqual([[c[0] for c in run] for run in runs], [[0, 10, 20], [95, 105], [300]])

    LAYOUTS = "[{width: 362, height: 330}, {width: 572, height: 368}, {width: 816, height: 400}]"

    def test_the_largest_that_fits_is_stretched_and_none_is_cut_off(self):
        for width, height, frame, scale in (
            (816, 400, 816, 1.0),
            (1632, 800, 816, 2.0),
            (600, 390, 572, 600 / 572),  # the width is what ends it
            (390, 330, 362, 1.0),
            (181, 400, 362, 0.5),  # nothing fits: the smallest is shrunk
        ):
            with self.subTest((width, height)):
                found = self.run_js(f"js.fitted({self.LAYOUTS}, {width}, {height})")
                self.assertEqual(found["drawn"]["width"], frame)
                self.assertAlmostEqual(found["scale"], scale)
                self.assertAlmostEqual(2 * found["left"] + frame * scale, width)

    def test_nothing_to_draw_is_nothing_and_a_path_goes_through_its_points(self):
        self.assertIsNone(self.run_js("js.fitted([], 100, 100)"))
        path = self.run_js("js.pathThrough([[0, 1], [10, 20.04]])")
        self.assertEqual(path, "M0.0 1.0L10.0 20.0")
