"""Two visits laid over each other: what moved, and when it is not the machine's."""

import unittest

from nudge.core.behaviours.case import Context, open_case
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate, ReversingValve
from nudge.core.visit.compared import compared
from tests.core.field import readings

PLATE = Plate(
    "R-410A",
    MeteringDevice.TXV,
    nominal_capacity_w=10_550.0,
    heat_47_w=10_550.0,
    heat_17_w=6_600.0,
    reversing_valve=ReversingValve.PRESENT,
)
SPRING = readings(suct=118, liq=341, sl=52, ll=96, oa=88, ra=76, wb=64)
WINTER = readings(ra=69, sa=92, oa=37, cfm=1150, suct=97, liq=325, ts=36, ll=87)


def case(read, mode="cooling"):
    return open_case(PLATE, read, Context(40.0, 40.0, mode=mode))


class ComparedTest(unittest.TestCase):
    def moved(self, found):
        return {row.key: row.moved for row in found.rows}

    def test_what_moved_at_like_conditions_is_the_machines(self):
        later = SPRING | readings(suct=112, sl=62, ll=100)
        found = compared(case(SPRING), case(later))
        self.assertEqual(found.unlike, ())
        moved = self.moved(found)
        # The liquid line 4 °F warmer at the same head: 4 °F less subcooling.
        self.assertAlmostEqual(moved["subcooling"] * 1.8, -4.0, places=6)
        # 10 °F on the line and 3 °F of saturation (118 to 112 psig of R-410A).
        self.assertAlmostEqual(moved["superheat"] * 1.8, 13.0, delta=0.4)
        self.assertNotIn("heat_delivered", moved)

    def test_other_air_is_named_before_the_machine_is_blamed(self):
        hotter = SPRING | readings(oa=101, liq=410)
        found = compared(case(SPRING), case(hotter))
        said = found.unlike[0].text("ip")
        self.assertIn("88.0 °F then, 101.0 °F later", said)
        self.assertIn("weather", said)

    def test_two_winters_show_their_heat_and_a_summer_beside_a_winter_is_refused(self):
        weaker = WINTER | readings(sa=86)
        found = compared(case(WINTER, "heating"), case(weaker, "heating"))
        moved = self.moved(found)
        self.assertAlmostEqual(moved["rise"] * 1.8, -6.0, places=6)
        self.assertLess(moved["heat_delivered"], -1_500)
        self.assertNotIn("temperature_split", moved)
        mixed = compared(case(SPRING), case(WINTER, "heating"))
        self.assertFalse(mixed.same_mode)
        self.assertIn("other way", mixed.unlike[0].text("ip"))

    def test_what_one_did_not_read_does_not_move(self):
        found = compared(case(SPRING), case({k: v for k, v in SPRING.items() if "wet" not in k}))
        moved = self.moved(found)
        self.assertIsNone(moved["return_air_wet_bulb"])
