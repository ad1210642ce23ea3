"""Which methods a path of the API takes, by the document itself."""

import re
from functools import cache

from fastapi import FastAPI


def methods_of(app: FastAPI, path: str) -> tuple[str, ...]:
    """The methods of a path; none for a path that is not there."""
    found: set[str] = set()
    for pattern, methods in _paths(app):
        if pattern.fullmatch(path):
            found |= methods
    return tuple(sorted(found))


@cache
def _paths(app: FastAPI) -> tuple[tuple[re.Pattern[str], frozenset[str]], ...]:
    return tuple(
        (
            re.compile(re.sub(r"\\{\w+\\}", "[^/]+", re.escape(path))),
            frozenset(method.upper() for method in operations),
        )
        for path, operations in app.openapi()["paths"].items()
    )
