"""A shop's network in real browsers: a device is let in, writes under its name, and is let go."""

import re
import tempfile
import unittest
from pathlib import Path

from playwright.sync_api import Page, expect

from nudge.presenters.links import own_address
from tests.browser.forked import ForkedNudge
from tests.browser.support import HAND, BrowserTest, calm, copy_demo, profile, watched

LINE = "#callout"


@unittest.skipUnless(own_address(), "this machine is on no network, so no other one reaches it")
class ShopTest(BrowserTest):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        data = Path(folder.name)
        copy_demo(data)
        cls.nudge.stop()
        cls.nudge = ForkedNudge(data, host="0.0.0.0")
        cls.nudge.start()
        cls.addClassCleanup(cls.nudge.stop)

    def far(self, path: str) -> Page:
        """A phone on the same network."""
        page = watched(profile(self, HAND, has_touch=True).new_page())
        page.goto(f"http://{own_address()}:{self.nudge.port}{path}")
        return page

    def let_in(self, role: str) -> tuple[Page, str]:
        page = self.open("/workshop")
        calm(page)
        page.get_by_role("button", name=f"Let a device in: {role}").click()
        shown = page.locator("[data-pairing-code]")
        expect(shown).to_be_visible()
        expect(page.get_by_role("img", name="The same as a square to scan")).to_be_visible()
        return page, shown.inner_text()

    def pair(self, phone: Page, code: str, name: str) -> None:
        phone.get_by_label("Code").fill(code)
        phone.get_by_label("What this device is called").fill(name)
        phone.get_by_role("button", name="Pair", exact=True).click()

    def test_a_phone_is_let_in_writes_under_its_name_and_is_let_go(self):
        host, code = self.let_in("technician")
        phone = self.far("/visits/clinic-now")
        expect(phone.get_by_role("heading", name="Pair this device")).to_be_visible()
        self.pair(phone, "0000 0001" if code != "0000 0001" else "0000 0002", "van tablet")
        expect(phone.get_by_role("alert")).to_contain_text("does not open Nudge")
        self.pair(phone, code, "van tablet")
        expect(phone.get_by_role("link", name="Systems")).to_be_visible()
        phone.goto(f"http://{own_address()}:{self.nudge.port}/visits/clinic-now")
        calm(phone)
        self.take(phone, "sa 57.3")
        self.tab(phone, "Readings")
        row = phone.locator("[data-point=supply_air_temp][data-state=current]")
        expect(row).to_contain_text("on van tablet")
        expect(host.get_by_text("van tablet")).to_be_visible()
        host.get_by_role("button", name="Let van tablet go").click()
        expect(host.get_by_text("No device is paired.")).to_be_visible()
        phone.reload()
        expect(phone.get_by_role("heading", name="Pair this device")).to_be_visible()

    def test_the_office_is_told_what_it_may_not(self):
        _, code = self.let_in("office")
        desk = self.far(f"/pair#{code.replace(' ', '')}")
        expect(desk.get_by_label("Code")).to_have_value(code.replace(" ", ""))
        self.pair(desk, code, "front desk")
        expect(desk.get_by_role("link", name="Systems")).to_be_visible()
        desk.goto(f"http://{own_address()}:{self.nudge.port}/visits/clinic-now")
        calm(desk)
        self.take(desk, "sa 58")
        expect(desk.get_by_text(re.compile("paired for the office"))).to_be_visible()
        self.assertEqual(desk.locator("[data-waiting]").get_attribute("data-waiting"), "0")


if __name__ == "__main__":
    unittest.main()
