"""The simulated system, worked on for real: the readings follow, and every window sees it."""

import re

from playwright.sync_api import expect

from tests.browser.support import BrowserTest, calm

LIVE = "/visits/radio-room-live"


class LiveVisitTest(BrowserTest):
    def number(self, page, key):
        text = page.locator(f"[data-number={key}]").inner_text()
        return float(re.search(r"-?[\d.]+", text.replace("−", "-"))[0])

    def test_filter_out_charge_in_and_the_readings_follow(self):
        page = self.open(LIVE)
        expect(page.locator("[data-settling]")).to_be_visible()
        page.keyboard.press("i")
        static = page.get_by_role("button", name=re.compile("Manometer"))
        before = float(re.search(r"([\d.]+) in", static.inner_text())[1])
        self.assertGreater(before, 0.6)
        page.keyboard.press("Escape")
        page.keyboard.press("w")
        work = page.get_by_role("dialog")
        work.get_by_role("radio", name=re.compile("^Indoor coil")).click()
        work.get_by_role("button", name="Open the indoor panel and look").click()
        expect(work.get_by_text("Power off and locked").first).to_be_visible()
        work.get_by_role("radio", name=re.compile("^Filter")).click()
        work.get_by_role("button", name="Change the filter").click()
        expect(page.get_by_text("Change the filter: done.")).to_be_visible()
        work.get_by_role("radio", name=re.compile("^Service valves")).click()
        page.get_by_label("Amount in ounces").fill("6")
        work.get_by_role("button", name="Add refrigerant").click()
        expect(page.get_by_text("in bursts")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.locator("[data-settling=settling]")).to_be_visible()
        page.keyboard.press("i")
        expect(static).to_contain_text(re.compile(r"0\.[345]\d in"))

    def test_two_windows_see_the_same_and_a_swap_is_one_key(self):
        page, other = self.open(LIVE), self.open(LIVE)
        calm(page)
        calm(other)
        other.keyboard.press("l")
        expect(other.locator("canvas")).to_be_visible()
        expect(
            other.get_by_role("img", name=re.compile("Settling strips. Superheat"))
        ).to_be_visible()
        page.locator("[data-probe=clamp-1]").click()
        page.get_by_role("combobox", name=re.compile("Swap with")).select_option("clamp-2")
        page.keyboard.press("Escape")
        for window in (page, other):
            expect(window.get_by_text("the two clamps are exchanged").first).to_be_visible()
        expect(other.get_by_role("button", name="Swap the two")).to_be_visible()
        other.keyboard.press("x")
        self.kept(other)
        for window in (page, other):
            expect(window.get_by_text("the two clamps are exchanged")).to_have_count(
                0, timeout=40_000
            )

    def test_judging_early_asks_why_and_prints_it(self):
        page = self.open(LIVE)
        calm(page)
        page.keyboard.press("h")
        page.get_by_role("button", name="Something else changed").click()
        expect(page.locator("[data-settling=settling]")).to_be_visible()
        page.keyboard.press("j")
        expect(page.get_by_role("button", name="Judge it now")).to_be_disabled()
        page.get_by_label(re.compile("Why it has to be judged now")).fill("The shop closes")
        page.keyboard.press("Enter")
        self.tab(page, "Why")
        because = page.get_by_text("because: The shop closes").locator("visible=true")
        expect(because.first).to_be_visible()

    def test_a_log_file_is_looked_at_mapped_and_read(self):
        page = self.open("/visits/net-loft-now")
        calm(page)
        rows = ["time,Suction pressure,Liquid line (F),Remark"]
        rows += [
            f"2026-07-14 12:{i // 60:02}:{i % 60:02},{118 + i % 3},{96 + i % 2},ok"
            for i in range(1200)
        ]
        page.keyboard.press("f")
        page.get_by_role("dialog").locator("input[type=file]").set_input_files(
            {"name": "loft.csv", "mimeType": "text/csv", "buffer": "\n".join(rows).encode()}
        )
        expect(page.get_by_text("Guessed from its size")).to_be_visible()
        expect(page.get_by_label("Suction pressure is")).to_have_value("suction_pressure")
        page.get_by_role("button", name="Read it").click()
        expect(page.locator("[data-import=done]")).to_contain_text("2,400 readings")
        page.keyboard.press("Escape")
        page.keyboard.press("l")
        expect(page.get_by_role("img", name=re.compile("Suction pressure"))).to_be_visible()
        page.keyboard.press("+")
        page.keyboard.press(",")
        expect(page.locator("canvas")).to_be_visible()

    def test_a_file_that_is_no_log_says_why(self):
        page = self.open("/visits/net-loft-now")
        calm(page)
        page.keyboard.press("f")
        page.get_by_role("dialog").locator("input[type=file]").set_input_files(
            {"name": "x.csv", "mimeType": "text/csv", "buffer": b"hello"}
        )
        expect(page.get_by_role("alert")).to_contain_text("fewer than two lines")

    def test_the_live_screen_fits_a_hand(self):
        page = self.open(LIVE, (390, 844))
        calm(page)
        for key in ("", "l", "i"):
            if key:
                page.keyboard.press(key)
                page.wait_for_timeout(400)
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390, key)
