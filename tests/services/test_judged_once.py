"""A write is safe before it is judged, judged once, outside the lock, and answers it all."""

import threading
from unittest.mock import patch

from sqlalchemy import event, func, select

from nudge.core.language.errors import CoreError
from nudge.core.language.units import Quantity, from_si
from nudge.core.visit.record.kept import Kept, read_answer, read_kept
from nudge.presenters.standing import standing_out
from nudge.services.verdicts import kept_of
from nudge.services.work_order import Work
from nudge.store.repositories.visits import latest_verdicts
from nudge.store.tables import Reading, Verdict
from tests.temporary import WithDatabase

RIGHT = "suct 118 liq 341 sl 52 ll 96 oa 88 ra 76 wb 64"
MOST_STATEMENTS, MOST_ASSESSMENTS = 40, 2


class JudgedOnceTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.work = Work(self.database, self.clock, self.visits)
        self.visits.open("v", "seed-library-stacks", "Warm")
        self.visits.happened("v", "on", "system_started", self.clock.now)
        self.clock.pass_minutes(20)
        self.visits.hear("v", "c1", RIGHT, "ip", self.clock.now)

    def counted(self, act):
        """Statements and assessments of a write with its whole answer."""
        statements, judged = [], []
        from nudge.core.charging import advise

        def assess(*given, real=advise.assess, **named):
            judged.append(1)
            return real(*given, **named)

        def seen(_connection, _cursor, statement, *_):
            statements.append(statement)

        event.listen(self.database.engine, "before_cursor_execute", seen)
        try:
            with patch.object(advise, "assess", assess):
                standing_out(act(), "ip")
        finally:
            event.remove(self.database.engine, "before_cursor_execute", seen)
        return len(statements), len(judged)

    def test_a_typed_reading_and_a_closing_cost_little(self):
        for name, act in (
            ("reading", lambda: self.visits.hear("v", "c2", "sl 53", "ip", self.clock.now)),
            ("closing", lambda: self.work.close("v", "left as it is")),
        ):
            with self.subTest(name):
                statements, assessments = self.counted(act)
                self.assertLessEqual(statements, MOST_STATEMENTS)
                self.assertTrue(1 <= assessments <= MOST_ASSESSMENTS, assessments)

    def test_what_was_written_is_safe_though_judging_breaks(self):
        broken = patch("nudge.services.snapshot.decided", side_effect=RuntimeError("broken"))
        with broken, self.assertRaises(RuntimeError):
            self.visits.hear("v", "c2", "sl 57", "ip", self.clock.now)
        line = self.visits.snapshot("v").current["suction_line_temp"]
        self.assertEqual(line.given_value, 57)

    def test_somebody_else_writes_while_it_is_judged(self):
        from nudge.services import snapshot

        def slow(*given, real=snapshot.decided, **named):
            if threading.current_thread() is not other:
                other.start()
                other.join(5)
            return real(*given, **named)

        other = threading.Thread(
            target=lambda: self.visits.hear("v", "c3", "ll 99", "ip", self.clock.now)
        )
        with patch.object(snapshot, "decided", slow):
            self.visits.hear("v", "c2", "sl 53", "ip", self.clock.now)
        self.assertFalse(other.is_alive())
        # The verdict that stands is the one that knew both.
        with self.database.reading() as session:
            kept = kept_of(latest_verdicts(session, ["v"])["v"])
        shown = {
            key: from_si(kept.readings[key], Quantity.TEMPERATURE, "ip")
            for key in ("suction_line_temp", "liquid_line_temp")
        }
        self.assertAlmostEqual(shown["suction_line_temp"], 53)
        self.assertAlmostEqual(shown["liquid_line_temp"], 99)

    def test_a_line_sent_twice_is_one_line_and_one_verdict(self):
        self.visits.hear("v", "c2", "sl 57", "ip", self.clock.now)
        counts = []
        for _ in range(2):
            with self.database.reading() as session:
                counts.append(
                    [
                        session.scalar(
                            select(func.count()).select_from(table).where(table.visit_id == "v")
                        )
                        for table in (Reading, Verdict)
                    ]
                )
            self.visits.hear("v", "c2", "sl 57", "ip", self.clock.now)
        self.assertEqual(counts[0], counts[1])

    def test_what_is_said_again_after_something_else_is_kept_again(self):
        def printed():
            with self.database.reading() as session:
                rows = session.scalars(select(Verdict).where(Verdict.visit_id == "v"))
                return [row.answer["derived"]["superheat"] for row in rows]

        self.visits.hear("v", "c2", "sl 57", "ip", self.clock.now)
        self.visits.hear("v", "c3", "sl 60", "ip", self.clock.now)
        self.visits.undo("v", "back")
        self.visits.judge_again("v")  # says the same once more: nothing new is kept
        first, second, third = printed()[-3:]
        self.assertEqual(first, third)
        self.assertAlmostEqual(second - first, 3, delta=0.11)  # shown to a tenth


