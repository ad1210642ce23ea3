"""Where recovered refrigerant may go, what becomes of it, and how much goes in first."""

import unittest
from dataclasses import replace

from nudge.core.language.errors import CoreError
from nudge.core.opening.first_fill import FILL_SCHOOLS, first_fill, phase_for
from nudge.core.opening.recovery import FATES, Came, Coming, Vessel, check_vessel, fate_of
from nudge.core.physics.chart.chart_text import read_chart
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.circuit.tubes import LiquidPipe

PSI = 6.894757
GREY = Vessel("grey one", "R-410A", takes_flammable=False, rated_kpa=400 * PSI, in_date=True)


def refused(vessel, coming):
    try:
        check_vessel(vessel, coming)
    except CoreError as no:
        return no.text("ip")
    return ""


class VesselTest(unittest.TestCase):
    def test_the_right_one_takes_it(self):
        self.assertEqual(check_vessel(GREY, Coming("R-410A")), ())

    def test_every_reason_not_to(self):
        for vessel, coming, words in (
            (GREY, Coming("R-22"), "holds R-410A, this is R-22"),
            (GREY, Coming("R-410A", "burnt"), "marked for burnt"),
            (GREY, Coming("R-410A", "mixed"), "marked mixed"),
            (replace(GREY, condition="burnt"), Coming("R-410A"), "is lost"),
            (replace(GREY, refrigerant="R-32"), Coming("R-32"), "not marked for flammable"),
            (replace(GREY, in_date=False), Coming("R-410A"), "past its test date"),
        ):
            with self.subTest(words):
                self.assertIn(words, refused(vessel, coming))

    def test_a_cylinder_of_older_days_is_too_weak_for_r410a(self):
        # At 130 °F R-410A stands at 478 psig; five quarters of 350 are 437, of 400 are 500.
        self.assertIn("reaches 478", refused(replace(GREY, rated_kpa=350 * PSI), Coming("R-410A")))
        self.assertEqual(refused(GREY, Coming("R-410A")), "")
        weak = replace(GREY, refrigerant="R-22", rated_kpa=260 * PSI)
        self.assertEqual(refused(weak, Coming("R-22")), "")  # 297 of 325

    def test_what_nobody_wrote_down_is_asked_not_refused(self):
        found = check_vessel(replace(GREY, rated_kpa=None, in_date=None), Coming("R-410A"))
        self.assertIn("read its collar", found[0].text("ip"))

    def test_a_mixed_cylinder_takes_any_mixture(self):
        spoiled = replace(GREY, condition="mixed", refrigerant="R-22")
        self.assertEqual(refused(spoiled, Coming("R-410A", "mixed")), "")


class FateTest(unittest.TestCase):
    def test_the_first_that_applies(self):
        for came, key in (
            (Came("mixed"), "destroy"),
            (Came("burnt"), "reclaim"),
            (Came(acid="strong"), "reclaim"),
            (Came(acid="none", was_air_in_it=True), "reclaim"),
            (Came(acid="none", is_blend=True, leaked=True), "reclaim"),
            (Came(acid="slight"), "recycle"),
            (Came(acid="none"), "reuse"),
            (Came(), "recycle"),
        ):
            self.assertEqual(fate_of(came).key, key, came)

    def test_never_anybody_else_s_system(self):
        for row in FATES:
            if row.key in ("reuse", "recycle"):
                self.assertIn("own system", row.said)


class FirstFillTest(unittest.TestCase):
    def plate(self, device=MeteringDevice.TXV, **more):
        usual = {"factory_charge_kg": 3.0, "line_length_included_m": 5.0, "liquid_line_mm": 9.525}
        return Plate("R-410A", device, **{**usual, **more})

    def test_the_schools(self):
        table = read_chart("charge_by_line", "length, 3/4\n10, 0\n50, 20", "ip")
        by_table = {"charts": (table,), "vapour_line_mm": 19.05}
        for plate, school, share in (
            (self.plate(line_set_length_m=5.0), "sheet_less_5", 0.95),
            (self.plate(line_set_length_m=5.0, charge_g_per_m=50.0), "full_sheet", 1.0),
            (self.plate(MeteringDevice.EEV, line_set_length_m=5.0), "full_sheet", 1.0),
            (self.plate(line_set_length_m=0.0), "plate_alone", 1.0),
        ):
            found = first_fill(plate)
            self.assertEqual(found.school.key, school)
            self.assertAlmostEqual(found.kg, share * 3.0, places=6)
        sheet = first_fill(self.plate(line_set_length_m=50 * 0.3048, **by_table))
        self.assertAlmostEqual(sheet.kg, 3.0 + 20 * 0.0283495, places=5)

    def test_a_silent_plate_takes_what_came_out_if_it_ran_right(self):
        silent = Plate("R-410A", MeteringDevice.TXV)
        self.assertEqual(first_fill(silent, 2.7, ran_right=True).kg, 2.7)
        self.assertEqual(first_fill(silent, 2.7, ran_right=False).school.key, "sheet_less_5")
        self.assertIn("before it runs", first_fill(silent, 2.7, True).said.text("ip"))
        self.assertTrue(all(row.reason and row.when for row in FILL_SCHOOLS.values()))

    def test_a_plant_with_many_rooms_is_filled_by_its_pipes_and_never_by_one_line_set(self):
        pipes = (LiquidPipe(12.7, 40.0, 110.0),)
        drawn = self.plate(line_set_length_m=50.0, liquid_pipes=pipes)
        found = first_fill(drawn, 5.0, ran_right=True)
        self.assertEqual((found.school.key, round(found.kg, 6)), ("full_sheet", 7.4))
        bare = first_fill(self.plate(line_set_length_m=50.0, liquid_pipes=()))
        self.assertEqual((bare.school.key, bare.kg), ("pipes_unwritten", 3.0))
        self.assertIn("write its liquid pipes", bare.said.text("ip"))
        new = first_fill(drawn, brought_kg=3.0)
        self.assertIn("for the liquid pipes", new.said.text("ip"))

    def test_a_blend_breaks_the_vacuum_as_liquid(self):
        self.assertEqual(phase_for("R-454B").key, "blend_liquid")
        self.assertEqual(phase_for("R-32").key, "pure_vapour")


if __name__ == "__main__":
    unittest.main()
