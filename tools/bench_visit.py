"""The whole visit, measured: the dose advisor, reports, a day of live data, a large Today.

Part of `make bench`; by itself `python -m tools.bench_visit`.
"""

import io
import statistics
import tempfile
import time
from collections.abc import Callable, Sequence
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path
from random import Random

from sqlalchemy import insert
from starlette.testclient import TestClient

from nudge.core.behaviours.case import Context
from nudge.core.charging.advise import advise
from nudge.core.charging.sizing import Dosed
from nudge.demo.skerrow import fill_if_empty
from nudge.main import create_app
from nudge.services.workshop import Workshop
from nudge.store.database import Database
from nudge.store.live_tables import Channel, Placement, SampleRow
from nudge.store.tables import Site, System, Verdict, Visit
from tools.drive import RunningNudge, chromium
from tools.make_drift import BIAS
from tools.sweep import site

SYSTEMS, VISITS = 5_000, 50_000
CHANNELS, PER_S = 6, 1
REPEATS = 9


def _median_ms(call: Callable[[], object], repeats: int = REPEATS) -> float:
    times = []
    for _ in range(repeats):
        began = time.perf_counter()
        call()
        times.append(time.perf_counter() - began)
    return statistics.median(times) * 1000


def advisor() -> None:
    """One call of the advisor after one and after three doses, in process."""
    from tools.rig import Rig, with_charge

    rng = Random(f"bench {BIAS}")
    of = with_charge(site(1001, "valve"), rng)
    rig = Rig(of, 0.8, rng)
    history = [Dosed(rig.minutes, 0.0, rig.read())]
    seen = rig.context.observations
    for number in range(4):
        context = Context(rig.minutes, 40.0, seen)
        if number in (0, 3):
            median = _median_ms(partial(advise, of.plate, history, context))
            print(f"advisor after {number} doses: {median:.0f} ms a call")
        rig.give(0.05)
        rig.wait(12)
        history.append(Dosed(rig.minutes, 0.05, rig.read()))


def reports(folder: Path) -> None:
    """Both reports of a visit with four photographs; the file's within a second and 2 MB."""
    from PIL import Image

    workshop = Workshop(Database(folder))
    http = TestClient(create_app(workshop))
    for number in range(4):
        out = io.BytesIO()
        scene = Image.effect_mandelbrot((2400, 1800), (-2, -1.2, 1, 1.2), 60).convert("RGB")
        Image.blend(scene, Image.effect_noise((2400, 1800), 40).convert("RGB"), 0.3).save(
            out, "JPEG", quality=90
        )
        http.put(f"/api/visits/pottery-now/photos/bench-{number}", content=out.getvalue())
    for whom in ("file", "customer"):
        path = f"/api/visits/pottery-now/report.pdf?whom={whom}"
        size = len(http.get(path).content)
        median = _median_ms(partial(http.get, path))
        print(
            f"report for the {whom}, four pictures: {median:.0f} ms (wanted 1000), "
            f"{size / 1e6:.2f} MB (wanted 2)"
        )
    workshop.close()


def _visits(now: datetime) -> list[dict[str, object]]:
    rng, rows = Random(5), []
    for n in range(VISITS):
        at = now - timedelta(days=rng.uniform(1, 3650))
        drifts = rng.random() < 0.01
        rows.append(
            {
                "id": f"v{n}",
                "system_id": f"y{n % SYSTEMS}",
                "complaint": f"Warm, call {n}",
                "kind": "",
                "connection": "",
                "created_at": at,
                "opened_at": at,
                "closed_at": at + timedelta(hours=1),
                "due_on": None,
                "drift": '{"ip": "Charge has gone.", "si": "Charge has gone."}' if drifts else "",
            }
        )
    return rows


