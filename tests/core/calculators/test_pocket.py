import unittest

from nudge.core.calculators.blanks import BLANKS
from nudge.core.calculators.pocket import SLIPS, fill_pocket
from nudge.core.language.errors import UnknownName
from nudge.core.physics.refrigerant.catalogue import CATALOGUE


def lines(entries: dict[str, float | str], slip: str, units: str = "ip") -> dict[str, float]:
    pocket = fill_pocket(entries, units, [slip])  # type: ignore[arg-type]
    return {line.working.formula.key: line.working.value for line in pocket.filled[0].outcome.lines}


class PocketTest(unittest.TestCase):
    def test_every_blank_is_on_a_slip_and_every_slip_has_its_blanks(self):
        used = {blank for slip in SLIPS for blank in slip.blanks}
        self.assertLessEqual(used, set(BLANKS))
        self.assertEqual(set(BLANKS), used)

    def test_an_empty_pocket_asks_and_refuses_nothing(self):
        pocket = fill_pocket({}, "ip")
        self.assertEqual(pocket.problems, {})
        for filled in pocket.filled:
            with self.subTest(filled.slip.key):
                self.assertIsNone(filled.problem)
                self.assertTrue(filled.outcome.needs)

    def test_saturation_both_ways_with_glide(self):
        for name in CATALOGUE:
            there = lines({"refrigerant": name, "temperature": 60.0}, "saturation")
            back = lines(
                {"refrigerant": name, "pressure": there["dew_pressure"]}, "saturation", "si"
            )
            with self.subTest(name):
                self.assertAlmostEqual(back["dew"] * 1.8 + 32, 60, delta=0.01)
                self.assertGreaterEqual(there["bubble_pressure"], there["dew_pressure"] - 0.01)
        # R-454B at 120 psig: the ends are 2.7 °F apart.
        found = lines({"refrigerant": "R-454B", "pressure": 120.0}, "saturation")
        self.assertAlmostEqual(found["glide"] * 1.8, 2.7, delta=0.2)

    def test_superheat_against_its_school(self):
        readings: dict[str, float | str] = {
            "refrigerant": "R-410A",
            "suction_pressure": 118.0,
            "suction_line_temp": 52.0,
            "liquid_pressure": 341.0,
            "liquid_line_temp": 96.0,
            "target_subcooling": 10.0,
            "outdoor_air_temp": 88.0,
            "return_air_wet_bulb": 64.0,
        }
        valve = fill_pocket(readings, "ip", ["circuit"]).filled[0].outcome
        by_key = {line.working.formula.key: line for line in valve.lines}
        self.assertEqual(by_key["subcooling"].place, "in")
        self.assertEqual(by_key["subcooling"].source, "plate")
        orifice = fill_pocket(readings | {"metering_device": "fixed_orifice"}, "ip", ["circuit"])
        line = next(
            one for one in orifice.filled[0].outcome.lines if one.working.formula.key == "superheat"
        )
        # (3 x 64 - 80 - 88) / 2 = 12, ±5.
        self.assertAlmostEqual((line.low or 0) * 1.8, 7)
        self.assertEqual((line.source, line.place), ("formula", "in"))

    def test_one_bad_entry_spoils_nothing_else(self):
        pocket = fill_pocket(
            {
                "pressure": 99_999.0,
                "temperature": 75.0,
                "refrigerant": "R-99",
                "capacitor_rated": "x",
            },
            "ip",
        )
        self.assertEqual(set(pocket.problems), {"pressure", "refrigerant", "capacitor_rated"})
        self.assertIn("−14 to 900 psig", pocket.problems["pressure"].text("ip"))
        saturation = pocket.filled[0].outcome.lines
        self.assertEqual(
            [line.working.formula.key for line in saturation], ["bubble_pressure", "dew_pressure"]
        )
        with self.assertRaises(UnknownName):
            fill_pocket({"presure": 1.0}, "ip")
        with self.assertRaises(UnknownName):
            fill_pocket({}, "ip", ["saturaton"])

    def test_a_slip_that_cannot_answer_says_why(self):
        pocket = fill_pocket(
            {"return_air_temp": 70.0, "return_air_wet_bulb": 75.0, "outdoor_air_temp": 95.0}, "ip"
        )
        said = {f.slip.key: f.problem.text("ip") for f in pocket.filled if f.problem}
        self.assertIn("over dry bulb 70.0 °F", said["split"])
        self.assertIn("over dry bulb 70.0 °F", said["air"])
        self.assertNotIn("saturation", said)

    def test_the_same_in_any_units(self):
        ip = {
            "pressure": 120.0,
            "return_air_temp": 80.0,
            "return_air_wet_bulb": 67.0,
            "outdoor_air_temp": 95.0,
            "full_charge": 10.0,
            "added": 1.0,
            "days": 100.0,
        }
        si = {
            "pressure": 827.37,
            "return_air_temp": 26.6667,
            "return_air_wet_bulb": 19.4444,
            "outdoor_air_temp": 35.0,
            "full_charge": 4.5359,
            "added": 0.45359,
            "days": 100.0,
        }
        bar = si | {"pressure": 8.2737}
        for slip in ("saturation", "split", "leak_rate"):
            one = lines(ip, slip)  # type: ignore[arg-type]
            for other, units in ((si, "si"), (bar, "si_bar")):
                for key, value in lines(other, slip, units).items():  # type: ignore[arg-type]
                    self.assertAlmostEqual(value, one[key], delta=abs(one[key]) * 1e-3)
