"""Journeys a technician makes, in the real interface."""

import re

from playwright.sync_api import APIResponse, Page, Route, expect

from tests.browser.support import FIVE, HAND, PATIENCE_MS, BrowserTest, calm, profile


def number(page: Page, key: str) -> str:
    """What stands there, with what a screen reader adds to it."""
    return page.locator(f"[data-number={key}] [data-value]").first.text_content() or ""


class VisitTest(BrowserTest):
    def test_from_today_to_a_verdict_that_outlives_a_restart(self):
        page = self.open("/")
        page.get_by_role("link", name=re.compile("Loft heat pump")).first.click()
        expect(page.locator("[data-verdict=none]")).to_contain_text("Type what you read.")

        self.take(page, "suct 118 liq 325 sl 55 ll 92 oa 86 ra 76")
        verdict = page.locator("[data-verdict]")
        expect(verdict).not_to_have_attribute("data-verdict", "none")
        before = number(page, "subcooling")
        expect(page.locator("[data-point=liquid_line_temp]")).to_contain_text("92.0 °F")

        self.tab(page, "Readings")
        page.get_by_role("button", name=re.compile("Correct Liquid line, 92.0")).click()
        page.get_by_label("Liquid line should read").fill("96")
        page.get_by_role("button", name="Correct", exact=True).click()
        expect(page.locator("[data-number=subcooling] [data-value]").first).not_to_have_text(before)
        after = number(page, "subcooling")
        self.assertAlmostEqual(_value(before) - _value(after), 4, delta=0.11)
        said = verdict.inner_text()

        self.kept(page)
        page.reload()
        expect(page.locator("[data-verdict]")).to_have_text(said)
        self.nudge.stop()  # killed, not asked
        self.nudge.start()
        page.reload()
        expect(page.locator("[data-verdict]")).to_have_text(said)
        self.assertEqual(number(page, "subcooling"), after)
        self.tab(page, "Readings")
        page.get_by_role("button", name=re.compile("Show 1 replaced")).click()
        expect(page.locator("[data-state=void]")).to_contain_text("typed 92 °F")

    def test_undo_takes_back_the_last_line(self):
        page = self.open("/visits/seed-library-now")
        first = number(page, "superheat")
        self.take(page, "sl 70")
        expect(page.locator("[data-verdict]")).to_have_text(
            "Leave the charge. Look at what feeds the coil."
        )
        page.get_by_label("Type readings").get_by_role("button", name="Undo").click()
        expect(page.locator("[data-number=superheat] [data-value]").first).to_have_text(first)

    def test_a_wrong_word_is_explained_and_put_right_with_one_tap(self):
        page = self.open("/visits/pottery-now")
        page.fill("#callout", "suckt 70 sl 60")
        expect(page.get_by_role("alert")).to_contain_text("“suckt” is not a word Nudge knows")
        page.press("#callout", "Enter")
        expect(page.locator("#callout")).to_have_value("suckt 70 sl 60")  # back, not lost
        page.get_by_role("button", name="suct", exact=True).click()
        expect(page.locator("#callout")).to_have_value("suct 70 sl 60")
        page.press("#callout", "Enter")
        expect(page.locator("[data-point=suction_pressure]")).to_contain_text("70 psig")

    def test_an_absurd_number_is_asked_about_not_taken(self):
        page = self.open("/visits/seed-library-now")
        page.fill("#callout", "ra 300")
        expect(page.get_by_role("alert")).to_contain_text("300.0 °F is outside −40.0 to 130.0 °F")

    def test_what_was_seen_changes_the_suspects(self):
        page = self.open("/visits/clinic-now")
        row = page.get_by_label("Suspects").locator("li").first
        expect(row).to_contain_text("Liquid line restriction")
        self.tab(page, "Next")
        chips = page.get_by_label("Seen", exact=True)
        chips.get_by_role("radio", name=re.compile("^Filter,")).click()
        chips.get_by_role("button", name="Filter dirty").first.click()
        expect(page.locator("[data-verdict]")).to_have_text("Change the filter first.")
        expect(chips.get_by_role("radio", name="Filter, something found")).to_be_visible()
        expect(
            chips.get_by_role("button", name=re.compile("Filter clean")).first
        ).to_have_attribute("aria-pressed", "false")
        chips.get_by_role("button", name="Filter clean").first.click()
        expect(page.locator("[data-verdict]")).to_have_text(
            "Do not add. The liquid line is restricted."
        )

    def test_the_loop_shows_what_the_verdict_says(self):
        page = self.open("/visits/pottery-now")
        self.take(page, "suct 63 liq 199 sl 61 ll 98 oa 90 wb 64")
        for gap, inside in (("superheat", False), ("subcooling", False)):
            self.assertEqual(_dot_in_bracket(page, gap), inside, gap)
        page.goto(self.nudge.url + "/visits/lighthouse-1")
        for gap in ("superheat", "subcooling"):
            self.assertTrue(_dot_in_bracket(page, gap), gap)


