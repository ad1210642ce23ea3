"""JSON of answers just built by us: written out at once, with nothing to check again."""

from functools import cache
from typing import Any

from pydantic import TypeAdapter


def ready_json(answer: object) -> bytes:
    """A dataclass answer as it goes over the wire."""
    kind: Any = type(answer)
    return _adapter(kind).dump_json(answer)


@cache
def _adapter(kind: Any) -> TypeAdapter[Any]:
    return TypeAdapter(kind)
