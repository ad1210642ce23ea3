"""The ledger: whatever moves, is mistyped and is corrected, sums equal weights always."""

import unittest
from random import Random

from nudge.core.charging.ledger import (
    KNOCKED_MG,
    MG_PER_KG,
    SCALE_ERROR_MG,
    LedgerEntry,
    balance,
    in_mg,
    kind_named,
    standing_entries,
    weighed,
)
from nudge.core.language.errors import CoreError, UnknownName

TARE = 5 * MG_PER_KG


class LedgerTest(unittest.TestCase):
    def test_thousands_of_movements_and_corrections_balance_to_the_milligram(self):
        rng = Random(7)
        cylinders = {f"c{n}": 0 for n in range(6)}
        systems = {f"s{n}": 0 for n in range(20)}
        entries: list[LedgerEntry] = []
        live: dict[str, tuple[str, int, str, str]] = {}
        for number in range(4000):
            name = f"e{number}"
            if live and rng.random() < 0.15:  # a mistyped one: another stands in its place
                old, (kind, mg, cylinder, to) = rng.choice(list(live.items()))
                new = rng.choice((0, mg // 2, mg * 16))
                self._move(cylinders, systems, kind, new - mg, cylinder, to)
                entries.append(LedgerEntry(name, kind, new, cylinder, to, corrects=old))
                del live[old]
                live[name] = (kind, new, cylinder, to)
                continue
            kind = rng.choice(
                ("bought", "charged", "recovered", "moved", "lost", "found", "scale", "returned")
            )
            cylinder = rng.choice(list(cylinders))
            others = [c for c in cylinders if c != cylinder]
            to = {
                "charged": rng.choice(list(systems)),
                "recovered": rng.choice(list(systems)),
                "moved": rng.choice(others),
            }.get(kind, "")
            mg = rng.randrange(1, 3 * MG_PER_KG)
            self._move(cylinders, systems, kind, mg, cylinder, to)
            entries.append(LedgerEntry(name, kind, mg, cylinder, to))
            live[name] = (kind, mg, cylinder, to)
        found = balance(entries)
        self.assertEqual(
            {k: v for k, v in found.cylinders.items() if v},
            {k: v for k, v in cylinders.items() if v},
        )
        self.assertEqual({k: found.systems.get(k, 0) for k in systems}, systems)
        self.assertEqual(found.total, 0)
        self.assertEqual(len(standing_entries(entries)), len(live))

    @staticmethod
    def _move(cylinders, systems, kind, mg, cylinder, to):
        """The same by hand: what a person would do to two piles."""
        if kind in ("bought", "recovered", "found"):
            cylinders[cylinder] += mg
        else:
            cylinders[cylinder] -= mg
        if kind == "charged":
            systems[to] += mg
        if kind == "recovered":
            systems[to] -= mg
        if kind == "moved":
            cylinders[to] += mg

    def test_after_every_weighing_the_book_is_the_scale(self):
        rng = Random(3)
        entries = [LedgerEntry("first", "bought", 8 * MG_PER_KG, "c")]
        for number in range(500):
            held = balance(entries).cylinders["c"]
            gross = max(TARE + held + rng.randrange(-200_000, 200_000), TARE)
            found = weighed(held, gross, TARE)
            if found is not None:
                sign = kind_named(found.kind).sign
                self.assertEqual(sign * found.mg, gross - TARE - held)
                entries.append(LedgerEntry(f"w{number}", found.kind, found.mg, "c"))
            self.assertEqual(balance(entries).cylinders["c"], gross - TARE)
            self.assertEqual(balance(entries).total, 0)

    def test_what_a_scale_finds_is_named_by_its_size(self):
        held = 4 * MG_PER_KG
        self.assertIsNone(weighed(held, TARE + held, TARE))
        self.assertEqual(weighed(held, TARE + held - SCALE_ERROR_MG, TARE).kind, "scale")
        lost = weighed(held, TARE + held - 22 * 28_350, TARE)
        self.assertEqual((lost.kind, lost.mg), ("lost", 22 * 28_350))
        self.assertIn("22.0 oz less", lost.said.text("ip"))
        self.assertEqual(weighed(held, TARE + held + KNOCKED_MG, TARE).kind, "found")

    def test_weights_that_are_none_are_refused(self):
        for kg in (-0.1, 20_000, float("nan")):
            with self.subTest(kg), self.assertRaises(CoreError):
                in_mg(kg)
        with self.assertRaisesRegex(CoreError, "less than the empty cylinder"):
            weighed(0, TARE - MG_PER_KG, TARE)
        with self.assertRaises(UnknownName) as caught:
            balance([LedgerEntry("x", "chargd", 1, "c")])
        self.assertIn("charged", caught.exception.nearest)


if __name__ == "__main__":
    unittest.main()
