"""The shape of a bundle: every row follows its table. `docs/formats/` holds its JSON Schema."""

from datetime import UTC, datetime, timedelta
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, Field, create_model
from sqlalchemy import JSON, inspect
from sqlalchemy.types import TypeEngine

from nudge.core.physics.circuit.plate_fields import PLATE_CHOICES
from nudge.store.live_tables import Import, Override, Plant
from nudge.store.shelf_tables import Cylinder, Movement, Weighing
from nudge.store.tables import (
    Base,
    Callout,
    ChartRow,
    Event,
    ObservationRow,
    Reading,
    Site,
    SlipRow,
    System,
    UtcTime,
    Verdict,
    Visit,
)
from nudge.store.visit_tables import (
    Baseline,
    CheckRow,
    Deferred,
    IntendedChange,
    MachineSetting,
    Note,
    Photo,
    TestEntry,
    TestRun,
    Tick,
)
from nudge.store.zone_tables import ZoneLogRow

FORMAT, VERSION = "nudge-bundle", 1
MOST_IN_TEXT = 40_000_000
_STRICT = ConfigDict(extra="forbid")
_LEFT_OUT = {"sequence"}
ADDED_LATER = frozenset(
    {
        ("events", "ready_at"),
        ("events", "note"),
        ("systems", "design_pressure_low_kpa"),
        ("systems", "design_pressure_high_kpa"),
        ("systems", "heat_47_w"),
        ("systems", "heat_17_w"),
        ("systems", "power_47_w"),
        ("systems", "power_17_w"),
        ("systems", "lowest_outdoor_c"),
        ("systems", "strips_kw"),
        ("systems", "strips_off_over_c"),
        ("systems", "compressor_off_under_c"),
        ("systems", "house_loss_w_k"),
        ("systems", "box_set_point_c"),
        ("systems", "coil_class_k"),
        ("systems", "condenser_class_k"),
        ("systems", "has_receiver"),
        ("systems", "head_pressure_control"),
        ("systems", "defrost_kind"),
        ("systems", "second_evaporator"),
        ("verdicts", "kept"),
        ("readings", "part"),
        ("cylinders", "rated_kpa"),
        ("cylinders", "tested_until"),
    }
)
"""Columns that bundles written before them lack, as they do `written_by`: read as unknown."""
UNLESS_SAID: dict[tuple[str, str], Any] = {
    **{("systems", choice.key): "" for choice in PLATE_CHOICES},
    ("cylinders", "condition"): "clean",
    ("cylinders", "takes_flammable"): False,
}
"""Columns added later that are never unknown: what they are where nobody said."""
OF_VISIT: dict[str, type[Base]] = {
    "callouts": Callout,
    "readings": Reading,
    "observations": ObservationRow,
    "events": Event,
    "verdicts": Verdict,
    "slips": SlipRow,
    "overrides": Override,
    "ticks": Tick,
    "checks": CheckRow,
    "notes": Note,
    "photos": Photo,
    "imports": Import,
    "plants": Plant,
    "zone_logs": ZoneLogRow,
    "test_runs": TestRun,
    "test_entries": TestEntry,
    "machine_settings": MachineSetting,
}
TABLES_ADDED_LATER = frozenset({"test_runs", "test_entries", "machine_settings", "zone_logs"})
"""Bundles written before these have none of them."""
OF_SYSTEM: dict[str, type[Base]] = {
    "charts": ChartRow,
    "baselines": Baseline,
    "intended_changes": IntendedChange,
    "deferred": Deferred,
}


def kind_of(of: TypeEngine[Any]) -> type:
    """What a column holds in Python."""
    if isinstance(of, UtcTime):
        return datetime
    return dict if isinstance(of, JSON) else of.python_type


ID = Annotated[str, Field(strict=True, min_length=1, max_length=200, pattern=r"^[A-Za-z0-9:_.-]+$")]
"""As the API takes them; and a little longer, for rows are named after what they came with."""
LONG = frozenset({"text", "note", "name", "complaint", "drift"})
LONGEST, SHORTEST = 20_000, 500
"""Letters of the texts named in `LONG`, and of every other."""
Finite = Annotated[float, Field(allow_inf_nan=False, ge=-1e15, le=1e15)]
Whole = Annotated[int, Field(ge=-(2**53), le=2**53)]


def _believable(moment: datetime) -> datetime:
    if not datetime(1990, 1, 1, tzinfo=UTC) <= moment <= datetime.now(UTC) + timedelta(days=1):
        raise ValueError(f"{moment.isoformat()[:20]} is no moment that was")
    return moment


