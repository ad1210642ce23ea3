"""Every test, a few folders at a time. Run by `make test`.

Each folder of tests runs in a process of its own (some tests start processes themselves, which
a pool of daemons may not); the browser's, which are longest, file by file. Prints what failed
and ends with unittest's closing lines over all of them. `python -m tools.run_tests PART …` runs
only those whose path holds one of the parts.
"""

import os
import re
import subprocess
import sys
import time
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from importlib import import_module
from pathlib import Path
from tempfile import TemporaryFile

TESTS = Path("tests")
FILE_BY_FILE = TESTS / "browser"
FIRST = TESTS / "fuzz"
"""A minute long, whatever its size: it begins with the others, not after them."""
WAITS = 1
"""One more than there are processors: a browser's tests wait a good part of their time."""
RAN = re.compile(r"^Ran (\d+) tests? in ([\d.]+)s", re.MULTILINE)


def shards() -> list[tuple[str, ...]]:
    """The modules of each folder that go together, the largest first."""
    folders: dict[Path, list[Path]] = {}
    for file in sorted(TESTS.rglob("test_*.py")):
        alone = file.parent == FILE_BY_FILE
        folders.setdefault(file if alone else file.parent, []).append(file)

    def size(files: Iterable[Path]) -> tuple[int, int]:
        at = [f.parent for f in files]
        rank = 2 * (FIRST in at) + (FILE_BY_FILE in at)
        return rank, sum(f.stat().st_size for f in files)

    groups = sorted(folders.values(), key=size, reverse=True)
    return [tuple(".".join(f.with_suffix("").parts) for f in files) for files in groups]


def run(modules: tuple[str, ...]) -> tuple[int, str]:
    """How it ended, and everything it said."""
    command = [sys.executable, "-m", "unittest", "--buffer", *modules]
    with TemporaryFile("w+", encoding="utf-8", errors="replace") as said:
        # A file, not a pipe: what a test leaves running would hold a pipe open for ever.
        done = subprocess.run(command, stdout=said, stderr=subprocess.STDOUT, check=False)
        said.seek(0)
        return done.returncode, said.read()


def keep_compiled() -> None:
    """Let every process of the run find what another has compiled, under `build/`, also where this
    machine is told to write none beside the sources: a hundred servers start, and each would spend
    a fifth of its start on compiling.
    """
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)
    os.environ["PYTHONPYCACHEPREFIX"] = str(Path("build/pycache").absolute())


def main(*parts: str) -> int:
    began, ran, failed = time.monotonic(), 0, []
    keep_compiled()
    groups = [g for g in shards() if not parts or any(part in g[0] for part in parts)]
    temporary = import_module("tests.temporary")
    os.environ[temporary.ONCE_A_RUN] = str(temporary.skerrow())
    if any(g[0].startswith("tests.browser") for g in groups):
        browser = import_module("tests.browser.support")
        os.environ[browser.ONCE_A_RUN] = str(browser.demo_data())
    with ThreadPoolExecutor((os.cpu_count() or 1) + WAITS) as pool:
        for modules, (code, said) in zip(groups, pool.map(run, groups), strict=True):
            found = RAN.search(said)
            ran += int(found.group(1)) if found else 0
            took = f" ({float(found.group(2)):.0f} s)" if found else ""
            name = f"{modules[0]}{' …' if modules[1:] else ''}"
            print(f"{name}: {said.strip().splitlines()[-1]}{took}", file=sys.stderr, flush=True)
            if code or not found:
                failed.append(modules)
                print(said, file=sys.stderr, flush=True)
    print("-" * 70, file=sys.stderr)
    print(f"Ran {ran} tests in {time.monotonic() - began:.3f}s\n", file=sys.stderr)
    print(f"FAILED (folders={len(failed)})" if failed else "OK", file=sys.stderr)
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
