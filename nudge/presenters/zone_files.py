"""Multi-zone logs and drawings as they come in over the wire."""

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import BaseModel, Field, ValidationError

from nudge.contract.strict import Number, Strict, YesNo
from nudge.core.language.errors import CoreError
from nudge.core.multizone.headings import ZoneColumn, left_out
from nudge.core.physics.circuit.tubes import LiquidPipe
from nudge.core.physics.zones.parts import STEPS, IndoorUnit, Parts, parts_of
from nudge.core.physics.zones.points import MODES, ZONE_POINTS, ZonePoint
from nudge.instruments.files import MOST_COLUMNS
from nudge.instruments.text_table import TableForm
from nudge.instruments.zone_drawing import MOST_TEXT, drawing_of
from nudge.instruments.zone_files import ZoneMapping
from nudge.instruments.zone_lines import ZoneLine
from nudge.presenters.imports import Named
from nudge.presenters.moments import Moment
from nudge.services.zone_progress import LogInReading
from nudge.services.zones import ZonesLookedAt

MOST_LINES = 600
"""Of one batch: ten minutes by the second."""


class ZoneColumnModel(Strict):
    """One column: part and point, none leaves it out."""

    name: Named
    part: Named = ""
    point: Named = ""
    unit: Named = ""


class WrittenModel(Strict):
    """How the table is written."""

    encoding: Literal["utf-8", "utf-16", "utf-16-le", "utf-16-be"] = "utf-8"
    skip: Annotated[int, Field(ge=0, le=40)] = 0
    has_unit_row: YesNo = False
    delimiter: Annotated[str, Field(strict=True, min_length=1, max_length=1)] = ","


class ZoneMappingModel(Strict):
    """How a multi-zone log is to be read."""

    time: Named
    time_form: Literal["iso", "epoch_s", "epoch_ms", "month_first", "day_first", "elapsed"]
    zone_minutes: Annotated[int, Field(ge=-900, le=900)]
    columns: Annotated[list[ZoneColumnModel], Field(max_length=512)]
    written: WrittenModel = WrittenModel()
    starts_ms: Annotated[int, Field(ge=0, le=4_102_444_800_000)] = 0
    codes: Mapping[Named, Mapping[Named, Number]] = Field(default_factory=dict)

    def mapping(self) -> ZoneMapping:
        """As the log is read by it."""
        return ZoneMapping(
            self.time,
            self.time_form,
            self.zone_minutes,
            tuple(ZoneColumn(c.name, c.part, c.point, c.unit) for c in self.columns),
            TableForm(**self.written.model_dump()),
            self.starts_ms,
            self.codes,
        )


class RoomModel(Strict):
    """An indoor unit as it is drawn: capacity in W, lengths in m, whatever the units."""

    key: Named
    name: Named
    capacity_w: Annotated[Number, Field(gt=0, le=100_000)] | None = None
    lift_m: Annotated[Number, Field(ge=-120, le=120)] = 0.0
    length_m: Annotated[Number, Field(ge=0, le=400)] | None = None
    storey: Annotated[int, Field(ge=-9, le=99)] = 0
    ports: Annotated[int, Field(ge=1, le=4)] = 1
    group: Named = ""
    shut_steps: Annotated[Number, Field(ge=0, le=4000)] = 0.0
    wide_steps: Annotated[Number, Field(gt=0, le=4000)] = STEPS


class PipeModel(Strict):
    """All liquid pipe of one outside size: mm, m, and g/m where the maker's figure is written."""

    outside_mm: Annotated[Number, Field(gt=0, le=80)]
    length_m: Annotated[Number, Field(ge=0, le=2000)]
    g_per_m: Annotated[Number, Field(gt=0, le=2000)] | None = None


class PartsModel(Strict):
    """A plant's drawing."""

    refrigerant: Named
    rooms: Annotated[list[RoomModel], Field(min_length=1)]
    capacity_w: Annotated[Number, Field(gt=0, le=500_000)] | None = None
    recovers_heat: YesNo = False
    pipes: Annotated[list[PipeModel], Field(max_length=12)] = Field(default_factory=list)

    def parts(self) -> Parts:
        """As the core has it. Raises: CoreError."""
        return parts_of(
            self.refrigerant,
            [IndoorUnit(**room.model_dump()) for room in self.rooms],
            [LiquidPipe(**pipe.model_dump()) for pipe in self.pipes],
            capacity_w=self.capacity_w,
            recovers_heat=self.recovers_heat,
        )


