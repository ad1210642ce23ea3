"""What a visit remembers for its judgement: moments, doses, stale readings, its own class."""

from nudge.core.language.errors import CoreError
from nudge.core.visit.record.kept import Kept
from nudge.services.past import own_departures
from tests.temporary import WithDatabase

FIVE = "suct 118 liq 341 sl 52 ll 96 oa 88"
STARVED = "suct 88 liq 310 sl 60 ll 86 oa 84 ra 77"


class PastTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.visits.open("v", "seed-library-stacks", "Warm")
        self.visits.happened("v", "started", "system_started", self.clock.now)
        self.clock.pass_minutes(20)
        self.lines = 0

    def hear(self, line, visit="v"):
        self.lines += 1
        return self.visits.hear(visit, f"{visit}-line-{self.lines}", line, "ip", self.clock.now)

    def did(self, kind, kg=None, visit="v"):
        self.lines += 1
        return self.visits.happened(visit, f"{visit}-did-{self.lines}", kind, self.clock.now, kg)

    def test_readings_apart_are_moments_and_the_last_is_now(self):
        self.hear(FIVE)
        self.clock.pass_minutes(4)
        self.hear("ra 76")  # minutes later: still the same moment
        self.clock.pass_minutes(30)
        past = self.hear(FIVE + " ra 70").context.past
        self.assertEqual(len(past.moments), 1)
        self.assertAlmostEqual(past.moments[0].minutes_ago, 30, delta=0.1)
        self.assertIn("return_air_temp", past.moments[0].readings)

    def test_a_dose_belongs_to_what_was_read_after_it(self):
        self.hear(STARVED)
        self.clock.pass_minutes(2)
        self.did("refrigerant_added", 0.12)
        self.did("refrigerant_added", 0.05)
        self.clock.pass_minutes(12)
        snapshot = self.hear(STARVED.replace("310", "318"))
        past = snapshot.context.past
        self.assertAlmostEqual(past.added_since_kg, 0.17)
        self.assertEqual((len(past.moments), past.done_since), (1, "refrigerant_added"))
        self.assertIn("dose_did_nothing", [e.row.key for e in snapshot.assessment.episodes])
        self.assertEqual(len(snapshot.footprints()), 2)
        self.assertNotEqual(snapshot.assessment.decision.advice, "add")
        self.clock.pass_minutes(12)
        later = self.did("refrigerant_removed", 0.05).context.past
        self.assertAlmostEqual(later.moments[-1].added_kg, 0.17)
        self.assertAlmostEqual(later.added_since_kg, -0.05)

    def test_amounts_belong_to_refrigerant_and_are_in_reason(self):
        for kind, kg in (
            ("filter_changed", 0.2),
            ("refrigerant_added", 0.0),
            ("refrigerant_added", 40.0),
            ("refrigerant_removed", -1.0),
        ):
            with self.subTest(kind, kg=kg), self.assertRaises(CoreError):
                self.did(kind, kg)
        self.assertEqual(len(self.visits.snapshot("v").visit.events), 1)

    def test_readings_from_before_a_change_are_old(self):
        self.hear(FIVE)
        self.clock.pass_minutes(1)
        self.did("condenser_cleaned")
        self.assertEqual(self.visits.snapshot("v").context.stale, frozenset())
        self.clock.pass_minutes(15)
        snapshot = self.hear("liq 330 ll 95")
        self.assertEqual(snapshot.context.stale, {"suction_pressure", "suction_line_temp"})
        self.assertIn("condenser_coil_clean", snapshot.observations)  # washing makes it true
        self.clock.pass_minutes(1)
        self.assertEqual(self.hear("suct 117 sl 52").context.stale, frozenset())

    def test_readings_left_behind_for_long_are_old_air_later(self):
        self.hear(FIVE)
        self.clock.pass_minutes(40)
        stale = self.hear("suct 117").context.stale
        self.assertEqual(stale, {"liquid_pressure", "suction_line_temp", "liquid_line_temp"})

    def test_what_was_taken_back_never_was_a_moment(self):
        self.hear("suct 90 liq 300 sl 60 ll 86")
        self.visits.undo("v", "undo")
        self.clock.pass_minutes(30)
        self.assertEqual(self.hear(FIVE).context.past.moments, ())

    def test_additions_on_earlier_visits_make_it_a_leak(self):
        for number in range(2):
            name = f"earlier-{number}"
            self.visits.open(name, "seed-library-stacks", "")
            self.did("refrigerant_added", 0.3, visit=name)
            self.visits.close(name)
            self.clock.pass_minutes(60 * 24 * 90)
        self.visits.open("w", "seed-library-stacks", "")
        self.did("system_started", visit="w")
        self.clock.pass_minutes(30)
        snapshot = self.hear(FIVE, visit="w")
        self.assertEqual(snapshot.context.past.additions, 2)
        self.assertIn("added_before", [e.row.key for e in snapshot.assessment.episodes])
        self.clock.pass_minutes(60 * 24 * 800)
        self.assertEqual(self.visits.snapshot("w").context.past.additions, 0)

    def test_its_own_past_is_the_middle_of_right_verdicts_held_back_while_few(self):
        def verdict(off, advice="leave"):
            return Kept(advice, "", "", (), {}, {}, {"condensing_over_ambient": off})

        # 2 K once, halved while it is the only one.
        self.assertAlmostEqual(own_departures([verdict(2.0)])["condensing_over_ambient"], 1.0)
        three = own_departures([verdict(1.0), verdict(2.0), verdict(5.0)])
        self.assertAlmostEqual(three["condensing_over_ambient"], 2.0 * 3 / 4)
        self.assertEqual(own_departures([verdict(2.0, "add")]), {})
        self.assertEqual(own_departures([Kept("leave", "", "", (), {}, {})]), {})
