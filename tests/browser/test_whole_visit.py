"""Whole visits in the real interface, by keyboard: a complaint solved, a check left ungauged, a
visit carried to another Nudge, a second pair of eyes.
"""

import json
import re
import tempfile
from pathlib import Path

from playwright.sync_api import Page, expect

from nudge.services.workshop import Workshop
from nudge.store.database import Database
from tests.browser.hand_driven import LIVE, HandDriven
from tests.browser.support import BrowserTest, calm
from tests.temporary import HandClock


def press(page: Page, name: str | re.Pattern[str], role: str = "button") -> None:
    """Reach something with the keyboard and press Enter on it."""
    found = page.get_by_role(role, name=name).first
    expect(found).to_be_enabled()
    found.press("Enter")


def stage(page: Page, name: str) -> None:
    """Open a stage of the order of work, unless it stands open."""
    row = (
        page.get_by_role("region", name="Order of work")
        .get_by_role("button", name=re.compile(f"^{name}"))
        .first
    )
    expect(row).to_be_visible()
    if row.get_attribute("aria-expanded") != "true":
        row.press("Enter")


class ComplaintTest(HandDriven):
    """Air wrong first, then charge: solved end to end on the simulated plant."""

    def test_a_cooling_complaint_is_solved_end_to_end(self):
        page = self.open(f"/visits/{LIVE}")
        calm(page)
        self.pass_minutes(4)
        expect(page.locator("nav[aria-label='Order of work']")).to_have_attribute(
            "data-here", "air"
        )
        # Air: the filter in hand, in the order of work; it is dirty, and nothing is judged.
        page.keyboard.press("w")
        press(page, re.compile("^Outdoor coil"), "radio")
        press(page, "Look at the outdoor coil")
        expect(page.get_by_text("Look at the outdoor coil").first).to_be_visible()
        press(page, re.compile("^Indoor coil"), "radio")
        press(page, "Open the indoor panel and look")
        press(page, re.compile("^Filter"), "radio")
        press(page, "Change the filter")
        expect(page.get_by_text("Change the filter: done.")).to_be_visible()
        page.keyboard.press("Escape")
        self.pass_minutes(16)
        # Then charge, and only then: the nudge opens, dose by dose.
        card = page.locator("[data-nudge]")
        doses = 0
        for _ in range(14):
            expect(card).to_be_visible()
            page.wait_for_timeout(600)
            page.reload()
            calm(page)
            action = card.get_attribute("data-nudge")
            if action in ("done", "stop"):
                break
            if action == "add":
                page.keyboard.press("v")
                expect(page.get_by_role("dialog")).to_contain_text("advised")
                amount = re.search(r"advised ([\d.]+)", page.get_by_role("dialog").inner_text())
                page.get_by_label("Amount, oz").fill(amount[1])
                page.keyboard.press("Enter")
                expect(page.locator("[data-dose]")).to_have_count(doses + 1)
                doses += 1
            self.pass_minutes(12)
        self.assertEqual(action, "done", card.inner_text())
        self.assertLessEqual(doses, 6)
        verdict = page.locator("[data-verdict]")
        expect(verdict).to_have_attribute("data-verdict", "leave")
        # Prove and close: what is dangerous is asked for by name.
        page.keyboard.press("c")
        expect(page.get_by_text("Still open:").first).to_be_visible()
        for step in ("Ports bubble-tested", "Caps on", "Panels and every screw", "Disconnect on"):
            press(page, re.compile(f"Done: {step}"))
        press(page, "Keep this as the baseline")
        expect(page.get_by_text("This visit is the system’s baseline.")).to_be_visible()
        press(page, "Close the visit", "button")
        expect(page.get_by_role("button", name="Open again").first).to_be_visible()
        kept = self.workshop.records.of("radio-transmitter")
        self.assertEqual(kept.standings[0].baseline.visit_id, LIVE)
        self.assertEqual(self.workshop.work.order(LIVE).order.dangers, ())


