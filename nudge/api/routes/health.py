"""Whether the server can serve. Also the empty route that latency is compared with."""

from fastapi import APIRouter
from pydantic import BaseModel

from nudge import __version__

router = APIRouter(prefix="/api")


class Health(BaseModel):
    status: str
    version: str


@router.get("/health")
async def health() -> Health:
    """200 once the database is open and the routes are up."""
    return Health(status="ok", version=__version__)
