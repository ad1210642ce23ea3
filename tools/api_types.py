"""Generate web/src/api/schema.ts from the OpenAPI document; `--check` only compares."""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from nudge.main import create_app

WEB = Path(__file__).parents[1] / "web"
SCHEMA = WEB / "src/api/schema.ts"


def generated() -> str:
    """The types the current API asks for."""
    with tempfile.TemporaryDirectory() as folder:
        document, types = Path(folder) / "openapi.json", Path(folder) / "schema.ts"
        document.write_text(json.dumps(create_app(None).openapi()))
        command = ["node_modules/.bin/openapi-typescript", str(document), "-o", str(types)]
        optional = ["--default-non-nullable", "false"]  # what has a default need not be sent
        subprocess.run([*command, *optional], cwd=WEB, check=True, capture_output=True)
        return types.read_text()


def main(check_only: bool) -> int:
    fresh = generated()
    if check_only:
        if SCHEMA.exists() and SCHEMA.read_text() == fresh:
            return 0
        print("web/src/api/schema.ts is behind the API. Run `make types`.", file=sys.stderr)
        return 1
    SCHEMA.write_text(fresh)
    return 0


if __name__ == "__main__":
    raise SystemExit(main("--check" in sys.argv))
