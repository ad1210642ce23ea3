"""Ways in, the connection, the live scale and its valve, the shelf's own work: on the screen."""

import re

from playwright.sync_api import expect

from tests.browser.support import HAND, BrowserTest, calm

LOW, LIVE = "/visits/pottery-now", "/visits/radio-room-live"


class WaysTest(BrowserTest):
    def test_the_way_for_today_stands_open_with_its_cautions_and_the_connection_is_kept(self):
        page = self.open(LOW)
        calm(page)
        page.keyboard.press("y")
        card = page.get_by_role("dialog", name="Ways in")
        today = card.locator("[data-way=trim_by_superheat]")
        expect(today).to_have_attribute("open", "")
        expect(today).to_contain_text("Care: Superheat never under 5 °F")
        expect(card.locator("[data-way=cold_with_collar]")).to_contain_text("under 70.0 °F")
        tee = card.locator("[data-connection=probe_and_tee]")
        tee.click()
        expect(tee.get_by_role("radio")).to_be_checked()
        changes = card.locator("[data-changes=probe_and_tee]")
        expect(changes).to_contain_text("Care: No hose volume to boil it in")
        for said in ("at most 1.0 oz", "of liquid stays in it", "One short hose with a breath"):
            expect(changes).to_contain_text(said)
        self.kept(page)
        page.reload()
        calm(page)
        page.keyboard.press("y")
        expect(card.locator("[data-connection=probe_and_tee]").get_by_role("radio")).to_be_checked()
        card.get_by_text("Block part of the coil’s face").click()
        expect(card).to_contain_text("subcooling reads low")
        page.keyboard.press("Escape")
        expect(page.locator("[data-nudge]")).to_contain_text("per oz here")

    def test_in_si_the_same_limits_stand_in_kelvin(self):
        page = self.open(LOW)
        calm(page)
        page.keyboard.press("m")
        expect(page.locator("[data-nudge]")).to_contain_text(re.compile(r"Add \d+ g"))
        page.keyboard.press("y")
        way = page.locator("[data-way=trim_by_superheat]")
        expect(way).to_contain_text("Superheat never under 2.8 K")


class ScaleTest(BrowserTest):
    def test_a_burst_is_poured_by_holding_and_the_scale_tells_what_has_gone(self):
        page = self.open(LIVE)
        calm(page)
        page.keyboard.press("h")
        page.get_by_role("button", name="Refrigerant added").click()
        scale = page.locator("[data-scale]")
        expect(scale).to_contain_text("gone since zero")
        pour = page.get_by_role("button", name="Hold to pour a burst")
        pour.focus()
        page.keyboard.down(" ")
        expect(page.get_by_role("button", name="Pouring. Let go to shut")).to_be_visible()
        page.wait_for_timeout(7_000)
        page.keyboard.up(" ")
        expect(page.get_by_role("button", name="Hold to pour a burst")).to_be_visible()
        amount = page.get_by_label("Amount, oz")
        expect(amount).to_have_value(re.compile(r"^(0\.[6-9]|1\.\d|2\.\d)$"))
        page.get_by_role("button", name="Write it down").click()
        self.kept(page)
        expect(page.locator("[data-running]")).to_contain_text("changed")

    def test_stop_shuts_what_pours(self):
        page = self.open(LIVE, HAND)
        calm(page)
        self.more(page, "Work done")
        page.get_by_role("button", name="Refrigerant added").click()
        expect(page.locator("[data-scale]")).to_be_visible()
        page.get_by_role("button", name="STOP").click()
        expect(page.get_by_role("alert")).to_contain_text("Shut the cylinder valve")


