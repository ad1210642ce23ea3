"""One running Nudge with its own Skerrow for the tests of a class, one Chromium for a file's."""

import atexit
import os
import shutil
import sqlite3
import tempfile
import time
import unittest
from contextlib import ExitStack, closing
from datetime import UTC, datetime
from functools import cache
from pathlib import Path
from typing import ClassVar
from weakref import WeakKeyDictionary

from playwright.sync_api import Browser, BrowserContext, Error, Page, Request, expect

from tests.browser.forked import ForkedNudge
from tools.drive import SHORT_LIVED, RunningNudge, chromium

FIVE = "suct 118 liq 341 sl 52 ll 96 oa 88"
ONCE_A_RUN = "NUDGE_TESTS_DEMO"
DESK, HAND = (1280, 800), (390, 844)
NEVER_IDLE = "window.requestIdleCallback = () => 0"
"""A page at work fetches what it shows; the thirty parts it may want were a fifth of its cost."""
PATIENCE_MS = 30_000
"""How long anything is waited for: the suites share a machine with each other."""


@cache
def demo_data() -> Path:
    """The demo's data, written once a run by the demo itself; every class has its own copy.

    `tools.run_tests` has it written before the first test and names the folder to every process.
    """
    written = os.environ.get(ONCE_A_RUN)
    if written is not None:
        return Path(written)
    folder = Path(tempfile.mkdtemp())
    atexit.register(shutil.rmtree, folder)
    first = RunningNudge(folder)
    first.start()
    first.stop()
    return folder


def copy_demo(data: Path) -> None:
    """The demo's data into a folder. No time goes by at its simulated systems meanwhile: each
    server would make up for it.
    """
    shutil.copytree(demo_data(), data, dirs_exist_ok=True)
    with closing(sqlite3.connect(data / "nudge.sqlite3")) as database, database:
        database.execute(
            "UPDATE plants SET updated_at = ?", (str(datetime.now(UTC).replace(tzinfo=None)),)
        )


@cache
def browser() -> Browser:
    """One browser a file, until its last test is done."""
    stack = ExitStack()
    unittest.addModuleCleanup(browser.cache_clear)
    unittest.addModuleCleanup(stack.close)
    expect.set_options(timeout=PATIENCE_MS)
    return stack.enter_context(chromium(SHORT_LIVED))


def profile(
    test: unittest.TestCase,
    size: tuple[int, int] = DESK,
    idles: bool = False,
    has_touch: bool = False,
) -> BrowserContext:
    """A browser profile of its own, until the test ends."""
    context = new_profile(size, idles, has_touch)
    test.addCleanup(context.close)
    return context


def new_profile(
    size: tuple[int, int], idles: bool = False, has_touch: bool = False
) -> BrowserContext:
    context = browser().new_context(
        viewport={"width": size[0], "height": size[1]}, locale="en-US", has_touch=has_touch
    )
    if not idles:
        context.add_init_script(NEVER_IDLE)
    return context


