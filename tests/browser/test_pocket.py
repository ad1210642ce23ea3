"""The Pocket, workings, charts and the look, driven as people drive them."""

import re

from playwright.sync_api import Page, expect

from tests.browser.support import HAND, BrowserTest, calm


class PocketTest(BrowserTest):
    def pocket(self, size: tuple[int, int] = (1280, 800)) -> Page:
        page = self.open("/pocket", size)
        expect(page.locator("[data-slip=saturation]")).to_be_visible()
        return page

    def fill(self, page: Page, **blanks: str) -> None:
        for key, text in blanks.items():
            field = page.locator(f"[id$='-{key}']").first
            if field.evaluate("e => e.tagName") == "SELECT":
                field.select_option(text)
            else:
                field.fill(text)

    def test_numbers_come_as_they_are_typed_and_stay_after_a_crash(self):
        page = self.pocket()
        self.fill(page, refrigerant="R-454B", pressure="118")
        dew = page.locator("[data-slip=saturation] [data-line=dew]")
        expect(dew).to_contain_text("44.9 °F")
        expect(page.get_by_role("img", name=re.compile("Rule of R-454B"))).to_be_visible()
        # The same blank on another slip is the same value.
        expect(page.locator("#circuit-refrigerant")).to_have_value("R-454B")
        self.fill(page, suction_pressure="118", suction_line_temp="56")
        expect(page.locator("[data-line=superheat]")).to_contain_text("✓ inside")
        page.goto("about:blank")
        page.goto(self.nudge.url + "/pocket")
        expect(dew).to_contain_text("44.9 °F")
        page.keyboard.press("m")
        expect(dew).to_contain_text("7.1 °C")
        expect(page.locator("#saturation-pressure")).to_have_value("813.6")
        page.keyboard.press("m")
        expect(page.locator("#saturation-pressure")).to_have_value("8.136")
        page.keyboard.press("m")
        expect(page.locator("#saturation-pressure")).to_have_value("118")

    def test_a_wrong_entry_is_answered_beside_its_blank(self):
        page = self.pocket()
        self.fill(page, pressure="1180", temperature="75")
        card = page.locator("[data-slip=saturation]")
        expect(card.get_by_role("alert")).to_contain_text("−14 to 900 psig")
        expect(card.locator("[data-line=bubble_pressure]")).to_contain_text("psig")
        self.fill(page, return_air_temp="70", return_air_wet_bulb="75", outdoor_air_temp="90")
        expect(page.locator("[data-slip=split]").get_by_role("alert")).to_contain_text(
            "over dry bulb 70.0 °F"
        )

    def test_slips_go_in_and_out_by_keyboard_and_numbers_open(self):
        page = self.pocket()
        chip = page.get_by_label("Slips").get_by_role("button", name="Run capacitor")
        chip.focus()
        page.keyboard.press("Enter")
        card = page.locator("[data-slip=capacitor]")
        rated = card.get_by_label("Rated")
        rated.fill("45")
        page.keyboard.press("Enter")
        page.keyboard.type("40.8")
        expect(card).to_contain_text("Weak: outside its label. Renew it.")
        expect(card).to_contain_text("discharge the capacitor before touching it")
        card.get_by_role("button", name="How it came about: Off its label").press("Enter")
        opened = page.get_by_role("dialog")
        expect(opened).to_contain_text("(40.8 µF − 45.0 µF) ÷ 45.0 µF = −9.3 %")
        expect(opened).to_contain_text("19 times in 20")
        page.keyboard.press("Escape")
        expect(opened).to_have_count(0)
        chip.click()
        expect(card).to_have_count(0)

    def test_emptying_can_be_taken_back_and_text_copied(self):
        page = self.pocket()
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        self.fill(page, pressure="118")
        expect(page.locator("[data-line=dew]")).to_be_visible()
        page.keyboard.press("Escape")
        page.keyboard.press(";")
        expect(page.get_by_role("button", name="Copied")).to_be_visible()
        copied = page.evaluate("navigator.clipboard.readText()")
        self.assertRegex(
            copied, r"Saturation\n  Refrigerant: R-410A\n  Pressure: 118 psig\n  = Dew"
        )
        page.keyboard.press("0")
        expect(page.locator("[data-line=dew]")).to_have_count(0)
        page.get_by_role("button", name="Take the numbers back").click()
        expect(page.locator("[data-line=dew]")).to_be_visible()

    def test_a_slip_is_sent_into_a_visit(self):
        page = self.pocket()
        self.fill(page, suction_pressure="118", suction_line_temp="52")
        page.get_by_role("button", name="Send Superheat and subcooling into a visit").click()
        page.get_by_role("button", name="Net Loft, Loft heat pump").click()
        page.get_by_role("link", name=re.compile("Go to Net Loft")).click()
        expect(page.locator("[data-point=suction_pressure]")).to_contain_text("118 psig")
        calm(page)
        self.tab(page, "Readings")
        slips = page.get_by_label("From the calculators")
        slips.locator("summary").click()
        expect(slips).to_contain_text("= Superheat:")

    def test_the_cycle_is_drawn(self):
        page = self.pocket()
        page.get_by_label("Slips").get_by_role("button", name="Cycle chart").click()
        self.fill(
            page,
            suction_pressure="118",
            suction_line_temp="52",
            liquid_pressure="341",
            liquid_line_temp="96",
        )
        drawing = page.get_by_role("img", name=re.compile("Pressure against enthalpy of R-410A"))
        expect(drawing).to_have_attribute("aria-label", re.compile("Suction 52 °F.*Discharge"))

    def test_a_server_that_is_gone_loses_nothing(self):
        page = self.pocket()
        page.route("**/api/pocket", lambda route: route.abort())
        self.fill(page, pressure="118")
        expect(page.get_by_text("What you type is kept")).to_be_visible()
        page.unroute("**/api/pocket")
        expect(page.locator("[data-line=dew]")).to_be_visible()

    def test_a_hand_types_it_all(self):
        page = self.pocket(HAND)
        self.fill(page, return_air_temp="80", return_air_wet_bulb="67", outdoor_air_temp="95")
        expect(page.locator("[data-line=expected_split]")).to_contain_text("19.5 °F")
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), HAND[0])


