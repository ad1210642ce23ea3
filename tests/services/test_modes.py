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
        cooled = [snap.visit_id for snap in after.snaps if snap.mode == "cooling"]
        self.assertEqual(cooled, before)
        self.assertEqual([s.visit_id for s in after.snaps if s.mode == "heating"], ["winter"])
        self.assertNotIn("winter", [one.compared_visit for one in after.standings])

    def test_each_mode_has_its_baseline_and_what_was_changed_on_purpose_is_excused(self):
        visits = Visits(self.database, self.clock)
        found = SystemRecords(self.database, self.clock, visits).of("school-lodge")
        held = {one.mode: one for one in found.standings}
        self.assertEqual(held["cooling"].baseline.visit_id, "lodge-summer")
        self.assertEqual(held["heating"].baseline.visit_id, "school-lodge-345")
        self.assertEqual(held["heating"].compared_visit, "school-lodge-now")
        against = held["heating"].against
        self.assertEqual(against.intended, ("blower_slowed",))
        out = {one.sign.key for one in against.drift.moved if one.is_out}
        self.assertEqual(out, {"superheat"})  # what today's chain is about, and nothing of the air

    def test_a_change_on_purpose_in_winter_leaves_a_new_baseline_for_the_cooling_season(self):
        visits = Visits(self.database, self.clock)
        records = SystemRecords(self.database, self.clock, visits)
        records.intend("school-lodge-now", "slow", "blower_raised", "")
        left = [d for d in records.deferred_of("school-lodge") if d.done_at is None]
        self.assertEqual([(d.season, d.id) for d in left], [("cooling", "slow:baseline")])
        records.intend("school-lodge-now", "back", "", "", corrects="slow")
        self.assertEqual([d for d in records.deferred_of("school-lodge") if d.done_at is None], [])
        records.intend("net-loft-now", "summer", "blower_slowed", "")  # kept here and now instead
        self.assertEqual(
            [d for d in records.deferred_of("net-loft-heat-pump") if d.id == "summer:baseline"], []
        )

    def test_last_winters_heat_is_at_hand_today(self):
        visits = Visits(self.database, self.clock)
        self.assertEqual(len(visits.snapshot("school-lodge-now").around.heated), 3)
        self.assertEqual(visits.snapshot("clinic-now").around.heated, ())