Was = Annotated[AwareDatetime, AfterValidator(_believable)]
WILL_BE = frozenset({"ready_at"})
"""Moments that may lie ahead."""


def _text(key: str) -> Any:
    """What a text of a column may be: an id, or so many letters that can be shown."""
    if key == "id" or key.endswith("_id") or key in ("corrects", "withdraws"):
        return ID
    most = LONGEST if key in LONG else SHORTEST
    return Annotated[str, Field(max_length=most), AfterValidator(_showable)]


def _showable(text: str) -> str:
    if any(ord(letter) < 32 and letter not in "\n\t\r" for letter in text) or "\x7f" in text:
        raise ValueError("control characters cannot stand in a text")
    text.encode("utf-8")  # a half of a pair of surrogates cannot be written anywhere
    return text


def _row_model(name: str, table: type[Base], *besides: str) -> type[BaseModel]:
    """A strict model with a field for every column of a table."""
    fields: dict[str, Any] = {}
    for column in inspect(table).columns:
        if column.key in _LEFT_OUT or column.key in besides:
            continue
        kind: Any = kind_of(column.type)
        kind = {
            str: _text(column.key),
            datetime: AwareDatetime if column.key in WILL_BE else Was,
            bytes: Annotated[str, Field(max_length=MOST_IN_TEXT)],
            dict: dict[str, Any],
            float: Finite,
            int: Whole,
        }.get(kind, kind)
        optional = column.nullable or (table is Baseline and column.key == "kept")
        later = column.key == "written_by" or (table.__tablename__, column.key) in ADDED_LATER
        usual = UNLESS_SAID.get((table.__tablename__, column.key), ...)
        fields[column.key] = (kind | None, None if later else ...) if optional else (kind, usual)
    made: type[BaseModel] = create_model(name, __config__=_STRICT, **fields)
    return made


MODELS: dict[str, type[BaseModel]] = {
    "sites": _row_model("SiteRow", Site),
    "systems": _row_model("SystemRow", System),
    "visits": _row_model("VisitRow", Visit),
    "cylinders": _row_model("CylinderRow", Cylinder, "retired_at"),
    "movements": _row_model("MovementRow", Movement),
    "weighings": _row_model("WeighingRow", Weighing),
    **{
        key: _row_model(f"{table.__name__.removesuffix('Row')}Row", table)
        for key, table in (OF_SYSTEM | OF_VISIT).items()
    },
}
TABLES: dict[str, type[Base]] = {
    "sites": Site,
    "systems": System,
    "visits": Visit,
    "cylinders": Cylinder,
    "movements": Movement,
    "weighings": Weighing,
    **OF_SYSTEM,
    **OF_VISIT,
}


class PlacementRow(BaseModel):
    """Where an instrument was, from a moment on [ms]; `offset` is its zero, in core units."""

    model_config = _STRICT
    id: ID
    point: Annotated[str, Field(max_length=SHORTEST)]
    counts: bool
    offset: Finite
    since_ms: Whole
    how: Annotated[str, Field(max_length=SHORTEST)]
    recorded_at: Was


class ChannelRow(BaseModel):
    """One instrument of a visit with every sample as it came: moments [ms] and core values."""

    model_config = _STRICT
    visit_id: ID
    key: Annotated[str, Field(max_length=SHORTEST)]
    label: Annotated[str, Field(max_length=SHORTEST)]
    source: Annotated[str, Field(max_length=SHORTEST)]
    created_at: Was
    placements: list[PlacementRow]
    at_ms: list[Whole]
    values: list[Finite]


_BUNDLE_FIELDS: dict[str, Any] = {
    "format": (Literal["nudge-bundle"], ...),
    "version": (Literal[1], ...),
    "made_by": (Annotated[str, Field(max_length=SHORTEST)], ...),
    "made_at": (AwareDatetime, ...),
    **{
        key: (list[model], [] if key in TABLES_ADDED_LATER else ...)  # type: ignore[valid-type]
        for key, model in MODELS.items()
    },
    "channels": (list[ChannelRow], ...),
}
Bundle: type[BaseModel] = create_model(
    "Bundle",
    __config__=_STRICT,
    __doc__="A system, or one visit to it, with everything written about it. Core units: kPa, °C, "
    "K, kg, W, m; readings also as they were given.",
    **_BUNDLE_FIELDS,
)


def bundle_schema() -> dict[str, Any]:
    """The JSON Schema of a bundle, as published in docs/formats."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **Bundle.model_json_schema()}