class NumbersTest(BrowserTest):
    def test_a_number_of_a_visit_opens_and_closes(self):
        page = self.open("/visits/seed-library-now")
        page.locator("[data-number=superheat] button").first.click()
        card = page.get_by_role("dialog")
        expect(card).to_contain_text("52.0 °F − 39.8 °F = 12.2 °F")
        expect(card).to_contain_text("±0.9 °F")
        page.keyboard.press("Escape")
        page.get_by_role("button", name="How it came about: target subcooling").click()
        expect(card).to_contain_text("The maker's own target")
        page.keyboard.press("Escape")
        expect(card).to_have_count(0)

    def test_a_look_without_gauges_until_one_is_on(self):
        page = self.open("/visits/ferry-hall-now")
        look = page.get_by_role("region", name="Look without gauges")
        expect(page.locator("[data-look]")).to_have_text("Leave the caps on.")
        expect(look).to_contain_text("its own history agrees")
        expect(page.get_by_label("Check next")).to_have_count(0)
        self.take(page, "sa 66")
        expect(page.locator("[data-look]")).to_have_text("Connect.")
        expect(look).to_contain_text("Temperature split 10.5 °F is under")
        self.take(page, "suct 118")
        expect(look).to_have_count(0)

    def test_a_chart_is_typed_seen_kept_and_used(self):
        page = self.open("/systems/school-servery")
        section = page.locator("[data-chart=subcooling_by_outdoor]")
        section.get_by_role("button", name="Add").click()
        box = section.locator("textarea")
        box.fill("outdoor;A;B\n75;11;9\n75;9;7")
        expect(section.get_by_role("alert")).to_contain_text("Outdoor air 75 stands twice")
        expect(section.get_by_role("button", name="Keep the chart")).to_be_disabled()
        page.reload()
        section.get_by_role("button", name="Add").click()
        expect(box).to_have_value("outdoor;A;B\n75;11;9\n75;9;7")
        box.fill("outdoor;A;B\n75;11;9\n95;9;7")
        section.get_by_role("button", name="Keep the chart").click()
        expect(section.get_by_role("table")).to_be_visible()
        page.get_by_label("Indoor unit, as on the chart").fill("B")
        page.keyboard.press("Tab")
        self.kept(page)
        page.goto(self.nudge.url + "/")
        page.get_by_role("button", name=re.compile("Start the visit to School Kitchen")).click()
        self.take(page, "oa 85 ra 76 liq 280 ll 98")
        self.tab(page, "Readings")
        chart = page.get_by_role("region", name="Subcooling by outdoor air")
        expect(chart).to_contain_text("Today, at 85.0 °F: 8.0 °F")
        expect(chart.locator("[data-near=true]")).to_have_count(2)

    def test_a_chart_file_that_is_too_big_is_not_read(self):
        page = self.open("/systems/radio-studio")
        section = page.locator("[data-chart=superheat_by_wet_bulb]")
        section.get_by_role("button", name="Add").click()
        with page.expect_file_chooser() as chooser:
            section.get_by_text("From a file").click()
        big = {"name": "big.csv", "mimeType": "text/csv", "buffer": b"1,2\n" * 2_500_000}
        chooser.value.set_files(big)  # type: ignore[arg-type]
        expect(section.get_by_role("alert")).to_contain_text("10.0 MB")
        with page.expect_file_chooser() as chooser:
            section.get_by_text("From a file").click()
        small = {"name": "c.csv", "mimeType": "text/csv", "buffer": b"out,60,64\n75,13,19\n85,8,14"}
        chooser.value.set_files(small)  # type: ignore[arg-type]
        expect(section.get_by_role("table")).to_contain_text("19")

    def test_the_weigh_in_follows_the_plate(self):
        page = self.open("/systems/clinic-waiting")
        sheet = page.get_by_label("Weigh-in", exact=True)
        expect(sheet).to_contain_text("10 lb 3.5 oz")
        sheet.get_by_label("Line length included").fill("20")
        expect(sheet).to_contain_text("10 lb 0.3 oz")
        expect(sheet).not_to_contain_text("is taken, the usual one")

    def test_the_workshops_default_method(self):
        page = self.open("/systems")
        methods = page.get_by_label("Methods", exact=True)
        methods.get_by_label("With a fixed orifice").select_option(label="Formula superheat")
        expect(methods).to_contain_text("its right superheat moves with return wet bulb")
        self.kept(page)
        page.reload()
        expect(methods.get_by_label("With a fixed orifice")).to_have_value("formula_superheat")


FOREIGN = {"si": r"°F|psi|\bCFM\b|in\. w\.c\.|\boz\b|\blb\b|Btu", "si_bar": r"°F|psi|\bkPa\b|Btu"}


class UnitsTest(BrowserTest):
    def test_no_screen_mixes_units(self):
        for units, foreign in FOREIGN.items():
            for path in (
                "/",
                "/systems/pottery-kiln",
                "/visits/pottery-now",
                "/visits/ferry-hall-now",
                "/pocket",
                "/shelf",
            ):
                page = self.open(path)
                kept = f'{{"theme":"paper","units":"{units}","padOpen":false}}'
                page.evaluate(f"localStorage.setItem('nudge.preferences', '{kept}')")
                page.reload()
                calm(page)
                page.evaluate("document.querySelectorAll('details').forEach(d => (d.open = true))")
                shown = page.locator("main").inner_text()
                shown = re.sub(r"(typed|live) [^\n]*", "", shown)  # what was typed stays as typed
                with self.subTest(path=path, units=units):
                    self.assertGreater(len(shown), 100)
                    self.assertEqual(re.findall(foreign, shown), [])
