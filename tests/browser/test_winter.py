"""A heat pump in its winter, as a technician meets it: by keyboard, and in the hand at night."""

import re

from playwright.sync_api import expect

from tests.browser.hand_driven import HandDriven
from tests.browser.support import HAND, BrowserTest, calm
from tests.browser.test_whole_visit import press

LODGE, HALL = "/visits/school-lodge-now", "school-hall-live"


def close_and_print(test, page, url, visit):
    """Close a visit by keyboard, what is dangerous by name, and print both its papers."""
    page.keyboard.press("c")
    expect(page.get_by_text("Still open:").first).to_be_visible()
    for step in ("Ports bubble-tested", "Caps on", "Panels and every screw", "Disconnect on"):
        one = page.get_by_role("button", name=re.compile(f"^Done: {step}")).first
        if one.count():  # what was never opened is not asked for
            one.press("Enter")
            expect(one).to_have_count(0)
    press(page, "Close the visit")
    expect(page.get_by_placeholder("This visit is closed.")).to_be_visible()
    for copy in ("customer", "file"):
        paper = page.request.get(f"{url}/api/visits/{visit}/report.pdf?whom={copy}")
        test.assertEqual(paper.status, 200, copy)
        test.assertTrue(paper.body().startswith(b"%PDF"))


class WinterTest(BrowserTest):
    def test_zero_superheat_is_followed_judged_and_closed_by_keyboard_alone(self):
        page = self.open(LODGE)
        calm(page)
        verdict = page.locator("[data-decision]")
        expect(verdict).to_have_attribute("data-decision", "heat_no_superheat")
        page.get_by_role("tab", name="Next").press("Enter")
        first = page.locator("[data-check][data-first]")
        expect(first).to_have_attribute("data-check", "prove_low_probes")
        first.get_by_role("button", name="Gauge zeroed, clamp reads ice as ice").press("Enter")
        expect(first).to_have_attribute("data-check", "place_true_suction")
        expect(first).to_contain_text("clear of the fan's blades")  # the caution beside the step
        first.get_by_role("button", name="Suction clamp was on another pipe").press("Enter")
        expect(verdict).to_contain_text("It was the reading.")
        self.take(page, "fix ts 41")
        self.kept(page)
        expect(verdict).to_have_attribute("data-decision", "heat_right")
        expect(verdict).not_to_have_attribute("data-verdict", re.compile("add|remove"))
        page.locator("#callout").blur()
        close_and_print(self, page, self.nudge.url, "school-lodge-now")

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


class PlateTest(BrowserTest):
    """By itself: what it writes on the plate is said on the lodge’s visit."""

    def test_a_heat_pumps_plate_asks_for_its_winter(self):
        page = self.open("/systems/school-lodge")
        winter = page.get_by_label("In winter", exact=True)
        winter.get_by_label("Strips locked out over").fill("40")
        page.keyboard.press("Tab")
        self.kept(page)
        page.reload()
        expect(winter.get_by_label("Strips locked out over")).to_have_value("40")
        page.goto(self.nudge.url + "/systems/clinic-waiting")
        expect(page.get_by_label("Plate", exact=True)).to_be_visible()
        expect(page.get_by_label("In winter", exact=True)).to_have_count(0)


class EmergencyHeatTest(HandDriven):
    """The hall's call, by keyboard alone: the second filter, strips, lockouts, a defrost, closed."""

    def watch_a_defrost(self, page):
        """Begun, asked for at the board's pins, played, its four events drawn, ended."""
        page.keyboard.press("=")
        page.locator("[data-test-kind=defrost]").press("Enter")
        panel = page.get_by_role("dialog")
        expect(panel.get_by_text("The outdoor fan starts again by itself").first).to_be_visible()
        panel.get_by_role("button", name="Begin").press("Enter")
        running = page.locator("[data-running-test=defrost]")
        expect(running).to_be_visible()
        page.keyboard.press("Escape")
        self.pass_minutes(2, HALL)
        page.keyboard.press("w")
        press(page, re.compile("^Outdoor coil"), "radio")
        press(page, "Bridge the board's defrost pins")
        expect(page.get_by_text("If its board answers")).to_be_visible()
        page.keyboard.press("Escape")
        self.pass_minutes(6, HALL)
        page.reload()
        calm(page)
        expect(running).to_contain_text("all four events")
        page.keyboard.press("=")
        strip = page.get_by_role("img", name=re.compile("The defrost"))
        expect(strip).to_be_visible()
        for event in ("Valve turns", "Fan stops", "Cold", "Fan back"):
            expect(strip).to_contain_text(event)
        press(page, "End the test")
        expect(running).to_have_count(0)
        page.keyboard.press("Escape")

    def test_the_call_is_played_to_its_end(self):
        page = self.open(f"/visits/{HALL}")
        calm(page)
        page.fill("#callout", "cfm 880 rh 38")
        page.press("#callout", "Enter")
        page.locator("#callout").blur()
        # The second filter comes out of the simulated plant.
        page.keyboard.press("w")
        press(page, re.compile("^Filter"), "radio")
        press(page, "Take a second filter out")
        expect(page.get_by_text("Take a second filter out: done.")).to_be_visible()
        page.keyboard.press("Escape")
        self.watch_a_defrost(page)
        # It heats as it should, once all has settled again.
        self.pass_minutes(16, HALL)
        page.reload()
        calm(page)
        page.fill("#callout", "cfm 1060")
        page.press("#callout", "Enter")
        verdict = page.locator("[data-decision]")
        expect(verdict).to_have_attribute("data-decision", "heat_right")
        page.locator("#callout").blur()
        close_and_print(self, page, self.url, HALL)