class YearlyCheckTest(BrowserTest):
    def test_a_yearly_check_is_left_ungauged_and_closed(self):
        page = self.open("/visits/ferry-hall-now")
        calm(page)
        expect(page.get_by_text("Leave the caps on").first).to_be_visible()
        page.keyboard.press("e")
        page.get_by_label("Kind of call").select_option("yearly_check")
        card = page.get_by_role("region", name="Order of work")
        expect(card.get_by_text("only if needed").first).to_be_visible()
        stage(page, "Arrive")
        press(page, re.compile("Done: Thermostat"))
        expect(card.locator("[data-step=thermostat]")).to_have_attribute("data-state", "done")
        stage(page, "Air first")
        filter_row = card.locator("[data-step=filter]")
        filter_row.get_by_role("button", name=re.compile("Fill in|Change")).press("Enter")
        press(page, "Clean")
        press(page, "There is none")
        press(page, "Keep it")
        expect(filter_row).to_contain_text("Right. Clean.")
        page.get_by_label("A note", exact=True).fill("Gulls nest on the slip roof")
        page.keyboard.press("Enter")
        expect(card.locator("[data-note]")).to_contain_text("Gulls nest")
        page.keyboard.press("Escape")
        page.keyboard.press("c")  # caps stayed on: the panel steps are all there is
        page.wait_for_timeout(600)
        if page.get_by_text("Still open:").first.is_visible():
            for step in ("Panels and every screw", "Disconnect on"):
                press(page, re.compile(f"Done: {step}"))
            press(page, "Close the visit")
        expect(page.get_by_role("button", name="Open again").first).to_be_visible()

    def test_a_visit_is_taken_up_again_after_the_server_was_killed_mid_typing(self):
        page = self.open("/visits/seed-library-now")
        calm(page)
        self.take(page, "sa 57 dl 168")
        self.kept(page)  # acknowledged
        page.keyboard.press("Escape")
        page.locator("#callout").blur()
        page.keyboard.press("e")
        note = page.get_by_label("A note", exact=True)
        note.fill("The key hangs be")
        self.nudge.stop()  # a pulled plug
        note.press_sequentially("hind the door")
        page.keyboard.press("Escape")
        self.take(page, "tesp 0.44")
        expect(page.get_by_text("No answer from Nudge.")).to_be_visible()
        page.fill("#callout", "ll 95.")
        self.nudge.start()
        page.reload()
        self.kept(page)
        for point, shown in (
            ("supply_air_temp", "57.0"),
            ("discharge_line_temp", "168.0"),
            ("total_external_static", "0.44"),
        ):
            expect(page.locator(f"[data-point={point}]").first).to_contain_text(shown)
        expect(page.locator("#callout")).to_have_value("ll 95.")
        page.locator("#callout").blur()
        expect(page.locator("nav[aria-label='Order of work']")).to_be_visible()
        calm(page)
        page.keyboard.press("e")
        expect(page.get_by_label("A note", exact=True)).to_have_value(
            "The key hangs behind the door"
        )

    def test_skipping_what_blocks_asks_why(self):
        page = self.open("/visits/net-loft-now")
        calm(page)
        page.keyboard.press("e")
        card = page.get_by_role("region", name="Order of work")
        stage(page, "Air first")
        press(page, "Skip: Filter in your hand")
        why = page.get_by_label("Why is it skipped: Filter in your hand")
        expect(page.get_by_role("button", name="Skip it")).to_be_disabled()
        why.fill("grille painted shut")
        page.keyboard.press("Enter")
        expect(card.locator("[data-step=filter]")).to_contain_text("because: grille painted shut")

    def test_a_picture_that_is_none_is_refused_and_one_that_is_stands_there(self):
        from tests.api.test_whole_visit import picture

        page = self.open("/visits/clinic-now")
        calm(page)
        page.keyboard.press("e")
        pick = page.locator("input[type=file][accept='image/*']")
        pick.set_input_files({"name": "x.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"})
        expect(page.get_by_role("alert")).to_contain_text("not a picture")
        pick.set_input_files({"name": "y.jpg", "mimeType": "image/jpeg", "buffer": picture()})
        expect(page.locator("[data-photo] img")).to_be_visible()

    def test_today_finds_drift_and_what_waits_and_the_palette_finds_anything(self):
        page = self.open("/")
        expect(page.get_by_role("region", name="Drifting")).to_contain_text("Charge has gone")
        expect(page.get_by_role("region", name="Come back for")).to_contain_text("suction flare")
        page.keyboard.press("Control+k")
        page.get_by_role("combobox").fill("lamp room")
        expect(page.get_by_role("option").first).to_contain_text("Lamp room split")
        page.keyboard.press("Enter")
        expect(page).to_have_url(re.compile("/systems/lighthouse-lamp"))
        book = page.get_by_role("region", name="Against the baseline")
        expect(book).to_contain_text("It went somewhere: look for the leak")
        expect(page.locator("[data-moved=subcooling]")).to_contain_text("−")
        expect(page.get_by_role("img", name=re.compile("over 5 visits"))).to_be_visible()


class CarryTest(HandDriven):
    def test_export_into_an_empty_nudge_is_identical(self):
        page = self.open("/systems/lighthouse-lamp")
        with page.expect_download() as saved:
            page.get_by_role("link", name=re.compile("Save this system")).press("Enter")
        given = Path(saved.value.path()).read_bytes()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        other = Workshop(Database(Path(folder.name)), HandClock())
        there = self.open("/systems", self.serve(other))
        pick = there.locator("input[type=file]")
        pick.set_input_files({"name": "n.json", "mimeType": "application/json", "buffer": b"[]"})
        looked = there.get_by_role("group", name="What it brings")
        expect(looked).to_contain_text("do not fit")
        expect(looked.get_by_role("button", name="Take it in")).to_have_count(0)
        pick.set_input_files(
            {"name": "nudge.json", "mimeType": "application/json", "buffer": given}
        )
        expect(looked).to_contain_text("brings 1 systems, 6 visits", timeout=180_000)
        self.assertEqual(other.book.sites(), [])
        looked.get_by_role("button", name="Take it in").click()
        taken = there.get_by_text("Taken in: 1 systems, 6 visits")
        expect(taken).to_be_visible(timeout=180_000)
        back = json.loads(json.dumps(other.bundles.of_system("lighthouse-lamp")))
        first = json.loads(given)
        self.assertEqual({**back, "made_at": ""}, {**first, "made_at": ""})

    def test_a_second_pair_of_eyes_sees_it_live_and_leaves_a_note(self):
        page = self.open(f"/visits/{LIVE}")
        calm(page)
        page.keyboard.press("c")
        press(page, "A link for a second pair of eyes")
        link = page.get_by_label("The link").input_value()
        guest = self.open(link.removeprefix(self.url))
        expect(guest.get_by_role("heading", level=1)).to_contain_text("Transmitter room")
        self.assertEqual(guest.get_by_role("navigation").count(), 0)  # leads nowhere else
        guest.get_by_label("A note for whoever is there").fill("Look behind the rack too")
        guest.keyboard.press("Enter")
        expect(guest.get_by_role("region", name="Notes")).to_contain_text("from the office")
        expect(page.get_by_role("region", name="Order of work")).to_contain_text(
            "Look behind the rack"
        )
        press(page, "End it now")
        guest.reload()
        expect(guest.get_by_text("This link has ended.")).to_be_visible()
