"""Whether the server can serve. Also the empty route that latency is compared with."""

from fastapi import APIRouter

from nudge import __version__
from nudge.api.access import WorkshopIn
from nudge.presenters.health import Health, health_out

router = APIRouter(prefix="/api")


@router.get("/health")
async def health(workshop: WorkshopIn) -> Health:
    """200 once the database is open and the routes are up; `troubles` say what endangers it."""
    return health_out(__version__, workshop.keeping.troubles())
