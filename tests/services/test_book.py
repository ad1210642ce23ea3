from datetime import date, timedelta

from nudge.core.language.errors import CoreError, OutOfRange, UnknownName
from nudge.services.book import Book
from nudge.services.errors import NotFound
from nudge.services.today import today
from tests.temporary import NOON, WithDatabase


class BookTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.book = Book(self.database, self.clock)

    def test_sites_come_by_name_with_their_systems(self):
        sites = self.book.sites()
        self.assertEqual([s.name for s in sites], sorted(s.name for s in sites))
        (ferry,) = [s for s in sites if s.id == "ferry-hall"]
        self.assertEqual(
            [s.name for s in ferry.systems],
            ["Big hall split", "Cold-store chiller", "Kitchen split", "Ticket office inverter"],
        )

    def test_names_are_trimmed_and_never_empty(self):
        self.book.add_site("s", "  Tide mill ")
        self.assertEqual(self.book.change_site("s", {"note": "By the weir"}).name, "Tide mill")
        for name in ("", "   ", "x" * 2_001):
            with self.subTest(name[:5]), self.assertRaises(CoreError):
                self.book.change_site("s", {"name": name})
        self.assertEqual([s.name for s in self.book.sites() if s.id == "s"], ["Tide mill"])

    def test_adding_the_same_thing_again_changes_nothing(self):
        self.book.add_site("s", "Tide mill")
        self.assertEqual(self.book.add_site("s", "Another").name, "Tide mill")
        fields = {"name": "Loft", "refrigerant": "r32", "metering_device": "eev"}
        self.book.add_system("y", "s", fields)
        self.assertEqual(self.book.add_system("y", "s", {**fields, "name": "Other"}).name, "Loft")

    def test_a_plate_holds_catalogue_names(self):
        self.book.add_site("s", "Tide mill")
        row = self.book.add_system(
            "y", "s", {"name": "Loft", "refrigerant": "r454b", "metering_device": "txv"}
        )
        self.assertEqual((row.refrigerant, row.application), ("R-454B", "comfort_cooling"))

    def test_each_refusal_names_its_field_and_keeps_the_plate(self):
        before = self.book.system("clinic-waiting").system
        for changes, error in (
            ({"refrigerant": "R-409"}, UnknownName),
            ({"metering_device": "tvx"}, UnknownName),
            ({"application": "cooling"}, UnknownName),
            ({"colour": "grey"}, UnknownName),
            ({"target_subcooling_k": 40.0}, OutOfRange),
            ({"rated_seer": float("nan")}, OutOfRange),
            ({"nominal_capacity_w": -1.0}, OutOfRange),
            ({"elevation_m": 9_000.0}, OutOfRange),
            ({"name": ""}, CoreError),
        ):
            with self.subTest(changes), self.assertRaises(error):
                self.book.change_system("clinic-waiting", {"note": "half", **changes})
        after = self.book.system("clinic-waiting").system
        for field in ("note", "refrigerant", "target_subcooling_k", "name", "updated_at"):
            self.assertEqual(getattr(after, field), getattr(before, field))

    def test_a_number_can_be_taken_off_the_plate(self):
        self.assertIsNone(
            self.book.change_system("clinic-waiting", {"rated_seer": None}).rated_seer
        )
        self.assertEqual(
            self.book.change_system("clinic-waiting", {"elevation_m": None}).elevation_m, 0
        )

    def test_strangers(self):
        for call in (
            lambda: self.book.system("x"),
            lambda: self.book.change_system("x", {}),
            lambda: self.book.change_site("x", {}),
            lambda: self.book.add_system("y", "x", {"name": "N"}),
        ):
            with self.assertRaises(NotFound):
                call()

    def test_a_system_keeps_its_history_latest_first(self):
        page = self.book.system("lighthouse-lamp")
        opened = [v.opened_at for v in page.visits if v.opened_at]
        self.assertEqual(opened, sorted(opened, reverse=True))
        self.assertEqual(len(page.verdicts), 5)


class TodayTest(WithDatabase):
    def test_due_comes_soonest_first_and_moves_on_when_started(self):
        due = [v.due_on for v in today(self.database, NOON).due]
        self.assertEqual(due, sorted(due))
        self.assertLess(due[0], NOON.date())
        first = today(self.database, NOON).due[0]
        self.visits.start(first.id)
        now = today(self.database, NOON)
        self.assertNotIn(first.id, [v.id for v in now.due])
        self.assertEqual(now.under_way[0].id, first.id)

    def test_closing_moves_a_visit_to_the_lately_closed(self):
        self.visits.close("pottery-now")
        now = today(self.database, NOON)
        self.assertNotIn("pottery-now", [v.id for v in now.under_way])
        self.assertIn("pottery-now", [v.id for v in now.recent])
        self.assertIn("pottery-now", now.verdicts)

    def test_a_planned_visit_is_due_on_its_day(self):
        later = date(2026, 9, 1)
        self.visits.open("planned", "clinic-waiting", "Check", later)
        self.assertEqual(today(self.database, NOON).due[-1].due_on, later)

    def test_writing_on_a_due_visit_opens_it(self):
        self.visits.hear("bakery-due", "c", "suct 118 sl 52", "ip", NOON + timedelta(minutes=1))
        self.assertIn("bakery-due", [v.id for v in today(self.database, NOON).under_way])
