"""Plants with many rooms, by their log: read by keyboard, closed; and played in the hand."""

from playwright.sync_api import expect

from nudge.demo.skerrow_zones import LIBRARY, LOGS, SCHOOL
from tests.browser.support import HAND, BrowserTest, calm
from tests.browser.test_other_plant import closed_in_the_hand


class ZonesTest(BrowserTest):
    def test_the_schools_valve_is_found_on_the_plan_and_the_visit_closed(self):
        page = self.open(f"/visits/{SCHOOL.visit_id}")
        calm(page)
        verdict = page.locator("[data-decision]")
        expect(verdict).to_have_attribute("data-decision", "zones_named")
        expect(verdict).to_contain_text("Music: valve has lost its steps.")
        plan = page.get_by_role("group", name="The plant on its storeys")
        expect(plan.locator("[data-part='2.2']")).to_have_attribute("data-carries", "true")
        expect(plan.locator("[data-part='1.1']")).to_have_attribute("data-carries", "false")
        slider = page.get_by_label("Moment of the log")
        moment = page.locator("[data-moment]")
        ended = moment.inner_text()
        slider.focus()
        page.keyboard.press("Home")
        expect(moment).not_to_have_text(ended)
        page.keyboard.press("End")
        expect(moment).to_have_text(ended)
        plan.get_by_role("button", name="Music").press("Enter")
        expect(page.get_by_role("figure", name="Music over the log")).to_be_visible()
        page.get_by_role("button", name="Rows").press("Enter")
        expect(page.locator("[data-room='2.2']")).to_contain_text("Music")
        patterns = page.get_by_role("list", name="Patterns")
        expect(patterns.locator("[data-pattern]").first).to_contain_text("Power off and on")
        page.keyboard.press("c")  # no gauge was on it: nothing dangerous is left open
        expect(page.get_by_role("button", name="Open again").first).to_be_visible()
        for copy in ("customer", "file"):
            at = f"{self.nudge.url}/api/visits/{SCHOOL.visit_id}/report.pdf?whom={copy}"
            self.assertTrue(page.request.get(at).body().startswith(b"%PDF"))

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
        expect(panel.get_by_label("Name of 6.1")).to_have_value("Drying loft")
        read = panel.get_by_role("button", name="Read it")
        read.focus()
        page.keyboard.press("Enter")
        verdict = page.locator("[data-decision]")
        expect(verdict).to_have_attribute("data-decision", "zones_named")
        expect(verdict).to_contain_text("Low charge.")
        expect(verdict).not_to_contain_text("Add")

    def test_in_the_hand_it_begins_with_the_worst_room_and_is_closed_by_thumb(self):
        page = self.open(f"/visits/{LIBRARY.visit_id}", HAND)
        calm(page)
        rooms = page.locator("[data-room]")
        expect(rooms).to_have_count(11)
        expect(rooms.first).to_have_attribute("data-room", "6.1")
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), HAND[0])
        first = rooms.first.inner_text()
        page.get_by_label("Moment of the log").fill("0")
        expect(rooms.first).not_to_have_text(first)
        closed_in_the_hand(self, page, LIBRARY.visit_id)
