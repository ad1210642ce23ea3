"""Every view, both themes: no serious or critical accessibility finding; all of it fits."""

import json

from playwright.sync_api import Page

from tests.browser.support import DESK, HAND, BrowserTest, calm
from tools.drive import ROOT

AXE = (ROOT / "web/node_modules/axe-core/axe.min.js").read_text("utf-8")
VIEWS = (
    "/",
    "/systems",
    "/systems/lighthouse-lamp",
    "/shelf",
    "/pocket",
    "/workshop",
    "/visits/pottery-now",
    "/visits/ferry-hall-now",
    "/visits/clinic-now",
    "/visits/radio-room-live",
    "/visits/lighthouse-5",
    "/visits/net-loft-now",
    "/nowhere",
)
CARDS = (
    ("/visits/pottery-now", "e"),
    ("/visits/pottery-now", "c"),
    ("/visits/pottery-now", "v"),
    ("/visits/pottery-now", "y"),
    ("/visits/clinic-now", "d"),
    ("/visits/clinic-now", "g"),
    ("/visits/radio-room-live", "i"),
    ("/visits/radio-room-live", "w"),
    ("/", "q"),
    ("/visits/pottery-now", "h"),
    ("/shelf", "a"),
    ("/", "?"),
)


class AxeTest(BrowserTest):
    def look(self, path: str, theme: str, size: tuple[int, int] = DESK, key: str = "") -> Page:
        page = self.open("/nowhere", size)
        wanted = {"theme": theme, "units": "ip", "padOpen": False}
        page.evaluate("text => localStorage.setItem('nudge.preferences', text)", json.dumps(wanted))
        page.goto(self.nudge.url + path)
        calm(page)
        if key:
            page.keyboard.press(key)
            page.wait_for_timeout(500)
        return page

    def findings(self, page: Page) -> list[str]:
        page.evaluate(AXE)
        found = page.evaluate("""async () => (await axe.run(document, {resultTypes: ['violations']}))
            .violations.filter(v => v.impact === 'serious' || v.impact === 'critical')
            .map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.target.join(' ')).join(' | '))""")
        return list(found)

    def test_no_view_has_a_serious_finding_in_either_theme(self):
        for theme in ("paper", "night"):
            for path in VIEWS:
                with self.subTest(path, theme=theme):
                    page = self.look(path, theme)
                    self.assertEqual(self.findings(page), [])
                    page.context.close()

    def test_no_card_has_one(self):
        for path, key in CARDS:
            for theme in ("paper", "night"):
                with self.subTest(path, key=key, theme=theme):
                    page = self.look(path, theme, key=key)
                    self.assertEqual(self.findings(page), [])
                    page.context.close()

    def test_nothing_runs_off_the_side_on_a_phone_or_at_twice_the_text(self):
        for path in VIEWS:
            for name, size, zoom in (("phone", HAND, 1), ("twice", DESK, 2)):
                with self.subTest(path, at=name):
                    page = self.look(path, "paper", size)
                    if zoom != 1:
                        page.evaluate("document.documentElement.style.fontSize = '200%'")
                        page.wait_for_timeout(300)
                    over = page.evaluate(
                        "document.documentElement.scrollWidth - document.documentElement.clientWidth"
                    )
                    self.assertLessEqual(over, 1)
                    page.context.close()
