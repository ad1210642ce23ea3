from sqlalchemy import func, select

from nudge.core.language.errors import OutOfRange, UnknownName
from nudge.services.book import Book
from nudge.services.errors import Closed, NotFound, NotUnderstood
from nudge.store.repositories.visits import latest_verdicts
from nudge.store.tables import Reading, Verdict
from tests.temporary import WithDatabase

FIVE = "suct 118 liq 341 sl 52 ll 96 oa 88"


class VisitsTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.visits.open("v", "seed-library-stacks", "Warm")
        self.visits.happened("v", "started", "system_started", self.clock.now)
        self.clock.pass_minutes(20)

    def hear(self, line, callout_id="c1", units="ip"):
        return self.visits.hear("v", callout_id, line, units, self.clock.now)

    def count(self, table):
        with self.database.reading() as session:
            return session.scalar(select(func.count()).select_from(table))

    def test_five_numbers_make_a_verdict_that_is_kept_as_given(self):
        snapshot = self.hear(FIVE)
        self.assertEqual(snapshot.assessment.decision.advice, "leave")
        self.assertAlmostEqual(snapshot.context.minutes_running, 20)
        with self.database.reading() as session:
            kept = latest_verdicts(session, ["v"])["v"]
            self.assertEqual(kept.answer["charge"]["advice"], "leave")
        self.assertEqual(kept.request["readings"]["suction_pressure"], [118, "psig"])

    def test_a_gate_is_passed_with_a_reason_until_that_is_taken_back(self):
        self.hear("suct 118 liq 341 sl 52 ll 96 oa 62")
        shut = self.visits.snapshot("v").assessment
        self.assertEqual(shut.decision.headline, "Too cold outdoors to judge charge.")
        open_ = self.visits.pass_gate("v", "p1", "outdoor_below_70", "collar is on").assessment
        self.visits.pass_gate("v", "p1", "outdoor_below_70", "sent twice")
        said = {b.gate.key: b.message.text("ip") for b in open_.breaches}
        self.assertIn("because: collar is on.", said["outdoor_below_70"])
        self.assertNotEqual(open_.decision.headline, shut.decision.headline)
        with self.database.reading() as session:
            kept = latest_verdicts(session, ["v"])["v"].answer["readiness"]
        self.assertIn("collar is on", str([g for g in kept if g["passed"]]))
        back = self.visits.pass_gate("v", "p2", "outdoor_below_70", "").assessment
        self.assertEqual(back.decision.headline, shut.decision.headline)
        with self.assertRaises(UnknownName):
            self.visits.pass_gate("v", "p3", "not_running", "no")

    def test_a_line_sent_twice_is_one_line(self):
        self.hear(FIVE)
        before = self.count(Reading)
        self.hear(FIVE)
        self.hear("suct 90", "c1")  # the id decides: a retry never adds
        self.assertEqual(self.count(Reading), before)

    def test_a_line_with_one_wrong_word_stores_nothing(self):
        before = self.count(Reading), self.count(Verdict)
        for line in ("suct 118 lik 341", "suct 118 liq 800", "liq 640 sl 52", "", "hello"):
            with self.subTest(line), self.assertRaises(NotUnderstood):
                self.hear(line, f"c-{line}"[:20])
        self.assertEqual((self.count(Reading), self.count(Verdict)), before)

    def test_units_are_kept_as_given(self):
        row = self.hear("sl 11c suct 8.1bar").current
        self.assertEqual(
            (row["suction_line_temp"].given_value, row["suction_line_temp"].given_unit), (11, "°C")
        )
        self.assertEqual(row["suction_pressure"].given_unit, "bar")

    def test_a_correction_is_a_new_row_with_the_old_ones_time(self):
        first = self.hear(FIVE).current["liquid_line_temp"]
        self.clock.pass_minutes(3)
        fixed = self.visits.correct("v", first.id, "fix", "91", "ip")
        new = fixed.current["liquid_line_temp"]
        self.assertEqual((new.corrects, new.given_value), (first.id, 91))
        self.assertEqual(new.taken_at, first.taken_at)
        self.assertIn(first.id, [row.id for row in fixed.visit.readings])
        self.assertGreater(fixed.assessment.case.derived.subcooling * 1.8, 13)

    def test_fix_on_the_line_corrects_and_undo_brings_it_back(self):
        first = self.hear(FIVE).current["liquid_line_temp"]
        self.assertEqual(
            self.hear("fix ll 97", "c2").current["liquid_line_temp"].corrects, first.id
        )
        self.assertEqual(self.visits.undo("v", "w1").current["liquid_line_temp"].id, first.id)
        self.assertEqual(self.visits.undo("v", "w2").current, {})
        self.assertEqual(self.visits.undo("v", "w3").current, {})

    def test_undo_sent_twice_undoes_once(self):
        self.hear("suct 118", "c1")
        self.hear("suct 119", "c2")
        self.visits.undo("v", "w1")
        again = self.visits.undo("v", "w1")
        self.assertEqual(again.current["suction_pressure"].given_value, 118)

    def test_one_reading_can_be_taken_out(self):
        row = self.hear(FIVE).current["outdoor_air_temp"]
        self.assertNotIn("outdoor_air_temp", self.visits.withdraw("v", row.id, "w").current)

    def test_ticking_one_thing_unticks_its_opposite(self):
        self.visits.observe("v", "o1", "filter_dirty", True)
        self.visits.observe("v", "o2", "filter_clean", True)
        self.assertEqual(self.visits.snapshot("v").observations, {"filter_clean"})
        self.visits.observe("v", "o3", "filter_clean", False)
        self.assertEqual(self.visits.snapshot("v").observations, frozenset())
        with self.assertRaises(UnknownName):
            self.visits.observe("v", "o4", "filter_shiny", True)

    def test_a_change_starts_the_settling_time_again(self):
        self.visits.happened("v", "e", "something_changed", self.clock.now)
        self.clock.pass_minutes(4)
        keys = [b.gate.key for b in self.hear(FIVE).assessment.breaches]
        self.assertIn("just_changed", keys)

    def test_a_clock_that_runs_ahead_does_not_write_into_the_future(self):
        later = self.clock.now.replace(year=2031)
        row = self.visits.hear("v", "c", "suct 118", "ip", later).current["suction_pressure"]
        self.assertEqual(row.taken_at, self.clock.now)

    def test_a_closed_visit_is_not_written_on_and_can_be_opened_again(self):
        self.visits.close("v")
        with self.assertRaises(Closed):
            self.hear(FIVE)
        self.visits.reopen("v")
        self.assertIsNotNone(self.hear(FIVE).assessment)

    def test_a_plate_changed_later_never_loses_readings(self):
        self.hear("liq 480 ll 96")
        book = Book(self.database, self.clock)
        book.change_system("seed-library-stacks", {"refrigerant": "R-134a"}, was_wrong=True)
        snapshot = self.visits.snapshot("v")
        self.assertIsNone(snapshot.assessment)
        self.assertIn("R-134a pressure", snapshot.problem.text("ip"))
        self.assertEqual(len(snapshot.current), 2)

    def test_a_refused_plate_change_changes_nothing(self):
        book = Book(self.database, self.clock)
        with self.assertRaises(OutOfRange):
            book.change_system("seed-library-stacks", {"name": "New", "target_subcooling_k": 90.0})
        self.assertEqual(book.system("seed-library-stacks").system.name, "Stacks split")

    def test_strangers(self):
        with self.assertRaises(NotFound):
            self.visits.snapshot("nobody")
        with self.assertRaises(NotFound):
            self.visits.open("x", "no-such-system", "")