class StepsBeforeTest(WithDatabase):
    """What stands before judging holds whatever would move refrigerant, everywhere."""

    LOW = "suct 106 liq 300 sl 60 ll 94 oa 86 ra 76 wb 63 sa 62 dl 170"
    SEEN = (
        "filter_clean",
        "evaporator_coil_clean",
        "condenser_coil_clean",
        "condenser_fan_ok",
        "readings_confirmed",
    )

    def read(self, *seen):
        self.visits.open("v", "seed-library-stacks", "Warm")
        self.visits.happened("v", "on", "system_started", self.clock.now)
        for key in seen:
            self.visits.observe("v", key, key, True)
        self.clock.pass_minutes(25)
        return self.visits.hear("v", "c1", self.LOW, "ip", self.clock.now)

    def test_an_unseen_coil_holds_the_dose_until_it_is_seen_or_skipped_with_a_reason(self):
        unseen = tuple(key for key in self.SEEN if key != "evaporator_coil_clean")
        held = self.read(*unseen)
        shown = standing_out(held, "ip")
        self.assertEqual(held.assessment.decision.key, "low_steps_open")
        self.assertEqual(shown.assessment.decision.hangs_on.form, "coils")
        self.assertIsNone(shown.assessment.decision.dose)
        self.assertEqual({s.key: s.state for s in shown.order.stages}["judge"], "blocked")
        work = Work(self.database, self.clock, self.visits)
        skipped = work.tick("v", "t1", "coils", "skipped", "sealed, seen last month")
        self.assertEqual(skipped.assessment.decision.advice, "add")

    def test_with_all_seen_it_is_told_to_add(self):
        self.assertEqual(self.read(*self.SEEN).assessment.decision.advice, "add")


class HeatingVisitTest(WithDatabase):
    def test_a_heating_check_is_met_as_heating_and_stands_where_work_is_open(self):
        self.visits.open("v", "seed-library-stacks", "On emergency heat")
        work = Work(self.database, self.clock, self.visits)
        work.set_kind("v", "heating_check")
        self.visits.happened("v", "on", "system_started", self.clock.now)
        self.clock.pass_minutes(30)
        line = "suct 96 liq 360 ts 38 ll 92 oa 38 ra 66 sa 92"
        shown = standing_out(self.visits.hear("v", "c1", line, "ip", self.clock.now), "ip")
        charge = shown.assessment.charge  # its heat is judged, charge is not
        self.assertEqual(
            (charge.headline, charge.advice), ("Read one more number.", "do_not_charge")
        )
        self.assertIn("airflow", charge.reason)
        self.assertEqual(shown.called["condensing_over_ambient"], "Condensing over return")
        self.assertNotIn("subcooling", shown.assessment.targets)
        self.assertEqual(shown.order.here, "air")
        self.assertNotIn("judge", [stage.key for stage in shown.order.stages])


class KeptTest(WithDatabase):
    def test_what_is_kept_comes_back_as_it_was(self):
        kept = Kept(
            "leave",
            "confirm",
            "Right.",
            ("dry",),
            {"suction_pressure": 800.0},
            {"subcooling": 5.5},
            {"subcooling": -0.25},
        )
        self.assertEqual(read_kept(kept.to_json()), kept)
        self.assertFalse(kept.was_right)
        with self.assertRaisesRegex(CoreError, "shape 9"):
            read_kept(kept.to_json() | {"version": 9})

    def test_an_old_verdict_of_which_only_the_printed_answer_was_kept_is_read(self):
        # 18 °F of subcooling is 10 K; 118 psig is 813.58 kPa; 3.6 °F over is 2 K.
        answer = {
            "charge": {"advice": "leave", "headline": "Right."},
            "hazards": [],
            "derived": {"subcooling": 18.0, "superheat": None, "gone_since": 3.0},
            "signs": [{"key": "condensing_over_ambient", "off": 3.6}, {"key": "gone", "off": 1}],
        }
        old = read_answer(answer, {"readings": {"suction_pressure": [118, "psig"]}})
        self.assertAlmostEqual(old.derived["subcooling"], 10)
        self.assertAlmostEqual(old.readings["suction_pressure"], 813.58, delta=0.01)
        self.assertAlmostEqual(old.off["condensing_over_ambient"], 2)
        self.assertEqual(set(old.derived), {"subcooling"})
        self.assertTrue(old.was_right)
        row = Verdict(answer=answer, request={}, kept=None)
        self.assertEqual(kept_of(row).headline, "Right.")
