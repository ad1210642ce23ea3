"""Every view, both themes: no serious or critical accessibility finding; all of it fits."""

from playwright.sync_api import expect

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
    ("/visits/pottery-now", "vyh"),
    ("/visits/clinic-now", "dg"),
    ("/visits/radio-room-live", "iw"),
    ("/", "q?"),
)
"""Pages, and the keys that open a card over them."""
IN_PLACE = {"/visits/pottery-now": "ec", "/shelf": "a"}
"""Views, and the keys that open something within them."""


RULES = """async (only) => (await axe.run(document, {resultTypes: ['violations'],
    ...(only ? {runOnly: only} : {})}))
    .violations.filter(v => v.impact === 'serious' || v.impact === 'critical')
    .map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.target.join(' ')).join(' | '))"""
"""All rules, or those named: of the themes only the colours differ."""


class AxeTest(BrowserTest):
    def setUp(self) -> None:
        self.page = self.open("/api/health")

    def look(self, path: str) -> None:
        self.page.goto(self.nudge.url + path)
        calm(self.page)

    def findings(self, only: list[str] | None = None) -> list[str]:
        if not self.page.evaluate("'axe' in window"):
            self.page.evaluate(AXE)
        return list(self.page.evaluate(RULES, only))

    def in_both_themes(self) -> None:
        """Everything in paper; then the same page by night, whose colours are its own."""
        self.assertEqual(self.findings(), [])
        self.page.evaluate("document.documentElement.dataset.theme = 'night'")
        self.page.wait_for_timeout(150)
        self.assertEqual(self.findings(["color-contrast"]), [])
        self.page.evaluate("document.documentElement.dataset.theme = 'paper'")

    def nothing_runs_off(self) -> None:
        """Not off the side of a phone, nor at twice the text."""
        for (width, height), zoom in ((HAND, 100), (DESK, 200), (DESK, 100)):
            self.page.set_viewport_size({"width": width, "height": height})
            self.page.evaluate(f"document.documentElement.style.fontSize = '{zoom}%'")
            self.page.wait_for_timeout(300)
            over = self.page.evaluate(
                "document.documentElement.scrollWidth - document.documentElement.clientWidth"
            )
            self.assertLessEqual(over, 1, (width, zoom))

    def test_no_view_has_a_serious_finding_in_either_theme_and_all_of_it_fits(self):
        for path in VIEWS:
            with self.subTest(path):
                self.look(path)
                self.in_both_themes()
                self.nothing_runs_off()
                for key in IN_PLACE.get(path, ""):
                    self.page.keyboard.press(key)
                    self.page.wait_for_timeout(500)
                    self.in_both_themes()

    def test_no_card_has_one(self):
        card = self.page.get_by_role("dialog")
        for path, keys in CARDS:
            self.look(path)
            for key in keys:
                with self.subTest(path, key=key):
                    self.page.keyboard.press(key)
                    expect(card).to_be_visible()
                    self.page.wait_for_timeout(300)  # what it slides in by
                    self.in_both_themes()
                    self.page.keyboard.press("Escape")
                    expect(card).to_have_count(0)
