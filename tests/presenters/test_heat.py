"""The heating line and the numbers beside it, of the demo's lodge."""

import unittest
from pathlib import Path
from shutil import copyfile
from tempfile import TemporaryDirectory

from nudge.presenters.drawing.frames import FRAMES
from nudge.presenters.drawing.lettering import box_of
from nudge.presenters.heat import heat_out
from nudge.services.visits import Visits
from nudge.store.database import Database
from tests.temporary import HandClock, skerrow


class HeatOutTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        folder = TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        copyfile(skerrow() / "nudge.sqlite3", Path(folder.name) / "nudge.sqlite3")
        database = Database(Path(folder.name))
        cls.addClassCleanup(database.close)
        cls.visits = Visits(database, HandClock())
        cls.heat = heat_out(cls.visits.snapshot("school-lodge-now"), "ip")

    def test_the_numbers_stand_beside_what_is_expected(self):
        rows = {row.label: row for row in self.heat.rows}
        # 1,180 CFM, 23 °F, by the density of air at 92 °F: 28,200; the plate's line at 37 °F.
        self.assertAlmostEqual(rows["Heat"].now.value, 28_170, delta=120)
        self.assertAlmostEqual(rows["Heat"].expected.value, 27_540 + 2 * 280, delta=60)
        self.assertEqual(rows["Rise"].text, "23.0")
        self.assertAlmostEqual(rows["Power"].now.value, 2_902, delta=1)
        self.assertAlmostEqual(rows["COP"].now.value, 28_170 / 3.412 / 2_902, delta=0.03)
        self.assertEqual(self.heat.place, "right")

    def test_the_balance_point_is_where_the_lines_cross(self):
        # 640 Btu/h for a degree at 69 °F indoors meets 22,500 + 280 for a degree over 17.
        self.assertAlmostEqual(float(self.heat.balance_point.split()[0]), 28.7, delta=0.3)

    def test_nothing_stands_outside_its_frame_or_on_another_word(self):
        self.assertEqual([one.frame for one in self.heat.line], list(FRAMES))
        for drawn in self.heat.line:
            boxes = [box_of(one) for one in drawn.letters]
            for left, top, right, bottom in boxes:
                self.assertTrue(left >= 0 and top >= 0)
                self.assertTrue(right <= drawn.width + 1 and bottom <= drawn.height)
            for n, (left, top, right, bottom) in enumerate(boxes):
                for other in boxes[n + 1 :]:
                    apart = (
                        other[0] >= right
                        or other[2] <= left
                        or other[1] >= bottom - 2
                        or other[3] <= top + 2
                    )
                    self.assertTrue(apart, (drawn.frame, drawn.letters[n].text))
            for stroke in drawn.strokes:
                for x, y in stroke.points:
                    self.assertTrue(0 <= x <= drawn.width and 0 <= y <= drawn.height)

    def test_last_winters_dots_and_todays(self):
        dots = self.heat.line[-1].dots
        self.assertEqual([dot.is_now for dot in dots], [False, False, False, True])
        whisker = [s for s in self.heat.line[-1].strokes if s.role == "whisker"]
        self.assertEqual(len(whisker), 1)
        self.assertEqual({x for x, _ in whisker[0].points}, {dots[-1].x})

    def test_in_cooling_there_is_no_heat(self):
        self.assertIsNone(heat_out(self.visits.snapshot("clinic-now"), "ip"))


if __name__ == "__main__":
    unittest.main()
