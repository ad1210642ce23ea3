"""What each screen says in the states people meet: dangerous, closed, empty, unknown, SI, night."""

import re
import tempfile
import unittest
from pathlib import Path

from playwright.sync_api import expect

from tests.browser.forked import ForkedNudge
from tests.browser.support import BrowserTest, browser, calm


class StatesTest(BrowserTest):
    def test_a_danger_comes_before_the_verdict(self):
        page = self.open("/visits/net-loft-now")
        self.take(page, "suct 95 sl 32 liq 250 ll 85 oa 86")
        alert = page.get_by_role("alert").filter(has_text="Danger to the machine")
        expect(alert.first).to_contain_text("liquid may be reaching the compressor")
        box, verdict = alert.first.bounding_box(), page.locator("[data-verdict]").bounding_box()
        assert box is not None
        assert verdict is not None
        self.assertLess(box["y"], verdict["y"])

    def test_a_flammable_fluid_says_so_on_the_visit_and_in_the_book(self):
        for path in ("/visits/net-loft-now", "/systems/radio-studio"):
            page = self.open(path)
            expect(page.get_by_text(re.compile(r"flammable", re.IGNORECASE)).first).to_be_visible()

    def test_adding_shows_its_cautions(self):
        page = self.open("/visits/pottery-now")
        expect(page.locator("[data-verdict=add]")).to_be_visible()
        reasons = page.get_by_label("Reasons")
        for words in ("Butyl gloves", "never into the high side", "Weigh the cylinder"):
            expect(reasons).to_contain_text(words)

    def test_a_closed_visit_can_be_read_and_opened_again(self):
        page = self.open("/visits/tickets-1")
        expect(page.locator("#callout")).to_be_disabled()
        self.tab(page, "Readings")
        expect(page.get_by_role("button", name=re.compile("^Correct"))).to_have_count(7)
        self.assertTrue(
            all(
                b.is_disabled()
                for b in page.get_by_role("button", name=re.compile("^Correct")).all()
            )
        )
        page.get_by_role("button", name="Open again").click()
        expect(page.locator("#callout")).to_be_enabled()
        calm(page)
        page.keyboard.press("c")  # gauges were on: what is still open is shown first
        page.get_by_label("Why it is closed with that open").fill("only looked at again")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="Open again")).to_be_visible()

    def test_a_due_visit_starts_from_today(self):
        page = self.open("/")
        page.get_by_role("button", name=re.compile("Start the visit to Quay Bakery")).click()
        page.wait_for_url("**/visits/bakery-due")
        expect(page.locator("[data-verdict=none]")).to_contain_text("Type what you read.")
        page.get_by_role("button", name="20 min ago").click()
        expect(page.locator("[data-running]")).to_contain_text("20 min")

    def test_a_visit_is_planned_from_the_book_and_its_complaint_written_on_the_day(self):
        page = self.open("/systems/ferry-hall-tickets")
        page.get_by_label("Day of the planned visit").fill("2031-05-04")
        page.get_by_label("What the planned visit is for").fill("Judge the charge in season")
        page.get_by_role("button", name="Plan a visit").click()
        expect(page.get_by_label("Visits", exact=True)).to_contain_text(
            "Judge the charge in season"
        )
        page.goto(self.nudge.url)
        row = page.get_by_label("Due", exact=True).locator("li", has_text="Ticket office")
        row.get_by_role("button").click()
        page.get_by_label("Complaint", exact=True).fill("Rattles when the ferry docks")
        self.kept(page)
        page.reload()
        expect(page.get_by_label("Complaint", exact=True)).to_have_value(
            "Rattles when the ferry docks"
        )

    def test_every_suspect_can_be_looked_into(self):
        page = self.open("/visits/clinic-now")
        board = page.get_by_label("Suspects")
        rows = board.locator("[data-suspect]")
        expect(rows.first).to_contain_text(re.compile(r"Liquid line drop 11\.5 °F is .* over what"))
        page.get_by_role("button", name="Show all 17").click()
        expect(rows).to_have_count(17)
        low = board.locator("[data-suspect=undercharge]")
        low.locator("summary").click()
        expect(low).to_contain_text("“low charge” would show it low")

    def test_a_check_can_be_answered_where_it_is_asked(self):
        page = self.open("/visits/pottery-now")
        self.tab(page, "Next")
        check = page.locator("[data-check=look_for_leak]")
        check.get_by_role("button", name="Oil at a joint").click()
        expect(page.locator("[data-verdict=find_leak]")).to_be_visible()
        expect(check).to_have_count(0)
        page.get_by_role("radio", name=re.compile("^Liquid line,")).click()
        page.get_by_role("button", name="✓ Oil at a joint").first.click()  # and it comes back
        expect(page.locator("[data-verdict=add]")).to_be_visible()
        self.kept(page)

    def test_si_changes_everything_at_once_and_nothing_underneath(self):
        page = self.open("/visits/seed-library-now")
        expect(page.locator("[data-number=evaporator_saturation]")).to_contain_text("118 psig")
        page.keyboard.press("m")
        expect(page.locator("[data-number=evaporator_saturation]")).to_contain_text("°C")
        expect(page.locator("[data-number=evaporator_saturation]")).to_contain_text("814 kPa")
        expect(page.get_by_label("Reasons")).not_to_contain_text("°F")
        row = page.locator("[data-point=liquid_line_temp]")
        expect(row).to_contain_text("35.6 °C")
        expect(row).to_contain_text("typed 96 °F")
        page.keyboard.press("m")
        expect(page.locator("[data-number=evaporator_saturation]")).to_contain_text("8.14 bar")
        page.keyboard.press("m")
        expect(row).to_contain_text("96.0 °F")

    def test_the_book_is_searched_by_any_part(self):
        page = self.open("/systems")
        for words, found in (("r-410a valve", 12), ("ferry", 4), ("lamp", 1), ("zzz", 0)):
            page.get_by_label("Find a system").fill(words)
            expect(page.locator("main li li")).to_have_count(found)
        expect(page.get_by_text("Nothing in the book matches “zzz”.")).to_be_visible()

    def test_strange_addresses_are_answered_in_words(self):
        page = self.open("/no/such/page")
        expect(page.get_by_text("There is no such page.")).to_be_visible()
        page = self.open("/visits/no-such-visit")
        expect(page.get_by_role("alert")).to_contain_text("There is no visit “no-such-visit” here")

    def test_two_windows_on_one_visit_agree_after_a_look(self):
        one = self.open("/visits/net-loft-now")
        other = one.context.new_page()
        other.goto(one.url)
        self.take(one, "oa 91")
        expect(one.locator("[data-point=outdoor_air_temp]")).to_contain_text("91.0 °F")
        other.reload()
        expect(other.locator("[data-point=outdoor_air_temp]")).to_contain_text("91.0 °F")

    def test_a_long_story_breaks_nothing(self):
        page = self.open("/systems/launch-van")
        page.get_by_label("Nickname").fill("Launch van " + "very " * 60 + "longword" * 30)
        self.kept(page)
        for path in ("/systems", "/systems/launch-van"):
            page.goto(self.nudge.url + path)
            calm(page)
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 1280, path)


class EmptyTest(unittest.TestCase):
    def test_an_empty_nudge_says_where_to_begin(self):
        with tempfile.TemporaryDirectory() as data:
            nudge = ForkedNudge(Path(data), "serve")
            nudge.start()
            try:
                page = browser().new_page()
                self.addCleanup(page.close)
                page.goto(nudge.url)
                expect(page.get_by_text("No visit is open.")).to_be_visible()
                expect(page.get_by_text("Nothing is planned.")).to_be_visible()
                page.get_by_role("link", name="Systems").first.click()
                expect(page.get_by_text("The book is empty.")).to_be_visible()
            finally:
                nudge.stop()
