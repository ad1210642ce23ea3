"""What pipes cost and hold, against figures of the trade; a plant beside its own earlier log."""

import unittest
from dataclasses import replace

from nudge.core.language.errors import CoreError
from nudge.core.language.units import KPA_PER_PSI, fahrenheit
from nudge.core.multizone.against import against
from nudge.core.multizone.headings import guess_headings, left_out
from nudge.core.multizone.lines import PlantLines
from nudge.core.multizone.signs import ZoneSigns
from nudge.core.multizone.subcoolers import subcooler_steps
from nudge.core.multizone.weigh import zone_table
from nudge.core.physics.circuit.tubes import LiquidPipe
from nudge.core.physics.zones.parts import IndoorUnit, parts_of
from tests.core.multizone.logs import PARTS, flat


class LinesTest(unittest.TestCase):
    def lines(self, lift_m=0.0, **columns):
        room = replace(PARTS.rooms[0], lift_m=lift_m)
        parts = replace(PARTS, rooms=(room, *PARTS.rooms[1:]))
        return PlantLines(flat(90, **columns), parts).of_room(room.key)

    def test_ten_degrees_between_plant_and_coil_are_22_psi(self):
        at = {
            "evaporating_temp": lambda _: fahrenheit(32),
            "r1__coil_inlet": lambda _: fahrenheit(42),
        }
        loss = self.lines(**at)["zone_line_loss"]
        self.assertAlmostEqual(loss.value / KPA_PER_PSI, 22, delta=1)

    def test_twenty_metres_of_lifted_liquid_cost_28_psi_and_6_4_degrees(self):
        at = {"condensing_temp": lambda _: 40.0, "liquid_temp": lambda _: 27.0}
        found = self.lines(lift_m=20.0, **at)
        self.assertAlmostEqual(found["zone_lift"].value / KPA_PER_PSI, 28, delta=2)
        self.assertAlmostEqual(found["zone_lift_subcooling"].value * 1.8, 6.4, delta=0.6)
        lower = self.lines(lift_m=-20.0, **at)
        self.assertLess(lower["zone_lift"].value, 0)  # it gains on its way down
        self.assertNotIn("zone_lift", self.lines())

    def test_a_room_that_never_called_tells_nothing_of_its_pipe(self):
        self.assertNotIn("zone_line_loss", self.lines(r1__calls=lambda _: 0.0))

    def test_a_drawing_refuses_a_size_written_twice_and_one_that_no_tube_has(self):
        rooms = [IndoorUnit("1", "Hall")]
        for pipes in ([LiquidPipe(9.5, 5.0), LiquidPipe(9.525, 6.0)], [LiquidPipe(10.9, 5.0)]):
            with self.assertRaises(CoreError):
                parts_of("R-410A", rooms, pipes)


class SubcoolersTest(unittest.TestCase):
    def test_each_step_is_a_difference_of_means_and_only_where_both_points_are(self):
        at = {"condensing_temp": 45.0, "liquid_between_temp": 35.0, "liquid_temp": 25.0,
              "evaporating_temp": 6.0, "subcooler_return_temp": 8.2}  # fmt: skip
        log = flat(90, **{key: lambda _, v=value: v for key, value in at.items()})
        found = {key: one.value for key, one in subcooler_steps(log).items()}
        self.assertEqual(
            {key: round(value, 6) for key, value in found.items()},
            {
                "zone_subcooler_first": 10.0,
                "zone_subcooler_second": 20.0,
                "zone_subcooler_step": 10.0,
                "zone_subcooler_return": 2.2,
            },
        )
        self.assertEqual(set(subcooler_steps(flat(90))), {"zone_subcooler_second"})

    def test_a_log_without_them_is_not_asked_for_them(self):
        names = ["Time", "OU Liquid [°C]", "IU1 Room [°C]"]
        self.assertNotIn("subcoolers", " ".join(left_out(guess_headings(names).columns)).replace(
            "Liquid after the subcoolers", ""))  # fmt: skip


class AgainstTest(unittest.TestCase):
    THEN = ZoneSigns(
        "cooling", {"hz": 60.0, "liquid_gap": 21.0, "outdoor_lift": 31.0}, {"1": {"calls": 0.5}}
    )

    def test_what_moved_is_told_and_the_furthest_first(self):
        self.assertEqual(against(self.THEN, self.THEN, zone_table()).moved, ())
        now = ZoneSigns(
            "cooling", {"hz": 85.0, "liquid_gap": 2.0, "outdoor_lift": 33.0}, {"1": {"calls": 0.95}}
        )
        found = against(now, self.THEN, zone_table())
        self.assertEqual([one.key for one in found.moved], ["liquid_gap", "calls", "hz"])
        self.assertEqual((found.moved[0].then, found.moved[0].now), (21.0, 2.0))

    def test_another_season_is_not_compared_and_says_why(self):
        colder = replace(self.THEN, plant={**self.THEN.plant, "outdoor_lift": 20.0})
        self.assertIn("another day", against(colder, self.THEN, zone_table()).apart.text("si"))
        heats = replace(self.THEN, way="heating")
        self.assertIn("heating now", against(heats, self.THEN, zone_table()).apart.text("si"))
