"""Tests with time in the browser: begun, marked, ended, and outliving whatever happens meanwhile."""

import re

from playwright.sync_api import expect

from tests.browser.support import HAND, BrowserTest, calm

OPENED = "/visits/kitchen-valve-live"


class TimedTestsTest(BrowserTest):
    def stood(self, page):
        """Seconds on the clock of the decay."""
        text = page.locator("[data-running-test=decay]").inner_text()
        *hours, minutes, seconds = map(int, re.search(r"[\d:]+", text)[0].split(":"))
        return (hours[0] if hours else 0) * 3600 + minutes * 60 + seconds

    def test_a_decay_goes_on_through_a_killed_server_and_a_closed_page(self):
        page = self.open(OPENED)
        running = page.locator("[data-running-test=decay]")
        expect(running).to_contain_text("Dry.")
        before = self.stood(page)
        self.assertGreater(before, 13 * 60)
        page.close()
        self.nudge.stop()  # killed, not asked
        self.nudge.start()
        page = self.open(OPENED)
        expect(page.locator("[data-running-test=decay]")).to_contain_text("Dry.")
        self.assertGreaterEqual(self.stood(page), before)
        film = page.get_by_role("img", name=re.compile("Nitrogen test, 17 minutes"))
        expect(film).to_be_visible()
        expect(page.locator("[data-shade=within]").first).to_be_attached()

    def test_a_phone_that_slept_ten_minutes_shows_the_time_that_passed(self):
        page = self.open("/", HAND, own=True)
        page.clock.install()
        page.goto(self.nudge.url + OPENED)
        before = self.stood(page)
        page.context.set_offline(True)
        page.clock.fast_forward("10:00")
        page.context.set_offline(False)
        page.clock.resume()
        expect(page.locator("[data-running-test=decay]")).to_contain_text("Dry.")
        self.assertGreaterEqual(self.stood(page), before)

    def test_with_the_circuit_open_nothing_offers_to_start_it(self):
        page = self.open(OPENED)
        calm(page)
        expect(page.get_by_text("Do not start it: the circuit is open.").first).to_be_visible()
        expect(page.locator("[data-circuit-open]")).to_be_visible()
        self.assertEqual(page.get_by_text("System started").count(), 0)
        self.assertEqual(page.get_by_role("button", name="Use these readings").count(), 0)

    def test_nitrogen_joint_by_joint_by_keyboard_to_its_certificate(self):
        page = self.open(OPENED)
        calm(page)
        page.keyboard.press("=")
        page.locator("[data-test-kind=nitrogen]").focus()
        page.keyboard.press("Enter")
        panel = page.get_by_role("dialog")
        expect(panel.get_by_text("oxygen and compressed air explode")).to_be_visible()
        panel.get_by_role("button", name="Begin").focus()
        page.keyboard.press("Enter")
        expect(page.locator("[data-running-test=nitrogen]")).to_be_visible()
        joint = page.locator("[data-joint=drier_in]")
        joint.focus()
        page.keyboard.press("Enter")
        panel.get_by_role("button", name="Bubbles", exact=True).focus()
        page.keyboard.press("Enter")
        expect(joint).to_have_attribute("data-found", "bubbles")
        card = panel.locator("[data-test=nitrogen]").first
        card.get_by_role("combobox", name="Which reading").select_option("test_pressure")
        card.get_by_label("Its value").fill("150")
        card.get_by_role("button", name="Type it in").click()
        self.kept(page)
        card.get_by_role("button", name="End the test").click()
        expect(page.locator("[data-running-test=nitrogen]")).to_have_count(0)
        over = page.locator("[data-test=nitrogen]").first
        link = over.get_by_role("link", name="Certificate").get_attribute("href")
        answer = page.request.get(self.nudge.url + link)
        self.assertEqual(answer.headers["content-type"], "application/pdf")
        trace = page.request.get(
            self.nudge.url + over.get_by_role("link", name="Trace").get_attribute("href")
        )
        self.assertIn("test_pressure [psig]", trace.text())

    def test_oxygen_is_refused_and_what_was_filled_in_stays(self):
        page = self.open(OPENED)
        calm(page)
        page.keyboard.press("=")
        page.locator("[data-test-kind=ice_bath]").click()
        panel = page.get_by_role("dialog")
        expect(panel.get_by_role("button", name="Begin")).to_be_disabled()
        panel.get_by_role("button", name="Back").click()
        page.locator("[data-test-kind=nitrogen]").click()
        panel.get_by_role("button", name="Oxygen", exact=True).click()
        panel.get_by_role("button", name="Begin").click()
        expect(page.get_by_text(re.compile("Never oxygen: with oil")).first).to_be_visible()
        expect(panel.get_by_role("button", name="Oxygen", exact=True)).to_have_attribute(
            "aria-pressed", "true"
        )
        expect(page.locator("[data-running-test=nitrogen]")).to_have_count(0)

    def test_a_step_a_hand_ticked_says_that_nobody_measured_it(self):
        page = self.open("/visits/pottery-now")
        calm(page)
        page.get_by_role("tab", name="Steps").click()
        page.get_by_role("combobox", name="Kind of call").select_option("commissioning")
        self.kept(page)
        page.get_by_role("button", name=re.compile("^Prove tight")).last.click()
        page.get_by_role("button", name=re.compile("^Done: Evacuated")).click()
        expect(page.get_by_text("ticked by hand: not measured")).to_be_visible()
