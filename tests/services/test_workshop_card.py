"""The workshop's card: written line by line, kept, and refused in words."""

from nudge.core.language.errors import CoreError, UnknownName
from nudge.services.workshop_card import CARD_FIELDS, WorkshopCard
from nudge.store.database import Database
from tests.temporary import WithDatabase


class WorkshopCardTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.card = WorkshopCard(self.database, self.clock)

    def test_a_line_is_changed_and_the_others_stay(self):
        before = self.card.lines()
        self.card.write({"call": "Skerrow 300"})
        self.assertEqual(self.card.lines(), before | {"call": "Skerrow 300"})
        again = Database(self.folder)
        self.addCleanup(again.close)
        self.assertEqual(WorkshopCard(again, self.clock).lines()["call"], "Skerrow 300")

    def test_an_empty_text_empties_a_line_and_blanks_are_closed_up(self):
        self.card.write({"licence": "", "name": "  The   Slip \n Workshop "})
        self.assertEqual(self.card.lines()["licence"], "")
        self.assertEqual(self.card.lines()["name"], "The Slip Workshop")

    def test_a_line_that_is_too_long_or_unknown_changes_nothing(self):
        before = self.card.lines()
        for row in CARD_FIELDS.values():
            with self.assertRaisesRegex(CoreError, str(row.longest)):
                self.card.write({"name": "Other", row.key: "x" * (row.longest + 1)})
        with self.assertRaises(UnknownName):
            self.card.write({"name": "Other", "fax": "214"})
        self.assertEqual(self.card.lines(), before)
