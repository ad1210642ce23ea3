"""The shelf: doses on a visit and in the ledger together, weighings, corrections, refusals."""

from random import Random
from unittest.mock import patch

from nudge.core.charging.ledger import MG_PER_KG, balance
from nudge.core.language.errors import CoreError, UnknownName
from nudge.services import shelf as shelf_module
from nudge.services.cylinders import entry_of as _entry
from nudge.services.errors import Closed, NotFound
from nudge.services.workshop import Workshop
from nudge.store.repositories import shelf as repository
from tests.temporary import WithDatabase

OZ = 0.0283495
VISIT, SYSTEM = "pottery-now", "pottery-kiln"  # R-22, under way


class WithShelf(WithDatabase):
    def setUp(self):
        super().setUp()
        self.workshop = Workshop(self.database, self.clock)
        self.shelf = self.workshop.shelf
        self.shelf.add("mine", "Mine", "R-22", "charging", 5.0, 11.0)

    def ledger(self):
        with self.database.reading() as session:
            return balance(map(_entry, repository.movements(session)))

    def held(self, cylinder="mine"):
        return self.shelf.one(cylinder).held_mg / MG_PER_KG


class DosesTest(WithShelf):
    def test_a_dose_is_on_the_visit_and_in_the_ledger_and_counts_once(self):
        before = self.ledger().systems.get(SYSTEM, 0)
        for _ in range(2):  # sent twice over a bad network
            snapshot = self.shelf.dose(VISIT, "d1", "mine", 4 * OZ, removes=False)
        self.assertEqual(
            [e.amount_kg for e in snapshot.visit.standing_events if e.id == "d1"], [4 * OZ]
        )
        self.assertAlmostEqual(self.held(), 6.0 - 4 * OZ, places=6)
        self.assertEqual(self.ledger().systems[SYSTEM] - before, round(4 * OZ * MG_PER_KG))
        self.assertEqual(self.ledger().total, 0)
        self.assertEqual(snapshot.context.past.added_since_kg, 4 * OZ)

    def test_a_mistyped_dose_is_put_right_by_an_entry_in_its_place(self):
        self.shelf.dose(VISIT, "d1", "mine", 4 * OZ, removes=False)
        self.clock.pass_minutes(9)
        snapshot = self.shelf.correct_dose(VISIT, "d1", "fix", 5 * OZ)
        doses = [e for e in snapshot.visit.standing_events if e.amount_kg]
        self.assertEqual([(e.id, e.amount_kg) for e in doses], [("fix", 5 * OZ)])
        self.assertAlmostEqual(self.held(), 6.0 - 5 * OZ, places=6)
        self.assertEqual(len(self.shelf.written()), len(self.shelf.ledger()) + 1)
        again = self.shelf.correct_dose(VISIT, "fix", "none", 0.0)
        self.assertEqual([e for e in again.visit.standing_events if e.amount_kg], [])
        self.assertAlmostEqual(self.held(), 6.0, places=6)
        self.assertEqual(self.ledger().total, 0)
        with self.assertRaisesRegex(CoreError, "corrected already"):
            self.shelf.correct_dose(VISIT, "d1", "late", 1 * OZ)
        with self.assertRaises(NotFound):
            self.shelf.correct_dose(VISIT, "no such", "x", 1 * OZ)

    def test_what_must_not_go_in_is_refused_and_nothing_is_written(self):
        self.shelf.add("red", "Red", "R-410A", "charging", 5.0, 11.0)
        self.shelf.add("grey", "Grey", "R-22", "recovery", 9.0, 10.0, 10.0)
        for cylinder, kg, removes, says in (
            ("red", 2 * OZ, False, "STOP.*R-410A.*R-22"),
            ("grey", 2 * OZ, False, "recovery cylinder"),
            ("mine", 2 * OZ, True, "no recovery cylinder"),
            ("mine", 40 * OZ, False, "Ounces, not pounds"),
            ("mine", 0.0, False, "over zero"),
            ("mine", -1.0, False, "no weight"),
            ("nowhere", OZ, False, "no cylinder"),
        ):
            with self.subTest(says), self.assertRaisesRegex(CoreError, says):
                self.shelf.dose(VISIT, f"no-{cylinder}-{kg}", cylinder, kg, removes)
        self.assertEqual(
            self.workshop.visits.snapshot(VISIT).visit.standing_events[-1].kind, "system_started"
        )
        self.assertAlmostEqual(self.held(), 6.0)
        sure = self.shelf.dose(VISIT, "meant", "mine", 40 * OZ, removes=False, sure=True)
        self.assertTrue(any(e.id == "meant" for e in sure.visit.events))
        with self.assertRaisesRegex(CoreError, "holds"):
            self.shelf.dose(VISIT, "more", "mine", 6.0, removes=False, sure=True)
        self.workshop.visits.close(VISIT)
        with self.assertRaises(Closed):
            self.shelf.dose(VISIT, "late", "mine", OZ, removes=False)

    def test_a_crash_half_way_leaves_neither_half(self):
        with (
            patch.object(shelf_module, "post", side_effect=RuntimeError("plug pulled")),
            self.assertRaises(RuntimeError),
        ):
            self.shelf.dose(VISIT, "d1", "mine", 4 * OZ, removes=False)
        snapshot = self.workshop.visits.snapshot(VISIT)
        self.assertFalse(any(e.id == "d1" for e in snapshot.visit.events))
        self.assertAlmostEqual(self.held(), 6.0)

    def test_recovered_goes_into_a_recovery_cylinder_up_to_its_limit(self):
        self.shelf.add("grey", "Grey", "R-22", "recovery", 9.0, 9.0, 1.0)
        limit = self.shelf.one("grey").limit_mg / MG_PER_KG
        self.assertAlmostEqual(limit, 0.8 * 1.19, delta=0.03)  # R-22 liquid at 77 °F: 1.19 kg/L
        self.shelf.dose(VISIT, "out", "grey", 0.3, removes=True)
        self.assertAlmostEqual(self.held("grey"), 0.3)
        self.shelf.dose(VISIT, "out2", "grey", 0.6, removes=True, sure=True)
        with self.assertRaisesRegex(CoreError, "bursts it"):
            self.shelf.dose(VISIT, "out3", "grey", 0.3, removes=True)


