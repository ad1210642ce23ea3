"""A system's book: baseline, drift, changes on purpose, what waits, the written charge."""

from datetime import date

from nudge.core.language.errors import CoreError, UnknownName
from nudge.services.baselines import against
from nudge.services.errors import NotFound
from nudge.services.system_records import SystemRecords
from nudge.services.work_order import Work
from tests.temporary import WithDatabase

RIGHT = "suct 118 liq 341 sl 52 ll 96 oa 88 ra 76 wb 64"
LOW = "suct 112 liq 333 sl 56 ll 101 oa 90 ra 77 wb 65"
SEEN = ("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")


class RecordsTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.records = SystemRecords(self.database, self.clock, self.visits)
        self.work = Work(self.database, self.clock, self.visits)

    def read(self, visit, line, settled=True):
        """A visit to the stacks, looked over, run and read."""
        self.visits.open(visit, "seed-library-stacks", "Yearly check")
        self.visits.happened(visit, f"{visit}-on", "system_started", self.clock.now)
        for number, key in enumerate(SEEN):
            self.visits.observe(visit, f"{visit}-{number}", key, True)
        self.clock.pass_minutes(25 if settled else 3)
        self.visits.hear(visit, f"{visit}-line", line, "ip", self.clock.now)

    def test_a_right_visit_is_kept_with_its_conditions(self):
        self.read("a", RIGHT)
        self.records.keep_baseline("a", "b1")
        kept = self.records.of("seed-library-stacks").standings[0].baseline
        self.assertEqual(kept.visit_id, "a")
        self.assertAlmostEqual(kept.kept["readings"]["outdoor_air_temp"], (88 - 32) / 1.8)
        self.assertAlmostEqual(kept.kept["derived"]["subcooling"] * 1.8, 8.8, delta=0.1)
        self.records.keep_baseline("a", "b1")  # sent twice, kept once
        self.assertEqual(
            self.records.of("seed-library-stacks").standings[0].baseline.sequence, kept.sequence
        )

    def test_what_is_not_settled_not_right_or_not_read_is_no_baseline(self):
        self.read("hasty", RIGHT, settled=False)
        with self.assertRaisesRegex(CoreError, "Running"):
            self.records.keep_baseline("hasty", "b1")
        self.read("low", LOW)
        with self.assertRaisesRegex(CoreError, "not: act first"):
            self.records.keep_baseline("low", "b2")
        self.visits.open("empty", "seed-library-stacks", "")
        with self.assertRaisesRegex(CoreError, "Nothing is judged"):
            self.records.keep_baseline("empty", "b3")
        with self.assertRaises(NotFound):
            self.records.keep_baseline("nowhere", "b4")

    def test_a_later_visit_is_laid_beside_it_and_noted_when_it_closes(self):
        self.read("a", RIGHT)
        self.records.keep_baseline("a", "b1")
        self.clock.pass_minutes(60 * 24 * 300)
        self.read("b", LOW)
        laid = against(self.visits.snapshot("b"))
        self.assertEqual(laid.baseline.visit_id, "a")
        self.assertEqual(laid.drift.causes[0].cause.key, "charge_lost")
        self.work.close("b", "test")
        self.assertIn("Charge has gone", self.visits.snapshot("b").visit.drift)
        self.assertIsNone(against(self.visits.snapshot("a")))  # not with itself

    def test_nothing_is_compared_across_a_cold_or_unsettled_visit(self):
        self.read("a", RIGHT)
        self.records.keep_baseline("a", "b1")
        self.read("cold", RIGHT.replace("oa 88", "oa 52"))
        self.assertIsNone(against(self.visits.snapshot("cold")))
        self.read("hasty", LOW, settled=False)
        self.assertIsNone(against(self.visits.snapshot("hasty")))

    def test_an_intended_change_counts_from_the_day_it_was_made(self):
        self.read("a", RIGHT)
        self.records.intend("a", "i0", "filter_kind", "before the baseline")
        self.clock.pass_minutes(5)
        self.records.keep_baseline("a", "b1")
        self.clock.pass_minutes(60 * 24 * 30)
        self.read("b", LOW)
        self.records.intend("b", "i1", "charge_set", "set to the chart")
        laid = against(self.visits.snapshot("b"))
        self.assertEqual(laid.intended, ("charge_set",))
        self.assertNotIn("charge_lost", [named.cause.key for named in laid.drift.causes])
        subcooling = next(m for m in laid.drift.moved if m.sign.key == "subcooling")
        self.assertTrue(subcooling.is_intended)
        self.records.intend("b", "i2", "", "", corrects="i1")  # taken back
        again = against(self.visits.snapshot("b"))
        self.assertEqual((again.intended, again.drift.causes[0].cause.key), ((), "charge_lost"))
        with self.assertRaises(UnknownName):
            self.records.intend("b", "i3", "painted", "")
        with self.assertRaisesRegex(CoreError, "500"):
            self.records.intend("b", "i4", "charge_set", "x" * 501)

    def test_an_ended_baseline_compares_nothing_until_the_next(self):
        self.read("a", RIGHT)
        self.records.keep_baseline("a", "b1")
        self.records.end_baseline("seed-library-stacks", "b2")
        self.read("b", LOW)
        self.assertIsNone(against(self.visits.snapshot("b")))
        self.assertEqual(list(self.records.of("seed-library-stacks").standings), [])

    def test_what_is_left_is_open_until_it_is_done_and_can_be_opened_again(self):
        self.records.defer("seed-library-now", "d1", "Wash the coil", "over_70", None)
        self.records.defer("seed-library-now", "d1", "Wash the coil", "over_70", None)
        self.records.defer("seed-library-now", "d2", "Bring the drier", "parts", date(2026, 8, 1))
        found = [row for row in self.records.deferred_of("seed-library-stacks") if not row.done_at]
        self.assertEqual({row.id for row in found} & {"d1", "d2"}, {"d1", "d2"})
        self.assertEqual(self.records.settle_deferred("d1", True), "seed-library-stacks")
        again = {row.id: row.done_at for row in self.records.deferred_of("seed-library-stacks")}
        self.assertEqual((again["d1"] is None, again["d2"] is None), (False, True))
        self.records.settle_deferred("d1", False)
        for text, season in (("", "any"), ("x", "someday"), ("x" * 501, "any")):
            with self.assertRaises(CoreError):
                self.records.defer("seed-library-now", "d3", text, season, None)
        with self.assertRaises(NotFound):
            self.records.settle_deferred("d9", True)

    def test_the_whole_charge_is_written_once_for_the_next_one(self):
        self.records.write_charge("seed-library-stacks", 3.1)
        system = self.records.of("seed-library-stacks").system
        self.assertEqual(
            (system.written_charge_kg, system.written_charge_at), (3.1, self.clock.now)
        )
        self.records.write_charge("seed-library-stacks", None)
        self.assertIsNone(self.records.of("seed-library-stacks").system.written_charge_at)
        for kg in (0, -1, 900):
            with self.assertRaises(CoreError):
                self.records.write_charge("seed-library-stacks", kg)
        with self.assertRaises(NotFound):
            self.records.write_charge("nowhere", 1.0)

    def test_snapshots_and_refrigerant_are_those_of_the_visits_and_the_ledger(self):
        found = self.records.of("clinic-waiting")
        self.assertEqual(
            [snap.visit_id for snap in found.snaps], ["clinic-now", "clinic-2", "clinic-1"]
        )
        self.assertAlmostEqual(found.added_kg / 0.0283495, 22, delta=0.01)  # 12 and 10 oz
        self.assertEqual(found.removed_kg, 0)
        for snap in found.snaps:
            self.assertGreater(snap.values["superheat"] * 1.8, 20)
            self.assertAlmostEqual(snap.outdoor_c, 30, delta=3)
        with self.assertRaises(NotFound):
            self.records.of("nowhere")
