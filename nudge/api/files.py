"""What a route that answers with a file says of it in the document."""

from typing import Any

BINARY = {"type": "string", "format": "binary"}


def answers_file(kind: str, what: str) -> dict[int | str, dict[str, Any]]:
    """The 200 of a route that answers with a file of a type."""
    schema = {"type": "string"} if kind.startswith("text/") else BINARY
    return {200: {"description": what, "content": {kind: {"schema": schema}}}}