class WeighingTest(WithShelf):
    def test_what_is_missing_between_two_calls_is_named_with_its_size(self):
        self.assertIsNone(self.shelf.weigh("w0", "mine", 11.0))
        self.clock.pass_minutes(60 * 24 * 20)
        found = self.shelf.weigh("w1", "mine", 11.0 - 8 * OZ)
        self.assertIn("8.0 oz less", found.said.text("ip"))
        standing = self.shelf.one("mine")
        self.assertEqual(standing.last_loss.mg, round(8 * OZ * MG_PER_KG))
        self.assertAlmostEqual(standing.held_mg / MG_PER_KG, 6.0 - 8 * OZ, places=5)
        self.assertIsNone(self.shelf.weigh("w1", "mine", 11.0 - 8 * OZ))  # sent twice
        self.assertEqual(self.ledger().total, 0)

    def test_a_knocked_scale_or_another_cylinder_is_asked_about(self):
        with self.assertRaisesRegex(CoreError, "Is it this cylinder"):
            self.shelf.weigh("w", "mine", 9.0)
        self.assertAlmostEqual(self.held(), 6.0)
        self.shelf.weigh("w", "mine", 9.0, sure=True)
        self.assertAlmostEqual(self.held(), 4.0)
        with self.assertRaisesRegex(CoreError, "less than the empty"):
            self.shelf.weigh("w2", "mine", 3.0)
        with self.assertRaises(CoreError):
            self.shelf.weigh("w3", "mine", -3.0)

    def test_a_small_difference_is_the_scales_and_the_book_follows_it(self):
        self.shelf.weigh("w", "mine", 11.01)
        self.assertAlmostEqual(self.held(), 6.01, places=6)
        self.assertIsNone(self.shelf.one("mine").last_loss)


