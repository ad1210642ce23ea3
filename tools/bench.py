"""Measure what speed promises rest on. Run by `make bench`; prints medians and ratios.

Each ratio is taken in one run, its two sides interleaved, against a baseline named beside it.
"""

import gzip
import http.client
import json
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import CoolProp
import CoolProp.CoolProp as coolprop
from playwright.sync_api import Page

from nudge.core.physics.refrigerant.catalogue import CATALOGUE, refrigerant
from nudge.core.physics.refrigerant.table import load_table
from tools import bench_judge, bench_live, bench_reading, bench_visit, bench_zones
from tools.drive import ROOT, RunningNudge, chromium
from tools.make_tables import RowSolver, reference_state

STREAM_S = 60.0
"""The full measure is ten minutes: `python -m tools.bench 600`."""
REQUEST = {
    "system": {"refrigerant": "R-410A", "metering_device": "txv", "target_subcooling": 10},
    "readings": {
        "suction_pressure": 122,
        "liquid_pressure": 352,
        "suction_line_temp": 53,
        "liquid_line_temp": 97.5,
        "outdoor_air_temp": 90,
        "return_air_temp": 76,
        "return_air_wet_bulb": 64,
    },
    "context": {"minutes_running": 20, "observations": ["filter_clean", "condenser_coil_clean"]},
}


POCKET_ENTRIES = {
    "refrigerant": "R-454B", "pressure": "118", "suction_pressure": "118",
    "suction_line_temp": "56", "liquid_pressure": "318", "liquid_line_temp": "94",
    "outdoor_air_temp": "88", "return_air_temp": "76", "return_air_wet_bulb": "64",
    "supply_air_temp": "57", "supply_air_wet_bulb": "55.5", "airflow": "1200",
    "nominal_capacity": "36000", "strip_volts": "238", "strip_circuit_amps": "41",
    "heated_air_temp": "102", "factory_charge": "7", "line_set_length": "45",
    "liquid_tube": "0.375", "cylinder_temp": "80", "capacitor_rated": "45",
    "capacitor_measured": "42", "strip_kw": "5", "full_charge": "10", "added": "1", "days": "90",
}  # fmt: skip
POCKET_OUT = [
    "saturation",
    "circuit",
    "split",
    "airflow",
    "air",
    "charge",
    "cylinder",
    "capacitor",
    "strips",
    "nitrogen",
    "leak_rate",
    "cycle",
]
POCKET_STROKES = (
    ("saturation-pressure", "[data-line=dew]", 118.0),
    ("circuit-liquid_line_temp", "[data-line=subcooling]", 94.0),
    ("split-return_air_temp", "[data-line=expected_split]", 76.0),
)


def _median_us(call: Callable[[], object], inner: int, repeats: int = 15) -> float:
    """Median time of one call [µs]."""
    times = []
    for _ in range(repeats):
        began = time.perf_counter()
        for _ in range(inner):
            call()
        times.append((time.perf_counter() - began) / inner * 1e6)
    return statistics.median(times)


def saturation() -> None:
    print("Dew point at a pressure, against CoolProp's low-level update (PQ) of the same fluid:")
    for name in ("R-22", "R-134a", "R-32", "R-744", "R-410A", "R-407C", "R-454B", "R-448A"):
        fluid, dew = refrigerant(name), load_table(name).dew
        ours = _median_us(lambda dew=dew: dew.temperature(1000.0), 20_000)  # type: ignore[misc]
        state = reference_state(fluid)

        def update(state: Any = state) -> None:
            state.update(CoolProp.PQ_INPUTS, 1e6, 1)

        theirs = _median_us(update, 50 if fluid.is_blend else 2000, 7)
        line = f"  {name:7} {ours:6.2f} µs; CoolProp {theirs:9.1f} µs, ratio {theirs / ours:8.1f}"
        if not fluid.is_blend:
            coolprop.set_config_bool(CoolProp.ENABLE_SUPERANCILLARIES, False)
            iterating = _median_us(update, 200, 7)
            coolprop.set_config_bool(CoolProp.ENABLE_SUPERANCILLARIES, True)
            line += f"; iterating {iterating:7.1f} µs, ratio {iterating / ours:7.1f}"
        print(line)


def accuracy() -> None:
    worst: dict[str, tuple[float, str]] = {}
    for name, fluid in CATALOGUE.items():
        table = load_table(name)
        top = min(65.5, table.critical_c - 2.23)
        for quality, curve in ((0.0, table.bubble), (1.0, table.dew)):
            solver = RowSolver(reference_state(fluid), quality, fluid.is_blend)
            for step in range(int((top + 51.1) / 0.79) + 1):
                row = solver.solve(-51.1 + 0.79 * step)
                if row is not None and row[0] <= top:
                    off = abs(curve.temperature(row[1]) - row[0]) * 1.8
                    worst[name] = max(worst.get(name, (0.0, "")), (off, f"{row[0]:.1f} °C"))
    off, fluid_name, where = max((w[0], n, w[1]) for n, w in worst.items())
    print(
        f"Worst saturation error, {len(worst)} fluids, bubble and dew: {off:.4f} °F "
        f"({fluid_name} at {where})"
    )


def imports() -> None:
    def seconds(statement: str) -> float:
        began = time.perf_counter()
        subprocess.run([sys.executable, "-c", statement], cwd=ROOT, check=True)
        return time.perf_counter() - began

    bare = statistics.median(seconds("pass") for _ in range(9))
    for module in ("nudge.core", "nudge.core.judgement.assess", "nudge.main"):
        loaded = statistics.median(seconds(f"import {module}") for _ in range(9))
        print(f"import {module}: {loaded - bare:.3f} s over a bare interpreter")


