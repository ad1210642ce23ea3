"""Every test, a few modules at a time. Run by `make test`.

A few processes take one module of tests after the other, so each imports Nudge once. Prints what
failed and ends with unittest's closing lines over all of them. `python -m tools.run_tests PART …`
runs only those whose name holds one of the parts.
"""

import gc
import multiprocessing
import os
import re
import sys
import time
import unittest
from concurrent.futures import ProcessPoolExecutor, ThreadPoolExecutor, as_completed
from importlib import import_module
from io import StringIO
from pathlib import Path

TESTS = Path("tests")
LONG = (TESTS / "fuzz", TESTS / "browser", TESTS / "services", TESTS / "api")
"""Whose files take longest for their size: they begin, so that no long one is left for the end."""
WAITS = 1
"""One more than there are processors: a browser's tests wait a good part of their time."""
RAN = re.compile(r"^Ran (\d+) tests? in ([\d.]+)s", re.MULTILINE)


def modules() -> list[str]:
    """Every module of tests, those that take longest first."""

    def weight(file: Path) -> tuple[int, int]:
        rank = LONG.index(file.parent) if file.parent in LONG else len(LONG)
        return rank, -file.stat().st_size

    files = sorted(TESTS.rglob("test_*.py"), key=weight)
    return [".".join(file.with_suffix("").parts) for file in files]


def run(module: str) -> tuple[bool, str]:
    """Whether all of a module passed, and everything it said."""
    said = StringIO()
    suite = unittest.defaultTestLoader.loadTestsFromName(module)
    result = unittest.TextTestRunner(said, buffer=True).run(suite)
    gc.collect()
    gc.freeze()  # what stands by now is not looked through again
    return result.wasSuccessful(), said.getvalue()


def keep_compiled() -> None:
    """Let every process of the run find what another has compiled, under `build/`, also where this
    machine is told to write none beside the sources: dozens of them start, and each would spend a
    fifth of its start on compiling.
    """
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)
    sys.dont_write_bytecode = False
    sys.pycache_prefix = str(Path("build/pycache").absolute())
    os.environ["PYTHONPYCACHEPREFIX"] = sys.pycache_prefix


def write_data(with_demo: bool) -> None:
    """Write what the tests start from, once for all of them: Skerrow, and the demo's beside it."""
    temporary = import_module("tests.temporary")
    with ThreadPoolExecutor() as beside:
        if with_demo:
            browser = import_module("tests.browser.support")
            demo = beside.submit(browser.demo_data)
        os.environ[temporary.ONCE_A_RUN] = str(temporary.skerrow())
        if with_demo:
            os.environ[browser.ONCE_A_RUN] = str(demo.result())


def main(*parts: str) -> int:
    began, ran, failed = time.monotonic(), 0, []
    keep_compiled()
    chosen = [name for name in modules() if not parts or any(part in name for part in parts)]
    write_data(with_demo=any(name.startswith("tests.browser") for name in chosen))
    clean = multiprocessing.get_context("spawn")  # threads of this process would not be in a fork
    with ProcessPoolExecutor((os.cpu_count() or 1) + WAITS, clean) as pool:
        under_way = {pool.submit(run, name): name for name in chosen}
        for done in as_completed(under_way):
            name, broke = under_way[done], done.exception()  # its process ended under it
            passed, said = done.result() if broke is None else (False, repr(broke))
            found = RAN.search(said)
            ran += int(found.group(1)) if found else 0
            took = f" ({float(found.group(2)):.0f} s)" if found else ""
            print(f"{name}: {said.strip().splitlines()[-1]}{took}", file=sys.stderr, flush=True)
            if not passed or not found:
                failed.append(name)
                print(said, file=sys.stderr, flush=True)
    print("-" * 70, file=sys.stderr)
    print(f"Ran {ran} tests in {time.monotonic() - began:.3f}s\n", file=sys.stderr)
    print(f"FAILED (modules={len(failed)})" if failed else "OK", file=sys.stderr)
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
