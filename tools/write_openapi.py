"""Write the OpenAPI document, from which the front end's types are generated."""

import json
import sys
from pathlib import Path

from nudge.main import create_app

if __name__ == "__main__":
    Path(sys.argv[1]).write_text(json.dumps(create_app(None).openapi(), indent=1) + "\n")
