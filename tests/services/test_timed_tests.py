from datetime import timedelta

from nudge.core.language.errors import CoreError
from nudge.plant.faults import Present
from nudge.plant.room import Weather
from nudge.services.instruments import Instruments
from nudge.services.stream import Stream
from nudge.services.timed_tests import OverAlready, TimedTests
from nudge.services.visits import Visits
from nudge.services.yard import Yard
from tests.temporary import WithDatabase


class OpenedCircuitTest(WithDatabase):
    """A valve renewed on the simulated plant: nitrogen, vacuum and decay, each proven."""

    def setUp(self):
        super().setUp()
        self.visits.open("v", "seed-library-stacks", "Warm")
        self.visits.amend("v", lambda _, visit: setattr(visit, "kind", "commissioning"))
        self.restart()

    def restart(self):
        self.visits = Visits(self.database, self.clock, Stream(self.database))
        instruments = Instruments(self.database, self.clock, Stream(self.database))
        self.yard = Yard(self.database, self.clock, self.visits, instruments)
        self.tests = TimedTests(self.database, self.clock, self.visits)

    def set_up(self, *faults):
        present = tuple(Present(*fault) for fault in faults)
        self.yard.set_up("v", "split-3-410-valve", present, Weather(24.0), (24.0, 45.0), 3)
        self.job("recover_all")
        self.job("open_circuit")

    def job(self, key):
        self.clock.now += timedelta(seconds=5)
        return self.yard.work("v", f"{key}-{self.clock.now.timestamp()}", key)

    def play(self, minutes):
        self.clock.now += timedelta(minutes=minutes)
        self.yard.play("v", minutes)

    def begin(self, key, **settings):
        run_id = f"{key}-{self.clock.now.timestamp():.0f}"
        self.tests.begin("v", run_id, key, settings)
        return run_id

    def mark(self, run_id, kind, place=""):
        self.tests.mark("v", run_id, f"{kind}-{self.clock.now.timestamp()}", kind, place)

    def shows(self, run_id):
        return self.tests.one("v", run_id).outcome

    def facts(self):
        return self.visits.snapshot("v").folder.tests.proven

    def step(self, key):
        from nudge.services.work_order import order_now

        order = order_now(self.visits.snapshot("v")).order
        return next(s for stage in order.stages for s in stage.steps if s.row.key == key)

    def test_tight_and_dry_are_proven_one_after_the_other(self):
        self.set_up()
        self.job("raise_nitrogen")
        run = self.begin("nitrogen", gas="nitrogen", litres=11.0)
        self.play(16)
        self.assertEqual(self.shows(run).key, "holds")
        self.assertEqual(self.shows(run).state, "running", "bubbles come before it is tight")
        self.assertEqual(self.step("pressure_test").state, "open")
        self.mark(run, "joints_dry")
        self.tests.end("v", run, "e1")
        self.assertEqual(self.facts(), {"tight"})
        self.assertEqual(self.step("pressure_test").state, "done")
        self.assertFalse(self.step("pressure_test").by_hand)
        self.job("release_nitrogen")
        self.job("open_pump")
        run = self.begin("evacuation", hose="3/8", cores="out")
        self.play(25)
        self.assertEqual(self.shows(run).key, "reached")
        self.tests.end("v", run, "e2")
        self.job("shut_pump")
        run = self.begin("decay", oil="used")
        self.play(4)
        self.assertEqual(self.shows(run).key, "too_short")
        self.restart()
        self.play(18)
        shown = self.shows(run)
        self.assertEqual(shown.key, "dry", shown.headline.text("ip"))
        self.assertIn("Tightness is proven by nitrogen alone", shown.says[0].text("ip"))
        self.tests.end("v", run, "e3")
        self.assertEqual(self.facts(), {"tight", "evacuated", "dry"})
        self.assertEqual(self.step("vacuum").state, "done")
        self.clock.now += timedelta(minutes=1)
        self.visits.happened("v", "again", "drier_renewed", self.clock())
        self.assertEqual(self.facts(), set(), "opened again, nothing of it stands")

    def test_a_leaking_joint_is_no_tight_system_until_it_is_made_anew(self):
        self.set_up(("joint_leak", 0.6))
        self.job("raise_nitrogen")
        run = self.begin("nitrogen", litres=11.0)
        self.play(20)
        self.assertEqual(self.shows(run).key, "leaks")
        said = self.job("bubble_test")
        self.assertIn("flare at the outdoor unit", said)
        self.mark(run, "joint_bubbles", "flare at the outdoor unit")
        self.assertRaises(CoreError, self.job, "mend_joint")
        self.tests.end("v", run, "e")
        self.assertEqual(self.facts(), set())
        self.job("release_nitrogen")
        self.job("mend_joint")
        self.job("raise_nitrogen")
        run = self.begin("nitrogen", litres=11.0)
        self.play(20)
        self.mark(run, "joints_dry")
        self.tests.end("v", run, "e2")
        self.assertEqual(self.facts(), {"tight"})

    def test_water_is_never_called_dry(self):
        self.set_up(("wet_circuit", 0.5))
        self.job("open_pump")
        run = self.begin("evacuation")
        self.play(12)
        self.assertEqual(self.shows(run).key, "stalled_on_water")
        self.job("shut_pump")
        run = self.begin("decay")
        self.play(25)
        self.assertIn(self.shows(run).key, ("wet", "cannot_tell", "gives_off"))
        self.tests.end("v", run, "e")
        self.assertNotIn("dry", self.facts())

    def test_ticked_by_hand_it_says_that_nobody_measured_it(self):
        from nudge.presenters.visit_order import order_out
        from nudge.services.work_order import Work

        Work(self.database, self.clock, self.visits).tick("v", "t", "vacuum", "done", "")
        self.assertTrue(self.step("vacuum").not_measured)
        order = order_out(self.visits.snapshot("v"), "ip")
        label = next(s.label for g in order.stages for s in g.steps if s.key == "vacuum")
        self.assertIn("not measured", label)

    def test_two_run_at_once_and_one_kind_only_once(self):
        first, second = self.begin("ice_bath", clamp="suction_line_temp"), self.begin("filter")
        self.assertEqual(len(self.tests.of_visit("v")), 2)
        self.clock.now += timedelta(seconds=1)
        with self.assertRaises(CoreError) as refused:
            self.begin("filter")
        self.assertIn("runs already", str(refused.exception))
        self.tests.abort("v", second, "a", "The filter is stuck in its frame")
        self.assertEqual(self.shows(second).state, "aborted")
        self.assertIn("stuck in its frame", self.shows(second).headline.text("ip"))
        self.begin("filter")
        self.assertRaises(OverAlready, self.tests.mark, "v", second, "m", "filter_out")
        self.assertRaises(CoreError, self.tests.abort, "v", first, "b", "  ")

    def test_the_same_entry_sent_twice_is_one(self):
        run = self.begin("ice_bath", clamp="suction_line_temp")
        for _ in range(2):
            self.tests.type_in("v", run, "same", "suction_line_temp", 0.2)
        self.assertEqual(len(self.tests.one("v", run).run.typed["suction_line_temp"].values), 1)
        for _ in range(2):
            self.tests.end("v", run, "end")

    def test_typed_points_alone_are_a_decay(self):
        run = self.begin("decay", oil="new", gauge="system")
        for minute, pascal in ((0, 40.0), (5, 41.5), (10, 42.2), (15, 42.6), (20, 42.9), (25, 43)):
            self.tests.type_in("v", run, f"p{minute}", "vacuum_level", pascal)
            self.clock.now += timedelta(minutes=5)
        self.assertEqual(self.shows(run).key, "dry")

    def test_a_channel_silent_for_minutes_leaves_a_hole_that_is_said(self):
        self.set_up()
        self.job("open_pump")
        self.play(20)
        self.job("shut_pump")
        run = self.begin("decay")
        self.play(6)
        self.clock.now += timedelta(minutes=4)
        self.yard.tick()
        self.play(12)
        shown = self.shows(run)
        self.assertIn("silent for 4 min", " ".join(one.text("ip") for one in shown.warnings))
        self.assertEqual(len(shown.starts_s), 2)

    def test_power_in_a_vacuum_is_danger_and_proves_nothing(self):
        self.set_up()
        self.job("open_pump")
        self.play(20)
        self.job("shut_pump")
        run = self.begin("decay")
        self.play(5)
        self.job("start_system")
        self.play(16)
        shown = self.shows(run)
        self.assertIn("compressor arcs", shown.hazards[0].text("ip"))
        self.assertEqual(shown.proves, ())

    def test_what_could_hurt_is_refused_before_it_begins(self):
        for settings, words in (
            ({"gas": "oxygen"}, "explodes"),
            ({"gas": "air"}, "explodes"),
            ({"pressure": 4_000.0}, "stay under"),
            ({"litres": -1.0}, "outside"),
            ({"bore": 1.0}, "bore"),
        ):
            with self.subTest(settings), self.assertRaises(CoreError) as refused:
                self.begin("nitrogen", **settings)
            self.assertIn(words, refused.exception.text("ip"))
        self.assertEqual(self.tests.of_visit("v"), [])

    def test_a_clock_set_back_is_said_and_nothing_is_judged(self):
        run = self.begin("decay")
        self.clock.now -= timedelta(hours=1)
        self.assertEqual(self.shows(run).key, "clock")
