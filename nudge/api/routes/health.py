"""Whether the server can serve. Also the empty route that latency is compared with."""

from fastapi import APIRouter

from nudge import __version__
from nudge.presenters.health import Health

router = APIRouter(prefix="/api")


@router.get("/health")
async def health() -> Health:
    """200 once the database is open and the routes are up."""
    return Health(status="ok", version=__version__)
