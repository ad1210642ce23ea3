"""A choice: its key, and its words."""

from pydantic import BaseModel


class ChoiceOut(BaseModel):
    key: str
    label: str
