"""A superheat that read none stays open in its system's book until a later one is one."""

from nudge.services.system_records import SystemRecords
from nudge.services.visits import Visits
from nudge.services.work_order import Work
from tests.temporary import WithDatabase

LODGE = "school-lodge"
DRY = "ra 69 rh 37 sa 92 oa 37 cfm 1180 suct 97 liq 325 ts 38 ll 87"


class CarriedOverTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.visits = Visits(self.database, self.clock)
        self.work = Work(self.database, self.clock, self.visits)
        self.records = SystemRecords(self.database, self.clock, self.visits)

    def still_open(self):
        return [row.text for row in self.left() if row.done_at is None]

    def left(self):
        """What is left on the lodge, but for the new baseline that last winter's change left."""
        rows = self.records.deferred_of(LODGE)
        return [row for row in rows if not row.id.endswith(":baseline")]

    def winter(self, visit_id, line):
        self.visits.open(visit_id, LODGE, "Heating check")
        self.work.set_kind(visit_id, "heating_check")
        self.visits.happened(visit_id, f"{visit_id}-start", "system_started", self.clock())
        self.clock.pass_minutes(40)
        self.visits.hear(visit_id, f"{visit_id}-read", line, "ip", self.clock())
        self.work.close(visit_id, "school ends")

    def test_it_is_left_open_once_and_closed_by_a_superheat_that_is_one(self):
        self.work.close("school-lodge-now", "dark")
        self.assertEqual(len(self.still_open()), 1)
        self.assertIn("not followed to its cause", self.still_open()[0])
        self.winter("again", DRY.replace("ts 38", "ts 31"))
        self.assertEqual(len(self.still_open()), 1)  # the same one still
        self.winter("mended", DRY)
        self.assertEqual(self.still_open(), [])
        done = [row for row in self.left() if row.done_at is not None]
        self.assertEqual(len(done), 1)

    def test_a_visit_opened_again_and_closed_again_leaves_it_open_again(self):
        self.work.close("school-lodge-now", "dark")
        first = self.left()[0]
        self.records.settle_deferred(first.id, True)
        self.visits.reopen("school-lodge-now")
        self.clock.pass_minutes(5)
        self.work.close("school-lodge-now", "dark")
        self.assertEqual(len(self.still_open()), 1)
        self.assertEqual(len(self.left()), 2)

    def test_what_it_came_to_is_what_is_left(self):
        for key in ("low_probe_true", "true_suction_placed", "bulb_secure", "check_valve_leaks"):
            self.visits.observe("school-lodge-now", f"tick-{key}", key, True)
        self.work.close("school-lodge-now", "dark")
        self.assertEqual(len(self.still_open()), 1)
        self.assertIn("check valve", self.still_open()[0])

    def test_a_summers_visit_closes_nothing_of_it(self):
        self.work.close("school-lodge-now", "dark")
        self.visits.open("summer", LODGE, "Warm")
        self.visits.happened("summer", "summer-start", "system_started", self.clock())
        self.clock.pass_minutes(40)
        line = "suct 130 liq 370 sl 58 ll 100 oa 92 ra 78 wb 65"
        self.visits.hear("summer", "summer-read", line, "ip", self.clock())
        self.work.close("summer", "done")
        self.assertEqual(len(self.still_open()), 1)
