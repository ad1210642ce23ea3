"""What a customer reads: plain, true to the verdict, and with what is left."""

import unittest
from datetime import UTC, datetime
from io import BytesIO

from pypdf import PdfReader

from nudge import __version__
from nudge.core.judgement.decision.other_plant import OTHER_PLANT
from nudge.presenters.visit_order import order_out
from nudge.presenters.visits import visit_out
from nudge.reports.attached import Subject
from nudge.reports.customer import TOLD, _done, _found, customer_report
from nudge.reports.nothing_found import nothing_found
from nudge.reports.written import file_report
from nudge.services.workshop import Workshop
from tests.temporary import WithDatabase

JARGON = ("superheat", "subcooling", "saturation", "sigma", "metering", "psig", "belief")


class WordsTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.workshop = Workshop(self.database, self.clock)

    def subject(self, visit, units="ip"):
        snapshot = self.workshop.visits.snapshot(visit)
        return Subject(
            visit_out(snapshot, units), order_out(snapshot, units), units, __version__, UTC
        )

    def paper(self, visit):
        pages = PdfReader(BytesIO(file_report(self.subject(visit)))).pages
        return " ".join(page.extract_text() for page in pages)

    def test_each_verdict_has_plain_words_of_its_own(self):
        for visit, words in (
            ("seed-library-now", "charge is right"),
            ("pottery-now", "too little refrigerant"),
            ("clinic-now", "not the trouble"),
            ("ferry-hall-now", "it was not opened"),
        ):
            with self.subTest(visit):
                said = " ".join(_found(self.subject(visit)))
                self.assertIn(words, said)
                for word in JARGON:
                    self.assertNotIn(word, said.lower())

    def test_nothing_found_is_said_as_such(self):
        self.visits.open("quiet", "fish-cold-room", "Just looking")
        self.assertEqual(
            _found(self.subject("quiet")), ["Nothing wrong was found with what was tested."]
        )
        self.assertEqual(_done(self.subject("quiet")), [])

    def test_what_was_done_and_tested_is_listed_once(self):
        work = self.workshop.work
        work.check("pottery-now", "c1", "drain", {"runs": "no"})
        work.check("pottery-now", "c2", "drain", {"runs": "yes"})
        self.workshop.shelf.dose("pottery-now", "d1", "shelf-22", 0.1134, removes=False)
        self.visits.happened("pottery-now", "f1", "filter_changed", self.clock.now)
        self.clock.pass_minutes(12)
        self.visits.hear("pottery-now", "l1", "suct 64 liq 205 sl 55 ll 94", "ip", self.clock.now)
        done = _done(self.subject("pottery-now"))
        self.assertIn("4 oz of refrigerant added.", done)
        self.assertEqual(sum("drain" in line for line in done), 1)
        self.assertEqual(len(done), len(set(done)))

    def test_a_bad_check_and_a_drift_are_found(self):
        self.workshop.work.check("pottery-now", "c1", "drain", {"runs": "no"})
        self.assertIn("It does not drain", " ".join(_found(self.subject("pottery-now"))))
        said = " ".join(_found(self.subject("lighthouse-5")))
        self.assertIn("Since the last good visit: Charge has gone", said)

    def test_every_visit_of_skerrow_can_be_printed_in_both_units(self):
        with self.database.reading() as session:
            from nudge.store.repositories import visits

            ids = [visit.id for visit in (*visits.past(session, 100), *visits.under_way(session))]
        self.assertGreater(len(ids), 20)
        for number, visit in enumerate(ids):
            for turn, units in enumerate(("ip", "si")):
                subject = self.subject(visit, units)
                page = customer_report(subject)
                self.assertTrue(page.startswith(b"%PDF"), visit)
                self.assertEqual(page.count(b"/Type /Page\n"), 1, visit)
                if number % 2 == turn:  # the full record, in one and the other by turns
                    self.assertTrue(file_report(subject).startswith(b"%PDF"), visit)

    def test_a_moment_is_said_on_the_readers_clock(self):
        subject = self.subject("pottery-now")
        self.assertEqual(
            subject.at(datetime(2026, 7, 14, 12, 5, tzinfo=UTC)), "2026-07-14 12:05 UTC"
        )
        self.assertEqual(subject.at(None), "")

    def test_the_full_record_of_a_winters_visit_has_its_heat_and_the_heating_line(self):
        text = self.paper("school-lodge-now")
        self.assertIn("The heating line", text)
        for words in ("Heat", "28,1", "Btu/h", "Both lockouts off?", "The pump alone holds"):
            self.assertIn(words, text)
        self.assertNotIn("The heating line", self.paper("clinic-now"))

    def test_every_answer_of_other_plant_has_plain_words_and_a_pass_its_caveat(self):
        for rule in OTHER_PLANT:
            self.assertIn(rule.key, TOLD)
            for word in JARGON:
                self.assertNotIn(word, TOLD[rule.key].lower())
        line = "cil 160 col 118 cea 90 vent 54 eo 56 wb 68"
        self.workshop.visits.hear("launch-van-now", "again", line, "ip", self.clock())
        text = " ".join(self.paper("launch-van-now").split())
        self.assertIn("A vehicle a third short passes all three", text)
        self.assertIn("only weighing tells", " ".join(_found(self.subject("launch-van-now"))))

    def test_a_plant_with_many_rooms_is_told_what_its_log_shows(self):
        told = _found(self.subject("seed-library-hot-week"))
        self.assertIn("what is most likely wrong:", told[0])
        self.assertEqual(told[1], "Low charge.")

    def test_strips_are_laid_end_to_end_under_their_feed(self):
        visit = "school-lodge-now"
        self.assertIsNone(self.subject(visit).visit.heat.strips)
        twice = {"feed": 31.0, "first": 16.0, "second": 15.0, "third": 15.0}
        self.workshop.work.check(visit, "feed", "strips_feed", twice)
        strips = self.subject(visit).visit.heat.strips
        self.assertFalse(strips.adds_up)
        self.assertIn("two legs of one circuit", strips.said)
        # 46 A are the whole width: the feed is 31 of it, the third begins where 31 A end.
        self.assertAlmostEqual(strips.feed.share, 31 / 46, places=3)
        self.assertAlmostEqual(strips.circuits[2].begins, 31 / 46, places=3)
        self.assertAlmostEqual(sum(one.share for one in strips.circuits), 1.0, places=3)


if __name__ == "__main__":
    unittest.main()

    def test_in_heating_the_customer_hears_of_heat_and_never_of_charge(self):
        for visit, words in (
            ("school-lodge-345", "It gives the heat it should in this cold."),
            ("school-lodge-now", "Liquid may be coming back to its compressor."),
        ):
            with self.subTest(visit):
                said = " ".join(_found(self.subject(visit)))
                self.assertIn(words, said)
                self.assertNotIn("charge", said.lower())

    def test_nothing_found_says_what_was_tested_what_not_and_what_would_tell(self):
        found = nothing_found(self.subject("school-lodge-345"))
        self.assertIn("true suction", found.tested)
        self.assertTrue(found.not_tested)
        self.assertNotIn("nothing wrong", found.likeliest.lower())
        self.assertEqual(next(label for label, _ in found.pairs()), "Tested")
        self.assertIsNone(nothing_found(self.subject("school-lodge-now")))  # something is
        self.assertIsNone(nothing_found(self.subject("net-loft-now")))  # nothing was read
        printed = file_report(self.subject("school-lodge-345"))
        words = " ".join(page.extract_text() for page in PdfReader(BytesIO(printed)).pages)
        self.assertIn("Nothing found wrong", words)
