"""Cold rooms and a vehicle as a technician meets them, by keyboard, and in the hand."""

import re

from playwright.sync_api import expect

from tests.browser.support import HAND, BrowserTest, calm
from tests.browser.test_winter import close_and_print

COOLER, FREEZER, VAN = (
    f"/visits/{one}-now" for one in ("fish-cooler", "fish-freezer", "launch-van")
)


class OtherPlantTest(BrowserTest):
    def test_an_iced_cooler_is_found_by_looking_and_closed_with_both_papers(self):
        page = self.open(COOLER)
        calm(page)
        verdict = page.locator("[data-decision]")
        expect(verdict).to_have_attribute("data-decision", "room_boils_low")
        rungs = page.get_by_label("Cold room", exact=True)
        expect(rungs.locator("[data-rung=boils]")).to_contain_text("28.5 °F")  # 38.5 − class 10
        page.fill("#callout", "box 36.4 suct 51.8 eo 34 sl 43")  # melted, and near set point
        page.press("#callout", "Enter")
        expect(verdict).to_have_attribute("data-decision", "room_right")
        expect(verdict).not_to_contain_text("Add")
        page.locator("#callout").blur()
        close_and_print(self, page, self.nudge.url, "fish-cooler-now")

    def test_a_freezer_that_pulls_down_is_waited_for(self):
        page = self.open(FREEZER)
        verdict = page.locator("[data-decision]")
        expect(verdict).to_have_attribute("data-decision", "room_not_yet")
        expect(verdict).to_contain_text("Pull-down")
        expect(page.get_by_label("Cold room", exact=True)).to_contain_text("time constant")

    def test_a_rooms_plate_is_its_set_point_and_classes(self):
        page = self.open("/systems/fish-freezer")
        room = page.get_by_label("The room", exact=True)
        room.get_by_label("Coil class").fill("9")
        expect(room.get_by_role("alert")).to_contain_text("none of its classes")
        room.get_by_label("Coil class").fill("12")
        self.kept(page)
        room.get_by_label("Defrost").select_option("hot_gas")
        self.kept(page)
        page.reload()
        expect(room.get_by_label("Coil class")).to_have_value("12")
        expect(room.get_by_label("Defrost")).to_have_value("hot_gas")

    def test_a_vans_three_tests_hang_on_the_balance(self):
        page = self.open(VAN)
        calm(page)
        verdict = page.locator("[data-decision]")
        expect(verdict).to_have_attribute("data-decision", "vehicle_starved")
        balance = page.get_by_role("img", name="The balance")
        expect(balance).to_contain_text("69.0")
        page.fill("#callout", "cil 160 col 118 cea 90 vent 54 eo 56")  # weighed in by its label
        page.press("#callout", "Enter")
        expect(verdict).to_have_attribute("data-decision", "vehicle_passes")
        expect(page.get_by_text("a third short passes all three").first).to_be_visible()
        page.locator("#callout").blur()
        page.keyboard.press("c")  # no gauge was on it: nothing dangerous is left open
        expect(page.get_by_role("button", name="Open again").first).to_be_visible()
        for copy in ("customer", "file"):
            at = f"{self.nudge.url}/api/visits/launch-van-now/report.pdf?whom={copy}"
            self.assertTrue(page.request.get(at).body().startswith(b"%PDF"))

    def test_in_the_hand_nothing_is_cut_off(self):
        for path in (COOLER, VAN):
            page = self.open(path, HAND)
            calm(page)
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), HAND[0])


JOBS = {
    "fish-freezer-now": ("box -4.4 suct 18.9 eo -11 sl 4 liq 227 ll 88 oa 72", "room_right"),
    "fish-cooler-now": ("box 36.4 suct 51.8 eo 34 sl 43", "room_right"),
    "launch-van-now": ("cil 160 col 118 cea 90 vent 54 eo 56", "vehicle_passes"),
    "ferry-chiller-now": ("", ""),
}
"""The demo's four jobs: what is read once it is put right, and what that comes to."""


def closed_in_the_hand(test, page, visit):
    """Closed by touching alone, what is dangerous by name."""
    test.more(page, "Close visit")
    still = page.get_by_text("Still open:").first
    closed = page.get_by_placeholder("This visit is closed.")
    expect(still.or_(closed).first).to_be_visible()
    for step in ("Ports bubble-tested", "Caps on", "Panels and every screw", "Disconnect on"):
        one = page.get_by_role("button", name=re.compile(f"^Done: {step}")).first
        if one.count():
            one.click()
            expect(one).to_have_count(0)
    shut = page.get_by_role("form", name="Close the visit")
    if shut.count():
        shut.get_by_role("button", name="Close the visit").click()
    expect(closed).to_be_visible()
    slip = page.request.get(f"{test.nudge.url}/api/visits/{visit}/slip.pdf?width=58&units=si")
    test.assertTrue(slip.body().startswith(b"%PDF"))


class ToTheEndTest(BrowserTest):
    def right(self, page, visit):
        line, key = JOBS[visit]
        verdict = page.locator("[data-decision]")
        if line:
            page.fill("#callout", line)
            page.get_by_role("button", name="Take").click()
            self.kept(page)
            expect(verdict).to_have_attribute("data-decision", key)
        expect(verdict).not_to_contain_text("Add")

    def test_in_the_hand_every_job_is_played_to_its_end(self):
        for visit in JOBS:
            with self.subTest(visit):
                page = self.open(f"/visits/{visit}", HAND)
                calm(page)
                self.right(page, visit)
                closed_in_the_hand(self, page, visit)


class ChillerTest(BrowserTest):
    def test_a_chiller_is_commissioned_in_kpa_and_celsius_with_its_slip(self):
        page = self.open("/visits/ferry-chiller-now")
        calm(page)
        page.get_by_role("button", name="°F psi").click()
        expect(page.get_by_role("button", name=re.compile("kPa"))).to_be_visible()
        expect(page.locator("[data-decision]")).to_contain_text("Charge is in its window")
        expect(page.get_by_text("226 kPa").first).to_be_visible()
        page.locator("#callout").blur()
        close_and_print(self, page, self.nudge.url, "ferry-chiller-now")
        at = f"{self.nudge.url}/api/visits/ferry-chiller-now/slip.pdf?width=80&units=si"
        first, again = (page.request.get(at).body() for _ in range(2))
        self.assertEqual(first, again)


class RegisterTest(BrowserTest):
    def test_an_instrument_is_registered_zeroed_and_retired_by_keyboard(self):
        page = self.open("/workshop")
        calm(page)
        page.get_by_role("button", name="Register an instrument").press("Enter")
        page.get_by_label("Name, as you call it").fill("Spare clamps")
        page.get_by_label("Kind").select_option("clamps")
        page.get_by_label("± by its own sheet, °F").fill("0.3")
        page.get_by_role("button", name="Register it").press("Enter")
        row = page.get_by_role("listitem").filter(has_text="Spare clamps")
        expect(row).to_contain_text("± 0.3 °F")
        gauges = page.get_by_role("listitem").filter(has_text="Van’s gauge set")
        gauges.get_by_role("button", name="Zeroed now").press("Enter")
        expect(gauges).to_contain_text("Zeroed")
        row.get_by_role("button", name="Retire Spare clamps").press("Enter")
        expect(row).to_have_count(0)
