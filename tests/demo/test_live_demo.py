"""The demo's visit under way: what a newcomer finds, and that it can be solved as intended."""

from datetime import timedelta

from nudge.demo.skerrow_live import RUNNING_MINUTES, VISIT_ID
from nudge.services.instruments import Instruments
from nudge.services.stream import Stream
from nudge.services.yard import Yard
from tests.temporary import WithDatabase


class LiveDemoTest(WithDatabase):
    def setUp(self):
        super().setUp()
        with self.database.reading() as session:
            last = session.connection().exec_driver_sql("SELECT max(at_ms) FROM samples").scalar()
        self.clock.now = self.clock.now.fromtimestamp(last / 1000, self.clock.now.tzinfo)
        instruments = Instruments(self.database, self.clock, Stream(self.database))
        self.yard = Yard(self.database, self.clock, self.visits, instruments)

    def visit(self):
        return self.visits.snapshot(VISIT_ID)

    def wait(self, minutes):
        self.clock.now += timedelta(minutes=minutes)
        self.yard.play(VISIT_ID, minutes)

    def decision(self):
        return self.visit().assessment.decision

    def test_it_has_run_for_a_while_and_air_comes_before_the_clock(self):
        visit = self.visit()
        self.assertAlmostEqual(visit.context.minutes_running, RUNNING_MINUTES, delta=0.2)
        self.assertEqual(visit.live.settling.state, "settled")
        self.assertEqual(visit.live.lies, ())
        self.assertEqual(self.decision().headline, "Put the air right first.")
        self.assertTrue(visit.around.is_simulated)

    def test_air_comes_first_and_charge_is_only_added_once_it_is_proven(self):
        self.wait(4)
        self.assertNotEqual(self.decision().advice, "add")
        self.yard.work(VISIT_ID, "look", "open_indoor_panel")
        self.assertEqual(self.decision().advice, "do_not_charge")
        self.assertIn("filter_dirty", [b.gate.key for b in self.visit().assessment.breaches])
        self.yard.work(VISIT_ID, "filter", "change_filter")
        self.yard.work(VISIT_ID, "coil", "look_at_condenser")
        self.assertNotEqual(self.decision().advice, "add")  # just changed
        self.wait(16)
        self.assertEqual(self.visit().live.settling.state, "settled")
        self.assertIn(self.decision().advice, ("add", "find_leak", "do_not_charge"))
        low = self.visit().assessment.case.derived.subcooling
        for number in range(3):
            self.yard.work(VISIT_ID, f"dose{number}", "add_charge", 0.17)
            self.wait(13)
        done = self.visit()
        self.assertGreater(done.assessment.case.derived.subcooling, low + 3)
        self.assertEqual(done.live.settling.state, "settled")
        self.assertIn(self.decision().advice, ("leave", "do_not_charge", "add"))
        kept = self.visits.keep(VISIT_ID, "k", "")
        self.assertTrue(all(r.quality == "settled" for r in kept.visit.readings))
