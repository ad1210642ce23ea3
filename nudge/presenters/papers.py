"""What a bundle brought."""

from pydantic import BaseModel


class TakenInOut(BaseModel):
    """What an import brought, and what was here already."""

    systems: int
    visits: int
    already_here: int