def _value(text: str) -> float:
    return float(re.match(r"[\d.]+", text)[0])


def _dot_in_bracket(page: Page, gap: str) -> bool:
    """Whether the line reading's height lies between the ends of its bracket, on the screen."""
    heights = {}
    for role in ("gap", "bracket"):
        line = page.locator(f"[data-role={role}][data-of={gap}]")
        expect(line).to_have_count(1)
        path = line.get_attribute("d") or ""
        heights[role] = [float(y) for y in re.findall(r"[ML][\d.]+ ([\d.]+)", path)]
    return min(heights["bracket"]) <= heights["gap"][1] <= max(heights["bracket"])


class NothingIsLostTest(BrowserTest):
    def test_a_half_typed_line_survives_a_reload(self):
        page = self.open("/visits/net-loft-now")
        page.fill("#callout", "suct 118 liq 3")
        page.reload()
        expect(page.locator("#callout")).to_have_value("suct 118 liq 3")

    def test_lines_taken_while_the_server_is_down_arrive_when_it_is_back(self):
        page = self.open("/visits/net-loft-now")
        expect(page.locator("#callout")).to_be_visible()
        self.nudge.stop()
        self.take(page, "suct 110 sl 52")
        self.take(page, "liq 300 ll 90")
        expect(page.locator("[data-waiting]")).to_have_attribute("data-waiting", "2")
        expect(page.get_by_role("alert")).to_contain_text("2 entries are kept in this browser")
        self.nudge.start()
        self.kept(page)
        expect(page.locator("[data-point=liquid_line_temp]")).to_contain_text("90.0 °F")
        page.reload()
        expect(page.locator("[data-point=suction_pressure]")).to_contain_text("110 psig")
        expect(page.locator("[data-state=current]")).to_have_count(4)

    def test_a_page_older_than_its_server_is_loaded_anew_with_what_was_half_typed(self):
        page = self.open("/api/health")
        other_age = re.compile("/assets/StepsTab-")
        page.context.route(other_age, lambda route: route.fulfill(status=404))
        page.goto(self.nudge.url + "/visits/net-loft-now")
        page.fill("#callout", "suct 118 liq 3")
        with page.expect_navigation(timeout=PATIENCE_MS):
            self.tab(page, "Steps")
        expect(page.locator("#callout")).to_have_value("suct 118 liq 3")

    def test_a_part_that_could_not_be_fetched_is_waited_for_and_the_rest_goes_on(self):
        page = self.open("/api/health")
        gone = re.compile(r"/assets/StepsTab-|/api/health")  # nobody answers
        page.context.route(gone, lambda route: route.abort())
        page.goto(self.nudge.url + "/visits/net-loft-now")
        expect(page.locator("#callout")).to_be_visible()
        self.tab(page, "Steps")
        self.take(page, "ll 91")
        self.kept(page)
        steps = page.locator("section[aria-label='Order of work']")
        self.assertEqual(steps.count(), 0)
        page.context.unroute(gone)
        for _ in range(5):  # asked again within eight seconds
            self.tab(page, "Steps")
            page.wait_for_timeout(4_000)
            if steps.is_visible():
                break
        expect(steps).to_be_visible()

    def test_left_alone_it_has_what_may_be_wanted_before_the_server_goes(self):
        page = self.open("/visits/net-loft-now", idles=True)
        calm(page)
        page.wait_for_function(
            "performance.getEntriesByType('resource').some(one => one.name.includes('/WaysCard-'))"
        )
        self.nudge.stop()
        page.keyboard.press("y")
        expect(page.get_by_role("dialog")).to_be_visible()
        self.nudge.start()

    def test_a_plate_is_kept_as_it_is_typed_and_a_misread_number_is_not(self):
        page = self.open("/systems/school-servery")
        page.get_by_label("Target subcooling").fill("12")
        self.kept(page)
        page.get_by_label("Line set length").fill("9000")
        expect(page.get_by_role("alert")).to_contain_text("9000 ft is outside 0 to 500 ft")
        page.get_by_label("SEER").fill("lots")
        expect(page.get_by_text("“lots” is not a number.")).to_be_visible()
        page.reload()
        expect(page.get_by_label("Target subcooling")).to_have_value("12")
        expect(page.get_by_label("Line set length")).to_have_value("9000")  # still there to fix
        page.get_by_label("Line set length").fill("40")
        self.kept(page)
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_light_and_units_are_remembered(self):
        page = self.open("/visits/seed-library-now")
        page.get_by_role("button", name="Paper").click()
        page.get_by_role("button", name="°F psi").click()
        expect(page.locator("[data-number=superheat]")).to_contain_text("K")
        page.reload()
        expect(page.locator("html")).to_have_attribute("data-theme", "night")
        expect(page.locator("[data-number=superheat]")).to_contain_text("6.8")