class DrawingIn(Strict):
    """A drawing's file as text: a table of rooms, or JSON."""

    text: Annotated[str, Field(strict=True, min_length=1, max_length=MOST_TEXT)]

    def over(self, before: PartsModel) -> PartsModel:
        """What the file says, over what is drawn. Raises: CoreError, naming what does not fit."""
        found = drawing_of(self.text)
        rooms = found.get("rooms")
        if not isinstance(rooms, list) or not rooms:
            raise CoreError("file", "It names no rooms.")
        try:
            return PartsModel.model_validate({**before.model_dump(), **found})
        except ValidationError as wrong:
            first = wrong.errors()[0]
            where = ", ".join(str(one) for one in first["loc"])
            raise CoreError("file", f"{where}: {first['msg']}.") from wrong


class ZonesIn(Strict):
    """A log that waits, said what it is, with its plant's drawing."""

    mapping: ZoneMappingModel
    parts: PartsModel


class ZoneLineIn(Strict):
    """One moment of a plant’s log: values by “part/point”, in the units of the request."""

    at: Moment
    values: Annotated[dict[Named, Number | Named], Field(min_length=1, max_length=MOST_COLUMNS)]


class ZoneLinesIn(Strict):
    """A batch of lines."""

    lines: Annotated[list[ZoneLineIn], Field(min_length=1, max_length=MOST_LINES)]

    def to_lines(self) -> list[ZoneLine]:
        return [ZoneLine(row.at.timestamp(), row.values) for row in self.lines]


class ZonesHeardOut(BaseModel):
    """How many lines were kept, how many values were not, and why, the first of each."""

    kept: int
    refused: int
    reasons: list[str]


class ZoneProgressOut(BaseModel):
    """How far the reading of a log is: `lines` of about `about`; both 0 where none is read."""

    is_read: bool
    lines: int
    about: int


class ZonePointOut(BaseModel):
    """A point a column may be; `meanings` of its codes, by what they are called."""

    key: str
    label: str
    of: Literal["outdoor", "room"]
    meanings: dict[str, int]


class ZoneLookOut(BaseModel):
    """The beginning of a log, what it is taken for, its plant's drawing, what to ask."""

    id: str
    heading: list[str]
    rows: list[list[str]]
    titles: list[str]
    mapping: ZoneMappingModel
    parts: PartsModel
    questions: list[str]
    missing: list[str]
    """Points that no column is."""
    unknown: dict[str, list[str]]
    """Words of columns of codes that want a meaning, by point."""
    remembered: bool
    points: list[ZonePointOut]


def zone_look_out(of: ZonesLookedAt) -> ZoneLookOut:
    """A look at a log."""
    look = of.look
    return ZoneLookOut(
        id=of.log_id,
        heading=list(look.heading),
        rows=[list(row) for row in look.rows],
        titles=list(look.titles),
        mapping=ZoneMappingModel.model_validate(look.mapping, from_attributes=True),
        parts=parts_out(of.parts),
        questions=[*look.questions, *of.unfit],
        missing=left_out(look.mapping.columns),
        unknown={point: list(words) for point, words in look.unknown.items()},
        remembered=of.remembered,
        points=[
            ZonePointOut(key=row.key, label=row.label, of=row.of, meanings=_meanings(row))
            for row in ZONE_POINTS.values()
        ],
    )


def _meanings(row: ZonePoint) -> dict[str, int]:
    if not row.codes:
        return {}
    if row.key == "calls":
        return {"calls": 1, "does not call": 0}
    return {name.replace("_", " "): code for name, code in MODES.items()}


def zone_progress_out(of: LogInReading | None) -> ZoneProgressOut:
    if of is None:
        return ZoneProgressOut(is_read=False, lines=0, about=0)
    return ZoneProgressOut(is_read=True, lines=min(of.lines, of.about), about=of.about)


def parts_out(parts: Parts) -> PartsModel:
    return PartsModel.model_validate(parts, from_attributes=True)
