"""Log files over the wire: how one is read, and how far it is."""

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from nudge.contract.strict import Strict

Named = Annotated[str, Field(strict=True, max_length=200)]


class ColumnModel(Strict):
    """One column: the point it is, in which unit; no point leaves it out."""

    name: Named
    point: Named = ""
    unit: Named = ""


class MappingModel(Strict):
    """How a file is to be read."""

    shape: Literal["csv", "ndjson"]
    time: Named
    time_form: Literal["iso", "epoch_s", "epoch_ms", "month_first", "day_first"]
    zone_minutes: Annotated[int, Field(ge=-900, le=900)]
    columns: Annotated[list[ColumnModel], Field(max_length=64)]
    delimiter: Annotated[str, Field(strict=True, min_length=1, max_length=1)] = ","


class FileLookOut(BaseModel):
    """The beginning of a file, the mapping guessed or remembered, and what to ask."""

    id: str
    heading: list[str]
    rows: list[list[str]]
    mapping: MappingModel
    questions: list[str]
    remembered: bool


class ImportOut(BaseModel):
    """An import as it stands."""

    id: str
    file_name: str
    state: Literal["waiting", "reading", "done", "cancelled", "failed"]
    message: str
    readings: int
    refused: int
    share: float
