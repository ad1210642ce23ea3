"""A heat pump in its winter, as a technician meets it: by keyboard, and in the hand at night."""

import re

from playwright.sync_api import expect

from tests.browser.support import HAND, BrowserTest

LODGE = "/visits/school-lodge-now"


class WinterTest(BrowserTest):
    def test_zero_superheat_is_followed_and_then_the_heat_is_judged(self):
        page = self.open(LODGE)
        verdict = page.locator("[data-decision]")
        expect(verdict).to_have_attribute("data-decision", "heat_no_superheat")
        self.tab(page, "Next")
        first = page.locator("[data-check][data-first]")
        expect(first).to_have_attribute("data-check", "prove_low_probes")
        first.get_by_role("button", name="Gauge zeroed, clamp reads ice as ice").click()
        expect(first).to_have_attribute("data-check", "place_true_suction")
        expect(first).to_contain_text("clear of the fan's blades")  # the caution beside the step
        first.get_by_role("button", name="Suction clamp was on another pipe").click()
        expect(verdict).to_contain_text("It was the reading.")
        self.take(page, "fix ts 41")
        self.kept(page)
        expect(verdict).to_have_attribute("data-decision", "heat_right")
        expect(verdict).not_to_have_attribute("data-verdict", re.compile("add|remove"))

    def test_every_number_of_the_heat_opens_and_the_line_is_drawn(self):
        page = self.open(LODGE)
        heat = page.get_by_label("Heat", exact=True)
        row = heat.locator("[data-heat-row=Heat]")
        row.get_by_role("button").first.click()
        opened = page.locator("[data-opened=heat_delivered]")
        expect(opened).to_contain_text("volume of this air")
        page.keyboard.press("Escape")
        expect(heat).to_contain_text("Both lockouts off?")
        page.get_by_role("toolbar", name="Drawing").get_by_role("button", name="Heat").click()
        line = page.locator("[data-heats]")
        expect(line).to_have_attribute("data-heats", "4")  # last winter's three, and today
        expect(line.locator("[data-heat=now]")).to_have_count(1)

    def test_in_the_hand_nothing_is_cut_off(self):
        page = self.open(LODGE, HAND)
        heat = page.get_by_label("Heat", exact=True)
        expect(heat).to_be_visible()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), HAND[0])
        for row in heat.locator("[data-heat-row]").all():
            box = row.bounding_box()
            self.assertLessEqual(box["x"] + box["width"], HAND[0])

    def test_a_heat_pumps_plate_asks_for_its_winter(self):
        page = self.open("/systems/school-lodge")
        winter = page.get_by_label("In winter", exact=True)
        winter.get_by_label("Strips locked out over").fill("40")
        self.kept(page)
        page.reload()
        expect(winter.get_by_label("Strips locked out over")).to_have_value("40")
        page.goto(self.nudge.url + "/systems/clinic-waiting")
        expect(page.get_by_label("Plate", exact=True)).to_be_visible()
        expect(page.get_by_label("In winter", exact=True)).to_have_count(0)