class HandsTest(BrowserTest):
    def test_by_keyboard_alone(self):
        page = self.open("/")
        expect(page.get_by_role("heading", name="Under way")).to_be_visible()
        page.keyboard.press("s")
        expect(page.get_by_placeholder("Find a site")).to_be_visible()
        page.keyboard.press("/")
        page.keyboard.type("launch")
        expect(page.locator("main li li")).to_have_count(1)
        for _ in range(12):
            if page.evaluate("document.activeElement.textContent").startswith("Launch van"):
                break
            page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Launch van")).to_be_visible()
        page.keyboard.press("*")
        page.wait_for_url("**/visits/**")
        expect(page.locator("#callout")).to_be_visible()
        page.keyboard.press("/")
        page.keyboard.type("suct 30 sl 45")
        page.keyboard.press("Enter")
        expect(page.locator("[data-point=suction_pressure]")).to_contain_text("30 psig")
        page.keyboard.press("Escape")
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_contain_text("Undo what was written here last")
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.keyboard.press("u")
        expect(page.locator("[data-point=suction_pressure][data-state=current]")).to_have_count(0)

    def test_by_thumb_alone(self):
        page = self.open("/visits/net-loft-now", HAND)
        page.get_by_role("button", name="Pad").click()
        pad = page.get_by_role("group", name="Pad")
        for key in ("suct", "1", "2", "1", "sl", "5", "2", ".", "5"):
            pad.get_by_role(
                "button", name=re.compile(rf"^{re.escape(key)}\b|^{re.escape(key)}$")
            ).first.click()
        expect(page.locator("#callout")).to_have_value("suct 121 sl 52.5")
        pad.get_by_role("button", name="Take").click()
        pad.get_by_role("button", name="Hide").click()
        expect(page.locator("[data-point=suction_line_temp]")).to_contain_text("52.5 °F")

    def test_a_new_site_a_new_system_a_first_visit(self):
        page = self.open("/systems")
        page.get_by_role("button", name="Add a site").click()
        page.get_by_label("Name of the site").fill("Tide Mill")
        page.keyboard.press("Enter")
        entry = page.locator("li", has=page.get_by_role("heading", name="Tide Mill"))
        entry.get_by_role("button", name="Add a system").click()
        entry.get_by_label("Nickname of the system").fill("Mill loft")
        entry.get_by_label("Refrigerant on the plate").select_option("R-32")
        entry.get_by_label("Metering device").select_option("txv")
        entry.get_by_role("button", name="Add", exact=True).click()
        page.get_by_role("button", name="Start a visit").click()
        self.take(page, FIVE)
        expect(page.locator("[data-verdict]")).not_to_have_attribute("data-verdict", "none")

    def test_everything_fits_a_hand_and_a_thumb(self):
        for path in (
            "/",
            "/systems",
            "/systems/clinic-waiting",
            "/visits/clinic-now",
            "/visits/ferry-hall-now",
            "/pocket",
            "/shelf",
        ):
            with self.subTest(path):
                page = self.open(path, HAND)
                calm(page)
                self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), HAND[0])
                small = page.evaluate(
                    """() => [...document.querySelectorAll('button, input:not(.sr-only), select, nav a')]
                      .filter(e => e.offsetParent && e.getBoundingClientRect().height < 43.5)
                      .map(e => e.outerHTML.slice(0, 80))"""
                )
                self.assertEqual(small, [])