class ShelfWorkTest(BrowserTest):
    def test_a_cylinder_is_filled_moved_and_its_contents_checked(self):
        page = self.open("/shelf")
        calm(page)
        one = page.locator("[data-cylinder=shelf-410]")
        one.get_by_text("Fill, return, move").click()
        one.get_by_label("How much, lb").fill("2,5")
        one.get_by_role("button", name="Enter it").click()
        expect(one).to_contain_text("26.02 lb in it".replace(" lb in it", ""))
        one.get_by_label("What happened").select_option("moved")
        one.get_by_label("How much, lb").fill("1")
        expect(one.get_by_role("button", name="Enter it")).to_be_disabled()
        one.get_by_label("Into which cylinder").select_option("shelf-recovery")
        one.get_by_role("button", name="Enter it").click()
        expect(page.locator("[data-cylinder=shelf-recovery]")).to_contain_text("12.26")
        # R-410A at 80 °F stands at 236 psig by its saturation table; 60 over is air.
        one.get_by_label("Cylinder temperature, °F").fill("80")
        one.get_by_label("Its pressure, psig").fill("300")
        one.get_by_role("button", name="What is in it?").click()
        expect(one.get_by_role("status")).to_contain_text("air or another refrigerant")
        expect(one.get_by_role("status")).to_contain_text(re.compile(r"it shows 23[4-8]"))

    def test_the_cylinder_is_weighed_for_the_visit_from_the_pad(self):
        page = self.open(LOW)
        calm(page)
        page.keyboard.press("v")
        page.get_by_text("Not weighed on this visit yet").click()
        field = page.get_by_label(re.compile("Weight of Old 22"))
        shown = field.get_attribute("placeholder")
        field.fill(shown)
        page.keyboard.press("Enter")
        expect(page.get_by_text("Not weighed on this visit yet")).to_have_count(0)


class CollarTest(BrowserTest):
    def test_what_its_collar_says_is_written_down_and_decides(self):
        page = self.open("/shelf")
        calm(page)
        marks = page.locator("[data-cylinder=shelf-recovery] [data-marks]")
        expect(marks.locator("summary")).to_have_text("Clean, 400 psig, not for flammable")
        marks.locator("summary").click()
        marks.get_by_label("What is in it").select_option("burnt")
        marks.get_by_label(re.compile("^Service pressure")).fill("350")
        marks.get_by_label("Tested until").fill("2020-01-31")
        marks.get_by_role("button", name="Keep it").click()
        expect(marks.locator("summary")).to_contain_text(
            "Marked burnt, 350 psig, tested until 2020-01-31"
        )
        page.goto(f"{self.nudge.url}/visits/valve-live")
        calm(page)
        card = page.get_by_role("region", name="The circuit")
        card.get_by_role("button", name="Recover into a cylinder").click()
        panel = page.get_by_role("dialog", name="Take out")
        panel.get_by_label(re.compile("^Amount")).fill("80")
        panel.get_by_role("button", name="Write it down").click()
        expect(
            page.get_by_text(re.compile("marked burnt: clean refrigerant")).first
        ).to_be_visible()


class SettingsTest(BrowserTest):
    def test_a_setting_says_why_it_is_not_its_maker_s_and_comes_off_again(self):
        page = self.open("/visits/inverter-live")
        calm(page)
        page.get_by_role("button", name="Machine’s settings").click()
        panel = page.get_by_role("dialog", name="Machine’s settings")
        for label, value in (
            ("Name or number on the board", "F12"),
            ("As its maker set it", "30"),
            ("As you leave it", "45"),
        ):
            panel.get_by_label(label).fill(value)
        panel.get_by_role("button", name="Write it down").click()
        expect(page.get_by_text(re.compile("not 30 as its maker set it")).first).to_be_visible()
        for label, value in (
            ("Name or number on the board", "F12"),
            ("As its maker set it", "30"),
            ("As you leave it", "45"),
            ("Why, where it is another", "long duct"),
        ):
            panel.get_by_label(label).fill(value)
        panel.get_by_label("In which mode").select_option("cooling")
        panel.get_by_role("button", name="Write it down").click()
        row = panel.locator("[data-setting=F12]")
        expect(row).to_contain_text("its maker’s: 30")
        expect(row).to_contain_text("long duct")
        row.get_by_role("button", name="Take F12 off").click()
        expect(row).to_have_count(0)


class TwoPeopleTest(BrowserTest):
    def test_one_plate_two_windows_nothing_overwritten_in_silence(self):
        path = "/systems/radio-studio"
        one, other = self.open(path), self.open(path)
        calm(one)
        calm(other)
        one.get_by_label("Note for whoever comes next").fill("Ask at the studio for the key")
        one.keyboard.press("Tab")
        self.kept(one)
        late = other.get_by_label("Note for whoever comes next")
        late.fill("The key hangs behind the door")
        other.keyboard.press("Tab")
        expect(other.get_by_role("alert")).to_contain_text("Somebody changed this meanwhile")
        expect(other.get_by_role("alert")).to_contain_text("Ask at the studio")
        expect(late).to_have_value("The key hangs behind the door")  # what was typed is not lost
        one.reload()
        expect(one.get_by_label("Note for whoever comes next")).to_have_value(
            "Ask at the studio for the key"
        )
