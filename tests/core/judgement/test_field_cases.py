"""Everyday calls, with the numbers as they were written down and what was right to do.

Expected superheat and subcooling are worked by hand from pressure-temperature cards; the
verdicts are what the trade's rules say about them.
"""

import unittest
from typing import NamedTuple

from tests.core.field import judged, plate, settled

CLEAN = ("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")


class Call(NamedTuple):
    story: str
    device: str
    fluid: str
    target: float | None
    readings: dict[str, float]
    superheat: float
    subcooling: float
    state: str
    advice: str
    seen: tuple[str, ...] = CLEAN


CALLS = (
    # R-410A: 112 psig 37 °F, 118 40, 125 43, 130 45; 300 96, 318 100, 341 105, 365 110, 391 115.
    Call("new split, right on its plate", "txv", "R-410A", 10,
         {"suct": 125, "liq": 365, "sl": 53, "ll": 100, "oa": 92, "ra": 77, "wb": 64, "sa": 57},
         10, 10, "right", "leave"),
    Call("lower edge of the plate's window", "txv", "R-410A", 10,
         {"suct": 118, "liq": 341, "sl": 51, "ll": 97.5, "oa": 88, "ra": 76},
         11, 7.5, "right", "leave"),
    Call("two pounds short after a bad flare", "txv", "R-410A", 12,
         {"suct": 107, "liq": 300, "sl": 58, "ll": 93, "oa": 85, "ra": 77, "wb": 64, "sa": 63},
         23, 3, "low", "add"),
    Call("first short of charge: valve still holds superheat, one clamp says so", "txv", "R-410A",
         12, {"suct": 116, "liq": 318, "sl": 50, "ll": 95, "oa": 86, "ra": 76, "wb": 64, "sa": 58},
         11, 5, "low", "do_not_charge"),
    Call("the same, zeroed and clamped at a second place, the gauge right at rest", "txv", "R-410A", 12,
         {"suct": 116, "liq": 318, "sl": 50, "ll": 95, "oa": 86, "ra": 76, "wb": 64, "sa": 58},
         11, 5, "low", "add", (*CLEAN, "readings_confirmed", "standing_pressure_right")),
    Call("topped up by pressure alone last summer", "txv", "R-410A", 10,
         {"suct": 126, "liq": 400, "sl": 53, "ll": 95, "oa": 90, "ra": 76, "wb": 64, "sa": 57},
         9.5, 21, "high", "remove", (*CLEAN, "circuit_never_opened")),
    Call("the same, nobody looked at the coil", "txv", "R-410A", 10,
         {"suct": 126, "liq": 400, "sl": 53, "ll": 95, "oa": 90, "ra": 76, "wb": 64, "sa": 57},
         9.5, 21, "high", "do_not_charge", ()),
    Call("liquid line ten over the air: it may be air in the system", "txv", "R-410A", 10,
         {"suct": 126, "liq": 418, "sl": 53, "ll": 100, "oa": 90, "ra": 76, "wb": 64, "sa": 57},
         9.5, 19.5, "high", "do_not_charge"),
    Call("cottonwood on the outdoor coil", "txv", "R-410A", 10,
         {"suct": 130, "liq": 470, "sl": 55, "ll": 117, "oa": 90, "ra": 78, "wb": 66},
         10, 11.5, "unknown", "do_not_charge", ("filter_clean", "condenser_coil_dirty")),
    Call("filter like felt", "txv", "R-410A", 10,
         {"suct": 94, "liq": 300, "sl": 37, "ll": 86, "oa": 84, "ra": 79, "sa": 50},
         9, 10, "unknown", "do_not_charge", ("filter_dirty",)),
    Call("plugged drier, cold to the hand past it", "txv", "R-410A", 10,
         {"suct": 88, "liq": 310, "sl": 68, "ll": 86, "di": 86, "do": 74, "oa": 82, "ra": 77},
         43, 12.5, "right", "do_not_charge"),
    Call("nearly empty, or a valve that starves: the head has fallen to the air either way", "txv", "R-410A", 10,
         {"suct": 52, "liq": 240, "sl": 70, "ll": 81, "oa": 80, "ra": 80},
         69, 0.5, "unknown", "do_not_charge"),
    Call("evening: the house has cooled to 68", "txv", "R-410A", 10,
         {"suct": 104, "liq": 300, "sl": 45, "ll": 90, "oa": 82, "ra": 68},
         11.5, 6, "unknown", "do_not_charge"),
    Call("spring morning, 58 outdoors", "txv", "R-410A", 10,
         {"suct": 100, "liq": 235, "sl": 52, "ll": 66, "oa": 58, "ra": 72},
         20, 14, "unknown", "do_not_charge"),
    # 55 psig 30 °F, 60 33.5, 68.5 40, 75 44; 195 100, 211 105, 226 110, 242 115.
    Call("old orifice on target", "fixed_orifice", "R-22", None,
         {"suct": 68.5, "liq": 226, "sl": 52, "ll": 100, "oa": 90, "ra": 76, "wb": 64, "sa": 57},
         12, 10, "right", "leave"),
    Call("old orifice starved of charge", "fixed_orifice", "R-22", None,
         {"suct": 62, "liq": 195, "sl": 62, "ll": 97, "oa": 88, "ra": 77, "wb": 65, "sa": 64},
         27, 3, "low", "add"),
    Call("orifice with a kinked line: superheat high, line full", "fixed_orifice", "R-22", None,
         {"suct": 60, "liq": 200, "sl": 66, "ll": 88, "oa": 85, "ra": 77, "wb": 65},
         32.5, 13.5, "unknown", "do_not_charge"),
    Call("orifice flooding, nobody measured the air", "fixed_orifice", "R-22", None,
         {"suct": 74, "liq": 250, "sl": 46, "ll": 101, "oa": 92, "ra": 76, "wb": 66},
         2.5, 16.5, "high", "do_not_charge"),
    Call("dry desert house: target under five", "fixed_orifice", "R-22", None,
         {"suct": 66, "liq": 260, "sl": 46, "ll": 110, "oa": 105, "ra": 80, "wb": 57},
         8, 10, "unknown", "do_not_charge"),
    # 121 psig 40 °F; 350 105. R-134a: 35 40; 135 105. R-290: 64 40; 188 105.
    Call("inverter in charge mode, one degree out", "eev", "R-32", 10,
         {"suct": 121, "liq": 350, "sl": 49, "ll": 93, "oa": 88, "ra": 76},
         9, 12, "high", "do_not_charge", ()),
    Call("R-134a on a fallback guess", "txv", "R-134a", None,
         {"suct": 35, "liq": 135, "sl": 51, "ll": 95, "oa": 88, "ra": 76},
         11, 10, "right", "leave"),
    Call("R-290 orifice, right", "fixed_orifice", "R-290", None,
         {"suct": 64, "liq": 188, "sl": 56, "ll": 96, "oa": 86, "ra": 77, "wb": 66},
         16, 9, "right", "leave"),
)  # fmt: skip


class FieldCasesTest(unittest.TestCase):
    def test_each_call(self):
        for call in CALLS:
            with self.subTest(call.story):
                context = settled(*call.seen)
                if call.device == "eev":
                    context = type(context)(35, 35, context.observations)
                of = plate(call.device, call.fluid, call.target)
                result = judged(of, context, **call.readings)
                derived = result.case.derived
                assert derived.superheat is not None
                assert derived.subcooling is not None
                # Cards are printed to the degree: two degrees covers card and rounding.
                self.assertAlmostEqual(derived.superheat * 1.8, call.superheat, delta=2)
                self.assertAlmostEqual(derived.subcooling * 1.8, call.subcooling, delta=2)
                self.assertEqual(
                    (result.decision.state, result.decision.advice), (call.state, call.advice)
                )
                self.assertTrue(result.decision.headline.endswith("."))
                for units in ("ip", "si"):
                    reason = result.decision.reason.text(units)  # type: ignore[arg-type]
                    self.assertTrue(reason[0].isupper() and reason.endswith("."), reason)
                    self.assertNotRegex(reason, r"[{}]|\.\.|  |None|nan")
