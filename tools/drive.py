"""A running Nudge and a headless Chromium, for browser tests, screenshots and benchmarks."""

import os
import shutil
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Protocol
from urllib.error import URLError
from urllib.request import urlopen

from playwright.sync_api import Browser, sync_playwright

ROOT = Path(__file__).parents[1]
_START_LIMIT_S = 240


class Process(Protocol):
    """What is asked of a process that serves: `subprocess.Popen` is one."""

    @property
    def pid(self) -> int: ...
    def poll(self) -> int | None: ...
    def kill(self) -> None: ...
    def wait(self) -> int: ...


class RunningNudge:
    """A server process on a free port with its own data folder; it can be stopped and restarted."""

    def __init__(self, data: Path, command: str = "demo", host: str = "127.0.0.1") -> None:
        self.data, self.command, self._host = data, command, host
        self.port = _free_port()
        self._process: Process | None = None

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> float:
        """Start it and wait until /api/health answers; the seconds that took."""
        began = time.perf_counter()
        environment = {**os.environ, "PORT": str(self.port), "HOST": self._host} | {
            "NUDGE_DATA": str(self.data)
        }
        self._process = self.begin(environment)
        while time.perf_counter() - began < _START_LIMIT_S:
            if (ended := self._process.poll()) is not None:
                raise RuntimeError(f"nudge {self.command} ended with {ended}")
            try:
                with urlopen(f"{self.url}/api/health", timeout=1):
                    return time.perf_counter() - began
            except (URLError, OSError):
                time.sleep(0.02)
        self.stop()  # what nobody will ask again would outlive whoever started it
        raise RuntimeError(f"no answer from {self.url} in {_START_LIMIT_S} s")

    def begin(self, environment: dict[str, str]) -> Process:
        """Its process, just begun."""
        return subprocess.Popen(
            [sys.executable, "-m", "nudge", self.command],
            cwd=ROOT,
            env=environment,
            stdout=subprocess.DEVNULL,
        )

    def peak_memory_mb(self) -> float:
        """The most memory the server has held so far."""
        if self._process is None:
            return 0.0
        status = Path(f"/proc/{self._process.pid}/status").read_text("utf-8")
        peak = next(line for line in status.splitlines() if line.startswith("VmHWM"))
        return int(peak.split()[1]) / 1024

    def stop(self) -> None:
        """End it as a pulled plug would: at once."""
        if self._process is not None:
            self._process.kill()
            self._process.wait()
            self._process = None


BROWSERS = ("chromium-headless-shell", "chromium", "chromium-browser")
"""Debian's: the same engine without a desktop around it needs two thirds of the time."""


SHORT_LIVED = "--js-flags=--no-opt --no-maglev --max-lazy"
"""For pages that live seconds: scripts made fast at length, or before they are called, cost a tenth
of what such a page costs and earn nothing back. Not where speed is measured."""


LAID_OUT = "--font-render-hinting=none"
"""For pictures: without a desktop around it letters are hinted, and stand wider than people see."""


@contextmanager
def chromium(*more: str) -> Iterator[Browser]:
    """Debian's Chromium, headless, with nothing that talks to the outside; `more` are its flags."""
    path = next(filter(None, map(shutil.which, BROWSERS)), None)
    if path is None:
        raise RuntimeError(f"Chromium is missing. Install it: apt-get install {BROWSERS[0]}")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path=path,
            args=[
                "--no-sandbox",
                "--disable-gpu",
                "--disable-quic",
                "--no-first-run",
                "--disable-background-networking",
                "--disable-component-update",
                "--disable-sync",
                *more,
            ],
        )
        try:
            yield browser
        finally:
            browser.close()


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
