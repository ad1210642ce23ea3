"""Take one picture of each main view from the demo data. Run by `make shots`.

`python -m tools.shots FOLDER NAME…` takes only the named ones, into another folder.
"""

import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

from playwright.sync_api import Browser, Page

from tools.drive import ROOT, RunningNudge, chromium

DESK, HAND = (1280, 800), (390, 844)


@dataclass(frozen=True)
class Shot:
    """One picture: where, how large, in which light, with what typed in the call-out line."""

    name: str
    path: str
    size: tuple[int, int] = DESK
    theme: str = "paper"
    pad: bool = False
    typed: str = ""
    key: str = ""
    units: str = "ip"


SHOTS = (
    Shot("today", "/"),
    Shot("today-hand", "/", HAND),
    Shot("today-night", "/", theme="night"),
    Shot("systems", "/systems"),
    Shot("system", "/systems/clinic-waiting"),
    Shot("visit-right", "/visits/seed-library-now"),
    Shot("visit-restriction-night", "/visits/clinic-now", theme="night"),
    Shot("visit-low-charge", "/visits/pottery-now"),
    Shot("visit-hand", "/visits/clinic-now", HAND),
    Shot("visit-pad-hand", "/visits/net-loft-now", HAND, pad=True, typed="suct 11"),
    Shot("visit-empty", "/visits/net-loft-now"),
    Shot("callout-misheard", "/visits/net-loft-now", typed="suckt 118 liq 800 sl 52 ll"),
    Shot("keys", "/visits/seed-library-now", key="?"),
)
EXTRA = (
    Shot("systems-hand", "/systems", HAND),
    Shot("system-hand", "/systems/radio-studio", HAND),
    Shot("system-night", "/systems/radio-studio", theme="night"),
    Shot("visit-si", "/visits/seed-library-now", units="si"),
    Shot("visit-hand-night", "/visits/pottery-now", HAND, theme="night"),
    Shot("fish", "/visits/fish-1"),
    Shot("bakery", "/visits/bakery-1"),
    Shot("ferry", "/visits/ferry-hall-2"),
    Shot("nowhere", "/nowhere"),
)
"""Looked at while working, not kept."""


def take(browser: Browser, base: str, shot: Shot, folder: Path, whole: bool = False) -> None:
    """Take one picture, once everything on the page has come."""
    width, height = shot.size
    context = browser.new_context(
        viewport={"width": width, "height": height},
        locale="en-US",
        timezone_id="UTC",
        reduced_motion="reduce",
    )
    page = context.new_page()
    kept = f'{{"theme":"{shot.theme}","units":"{shot.units}","padOpen":{str(shot.pad).lower()}}}'
    page.add_init_script(f"localStorage.setItem('nudge.preferences', '{kept}')")
    page.goto(base + shot.path)
    _settled(page)
    if shot.typed:
        page.fill("#callout", shot.typed)
        page.wait_for_timeout(400)
    if shot.key:
        page.keyboard.press(shot.key)
        page.wait_for_timeout(200)
    page.screenshot(path=folder / f"{shot.name}.png", full_page=whole)
    context.close()


def _settled(page: Page) -> None:
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")
    page.wait_for_timeout(150)


def main(folder: Path, names: set[str]) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    chosen = [s for s in (*SHOTS, *EXTRA) if s.name in names] if names else list(SHOTS)
    with tempfile.TemporaryDirectory() as data:
        nudge = RunningNudge(Path(data))
        nudge.start()
        try:
            with chromium() as browser:
                for shot in chosen:
                    take(browser, nudge.url, shot, folder, whole=bool(names) and shot.size == HAND)
                    print(folder / f"{shot.name}.png")
        finally:
            nudge.stop()


if __name__ == "__main__":
    main(Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "docs/screenshots", set(sys.argv[2:]))
