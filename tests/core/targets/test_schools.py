"""The newer schools: charts, approach, refrigeration, the preferred one, and what others say."""

import unittest

from nudge.core.physics.chart.chart_text import read_chart
from nudge.core.physics.circuit.equipment import Application, Plate
from nudge.core.targets.choose import choose_targets
from tests.core.field import case, judged, plate, settled
from tests.core.physics.chart.test_chart import COILS, GRID

CLEAN = settled("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")


def with_chart(kind: str, text: str, device: str = "txv", **more: object) -> Plate:
    return plate(device, charts=(read_chart(kind, text, "ip"),), **more)


class SchoolsTest(unittest.TestCase):
    def test_a_subcooling_chart_in_the_indoor_units_column(self):
        of = with_chart("subcooling_by_outdoor", COILS, subcooling=None, indoor_unit="b")
        targets = choose_targets(case(of, oa=80))
        assert targets.deciding is not None
        self.assertEqual(targets.deciding.key, "chart_subcooling")
        window = targets.windows["subcooling"]
        self.assertAlmostEqual(window.value * 1.8, 8.5)
        self.assertAlmostEqual((window.high - window.low) * 1.8, 4)

    def test_off_its_chart_it_says_so_and_does_not_decide(self):
        of = with_chart("subcooling_by_outdoor", COILS, subcooling=None, indoor_unit="A")
        result = judged(of, CLEAN, oa=102, ra=76, wb=64, suct=122, liq=400, sl=53, ll=104)
        self.assertIn("chart_silent", [b.gate.key for b in result.breaches])
        self.assertIsNone(result.targets.deciding)  # and no other school takes its place unasked
        chosen = choose_targets(case(of, oa=102), "fallback_subcooling")
        assert chosen.deciding is not None
        self.assertEqual(chosen.deciding.key, "fallback_subcooling")
        asked = choose_targets(case(of, oa=102), "chart_subcooling")
        self.assertIsNone(asked.deciding)

    def test_a_superheat_chart_for_a_fixed_orifice(self):
        of = with_chart("superheat_by_wet_bulb", GRID, "fixed_orifice", subcooling=None)
        result = judged(of, CLEAN, oa=85, wb=64, ra=76, suct=125, sl=57, liq=330, ll=92)
        self.assertEqual(result.targets.windows["superheat"].method, "chart_superheat")
        self.assertAlmostEqual(result.targets.windows["superheat"].value * 1.8, 14)
        # The formula at 64 and 85: (192 - 80 - 85) / 2 = 13.5; it is named beside.
        others = {other.school.key for other in result.decision.other_methods}
        self.assertIn("formula_superheat", others)

    def test_approach_over_the_plate_is_low_and_under_it_over(self):
        of = plate(subcooling=None, approach_k=8 / 1.8)
        for liquid_line, head, state in ((88, 285, "low"), (84, 300, "right"), (80, 300, "high")):
            found = judged(
                of, CLEAN, oa=76, ll=liquid_line, liq=head, suct=120, sl=53, ra=76, wb=64
            )
            assert found.targets.deciding is not None
            self.assertEqual(found.targets.deciding.key, "plate_approach")
            with self.subTest(liquid_line):
                self.assertEqual(found.decision.state, state, found.decision.reason.text("ip"))

    def test_approach_alone_never_adds(self):
        of = plate(subcooling=None, approach_k=8 / 1.8)
        found = judged(of, CLEAN, oa=80, ll=92, liq=380, suct=122, sl=53, ra=76, wb=64)
        self.assertNotEqual(found.decision.advice, "add")  # subcooling is far from low

    def test_another_school_that_differs_is_named_with_how_much(self):
        # Seven degrees: in by the plate's ±3, a degree low by a chart that wants 10 ±2.
        of = with_chart("subcooling_by_outdoor", "75 11\n95 9")
        found = judged(of, CLEAN, oa=85, ra=76, wb=64, suct=122, sl=53, liq=345, ll=98.6)
        self.assertEqual(found.decision.state, "right")
        other = next(o for o in found.decision.other_methods if o.school.key == "chart_subcooling")
        self.assertEqual(other.state, "low")
        self.assertAlmostEqual(other.off_by_k * 1.8, -3, delta=0.3)

    def test_the_preferred_school_decides_where_it_can(self):
        of = with_chart("subcooling_by_outdoor", "75 14\n95 12")
        ordinary = choose_targets(case(of, oa=85))
        chosen = choose_targets(case(of, oa=85), preferred=("plate_approach", "chart_subcooling"))
        assert ordinary.deciding is not None
        assert chosen.deciding is not None
        self.assertEqual(ordinary.deciding.key, "plate_subcooling")
        self.assertEqual(chosen.deciding.key, "chart_subcooling")

    def test_cold_rooms_and_coil_outlets_have_their_own_bands(self):
        room = plate(subcooling=None, application=Application.REFRIGERATION)
        for box, low, high in ((35, 6, 10), (-5, 3, 6)):
            window = choose_targets(case(room, box=box)).windows["evaporator_superheat"]
            self.assertAlmostEqual(window.low * 1.8, low)
            self.assertAlmostEqual(window.high * 1.8, high)
        self.assertNotIn("superheat", choose_targets(case(room)).windows)
        window = choose_targets(case(plate())).windows["evaporator_superheat"]
        self.assertAlmostEqual(window.low * 1.8, 8)
