"""The application: routes, errors, and the built screens, around one workshop."""

from collections.abc import AsyncIterator, Sequence
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any

from fastapi import FastAPI, Request
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import FileResponse, Response
from starlette.staticfiles import StaticFiles

from nudge import __version__
from nudge.api.allowed import methods_of, paths_of
from nudge.api.body_limit import BodyLimit
from nudge.api.document import name_refusals
from nudge.api.doors import Doors
from nudge.api.entries import Entries
from nudge.api.errors import answer_errors
from nudge.api.gate import NetworkGate
from nudge.api.headers import SafeHeaders
from nudge.api.routes import (
    assess,
    book,
    charging,
    charts,
    circuit,
    devices,
    guest,
    health,
    imports,
    instruments,
    methods,
    papers,
    pocket,
    refrigerants,
    register,
    stream,
    timed_tests,
    visits,
    vocabulary,
    whole_visit,
    yard,
    zones,
)
from nudge.api.routes import (
    workshop as workshop_routes,
)
from nudge.services.workshop import Workshop

ROUTES = (
    health,
    refrigerants,
    assess,
    vocabulary,
    pocket,
    book,
    charts,
    circuit,
    methods,
    visits,
    zones,
    charging,
    instruments,
    stream,
    imports,
    yard,
    whole_visit,
    timed_tests,
    guest,
    papers,
    workshop_routes,
    register,
    devices,
)
SMALL = 800
"""What is shorter is not worth compressing [bytes]."""
SCREENS = Path(__file__).parents[1] / "web" / "dist"


def create_app(
    workshop: Workshop | None,
    screens: Path = SCREENS,
    hosts: Sequence[str] = (),
    listens_beyond: bool = False,
    authority: Path | None = None,
) -> FastAPI:
    """The ASGI application. `workshop` may be None only to read the OpenAPI document.

    `hosts` are names it answers to besides this machine's own; `listens_beyond` says other
    machines reach it at all; `authority` is the certificate phones have to trust.
    """

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        yield
        if workshop is not None:
            workshop.close()

    app = FastAPI(
        title="Nudge",
        version=__version__,
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url="/openapi.json",
        routes=[route for resource in ROUTES for route in resource.router.routes],
    )
    app.state.workshop = workshop
    app.state.listens_beyond = listens_beyond
    app.add_middleware(GZipMiddleware, minimum_size=SMALL, compresslevel=1)
    app.add_middleware(Entries)
    app.add_middleware(BodyLimit)
    app.add_middleware(NetworkGate)
    app.add_middleware(Doors, hosts=hosts)
    app.add_middleware(SafeHeaders)
    answer_errors(app)
    app.state.paths = paths_of(resource.router for resource in ROUTES)
    name_refusals(app)
    if authority is not None:
        _serve_authority(app, authority)
    if screens.is_dir():
        _serve_screens(app, screens)
    return app


class HashedFiles(StaticFiles):
    """Files named by what is in them: what was fetched once never changes."""

    def file_response(self, *args: Any, **kwargs: Any) -> Response:
        answer = super().file_response(*args, **kwargs)
        answer.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return answer


def _serve_authority(app: FastAPI, path: Path) -> None:
    """The certificate of this machine's authority, for phones that have to trust it."""

    @app.get("/authority.crt", include_in_schema=False)
    def authority() -> Response:
        if not path.is_file():
            raise HTTPException(404, "There is no authority here. Run: nudge certificate")
        return FileResponse(path, media_type="application/x-x509-ca-cert")


def _serve_screens(app: FastAPI, screens: Path) -> None:
    """The built front end; any path it does not have is one of its own screens."""
    app.mount("/assets", HashedFiles(directory=screens / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def screen(request: Request, path: str) -> Response:
        if path.startswith("api/"):
            if methods_of(request.app, request.url.path):
                raise HTTPException(405)
            raise HTTPException(404, f"There is no /{path[:80]} here.")
        wanted = (screens / path).resolve()
        if path and wanted.is_file() and wanted.is_relative_to(screens.resolve()):
            return FileResponse(wanted, headers={"Cache-Control": "no-cache"})
        if "." in path.rsplit("/", 1)[-1]:
            raise HTTPException(404, f"There is no /{path[:80]} here.")
        return FileResponse(screens / "index.html", headers={"Cache-Control": "no-cache"})
