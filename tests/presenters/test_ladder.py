"""A cold room's ladder in the Loop: what its design asks for stands at its own height."""

from nudge.presenters.visits import visit_out
from tests.temporary import WithDatabase


class LadderTest(WithDatabase):
    def drawn(self, visit):
        return visit_out(self.visits.snapshot(visit), "ip").stage

    def test_both_rungs_stand_where_the_design_is_and_say_so(self):
        for drawn in self.drawn("fish-cooler-now"):
            with self.subTest(drawn.frame):
                rungs = {one.side: one for one in drawn.strokes if one.role == "rung"}
                self.assertEqual(set(rungs), {"high", "low"})
                level = next(
                    one for one in drawn.strokes if one.role == "level" and one.side == "low"
                )
                # It boils at 19.0 and should at 28.5 °F: the rung lies over the level.
                self.assertLess(rungs["low"].points[2][1], level.points[0][1])
                words = " ".join(one.text for one in drawn.letters)
                self.assertIn("28.5", words)
                self.assertIn("Box 38.5", words)

    def test_a_house_has_no_ladder(self):
        for drawn in self.drawn("clinic-now"):
            self.assertEqual([one for one in drawn.strokes if one.role == "rung"], [])
