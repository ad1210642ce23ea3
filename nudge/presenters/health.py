"""Whether the server answers, and which it is."""

from pydantic import BaseModel


class Health(BaseModel):
    status: str
    version: str
