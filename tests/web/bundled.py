"""Modules of the front end made into one script, as they are, for a page or for Node."""

import subprocess
from pathlib import Path
from typing import Literal

WEB = Path(__file__).parents[2] / "web"


def bundled(entry: str, form: Literal["iife", "esm"]) -> str:
    """The script of `entry` with everything it imports. Raises: CalledProcessError."""
    made = subprocess.run(
        [
            "node_modules/.bin/esbuild",
            "--bundle",
            f"--format={form}",
            "--loader=tsx",
            "--log-level=error",
            '--define:process.env.NODE_ENV="production"',
        ],
        cwd=WEB,
        input=entry,
        text=True,
        check=True,
        capture_output=True,
    )
    return made.stdout
