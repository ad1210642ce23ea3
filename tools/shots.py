"""Take one picture of each main view from the demo data. Run by `make shots`.

`python -m tools.shots FOLDER NAME…` takes only the named ones, into another folder.
"""

import json
import sys
import tempfile
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from playwright.sync_api import Browser, Page

from tools.drive import LAID_OUT, ROOT, RunningNudge, chromium

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
    pocket: str = ""
    """JSON of what the Pocket holds: entries by blank, and the slips that are out."""
    click: str = ""
    """A selector to click before the picture is taken."""
    point: str = ""
    empty: bool = False
    """From a Nudge without the demo's data."""
    """A selector to point at."""


def _pocket(out: str, **entries: str) -> str:
    filled = {key: {"text": text, "units": "ip"} for key, text in entries.items()}
    return json.dumps({"entries": filled, "emptied": None, "out": out.split()})


_RUNNING = _pocket(
    "saturation circuit split cycle",
    refrigerant="R-454B",
    pressure="118",
    suction_pressure="118",
    suction_line_temp="56",
    liquid_pressure="318",
    liquid_line_temp="94",
    target_subcooling="10",
    outdoor_air_temp="88",
    return_air_temp="76",
    return_air_wet_bulb="64",
    supply_air_temp="56.5",
)
_WORK = _pocket(
    "airflow charge cylinder capacitor strips nitrogen vacuum leak_rate",
    nominal_capacity="36000", strip_volts="238", strip_circuit_amps="41", return_air_temp="72",
    heated_air_temp="98", supply_static="0.31", return_static="-0.42", filter_pressure_drop="0.24",
    factory_charge="7", line_set_length="45", liquid_tube="0.375", vapour_tube="0.75",
    cylinder_temp="80", cylinder_pressure="262", capacitor_rated="45", capacitor_measured="40.8",
    strip_kw="5", strips_on_circuit="2", strip_amps="20.6", test_pressure_start="150",
    test_temp_start="84", test_pressure_now="146", test_temp_now="76", test_minutes="20",
    full_charge="10", added="1.5", days="120", inside_volume="11", vacuum_start="220",
    vacuum_5="330", vacuum_10="372", vacuum_20="388",
)  # fmt: skip

