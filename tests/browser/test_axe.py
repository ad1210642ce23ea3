"""Every view, both themes: no serious or critical accessibility finding; all of it fits."""

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
    "/visits/compressor-live",
    "/visits/inverter-live",
    "/visits/fish-cooler-now",
    "/visits/launch-van-now",
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


RULES = """async (only) => (await axe.run(document, {resultTypes: ['violations'],
    ...(only ? {runOnly: only} : {})}))
    .violations.filter(v => v.impact === 'serious' || v.impact === 'critical')
    .map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.target.join(' ')).join(' | '))"""
"""All rules, or those named: of the themes only the colours differ."""


class AxeTest(BrowserTest):
    def look(self, page: Page, path: str, key: str = "") -> None:
        page.goto(self.nudge.url + path)
        calm(page)
        if key:
            page.keyboard.press(key)
            page.wait_for_timeout(500)

    def findings(self, page: Page, only: list[str] | None = None) -> list[str]:
        if not page.evaluate("'axe' in window"):
            page.evaluate(AXE)
        return list(page.evaluate(RULES, only))

    def in_both_themes(self, page: Page) -> None:
        """Everything in paper; then the same page by night, whose colours are its own."""
        self.assertEqual(self.findings(page), [])
        page.evaluate("document.documentElement.dataset.theme = 'night'")
        page.wait_for_timeout(150)
        self.assertEqual(self.findings(page, ["color-contrast"]), [])

    def test_no_view_has_a_serious_finding_in_either_theme(self):
        page = self.open("/nowhere")
        for path in VIEWS:
            with self.subTest(path):
                self.look(page, path)
                self.in_both_themes(page)

    def test_no_card_has_one(self):
        page = self.open("/nowhere")
        for path, key in CARDS:
            with self.subTest(path, key=key):
                self.look(page, path, key)
                self.in_both_themes(page)

    def test_nothing_runs_off_the_side_on_a_phone_or_at_twice_the_text(self):
        page = self.open("/nowhere")
        for path in VIEWS:
            for name, (width, height), zoom in (("phone", HAND, 100), ("twice", DESK, 200)):
                with self.subTest(path, at=name):
                    page.set_viewport_size({"width": width, "height": height})
                    self.look(page, path)
                    page.evaluate(f"document.documentElement.style.fontSize = '{zoom}%'")
                    page.wait_for_timeout(300)
                    over = page.evaluate(
                        "document.documentElement.scrollWidth - document.documentElement.clientWidth"
                    )
                    self.assertLessEqual(over, 1)