class BrowserTest(unittest.TestCase):
    """Its tests use one page after the other, left as in a browser nobody has used: what made its
    scripts ready is half of what opening one costs.
    """

    nudge: ClassVar[ForkedNudge]
    page_between: ClassVar[Page | None] = None
    """The page no test uses just now."""

    @classmethod
    def setUpClass(cls) -> None:
        data = Path(tempfile.mkdtemp())
        cls.addClassCleanup(shutil.rmtree, data)
        copy_demo(data)
        cls.nudge = ForkedNudge(data)
        cls.addClassCleanup(cls.nudge.stop)
        cls.nudge.start()
        cls.page_between = None
        cls.addClassCleanup(cls._close_between)

    @classmethod
    def _close_between(cls) -> None:
        if cls.page_between is not None:
            cls.page_between.context.close()

    def open(
        self, path: str, size: tuple[int, int] = DESK, idles: bool = False, own: bool = False
    ) -> Page:
        """A page in a browser nobody has used; any uncaught error fails the test. A second one in a
        test is another device's. Where it `idles` it fetches in its own time what may be wanted
        later, as a page left alone does; its `own` is closed for good: its clock or scripts change.
        """
        page, cls = self.page_between, type(self)
        if idles or own:
            page = watched(profile(self, size, idles).new_page())
        else:
            if page is None:
                page = watched(new_profile(size).new_page())
            cls.page_between = None
            page.set_viewport_size({"width": size[0], "height": size[1]})
            self.addCleanup(self._leave, page)
        self.addCleanup(lambda: self.assertEqual(errors_of(page), []))
        page.goto(self.nudge.url + path)
        return page

    def _leave(self, page: Page) -> None:
        """Let go of all a page kept, for the next test; of the page, where its server is gone."""
        context, cls = page.context, type(self)
        try:
            for each in context.pages:
                if each is not page:
                    each.close()
            page.unroute_all()
            context.unroute_all()
            page.goto(self.nudge.url + "/api/health")
            page.evaluate("sessionStorage.clear()")
            origin = {"origin": self.nudge.url, "storageTypes": "all"}
            context.new_cdp_session(page).send("Storage.clearDataForOrigin", origin)
            context.clear_cookies()
            context.clear_permissions()
            errors_of(page).clear()
        except Error:
            context.close()
        else:
            if cls.page_between is not None:
                cls.page_between.context.close()
            cls.page_between = page

    def take(self, page: Page, line: str) -> None:
        page.fill("#callout", line)
        page.press("#callout", "Enter")

    def tab(self, page: Page, name: str) -> None:
        """Open one of the drawer's four."""
        page.get_by_role("tab", name=name).click()

    def more(self, page: Page, row: str) -> None:
        """Choose something behind the visit's ⋮."""
        page.get_by_role("button", name="More of this visit").click()
        page.get_by_role("menuitem", name=row).click()

    def kept(self, page: Page) -> None:
        """Wait until everything typed is with the server."""
        expect(page.locator("[data-waiting]")).to_have_attribute("data-waiting", "0")


_UNDER_WAY: WeakKeyDictionary[Page, set[Request]] = WeakKeyDictionary()
_ERRORS: WeakKeyDictionary[Page, list[str]] = WeakKeyDictionary()
QUIET_MS, QUIET_LOOKS = 60, 5
WORKER = "/assets/liveWorker"


def watched(page: Page) -> Page:
    """A page whose uncaught errors are kept and whose requests are counted, for `calm`: but not its
    stream, which never ends, nor the worker that holds it, whose end is not told to the page.
    """
    under_way, errors = _UNDER_WAY.setdefault(page, set()), _ERRORS.setdefault(page, [])

    def begin(request: Request) -> None:
        if request.resource_type != "eventsource" and WORKER not in request.url:
            under_way.add(request)

    def end(request: Request) -> None:
        under_way.discard(request)

    page.on("pageerror", lambda error: errors.append(str(error)))
    page.on("request", begin)
    page.on("requestfinished", end)
    page.on("requestfailed", end)
    return page


def errors_of(page: Page) -> list[str]:
    """What a watched page threw and nobody caught."""
    return _ERRORS[page]


def calm(page: Page) -> None:
    """Wait until a screen is drawn: nothing is asked of the server any more, and its elements have
    not changed in number for a while, however slow the machine is.
    """
    page.wait_for_load_state("load")
    page.locator("h1").first.wait_for()
    under_way, drawn, quiet = _UNDER_WAY[page], 0, 0
    patience = time.monotonic() + PATIENCE_MS / 1000
    while quiet < QUIET_LOOKS:
        if time.monotonic() > patience:
            raise AssertionError(f"Never at rest: {[request.url for request in under_way]}")
        page.wait_for_timeout(QUIET_MS)
        now = page.evaluate("document.getElementsByTagName('*').length")
        quiet = quiet + 1 if now == drawn and not under_way else 0
        drawn = now
