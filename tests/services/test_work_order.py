"""Working through a visit: ticks, checks and notes land once; closing asks about what can hurt."""

from nudge.core.language.errors import CoreError, UnknownName
from nudge.services.errors import Closed, NotFound
from nudge.services.work_order import OpenAtTheEnd, Work
from tests.temporary import WithDatabase

HERE = "pottery-now"


class WorkTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.work = Work(self.database, self.clock, self.visits)

    def steps(self, visit=HERE):
        order = self.work.order(visit).order
        return {step.row.key: step for stage in order.stages for step in stage.steps}

    def test_a_tick_counts_once_and_the_last_one_counts(self):
        self.work.tick(HERE, "t1", "tools", "done", "")
        self.work.tick(HERE, "t1", "tools", "", "")  # the same entry again: already here
        self.assertEqual(self.steps()["tools"].state, "done")
        self.work.tick(HERE, "t2", "tools", "", "")
        self.assertEqual(self.steps()["tools"].state, "open")

    def test_what_the_visit_shows_cannot_be_ticked_away(self):
        self.work.tick(HERE, "t1", "circuit", "skipped", "")
        self.assertEqual(self.steps()["circuit"].state, "done")

    def test_several_ticks_are_one_write_or_none(self):
        with self.assertRaises(UnknownName):
            self.work.tick_all(HERE, {"a": "tools", "b": "dance"}, "done")
        self.assertEqual(self.steps()["tools"].state, "open")

    def test_a_check_is_kept_judged_and_remembered_by_its_labels_only(self):
        entries = {"rated": 14.1, "measured": 17.0}
        self.work.check(HERE, "c1", "compressor_amps", entries)
        self.work.check(HERE, "c1", "compressor_amps", entries)  # sent twice, kept once
        amps = [
            r for r in self.visits.snapshot(HERE).visit.readings if r.point == "compressor_amps"
        ]
        self.assertEqual(len(amps), 1)
        checks = {one.check.key: one for one in self.work.order(HERE).checks}
        self.assertEqual(checks["compressor_amps"].entries, entries)
        self.assertEqual(checks["compressor_amps"].finding.state, "bad")
        self.work.close(HERE, "test")
        self.visits.open("next", "pottery-kiln", "")
        checks = {one.check.key: one for one in self.work.order("next").checks}
        self.assertEqual(checks["compressor_amps"].entries, {})
        self.assertEqual(checks["compressor_amps"].remembered, {"rated": 14.1})

    def test_a_refused_check_writes_nothing(self):
        before = len(self.visits.snapshot(HERE).visit.readings)
        with self.assertRaises(CoreError):
            self.work.check(HERE, "c1", "compressor_amps", {"measured": 900.0})
        self.assertEqual(len(self.visits.snapshot(HERE).visit.readings), before)
        self.assertNotIn("compressor_amps", self.steps())

    def test_notes_belong_to_a_part_and_have_an_end(self):
        for subsystem, text in (("attic", "x"), ("outdoor", " "), ("outdoor", "x" * 4001)):
            with self.assertRaises(CoreError):
                self.work.note(HERE, "n", subsystem, text)
        self.work.note(HERE, "n1", "outdoor", "  Zażółć gęślą jaźń  ")
        self.assertEqual([note.text for note in self.work.order(HERE).notes], ["Zażółć gęślą jaźń"])

    def test_closing_names_everything_that_can_hurt(self):
        with self.assertRaises(OpenAtTheEnd) as caught:
            self.work.close(HERE)
        said = caught.exception.text("ip")
        for words in ("Ports bubble-tested", "Caps on", "Panels", "Disconnect", "say why"):
            self.assertIn(words, said)
        self.assertIsNone(self.visits.snapshot(HERE).visit.closed_at)
        self.assertEqual(self.steps()["ports"].state, "open")

    def test_liquid_at_the_compressor_is_named_with_its_number_in_both_units(self):
        self.visits.hear(HERE, "wet", "suct 63 sl 37", "ip", self.clock.now)
        with self.assertRaises(OpenAtTheEnd) as caught:
            self.work.close(HERE)
        self.assertIn("0.9 °F", caught.exception.text("ip"))
        self.assertIn("0.5 K", caught.exception.text("si"))

    def test_a_closed_visit_takes_nothing_more_and_closing_twice_is_once(self):
        self.work.close(HERE, "test")
        at = self.visits.snapshot(HERE).visit.closed_at
        self.clock.pass_minutes(5)
        self.assertEqual(self.work.close(HERE).visit.closed_at, at)
        for write in (
            lambda: self.work.tick(HERE, "t9", "tools", "done", ""),
            lambda: self.work.note(HERE, "n9", "site", "late"),
            lambda: self.work.check(HERE, "c9", "drain", {"runs": "yes"}),
            lambda: self.work.set_kind(HERE, "yearly_check"),
        ):
            with self.assertRaises(Closed):
                write()
        with self.assertRaises(NotFound):
            self.work.order("nowhere")

    def test_a_dose_wants_its_cylinder_weighed_back_and_a_final_reading(self):
        from nudge.services.workshop import Workshop

        workshop = Workshop(self.database, self.clock)
        workshop.shelf.dose(HERE, "dose", "shelf-22", 0.1, removes=False)
        self.assertEqual(self.steps()["weighed"].state, "open")
        self.assertEqual(self.steps()["final"].state, "open")
        self.clock.pass_minutes(12)
        self.visits.hear(HERE, "after", "suct 64 liq 205 sl 55 ll 95", "ip", self.clock.now)
        held = workshop.shelf.one("shelf-22")
        gross = (held.cylinder.tare_mg + held.held_mg) / 1e6
        workshop.shelf.weigh("w1", "shelf-22", gross, HERE)
        self.assertEqual(self.steps()["weighed"].state, "done")
        self.assertEqual(self.steps()["final"].state, "done")