SHOTS = (
    Shot("today", "/"),
    Shot("shelf", "/shelf"),
    Shot("systems", "/systems"),
    Shot("system", "/systems/lighthouse-lamp"),
    Shot("first-hand", "/", HAND, empty=True),
    Shot("visit-right", "/visits/seed-library-now"),
    Shot(
        "visit-heat-night",
        "/visits/school-lodge-now",
        theme="night",
        click="[data-stage-area] button:text-is('Heat')",
    ),
    Shot("visit-low-charge", "/visits/pottery-now"),
    Shot("visit-hand", "/visits/clinic-now", HAND),
    Shot("visit-tests", "/visits/kitchen-valve-live"),
    Shot("nudge-hand", "/visits/pottery-now", HAND, key="v"),
    Shot("order", "/visits/pottery-now", key="c"),
    Shot("visit-look", "/visits/ferry-hall-now"),
    Shot("visit-zones", "/visits/seed-library-hot-week"),
    Shot("pocket", "/pocket", pocket=_RUNNING),
    Shot("workshop", "/workshop"),
    Shot("visit-live", "/visits/radio-room-live"),
    Shot("visit-strips", "/visits/radio-room-live", key="l"),
    Shot(
        "visit-landing",
        "/visits/clinic-now",
        click="text=Target map",
        point="[data-suspect=liquid_line_restriction] summary",
    ),
)
EXTRA = (
    Shot("opened", "/visits/seed-library-now", click="[data-number=superheat] button"),
    Shot("visit-zones-hand-night", "/visits/seed-library-hot-week", HAND, theme="night"),
    Shot("order-hand-night", "/visits/pottery-now", HAND, theme="night", key="e"),
    Shot("visit-tests-hand-night", "/visits/kitchen-valve-live", HAND, theme="night"),
    Shot("callout-misheard", "/visits/net-loft-now", typed="suckt 118 liq 800 sl 52 ll"),
    Shot("visit-pad-hand", "/visits/net-loft-now", HAND, pad=True, typed="suct 11"),
    Shot("charts", "/systems/clinic-waiting"),
    Shot("find", "/", key="q"),
    Shot("ways", "/visits/pottery-now", key="y"),
    Shot("keys", "/visits/seed-library-now", key="?"),
    Shot("visit-live-night", "/visits/radio-room-live", theme="night"),
    Shot("visit-live-hand", "/visits/radio-room-live", HAND),
    Shot("visit-strips-night", "/visits/radio-room-live", theme="night", key="l"),
    Shot("visit-strips-hand", "/visits/radio-room-live", HAND, key="l"),
    Shot("instruments", "/visits/radio-room-live", key="i"),
    Shot("instrument-hand", "/visits/radio-room-live", HAND, click="[data-probe=clamp-1]"),
    Shot("work-night", "/visits/radio-room-live", theme="night", key="w"),
    Shot("work-hand", "/visits/radio-room-live", HAND, key="w"),
    Shot("early", "/visits/radio-room-live", key="j"),
    Shot("import", "/visits/net-loft-now", key="f"),
    Shot("pocket-work", "/pocket", pocket=_WORK),
    Shot("pocket-empty", "/pocket"),
    Shot("pocket-night", "/pocket", theme="night", pocket=_RUNNING),
    Shot("pocket-hand", "/pocket", HAND, pocket=_WORK),
    Shot("pocket-bar", "/pocket", pocket=_RUNNING, units="si_bar"),
    Shot("pocket-opened", "/pocket", pocket=_RUNNING, click="[data-line=superheat] button"),
    Shot("systems-hand", "/systems", HAND),
    Shot("system-hand", "/systems/radio-studio", HAND),
    Shot("system-night", "/systems/radio-studio", theme="night"),
    Shot("visit-si", "/visits/seed-library-now", units="si"),
    Shot("visit-hand-night", "/visits/pottery-now", HAND, theme="night"),
    Shot("today-night", "/", theme="night"),
    Shot("visit-empty", "/visits/net-loft-now"),
    Shot("shelf-hand-night", "/shelf", HAND, theme="night"),
    Shot("fish", "/visits/fish-1"),
    Shot("bakery", "/visits/bakery-1"),
    Shot("ferry", "/visits/ferry-hall-2"),
    Shot("nowhere", "/nowhere"),
    Shot("visit-walk", "/visits/pottery-now", key="g"),
    Shot("visit-changes", "/visits/clinic-now", key="d"),
    Shot("visit-done-hand", "/visits/net-loft-now", HAND, key="h"),
    Shot("visit-landing-night", "/visits/clinic-2", theme="night", click="text=Target map"),
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
    if shot.pocket:
        page.add_init_script(f"localStorage.setItem('nudge.pocket', `{shot.pocket}`)")
    page.goto(base + shot.path)
    _settled(page)
    if shot.click:
        page.locator(shot.click).first.click()
        _settled(page)
    if shot.typed:
        page.fill("#callout", shot.typed)
        page.wait_for_timeout(400)
    if shot.key:
        page.keyboard.press(shot.key)
        page.wait_for_timeout(900)
    if shot.point:
        page.locator(shot.point).first.hover()
        page.wait_for_timeout(300)
    page.screenshot(path=folder / f"{shot.name}.png", full_page=whole)
    context.close()


def _settled(page: Page) -> None:
    # A visit keeps its stream open, so the network is never idle: wait for what is shown.
    page.wait_for_load_state("load")
    page.wait_for_selector("h1, h2", timeout=10_000)
    page.evaluate("document.fonts.ready")
    page.wait_for_timeout(700)


def main(folder: Path, names: set[str]) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    chosen = [s for s in (*SHOTS, *EXTRA) if s.name in names] if names else list(SHOTS)
    for empty in (False, True):
        those = [shot for shot in chosen if shot.empty is empty]
        if those:
            _take_all(those, folder, "serve" if empty else "demo", bool(names))


def _take_all(shots: Sequence[Shot], folder: Path, command: str, whole: bool) -> None:
    with tempfile.TemporaryDirectory() as data:
        nudge = RunningNudge(Path(data), command)
        nudge.start()
        try:
            with chromium(LAID_OUT) as browser:
                for shot in shots:
                    take(browser, nudge.url, shot, folder, whole=whole and shot.size == HAND)
                    print(folder / f"{shot.name}.png")
        finally:
            nudge.stop()


if __name__ == "__main__":
    main(Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "docs/screenshots", set(sys.argv[2:]))
