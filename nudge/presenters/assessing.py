"""An assessment’s numbers, opened."""

from pydantic import BaseModel

from nudge.contract.opened import OpenedOut


class WorkingsOut(BaseModel):
    """Every number of an assessment, opened: derived ones by key, targets as `target_…`."""

    numbers: dict[str, OpenedOut]
