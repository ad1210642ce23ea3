"""Nudging on the screen: the card, the burst pad, a correction, the shelf; a gate passed."""

import re

from playwright.sync_api import expect

from tests.browser.support import HAND, BrowserTest, calm

LOW = "/visits/pottery-now"


class NudgeTest(BrowserTest):
    def test_a_dose_is_given_by_keyboard_waited_for_and_put_right(self):
        page = self.open(LOW)
        calm(page)
        card = page.locator("[data-nudge]")
        expect(card).to_have_attribute("data-nudge", "add")
        expect(card).to_contain_text(re.compile(r"Add [\d.]+ oz"))
        expect(card.locator("[data-expected=superheat]")).to_contain_text("°F")
        page.get_by_role("button", name="Target map").click()
        expect(page.locator("[data-ahead=add]")).to_be_visible()
        page.keyboard.press("v")
        amount = page.get_by_label("Amount, oz")
        amount.fill("60")
        expect(page.get_by_role("button", name="Write it down")).to_be_disabled()
        expect(page.get_by_text("times what was advised")).to_be_visible()
        amount.fill("4")
        page.keyboard.press("Enter")
        expect(card).to_have_attribute("data-nudge", "wait")
        expect(page.locator("[data-wait]")).to_contain_text(re.compile(r"\d:\d\d"))
        expect(card.locator("[data-dose]")).to_contain_text("+4.0 oz")
        card.get_by_role("button", name="Mistyped").click()
        card.get_by_label("What it really was, oz").fill("0")
        page.keyboard.press("Enter")
        expect(card).to_have_attribute("data-nudge", "add")  # taken back: as it was found
        expect(page.locator("[data-dose]")).to_have_count(0)

    def test_stop_is_loud_and_comes_back_to_the_scale(self):
        page = self.open(LOW, HAND)
        calm(page)
        page.get_by_role("button", name="Give it").click()
        page.get_by_label("More by 0.5 oz").click()
        page.get_by_label("More by 0.5 oz").click()
        expect(page.get_by_label("Amount, oz")).to_have_value("1")
        page.get_by_role("button", name="STOP").click()
        expect(page.get_by_role("alert")).to_contain_text("Shut the cylinder valve")
        page.get_by_role("button", name="It is shut").click()
        expect(page.get_by_label("Amount, oz")).to_have_value("1")
        expect(page.get_by_text("Old 22, reclaimed").first).to_be_visible()
        expect(page.get_by_text("410 with the red tape")).to_have_count(0)  # another refrigerant

    def test_the_shelf_shows_a_loss_and_asks_about_a_knocked_scale(self):
        page = self.open("/shelf")
        lost = page.locator("[data-cylinder=shelf-407]")
        expect(lost).to_contain_text("Lost 21.9 oz")
        one = page.locator("[data-cylinder=shelf-32]")
        field = one.get_by_label("Weight of")
        field.fill("14")
        expect(one.get_by_role("button", name="Weigh it")).to_be_disabled()
        expect(one).to_contain_text("standing free and still")
        field.fill("24.03")
        one.get_by_role("button", name="Weigh it").click()
        expect(field).to_have_value("")
        page.keyboard.press("Escape")
        expect(page.get_by_role("link", name="Save as CSV")).to_be_visible()
        expect(page.locator("[data-movement=lost]")).to_contain_text("21.9 oz")

    def test_a_cylinder_is_put_on_the_shelf(self):
        page = self.open("/shelf")
        calm(page)
        page.keyboard.press("a")
        form = page.get_by_role("form", name="A new cylinder")
        form.get_by_label("Name, as you call it").fill("Grå flaske")
        form.get_by_label("Refrigerant").select_option("R-32")
        form.get_by_label("Empty, as stamped (lb)").fill("9")
        expect(form.get_by_role("button", name="Put it on the shelf")).to_be_disabled()
        form.get_by_label("On the scale now (lb)").fill("20.5")
        form.get_by_role("button", name="Put it on the shelf").click()
        expect(page.get_by_text("Grå flaske").first).to_be_visible()
        expect(page.get_by_text("11.50").first).to_be_visible()


class PassedGateTest(BrowserTest):
    def test_a_gate_is_passed_with_a_reason_and_taken_back(self):
        page = self.open("/visits/net-loft-now")
        self.take(page, "suct 118 liq 341 sl 52 ll 96 oa 62 ra 74")
        expect(page.locator("[data-verdict]")).to_have_attribute("data-verdict", "do_not_charge")
        page.get_by_role("button", name="Judge all the same").click()
        why = page.get_by_label("Why it has to be judged")
        expect(page.get_by_role("button", name="Judge it now")).to_be_disabled()
        why.fill("the owner leaves tonight")
        page.keyboard.press("Enter")
        passed = page.locator("[data-passed=outdoor_below_70]")
        expect(passed).to_contain_text("because: the owner leaves tonight.")
        passed.get_by_role("button", name="Take that back").click()
        expect(page.locator("[data-passed=outdoor_below_70]")).to_have_count(0)
        self.kept(page)
