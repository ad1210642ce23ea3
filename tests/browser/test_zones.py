"""Plants with many rooms, by their log: read by keyboard, closed; and played in the hand."""

from playwright.sync_api import expect

from nudge.demo.skerrow_zones import LIBRARY, LOGS, SCHOOL
from tests.browser.support import HAND, BrowserTest, calm
from tests.browser.test_other_plant import closed_in_the_hand

HEADLINES = {
    SCHOOL.visit_id: ("Music: valve has lost its steps.", "2.2", "1.1"),
    LIBRARY.visit_id: ("Low charge.", "outdoor", "5.1"),
}
"""What each demo plant comes to, which part carries it, and one that does not."""


class ByKeyboardTest(BrowserTest):
    def test_both_plants_are_played_to_the_end(self):
        for visit in HEADLINES:
            with self.subTest(visit):
                self.play(visit)

    def play(self, visit):
        headline, carries, fine = HEADLINES[visit]
        page = self.open(f"/visits/{visit}")
        calm(page)
        verdict = page.locator("[data-decision]")
        expect(verdict).to_have_attribute("data-decision", "zones_named")
        expect(verdict).to_contain_text(headline)
        expect(verdict).not_to_contain_text("Add")
        plan = page.get_by_role("group", name="The plant on its storeys")
        expect(plan.locator(f"[data-part='{carries}']")).to_have_attribute("data-carries", "true")
        expect(plan.locator(f"[data-part='{fine}']")).to_have_attribute("data-carries", "false")
        slider = page.get_by_label("Moment of the log")
        moment = page.locator("[data-moment]")
        ended = moment.inner_text()
        slider.focus()
        page.keyboard.press("Home")
        expect(moment).not_to_have_text(ended)
        page.keyboard.press("End")
        expect(moment).to_have_text(ended)
        worst = plan.get_by_role("button").first
        name = worst.get_attribute("aria-label").partition(":")[0]
        worst.press("Enter")
        expect(page.get_by_role("figure", name=f"{name} over the log")).to_be_visible()
        self.put_right(page, fine)
        page.get_by_role("button", name="Rows").press("Enter")
        expect(page.locator(f"[data-room='{fine}']")).to_contain_text("Kiln corner")
        patterns = page.get_by_role("list", name="Patterns")
        expect(patterns.locator("[data-pattern]").first).to_contain_text("Looks like")
        page.keyboard.press("c")  # no gauge was on it: nothing dangerous is left open
        expect(page.get_by_role("button", name="Open again").first).to_be_visible()
        for copy in ("customer", "file"):
            at = f"{self.nudge.url}/api/visits/{visit}/report.pdf?whom={copy}"
            self.assertTrue(page.request.get(at).body().startswith(b"%PDF"))

    def put_right(self, page, key):
        """The drawing: a room renamed, one added on its storey and taken away again, kept."""
        page.get_by_role("button", name="Put the drawing right").press("Enter")
        panel = page.get_by_role("dialog", name="The plant’s drawing")
        panel.get_by_role("button", name=f"{key}, ").press("Enter")
        named = panel.get_by_label(f"Name of {key}")
        named.focus()
        page.keyboard.press("Control+a")
        page.keyboard.type("Kiln corner")
        panel.get_by_role("button", name=f"Add a room on storey {key[0]}").press("Enter")
        expect(panel.locator("[data-room-drawn]")).to_have_count(1)
        panel.get_by_role("button", name="Take it away").press("Enter")
        panel.get_by_role("button", name="Keep it").press("Enter")
        expect(panel).to_have_count(0)


class ByThumbTest(BrowserTest):
    def test_both_plants_begin_with_what_carries_it_and_are_closed(self):
        for visit, (headline, carries, fine) in HEADLINES.items():
            with self.subTest(visit):
                page = self.open(f"/visits/{visit}", HAND)
                calm(page)
                expect(page.locator("[data-decision]")).to_contain_text(headline)
                rooms = page.locator("[data-room]")
                worst = "6.1" if carries == "outdoor" else carries
                expect(rooms.first).to_have_attribute("data-room", worst)
                width = page.evaluate("document.documentElement.scrollWidth")
                self.assertLessEqual(width, HAND[0])
                first = rooms.first.inner_text()
                page.get_by_label("Moment of the log").fill("0")
                expect(rooms.first).not_to_have_text(first)
                self.draw(page, fine)
                closed_in_the_hand(self, page, visit)

    def draw(self, page, key):
        """A branch box hung on a room by touching it, and seen on the drawing."""
        page.get_by_role("button", name="Put the drawing right").click()
        panel = page.get_by_role("dialog", name="The plant’s drawing")
        panel.get_by_role("button", name=f"{key}, ").click()
        panel.get_by_label(f"Branch box of {key}").fill("West")
        expect(panel.get_by_role("button", name=f"{key}, ")).to_contain_text("West")
        panel.get_by_role("button", name="Keep it").click()
        expect(panel).to_have_count(0)


class ReadInTest(BrowserTest):
    def test_a_log_is_read_in_by_keyboard_and_its_columns_are_shown(self):
        page = self.open("/")
        body = {"id": "read-in", "system_id": LIBRARY.system_id, "complaint": "Warm again"}
        self.assertTrue(page.request.post(f"{self.nudge.url}/api/visits", data=body).ok)
        page = self.open("/visits/read-in")
        calm(page)
        page.get_by_role("button", name="Read its log").press("Enter")
        panel = page.get_by_role("dialog", name="Read the plant’s log")
        rows = [row.split(",") for row in (LOGS / LIBRARY.file).read_text("utf-8").splitlines()]
        mode = rows[0].index("OU Mode")
        for row in rows[1:]:
            row[mode] = "KB" if row[mode] == "1" else row[mode]
        words = "\n".join(",".join(row) for row in rows).encode()
        file = {"name": "tower.csv", "mimeType": "text/csv", "buffer": words}
        panel.locator("input[type=file]").set_input_files(file)
        meant = panel.get_by_label("Mode “KB” means")
        meant.focus()
        page.keyboard.type("cooling")
        expect(meant.locator("option:checked")).to_have_text("cooling")
        expect(panel.get_by_text("6.1: room, °C")).to_be_visible()
        panel.get_by_role("button", name="6.1, Drying loft").press("Enter")
        expect(panel.get_by_label("Name of 6.1")).to_have_value("Drying loft")
        read = panel.get_by_role("button", name="Read it")
        read.focus()
        page.keyboard.press("Enter")
        verdict = page.locator("[data-decision]")
        expect(verdict).to_have_attribute("data-decision", "zones_named")
        expect(verdict).to_contain_text("Low charge.")
        expect(verdict).not_to_contain_text("Add")
