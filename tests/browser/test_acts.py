"""How few acts things take: an act is a tap, or a line sent."""

import re
import unittest

from playwright.sync_api import expect

from tests.browser.support import HAND, BrowserTest, calm

VISIT = "/visits/seed-library-now"


class ActsTest(BrowserTest):
    def test_a_pressure_is_corrected_in_one_line_with_the_numbers_in_sight(self):
        for size in ((1280, 800), HAND):
            with self.subTest(size=size):
                page = self.open(VISIT, size)
                calm(page)
                number = page.locator("[data-number=superheat]").first
                before = number.inner_text()
                wrong = 122 + size[0] % 7
                self.take(page, f"fix suct {wrong}")  # 1
                self.kept(page)
                page.locator("#callout").blur()
                expect(number).not_to_have_text(before)
                expect(number).to_be_in_viewport()

    def test_the_target_superheat_takes_two_readings(self):
        page = self.open("/pocket")
        calm(page)
        page.get_by_label("Slips").get_by_role("button", name="Target superheat").click()  # 1
        slip = page.get_by_role("region", name="Target superheat")
        slip.get_by_role("textbox", name=re.compile("^Outdoor air")).fill("95")  # 2
        slip.get_by_role("textbox", name=re.compile("wet bulb")).fill("67")  # 3
        # by hand: (3 × 67 − 80 − 95) ÷ 2 = 13
        expect(slip).to_contain_text("13.0 °F")

    def test_a_visit_where_all_is_proven_is_closed_with_its_papers_in_four(self):
        page = self.open(VISIT)
        calm(page)
        seen = page.request.get(f"{self.nudge.url}/api{VISIT}").json()
        for stage in seen["order"]["stages"]:
            for step in stage["steps"]:
                if step["blocks"] == "closing" and step["state"] == "open":
                    page.request.post(
                        f"{self.nudge.url}/api{VISIT}/ticks",
                        data={"id": f"t-{step['key']}", "step": step["key"], "state": "done"},
                    )
        page.reload()
        calm(page)
        page.get_by_role("button", name=re.compile("^Prove and close")).first.click()  # 1
        with page.context.expect_page():
            page.get_by_role("link", name="Report for the customer").click()  # 2
        page.get_by_role("button", name="Close the visit").click()  # 3
        expect(page.get_by_role("button", name="Open again").first).to_be_visible()


if __name__ == "__main__":
    unittest.main()
