"""Which methods a path of the API takes, by its routes themselves."""

import re
from collections.abc import Iterable, Mapping
from functools import cache

from fastapi import APIRouter, FastAPI
from fastapi.routing import APIRoute


def paths_of(routers: Iterable[APIRouter]) -> Mapping[str, frozenset[str]]:
    """Every path of some routers and the methods it takes, without the document, whose making
    takes longer than most things a server does.
    """
    found: dict[str, frozenset[str]] = {}
    for router in routers:
        for route in router.routes:
            if isinstance(route, APIRoute):
                methods = found.get(route.path, frozenset())
                found[route.path] = methods.union(route.methods or ())
    return found


def methods_of(app: FastAPI, path: str) -> tuple[str, ...]:
    """The methods of a path; none for a path that is not there."""
    found: set[str] = set()
    for pattern, methods in _patterns(app):
        if pattern.fullmatch(path):
            found |= methods
    return tuple(sorted(found))


@cache
def _patterns(app: FastAPI) -> tuple[tuple[re.Pattern[str], frozenset[str]], ...]:
    return tuple(
        (re.compile(re.sub(r"\\{\w+\\}", "[^/]+", re.escape(path))), methods)
        for path, methods in app.state.paths.items()
    )