class BrokenServerTest(BrowserTest):
    def test_an_entry_the_server_breaks_on_does_not_hold_up_the_others(self):
        page = self.open("/visits/net-loft-now")
        expect(page.locator("#callout")).to_be_visible()
        page.route(
            "**/observations**",
            lambda route: route.fulfill(status=500, body="Internal Server Error"),
        )
        self.tab(page, "Next")
        seen = page.get_by_label("Seen", exact=True)
        seen.get_by_role("radio", name=re.compile("^Filter,")).click()
        seen.get_by_role("button", name="Filter clean").first.click()
        self.take(page, "oa 91")
        expect(page.locator("[data-point=outdoor_air_temp]")).to_contain_text("91.0 °F")
        expect(page.get_by_role("alert")).to_contain_text("Nudge broke on this (500)")

    def test_an_answer_cut_off_on_its_way_is_none_and_the_line_counts_once(self):
        page = self.open("/visits/net-loft-now")
        expect(page.locator("#callout")).to_be_visible()
        cut: list[str] = []

        def cut_the_first(route: Route) -> None:
            if cut:
                route.continue_()
                return
            answer = route.fetch()  # the server has written it
            cut.append(answer.text())
            route.fulfill(status=200, body=answer.text()[:200], content_type="application/json")

        page.route("**/callouts**", cut_the_first)
        self.take(page, "dl 171")
        expect(page.locator("[data-point=discharge_line_temp]").first).to_contain_text("171.0")
        self.kept(page)
        self.assertTrue(cut)
        expect(page.locator("#callout")).to_have_value("")  # not put back as if it were refused
        visit = page.request.get(f"{self.nudge.url}/api/visits/net-loft-now").json()
        typed = [r for r in visit["readings"] if r["point"] == "discharge_line_temp"]
        self.assertEqual([r["value"] for r in typed], [171.0])

    def test_an_answer_older_than_a_write_does_not_put_the_older_visit_back(self):
        page = self.open("/visits/net-loft-now")
        expect(page.locator("#callout")).to_be_visible()
        page.route("**/callouts**", lambda route: route.abort())
        self.take(page, "tesp 0.44")
        expect(page.get_by_text("No answer from Nudge.")).to_be_visible()
        held: list[tuple[Route, APIResponse]] = []

        def hold_the_first(route: Route) -> None:
            if held:
                route.continue_()
            else:
                held.append((route, route.fetch()))

        page.route("**/api/visits/net-loft-now?**", hold_the_first)
        page.reload()
        for _ in range(100):
            if held:
                break
            page.wait_for_timeout(50)
        page.unroute("**/callouts**")
        self.kept(page)
        route, older = held[0]
        route.fulfill(response=older)
        page.wait_for_timeout(700)
        expect(page.locator("[data-point=total_external_static]").first).to_contain_text("0.44")

    def test_ids_are_made_without_a_secure_page(self):
        context = profile(self)
        context.add_init_script("delete Crypto.prototype.randomUUID")
        page = context.new_page()
        page.goto(self.nudge.url + "/visits/net-loft-now")
        self.take(page, "ra 77")
        expect(page.locator("[data-point=return_air_temp]")).to_contain_text("77.0 °F")
