"""The plant, the stream, imports and the strips, measured. Part of `make bench`."""

import json
import statistics
import threading
import time
import urllib.request
from datetime import UTC, datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any

from nudge.plant.acts import standing, start
from nudge.plant.faults import Present, spoiled
from nudge.plant.presets import PRESETS, preset, preset_machine
from nudge.plant.rating import rated_conditions
from nudge.plant.room import Weather, room_for
from nudge.plant.running import advance
from nudge.plant.scene import Scene
from nudge.plant.steady import steady
from nudge.plant.wet_air import air_of
from tools.drive import RunningNudge, chromium

IMPORTED = 1_000_000
VISITS, CHANNELS, PER_S = 8, 12, 4


def plant() -> None:
    """Steady solves over systems and faults; seconds of running for one of the clock."""
    rng, times = Random(1), []
    for _ in range(120):
        key = rng.choice(list(PRESETS))
        machine = preset_machine(key)
        conditions = rated_conditions(preset(key).rating, machine.charge_kg)
        fault = Present(
            rng.choice(("undercharge", "overcharge", "condenser_dirt", "filter_dirty")),
            rng.random(),
        )
        ill = spoiled(machine, conditions, [fault])
        began = time.perf_counter()
        steady(*ill)
        times.append(time.perf_counter() - began)
    print(f"plant: steady solve median {statistics.median(times) * 1000:.0f} ms (wanted 60)")
    speeds = []
    for key in ("split-3-410-valve", "split-2-22-orifice", "inverter-2-32"):
        machine, air, weather = preset_machine(key), air_of(26, 52), Weather(33)
        scene = Scene(machine, room_for(machine.nominal_kw, air, weather.at(0)), weather)
        state = start(standing(scene, air))
        began = time.perf_counter()
        advance(scene, state, 1200)
        speeds.append(1200 / (time.perf_counter() - began))
    print(f"plant: runs {min(speeds):.0f} to {max(speeds):.0f} times real time (wanted 300)")


def stream(nudge: RunningNudge, seconds: float) -> None:
    """Eight visits, twelve channels, four values a second, twenty dropped connections."""
    visits = [f"bench-{n}" for n in range(VISITS)]
    for visit in visits:
        call(nudge, "POST", "/api/visits", {"id": visit, "system_id": "seed-library-stacks"})
    sent: dict[str, set[int]] = {visit: set() for visit in visits}
    stop = threading.Event()

    def send(visit: str) -> None:
        began, tick = time.time(), 0
        while not stop.is_set():
            at_ms = int((began + tick / PER_S) * 1000)
            moment = datetime.fromtimestamp(at_ms / 1000, UTC).isoformat()
            rows = [
                {
                    "channel": f"c{c}",
                    "point": "liquid_line_temp",
                    "value": 90 + c / 10,
                    "at": moment,
                }
                for c in range(CHANNELS)
            ]
            body = {"id": f"{visit}-{tick}", "readings": rows}
            call(nudge, "POST", f"/api/visits/{visit}/readings", body)
            sent[visit].add(at_ms)
            tick += 1
            time.sleep(max(began + tick / PER_S - time.time(), 0))

    got: dict[str, list[tuple[str, int]]] = {visit: [] for visit in visits}
    joined: dict[str, int] = dict.fromkeys(visits, 0)
    followers = [
        threading.Thread(target=_follow, args=(nudge, v, got[v], joined, stop, n))
        for n, v in enumerate(visits)
    ]
    senders = [threading.Thread(target=send, args=(visit,)) for visit in visits]
    for thread in (*followers, *senders):
        thread.start()
    time.sleep(seconds)
    stop.set()
    for thread in senders:
        thread.join()
    for thread in followers:
        thread.join()
    lost = sum(len(sent[v]) * CHANNELS - len(set(got[v])) for v in visits)
    twice = sum(len(got[v]) - len(set(got[v])) for v in visits)
    total = sum(len(sent[v]) * CHANNELS for v in visits)
    print(
        f"stream: {total:,} values in {seconds:.0f} s over {VISITS} visits, "
        f"{sum(joined.values())} connections: lost {lost}, repeated {twice} (wanted 0, 0)"
    )