class MovingTest(WithShelf):
    def test_cylinders_fill_empty_and_pour_into_each_other(self):
        self.shelf.add("small", "Small", "R-22", "charging", 3.0, 3.0)
        self.shelf.move("m1", "moved", 1.5, "mine", to="small")
        self.shelf.move("m2", "bought", 2.0, "small")
        self.shelf.move("m3", "returned", 0.5, "mine")
        self.shelf.move("m3", "returned", 0.5, "mine")
        self.assertAlmostEqual(self.held(), 4.0)
        self.assertAlmostEqual(self.held("small"), 3.5)
        self.shelf.add("red", "Red", "R-410A", "charging", 5.0, 11.0)
        for kind, kg, to, says in (
            ("moved", 1.0, "red", "STOP"),
            ("moved", 1.0, None, "which other"),
            ("moved", 9.0, "small", "holds"),
            ("charged", 1.0, None, "on a visit"),
            ("lost", 1.0, None, "comes from weighing"),
        ):
            with self.subTest(says), self.assertRaisesRegex(CoreError, says):
                self.shelf.move("bad", kind, kg, "mine", to=to)
        with self.assertRaises(UnknownName):
            self.shelf.move("bad", "bougt", 1.0, "mine")

    def test_a_cylinder_that_cannot_be_is_refused(self):
        for fields, says in (
            (("x", "X", "R-9", "charging", 1.0, 2.0), "R-9"),
            (("x", "X", "R-22", "borrowed", 1.0, 2.0), "Say which"),
            (("x", "  ", "R-22", "charging", 1.0, 2.0), "name"),
            (("x", "X", "R-22", "charging", 3.0, 2.0), "less than empty"),
        ):
            with self.subTest(says), self.assertRaisesRegex(CoreError, says):
                self.shelf.add(*fields)

    def test_random_work_and_retries_keep_book_and_scale_together(self):
        rng = Random(5)
        self.shelf.add("grey", "Grey", "R-22", "recovery", 9.0, 9.0, 40.0)
        doses = []
        for number in range(60):
            name = f"n{number}"
            match rng.randrange(4):
                case 0:
                    self.shelf.dose(VISIT, name, "mine", rng.uniform(0.5, 3) * OZ, False)
                    doses.append(name)
                case 1:
                    self.shelf.dose(VISIT, name, "grey", rng.uniform(0.5, 3) * OZ, True)
                    doses.append(name)
                case 2 if doses:
                    old = doses.pop(rng.randrange(len(doses)))
                    self.shelf.correct_dose(VISIT, old, name, rng.uniform(0, 4) * OZ)
                    doses.append(name)
                case _:
                    gross = 5.0 + self.held() + rng.uniform(-0.05, 0.05)
                    self.shelf.weigh(name, "mine", gross)
                    self.assertAlmostEqual(self.held(), gross - 5.0, places=5)
            self.assertEqual(self.ledger().total, 0)
        events = self.workshop.visits.snapshot(VISIT).visit.standing_events
        net = sum(
            (1 if e.kind == "refrigerant_added" else -1) * e.amount_kg
            for e in events
            if e.amount_kg
        )
        booked = sum(
            (1 if m.kind == "charged" else -1) * m.mg
            for m in self.shelf.ledger()
            if m.visit_id == VISIT and m.kind in ("charged", "recovered")
        )
        self.assertAlmostEqual(net, booked / MG_PER_KG, places=4)


class LeaksTest(WithShelf):
    def test_leak_rates_follow_the_additions(self):
        demo = {leak.system.id: leak for leak in self.shelf.leaks()}
        clinic = demo["clinic-waiting"]
        self.assertEqual(round(clinic.added_mg / MG_PER_KG / OZ), 22)
        self.assertTrue(0 < clinic.rolling < 100)
        self.shelf.set_threshold(25)
        self.assertEqual(self.shelf.threshold(), 25)
        for percent in (0, -1, 101, float("nan")):
            with self.assertRaises(CoreError):
                self.shelf.set_threshold(percent)


if __name__ == "__main__":
    import unittest

    unittest.main()