def server(nudge: RunningNudge) -> None:
    starts = []
    for _ in range(5):
        nudge.stop()
        starts.append(nudge.start())
    print(f"Server start to first answer: {statistics.median(starts):.2f} s")
    connection = http.client.HTTPConnection("127.0.0.1", nudge.port)
    body = json.dumps(REQUEST)

    def ask(method: str, path: str, payload: str | None = None) -> float:
        began = time.perf_counter()
        connection.request(method, path, payload, {"Content-Type": "application/json"})
        response = connection.getresponse()
        response.read()
        assert response.status == 200
        return (time.perf_counter() - began) * 1000

    empty, assess = [], []
    for i in range(1200):
        pair = ask("GET", "/api/health"), ask("POST", "/api/assess", body)
        if i >= 200:  # warm
            empty.append(pair[0])
            assess.append(pair[1])
    ours, base = statistics.median(assess), statistics.median(empty)
    print(f"/api/assess {ours:.2f} ms; empty route {base:.2f} ms; ratio {ours / base:.2f}")


def front_end(nudge: RunningNudge) -> None:
    index = (ROOT / "web/dist/index.html").read_text("utf-8")
    initial = [p for p in (ROOT / "web/dist/assets").glob("*.js") if p.name in index]
    size = sum(len(gzip.compress(p.read_bytes(), 9)) for p in initial)
    print(f"Initial JavaScript: {size / 1000:.1f} kB gzipped")
    with chromium() as browser:
        paints = [_first_useful_paint(browser.new_page(), nudge.url) for _ in range(7)]
        print(f"First useful paint of Today: {statistics.median(paints):.0f} ms")
        page = browser.new_page()
        page.goto(f"{nudge.url}/visits/seed-library-now")
        times = [_call_out(page, i) for i in range(15)]
        print(f"Enter on a call-out to its verdict on screen: {statistics.median(times):.0f} ms")


def pocket(nudge: RunningNudge) -> None:
    """From a keystroke to the frame with the new number, on the page's own clock."""
    with chromium() as browser:
        for name, slips in (("three slips out", POCKET_OUT[:3]), ("every slip out", POCKET_OUT)):
            entries = {k: {"text": t, "units": "ip"} for k, t in POCKET_ENTRIES.items()}
            kept = json.dumps({"entries": entries, "emptied": None, "out": slips})
            page = browser.new_page()
            page.add_init_script(f"localStorage.setItem('nudge.pocket', `{kept}`)")
            page.goto(f"{nudge.url}/pocket")
            page.wait_for_selector("[data-slip=split] [data-line=expected_split]")
            times = []
            for i in range(60):
                for blank, line, base in POCKET_STROKES:
                    times.append(_stroke(page, blank, line, f"{base + i % 7 + 1:.1f}"))
            times.sort()
            print(
                f"Pocket, {name}: keystroke to new number {statistics.median(times):.0f} ms, "
                f"95th percentile {times[int(len(times) * 0.95)]:.0f} ms"
            )
            page.close()


def _stroke(page: Page, blank: str, line: str, text: str) -> float:
    return float(
        page.evaluate(
            """([blank, line, text]) => new Promise(done => {
              const input = document.getElementById(blank)
              const number = document.querySelector(line)
              const before = number.textContent
              const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set
              new MutationObserver((_, watch) => {
                if (number.textContent !== before) {
                  watch.disconnect()
                  requestAnimationFrame(() => setTimeout(() => done(performance.now() - began)))
                }
              }).observe(number, { childList: true, characterData: true, subtree: true })
              const began = performance.now()
              set.call(input, text)
              input.dispatchEvent(new Event('input', { bubbles: true }))
            })""",
            [blank, line, text],
        )
    )


def _first_useful_paint(page: Page, url: str) -> float:
    """From navigation start until a visit is painted: the frame after its row exists."""
    page.add_init_script(
        """new MutationObserver((_, watch) => {
          if (!window.usefulAt && document.querySelector('main a[href^="/visits/"]')) {
            watch.disconnect()
            requestAnimationFrame(() => setTimeout(() => (window.usefulAt = performance.now())))
          }
        }).observe(document, { childList: true, subtree: true })"""
    )
    page.goto(url)
    page.wait_for_function("window.usefulAt")
    painted = float(page.evaluate("window.usefulAt"))
    page.close()
    return painted


def _call_out(page: Page, i: int) -> float:
    """From the Enter key to the frame that shows the new subcooling [ms], on the page's clock."""
    line = f"suct 118 liq 341 sl 52 ll {80 + i} oa 88"
    page.fill("#callout", line)
    page.wait_for_timeout(250)
    return float(
        page.evaluate(
            """() => new Promise(done => {
              const number = document.querySelector('[data-number=subcooling] dd p')
              const before = number.textContent
              const began = performance.now()
              new MutationObserver((_, watch) => {
                if (number.textContent !== before) {
                  watch.disconnect()
                  requestAnimationFrame(() => setTimeout(() => done(performance.now() - began)))
                }
              }).observe(number, { childList: true, characterData: true, subtree: true })
              document.querySelector('form button[type=submit]').click()
            })"""
        )
    )


def main() -> None:
    bench_judge.judge(REQUEST)
    bench_live.plant()
    bench_visit.whole_visit()
    bench_reading.main()
    accuracy()
    saturation()
    imports()
    bench_zones.main()
    with tempfile.TemporaryDirectory() as data:
        nudge = RunningNudge(Path(data))
        nudge.start()
        try:
            server(nudge)
            front_end(nudge)
            pocket(nudge)
            bench_live.frames(nudge)
            bench_live.reading_in(nudge, Path(data))
            bench_live.stream(nudge, float(sys.argv[1]) if sys.argv[1:] else STREAM_S)
        finally:
            nudge.stop()


if __name__ == "__main__":
    main()