def _follow(
    nudge: RunningNudge,
    visit: str,
    got: list[tuple[str, int]],
    joined: dict[str, int],
    stop: threading.Event,
    number: int,
) -> None:
    """Follow a visit; hang up now and then and come back with the last id. Drains at the end."""
    last, rng, quiet = 0, Random(number), 0
    while quiet < 2:
        joined[visit] += 1
        leave = time.time() + (rng.uniform(2, 12) if not stop.is_set() else 3.0)
        request = urllib.request.Request(
            f"{nudge.url}/api/visits/{visit}/stream?after={last}",
            headers={"Last-Event-ID": str(last)},
        )
        before = len(got)
        try:
            with urllib.request.urlopen(request, timeout=1.5) as answer:
                sequence, kind = last, ""
                for raw in answer:
                    line = raw.decode().rstrip("\n")
                    if line.startswith("id: "):
                        sequence = int(line[4:])
                    elif line.startswith("event: "):
                        kind = line[7:]
                    elif line.startswith("data: ") and kind == "samples":
                        for key, channel in json.loads(line[6:])["channels"].items():
                            got.extend((key, int(row[0])) for row in channel["rows"])
                    elif line == "":
                        last = sequence
                        if time.time() > leave:
                            break
        except OSError:
            pass
        quiet = quiet + 1 if stop.is_set() and len(got) == before else 0


def reading_in(nudge: RunningNudge, folder: Path) -> None:
    """A million readings out of a CSV file, and the traces over them."""
    path = folder / "million.csv"
    rng, began = Random(1), datetime(2026, 7, 1, tzinfo=UTC)
    names = [
        "Suction pressure (psig)",
        "Liquid pressure (psig)",
        "Suction line (°F)",
        "Liquid line (°F)",
        "Outdoor air (°F)",
        "Return air (°F)",
        "Return wet bulb (°F)",
        "Supply air (°F)",
        "Discharge line (°F)",
        "Evaporator outlet (°F)",
    ]
    levels = (120, 350, 52, 98, 90, 76, 63, 57, 160, 50)
    with path.open("w") as file:
        file.write(",".join(["Time", *names]) + "\n")
        for i in range(IMPORTED // len(names)):
            cells = ",".join(f"{level + rng.gauss(0, 0.5):.2f}" for level in levels)
            file.write(f"{(began + timedelta(seconds=2 * i)).isoformat()},{cells}\n")
    visit = "/api/visits/net-loft-now"
    look = call(nudge, "PUT", f"{visit}/imports/million?name=million.csv", raw=path.read_bytes())
    clock = time.perf_counter()
    call(nudge, "POST", f"{visit}/imports/million/start", look["mapping"])
    while call(nudge, "GET", f"{visit}/imports")[0]["state"] == "reading":
        time.sleep(0.1)
    took = time.perf_counter() - clock
    row = call(nudge, "GET", f"{visit}/imports")[0]
    peak = nudge.peak_memory_mb()
    print(
        f"import: {row['readings']:,} readings in {took:.1f} s (wanted 15), server's peak memory "
        f"{peak:.0f} MB (wanted under 400)"
    )
    times = []
    for _ in range(5):
        clock = time.perf_counter()
        call(nudge, "GET", f"{visit}/series?width=700")
        times.append(time.perf_counter() - clock)
    print(f"import: traces over all of them {statistics.median(times):.2f} s (wanted 1)")


def frames(nudge: RunningNudge) -> None:
    """Frames a second with three strips live."""
    counting = """() => new Promise(done => { let n = 0; const began = performance.now();
        const step = () => { n += 1; performance.now() - began > 5000
            ? done(n / (performance.now() - began) * 1000) : requestAnimationFrame(step) };
        requestAnimationFrame(step) })"""
    with chromium() as browser:
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{nudge.url}/visits/radio-room-live")
        page.wait_for_selector("[data-settling]")
        page.keyboard.press("l")
        page.wait_for_selector("canvas")
        page.wait_for_timeout(2000)
        print(f"strips: {page.evaluate(counting):.0f} frames a second, three live (wanted 50)")


def call(
    nudge: RunningNudge, method: str, path: str, body: Any = None, raw: bytes | None = None
) -> Any:
    """What a running Nudge answers to a body as JSON, or to raw bytes. Raises: URLError."""
    payload = raw if raw is not None else json.dumps(body).encode() if body is not None else None
    kind = "application/json" if raw is None else "application/octet-stream"
    headers = {"Content-Type": kind}
    request = urllib.request.Request(nudge.url + path, payload, headers, method=method)
    with urllib.request.urlopen(request, timeout=120) as answer:
        return json.load(answer)
