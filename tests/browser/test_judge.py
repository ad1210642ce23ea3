"""The judge on the screen: evidence pointed at, checks done, the walk, the change of mind."""

import re
from datetime import UTC, datetime, timedelta

from playwright.sync_api import expect

from tests.browser.support import HAND, BrowserTest, calm

RESTRICTED = "/visits/clinic-now"
UNDER_WAY = "/visits/net-loft-now"
CLEAN = ("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")


class JudgeTest(BrowserTest):
    def test_evidence_is_marked_on_the_loop_by_hover_and_by_focus(self):
        page = self.open(RESTRICTED)
        calm(page)
        evidence = page.locator("[data-evidence=superheat]").first
        number = page.locator("[data-number=superheat]")
        expect(number).not_to_have_attribute("data-spoken", "true")
        evidence.hover()
        expect(number).to_have_attribute("data-spoken", "true")
        expect(page.locator("[data-mark=suction_line] circle[data-spoken]")).to_be_visible()
        page.mouse.move(5, 5)
        expect(page.locator("[data-mark=suction_line] circle[data-spoken]")).to_have_count(0)
        evidence.focus()
        expect(page.locator("[data-mark=suction_line] circle[data-spoken]")).to_be_visible()
        expect(page.locator("[data-restricted]")).to_be_visible()

    def test_the_landing_shows_where_a_suspect_would_stand(self):
        page = self.open(RESTRICTED)
        calm(page)
        page.get_by_role("button", name="Target map").click()
        expect(page.locator("[data-step=now]")).to_be_visible()
        page.locator("[data-suspect=liquid_line_restriction] summary").focus()
        expect(page.locator("[data-suspected=liquid_line_restriction]")).to_be_visible()

    def test_an_outcome_ticked_moves_the_beliefs_at_once(self):
        page = self.open(UNDER_WAY)
        self.take(page, "suct 126 liq 430 sl 54 ll 112 oa 88 ra 76 wb 63")
        self.tab(page, "Next")
        check = page.locator("[data-first] button[aria-pressed=false]").first
        expect(check).to_be_visible()
        before = page.locator("[data-diagnosis]").inner_text()
        page.get_by_role("button", name="Condenser coil dirty").first.click()
        expect(page.get_by_role("radio", name="Outdoor coil, something found")).to_be_visible()
        expect(page.locator("[data-diagnosis]")).not_to_have_text(before)
        expect(page.locator("[data-diagnosis]")).to_contain_text("dirty outdoor coil")
        self.kept(page)
        page.reload()
        expect(page.locator("[data-diagnosis]")).to_contain_text("dirty outdoor coil")

    def test_what_hangs_on_the_plate_leads_to_the_plate(self):
        page = self.open("/")
        room = {
            "id": "ice-house",
            "site_id": "net-loft",
            "name": "Ice house",
            "refrigerant": "R-404A",
            "metering_device": "txv",
            "application": "refrigeration",
        }
        for path, body in (
            ("systems", room),
            ("visits", {"id": "ice-now", "system_id": "ice-house", "complaint": "Too warm"}),
        ):
            answer = page.request.post(f"{self.nudge.url}/api/{path}", data=body)
            self.assertTrue(answer.ok, answer.text())
        page = self.open("/visits/ice-now")
        calm(page)
        self.take(page, "suct 30 liq 220 box 2 eo -2 oa 80")
        act = page.get_by_role("button", name="Open the plate")
        expect(act).to_be_visible()
        self.assertEqual(page.get_by_role("button", name="Done: the plate").count(), 0)
        act.press("Enter")
        expect(page).to_have_url(re.compile("/systems/ice-house$"))
        expect(page.get_by_role("region", name="The room")).to_be_visible()

    def test_two_things_asked_in_one_breath_stand_one_under_the_other(self):
        page = self.open("/")
        began = (datetime.now(UTC) - timedelta(minutes=40)).isoformat()
        system = {
            "id": "net-store",
            "site_id": "net-loft",
            "name": "Net store",
            "refrigerant": "R-410A",
            "metering_device": "txv",
            "target_subcooling": 10,
        }
        visit = "visits/store-now"
        asked = [
            ("systems", system),
            ("visits", {"id": "store-now", "system_id": "net-store", "complaint": "Warm"}),
            (f"{visit}/events", {"id": "s0", "kind": "system_started", "happened_at": began}),
            *((f"{visit}/observations", {"id": f"s-{k}", "key": k, "seen": True}) for k in CLEAN),
        ]
        for path, body in asked:
            answer = page.request.post(f"{self.nudge.url}/api/{path}", data=body)
            self.assertTrue(answer.ok, answer.text())
        page = self.open(f"/{visit}")
        calm(page)
        self.take(page, "suct 104 liq 300 sl 46 ll 96 oa 90 ra 76")
        first = page.locator("[data-hangs-on=liquid_line_temp_indoor]")
        second = page.locator("[data-hangs-on=standing_pressure]")
        expect(first).to_contain_text("Two things:")
        expect(second).to_contain_text("And:")
        above, below = first.bounding_box(), second.bounding_box()
        self.assertGreaterEqual(below["y"], above["y"] + above["height"])

    def test_the_walk_by_keyboard_finds_the_stretch(self):
        page = self.open("/visits/pottery-now")
        calm(page)
        page.keyboard.press("g")
        expect(page.locator("#walk")).to_be_focused()
        for value in ("98", "97.5", "84", "83.5"):
            page.keyboard.type(value)
            page.keyboard.press("Enter")
        expect(page.locator("[data-stretch=restricted]")).to_contain_text("across the drier")
        page.get_by_role("button", name="Back", exact=True).click()
        expect(
            page.locator("[data-restricted='drier_inlet_temp:drier_outlet_temp']")
        ).to_be_visible()
        expect(page.locator("[data-verdict]")).not_to_contain_text("Add refrigerant")

    def test_what_would_change_the_verdict_is_one_key_away(self):
        page = self.open(RESTRICTED)
        calm(page)
        page.keyboard.press("d")
        card = page.get_by_role("dialog")
        expect(card.get_by_role("row")).not_to_have_count(1)
        expect(card).to_contain_text("this would lead")
        page.keyboard.press("Escape")
        expect(card).to_have_count(0)

    def test_how_to_do_a_check_opens_with_a_key_and_says_what_it_would_mean(self):
        page = self.open("/visits/pottery-now")
        calm(page)
        page.keyboard.press("b")
        first = page.locator("[data-first]")
        expect(first.get_by_role("table")).to_be_visible()
        expect(first.locator("ol li").first).to_be_visible()

    def test_what_was_done_is_kept_with_its_amount(self):
        page = self.open(UNDER_WAY, HAND)
        self.more(page, "Work done")
        page.get_by_role("button", name="Refrigerant added").click()
        keep = page.get_by_role("button", name="Write it down")
        expect(keep).to_be_disabled()
        page.get_by_label("Amount, oz").fill("4.5")
        keep.click()
        self.kept(page)
        expect(page.locator("[data-running]")).to_contain_text("changed")
