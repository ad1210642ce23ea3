"""Files as answers: their bytes under a name, and what the document says of them."""

import re
from typing import Any
from urllib.parse import quote

from starlette.responses import Response

BINARY = {"type": "string", "format": "binary"}


def answers_file(kind: str, what: str) -> dict[int | str, dict[str, Any]]:
    """The 200 of a route that answers with a file of a type."""
    schema = {"type": "string"} if kind.startswith("text/") else BINARY
    return {200: {"description": what, "content": {kind: {"schema": schema}}}}


def file_answer(data: bytes, kind: str, name: str, inline: bool = False) -> Response:
    """A file under its name in any script, and under a plain one for whoever needs that."""
    plain = re.sub(r"[^A-Za-z0-9._-]+", "-", name).strip("-") or "nudge"
    how = "inline" if inline else "attachment"
    header = f"{how}; filename=\"{plain}\"; filename*=UTF-8''{quote(name)}"
    return Response(data, media_type=kind, headers={"Content-Disposition": header})
