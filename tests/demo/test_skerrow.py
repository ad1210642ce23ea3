from datetime import timedelta

from nudge.demo.skerrow import fill_if_empty
from nudge.services.baselines import against
from nudge.services.book import Book
from nudge.services.today import today
from tests.temporary import NOON, WithDatabase


class SkerrowTest(WithDatabase):
    def test_the_town_is_big_enough_to_look_at(self):
        sites = Book(self.database, self.clock).sites()
        systems = [system for site in sites for system in site.systems]
        self.assertGreaterEqual(len(sites), 6)
        self.assertGreaterEqual(len(systems), 10)
        self.assertEqual({s.metering_device for s in systems}, {"txv", "eev", "fixed_orifice"})
        self.assertGreaterEqual(len({s.refrigerant for s in systems}), 6)

    def test_its_stories_come_out_as_told(self):
        found = today(self.database, NOON)
        advice = {v: kept.advice for v, kept in found.verdicts.items()}
        self.assertEqual(advice["seed-library-now"], "leave")
        self.assertEqual(advice["pottery-now"], "add")
        # Charged twice for what is a restriction: never "add" again.
        clinic = Book(self.database, self.clock).system("clinic-waiting")
        for visit in clinic.visits:
            self.assertEqual(clinic.verdicts[visit.id].advice, "do_not_charge")
            first = self.visits.snapshot(visit.id).assessment.suspects[0].suspect.key
            # Twins until the walk.
            self.assertIn(first, {"liquid_line_restriction", "metering_underfeed"})
        walked = self.visits.snapshot("clinic-now").assessment.suspects[0]
        self.assertEqual(walked.suspect.key, "liquid_line_restriction")
        self.assertTrue(found.due)

    def test_the_lamp_room_loses_its_charge_and_the_book_says_so(self):
        lamp = Book(self.database, self.clock).system("lighthouse-lamp")
        past = sorted((v for v in lamp.visits if v.opened_at), key=lambda v: v.opened_at)
        read = [lamp.verdicts[v.id].derived.get("subcooling") for v in past]
        subcooling = [value for value in read if value is not None]
        self.assertEqual(subcooling, sorted(subcooling, reverse=True))
        found = today(self.database, NOON)
        self.assertEqual([visit.id for visit in found.drifting], ["lighthouse-5"])
        self.assertIn("Charge has gone", found.drifting[0].drift)

    def test_a_blower_slowed_on_purpose_is_no_drift_and_a_washed_coil_is_right_again(self):
        seeds = against(self.visits.snapshot("seed-library-2"))
        self.assertEqual(seeds.intended, ("blower_slowed",))
        self.assertFalse(seeds.drift.is_flagged)
        self.assertTrue(any(one.is_intended for one in seeds.drift.moved))
        loft = against(self.visits.snapshot("net-loft-3"))
        self.assertFalse(loft.drift.is_flagged)

    def test_a_filled_folder_is_left_alone(self):
        self.assertFalse(fill_if_empty(self.database, NOON + timedelta(days=1)))