def large_today(folder: Path) -> None:
    """Today over thousands of systems and tens of thousands of visits; and finding one."""
    workshop = Workshop(Database(folder))
    now = datetime.now(UTC)
    verdict = _a_verdict(workshop)
    with workshop.database.writing() as session:
        session.execute(
            insert(Site),
            [
                {"id": f"s{n}", "name": f"Quay {n}", "note": "", "created_at": now}
                for n in range(SYSTEMS // 5)
            ],
        )
        session.execute(insert(System), [
            {"id": f"y{n}", "site_id": f"s{n // 5}", "name": f"Split {n}", "note": "",
             "refrigerant": "R-410A", "metering_device": "txv", "application": "comfort_cooling",
             "elevation_m": 0.0, "indoor_unit": "", "blower_tap": "", "method": "",
             "reversing_valve": "", "created_at": now, "updated_at": now}
            for n in range(SYSTEMS)
        ])  # fmt: skip
        session.execute(insert(Visit), _visits(now))
        session.execute(
            insert(Verdict),
            [
                {
                    "visit_id": f"v{n}",
                    "given_at": now,
                    "version": "0",
                    "request": {},
                    "answer": verdict,
                }
                for n in range(VISITS)
            ],
        )
    http = TestClient(create_app(workshop))
    for path in ("/api/today", "/api/search?text=quay%20321", "/api/search?text=call%204711"):
        print(
            f"{path} over {SYSTEMS:,} systems and {VISITS:,} visits: "
            f"{_median_ms(partial(http.get, path)):.0f} ms (Today wanted 200)"
        )
    workshop.close()


def _a_verdict(workshop: Workshop) -> dict[str, object]:
    with workshop.database.reading() as session:
        row = session.query(Verdict).first()
        assert row is not None  # the demo has verdicts
        return dict(row.answer)


def _fill_day(database: Database, points: Sequence[str], means: Sequence[float]) -> None:
    now = datetime.now(UTC)
    end = round(now.timestamp() * 1000)
    with database.writing() as session:
        for number, (point, mean) in enumerate(zip(points, means, strict=True)):
            channel = Channel(
                visit_id="net-loft-now",
                key=f"day-{number}",
                label=point,
                source="live",
                created_at=now,
            )
            session.add(channel)
            session.flush()
            session.add(
                Placement(
                    id=f"day-{number}",
                    channel_id=channel.id,
                    point=point,
                    counts=True,
                    offset=0.0,
                    since_ms=end - 86_400_000,
                    how="placed",
                    recorded_at=now,
                )
            )
            session.flush()
            session.execute(
                insert(SampleRow),
                [
                    {
                        "channel_id": channel.id,
                        "at_ms": end - 1000 * s,
                        "value": mean + (s % 7) / 50,
                    }
                    for s in range(86_400 * PER_S)
                ],
            )


def day_of_live_data(folder: Path) -> None:
    """How long a visit's screen takes to open with a day of samples behind it."""
    database = Database(folder)
    points = (
        "suction_pressure",
        "liquid_pressure",
        "suction_line_temp",
        "liquid_line_temp",
        "outdoor_air_temp",
        "return_air_temp",
    )
    means = (830.0, 2350.0, 11.0, 35.0, 31.0, 25.0)
    _fill_day(database, points, means)
    database.close()
    nudge = RunningNudge(folder)
    nudge.start()
    try:
        with chromium() as browser:
            page = browser.new_page()
            page.goto(f"{nudge.url}/shelf")
            page.wait_for_timeout(500)
            times = []
            for _ in range(5):
                began = time.perf_counter()
                page.goto(f"{nudge.url}/visits/net-loft-now")
                page.locator("[data-settling]").wait_for()
                page.locator("[data-number=superheat]").wait_for()
                times.append(time.perf_counter() - began)
            print(
                f"a visit with a day of live data ({CHANNELS} channels, {PER_S} a "
                f"second) opens in {statistics.median(times) * 1000:.0f} ms (wanted 1000)"
            )
    finally:
        nudge.stop()


def whole_visit() -> None:
    """Everything above, each on a Skerrow of its own."""
    advisor()
    for measure in (reports, large_today, day_of_live_data):
        with tempfile.TemporaryDirectory() as data:
            folder = Path(data)
            database = Database(folder)
            fill_if_empty(database)
            database.close()
            measure(folder)


if __name__ == "__main__":
    whole_visit()
