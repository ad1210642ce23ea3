"""A multi-zone plant's day by ten seconds, measured: read in, opened in the browser, slid through.

Part of `make bench`; by itself `python -m tools.bench_zones`.
"""

import statistics
import tempfile
import time
import tracemalloc
from pathlib import Path
from random import Random

from nudge.core.multizone.measuring import signs_of
from nudge.demo.skerrow_zones import LIBRARY
from nudge.instruments.zone_files import look_at_zones, read_zone_log
from nudge.plant.zones.faults import Wrong
from nudge.plant.zones.running import RunningZones
from nudge.plant.zones.watched import watched
from tools.bench_live import call
from tools.drive import RunningNudge, chromium
from tools.make_zone_logs import moved_to_summer, plant_of
from tools.zone_styles import STYLES, written

HOURS, STEP_S, REPEATS = 24.0, 10.0, 3
MOST_S, MOST_MB, LEAST_FPS, FIRST_S = 8.0, 300.0, 30.0, 1.0
SLIDING = """() => new Promise(done => {
    const slider = document.querySelector('input[aria-label="Moment of the log"]')
    const put = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set
    const most = Number(slider.max), began = performance.now(); let n = 0
    const step = () => {
        put.call(slider, String((n * 3) % most))
        slider.dispatchEvent(new Event('input', { bubbles: true }))
        n += 1
        performance.now() - began > 4000
            ? done(n / (performance.now() - began) * 1000) : requestAnimationFrame(step) }
    requestAnimationFrame(step) })"""
"""Each frame another moment, for four seconds: how many frames a second."""


def main() -> None:
    rng = Random("bench zones")
    plant = plant_of(LIBRARY, 33.0, rng)
    running = RunningZones(plant, [Wrong("low_charge", 0.3)], rng, 0.0)
    log = moved_to_summer(watched(running, HOURS, STEP_S, rng))
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "day.csv"
        for style in STYLES.values():
            path.write_text(written(log, style), "utf-8")
            times = [_seconds_to_read(path) for _ in range(REPEATS)]
            size = f"{len(log.times_s)} × {len(log.columns)}"
            took = f"{statistics.median(times):.2f} s (wanted {MOST_S:g})"
            print(f"zones, {style.key}: {size} read with its signs in {took}")
        tracemalloc.start()
        _seconds_to_read(path)
        print(f"zones: {tracemalloc.get_traced_memory()[1] / 1e6:.0f} MB (wanted {MOST_MB:g})")
        tracemalloc.stop()
        in_browser(path, Path(folder) / "data")


def _seconds_to_read(path: Path) -> float:
    began = time.perf_counter()
    signs_of(read_zone_log(path, look_at_zones(path).mapping).log, LIBRARY.parts)
    return time.perf_counter() - began


def in_browser(path: Path, data: Path) -> None:
    """The first picture of a visit with such a log, and the slider."""
    data.mkdir()
    nudge = RunningNudge(data)
    nudge.start()
    try:
        opened = {"id": "day", "system_id": LIBRARY.system_id, "complaint": "Warm"}
        call(nudge, "POST", "/api/visits", opened)
        at = "/api/visits/day/zones/logs/day"
        look = call(nudge, "PUT", at, raw=path.read_bytes())
        call(nudge, "POST", f"{at}/read", {key: look[key] for key in ("mapping", "parts")})
        with chromium() as browser:
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            firsts = []
            for _ in range(5):
                page.goto(f"{nudge.url}/")
                page.wait_for_timeout(800)
                began = time.perf_counter()
                page.goto(f"{nudge.url}/visits/day")
                page.wait_for_selector("[data-zones]")
                firsts.append(time.perf_counter() - began)
            print(f"zones: first picture {statistics.median(firsts):.2f} s (wanted {FIRST_S:g})")
            page.wait_for_timeout(1500)
            print(f"zones: slid at {page.evaluate(SLIDING):.0f} frames/s (wanted {LEAST_FPS:g})")
    finally:
        nudge.stop()


if __name__ == "__main__":
    main()
