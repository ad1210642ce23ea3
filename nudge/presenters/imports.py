"""Log files over the wire: how one is read, and how far it is."""

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from nudge.contract.strict import Strict, YesNo
from nudge.instruments.files import FileMapping
from nudge.instruments.guessing import Column

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
    time_form: Literal["iso", "epoch_s", "epoch_ms", "month_first", "day_first", "elapsed"]
    zone_minutes: Annotated[int, Field(ge=-900, le=900)]
    columns: Annotated[list[ColumnModel], Field(max_length=512)]
    delimiter: Annotated[str, Field(strict=True, min_length=1, max_length=1)] = ","
    encoding: Literal["utf-8", "utf-16", "utf-16-le", "utf-16-be"] = "utf-8"
    skip: Annotated[int, Field(ge=0, le=40)] = 0
    has_unit_row: YesNo = False
    starts_ms: Annotated[int, Field(ge=0, le=4_102_444_800_000)] = 0
    """What elapsed times are counted from, milliseconds since 1970."""

    def mapping(self) -> FileMapping:
        """As the file is read by it."""
        told = {name: getattr(self, name) for name in type(self).model_fields if name != "columns"}
        columns = tuple(Column(c.name, c.point, c.unit) for c in self.columns)
        return FileMapping(columns=columns, **told)


class FileLookOut(BaseModel):
    """The beginning of a file, the mapping guessed or remembered, and what to ask."""

    id: str
    heading: list[str]
    rows: list[list[str]]
    mapping: MappingModel
    questions: list[str]
    titles: list[str]
    """What stood over its heading."""
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
