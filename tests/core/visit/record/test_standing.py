import unittest
from dataclasses import dataclass

from nudge.core.visit.record.standing import addressed, current, standing


@dataclass
class _Row:
    id: str
    point: str = "ll"
    corrects: str | None = None
    withdraws: str | None = None
    part: str | None = None


class StandingTest(unittest.TestCase):
    def test_each_part_has_its_own_readings(self):
        one, other, upstairs = _Row("a"), _Row("b"), _Row("c", part="unit 2")
        fixed = _Row("d", part="unit 2", corrects="c")
        self.assertEqual(current([one, other, upstairs])["ll"].id, "b")
        self.assertEqual(current([one, upstairs, fixed], "unit 2")["ll"].id, "d")
        found = addressed([one, other, upstairs, fixed])
        self.assertEqual(
            {key: row.id for key, row in found.items()}, {("", "ll"): "b", ("unit 2", "ll"): "d"}
        )

    def test_what_counts(self):
        a, b = _Row("a"), _Row("b")
        fix = _Row("fix", corrects="a")
        refix = _Row("refix", corrects="fix")
        for name, rows, ids in (
            ("a newer reading beside an older one", [a, b], ["a", "b"]),
            ("a correction replaces", [a, fix], ["fix"]),
            ("a correction of a correction", [a, fix, refix], ["refix"]),
            ("a withdrawal takes out", [a, b, _Row("w", withdraws="b")], ["a"]),
            (
                "undoing a correction brings the first back",
                [a, fix, _Row("w", withdraws="fix")],
                ["a"],
            ),
            (
                "undoing the second correction leaves the first",
                [a, fix, refix, _Row("w", withdraws="refix")],
                ["fix"],
            ),
        ):
            with self.subTest(name):
                self.assertEqual([row.id for row in standing(rows)], ids)

    def test_current_is_the_latest_of_each_point(self):
        rows = [_Row("a"), _Row("s", "sl"), _Row("b")]
        self.assertEqual({p: r.id for p, r in current(rows).items()}, {"ll": "b", "sl": "s"})
