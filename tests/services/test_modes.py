"""Past visits in heating and in cooling are not laid beside each other."""

from nudge.services.modes import was_heated
from nudge.services.system_records import SystemRecords
from nudge.services.visits import Visits
from nudge.services.work_order import Work
from tests.temporary import WithDatabase


class ModesTest(WithDatabase):
    def test_by_what_the_air_did(self):
        self.assertTrue(was_heated({"return_air_temp": 20.0, "supply_air_temp": 33.0}))
        self.assertFalse(was_heated({"return_air_temp": 25.0, "supply_air_temp": 13.0}))
        self.assertFalse(was_heated({"return_air_temp": 25.0}))

    def test_a_winters_superheat_does_not_stand_among_the_summers(self):
        visits = Visits(self.database, self.clock)
        records = SystemRecords(self.database, self.clock, visits)
        before = [snap.visit_id for snap in records.of("net-loft-heat-pump").snaps]
        visits.open("winter", "net-loft-heat-pump", "Heating check")
        Work(self.database, self.clock, visits).set_kind("winter", "heating_check")
        visits.happened("winter", "winter-start", "system_started", self.clock())
        self.clock.pass_minutes(40)
        line = "ra 69 sa 92 oa 38 cfm 960 suct 98 liq 310 ts 45 ll 88"
        visits.hear("winter", "winter-read", line, "ip", self.clock())
        after = records.of("net-loft-heat-pump")
        self.assertEqual([snap.visit_id for snap in after.snaps], before)
        self.assertNotEqual(after.compared_visit, "winter")

    def test_a_system_that_was_only_seen_in_winter_shows_its_winters(self):
        visits = Visits(self.database, self.clock)
        found = SystemRecords(self.database, self.clock, visits).of("school-lodge")
        self.assertEqual(len(found.snaps), 4)

    def test_last_winters_heat_is_at_hand_today(self):
        visits = Visits(self.database, self.clock)
        self.assertEqual(len(visits.snapshot("school-lodge-now").around.heated), 3)
        self.assertEqual(visits.snapshot("clinic-now").around.heated, ())
