"""Cylinders, movements and leak rates over the wire. Weights in pounds or kilograms."""

import csv
import io
from collections.abc import Sequence
from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from nudge.contract.advice import (
    ConnectionOut,
    GuideOut,
    OtherSchoolOut,
)
from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict, YesNo
from nudge.core.charging.cylinder import CylinderCheck, CylinderKind
from nudge.core.charging.ledger import MG_PER_KG, MOVEMENT_KINDS
from nudge.core.charging.scale import Poured
from nudge.core.language.units import Quantity, UnitSystem, from_si, to_si, unit_label
from nudge.presenters.book import Id, Text
from nudge.presenters.csv_cells import safe_cell
from nudge.services.cylinders import CylinderStanding, Made
from nudge.services.leaks import Leaks
from nudge.services.rows import Movement


class CylinderMarks(Strict):
    """What a recovery cylinder holds and is made for, as its collar says."""

    condition: Literal["clean", "mixed", "burnt"] = "clean"
    takes_flammable: YesNo = False
    rated: Annotated[Number, Field(gt=0)] | None = None
    """Its service pressure, psig or kPa."""
    tested_until: date | None = None

    def made(self, units: UnitSystem) -> Made:
        """What it holds and is made for, in core units."""
        rated = None if self.rated is None else to_si(self.rated, Quantity.PRESSURE, units)
        return Made(self.condition, self.takes_flammable, rated, self.tested_until)


class NewCylinder(CylinderMarks):
    """A cylinder and what is on the scale, in pounds (ip) or kilograms."""

    id: Id
    name: Text
    refrigerant: Name
    kind: CylinderKind = "charging"
    tare: Annotated[Number, Field(ge=0)]
    gross: Annotated[Number, Field(ge=0)]
    water_capacity: Annotated[Number, Field(gt=0)] | None = None


class NewWeighing(Strict):
    id: Id
    gross: Number
    visit_id: Id | None = None
    sure: YesNo = False


class NewMovement(Strict):
    """Bought, returned or moved; `amount` in pounds or kilograms."""

    id: Id
    kind: Name
    amount: Number
    to: Id | None = None
    note: Text = ""


class NewDose(Strict):
    """A dose of a visit, in ounces (ip) or grams."""

    id: Id
    cylinder_id: Id
    amount: Number
    removes: YesNo = False
    sure: YesNo = False


class NewConnection(Strict):
    """How the system is connected, of the ways there are."""

    id: Id
    connection: Name


class ScaleOut(BaseModel):
    """What has gone (ounces or grams) since the zero, the gross weight, and a doubt or ""."""

    gone: float
    gross: float
    unit: str
    gross_unit: str
    doubt: str


class DoseCorrection(Strict):
    """What the dose really was, in ounces or grams; 0 takes it back."""

    id: Id
    dose_id: Id
    amount: Annotated[Number, Field(ge=0)]


class ThresholdChosen(Strict):
    """The yearly leak rate to act on, in percent."""

    percent: Number


def scale_out(found: Poured, units: UnitSystem) -> ScaleOut:
    return ScaleOut(
        gone=round(from_si(found.gone_kg * 1000, Quantity.SMALL_MASS, units), 1),
        gross=round(from_si(found.gross_kg, Quantity.MASS, units), 3),
        unit=unit_label(Quantity.SMALL_MASS, units),
        gross_unit=unit_label(Quantity.MASS, units),
        doubt=found.doubt.text(units) if found.doubt else "",
    )


class MovementOut(BaseModel):
    """`change` is what it does to this cylinder; small amounts in ounces or grams."""

    id: str
    kind: str
    label: str
    change: float
    unit: str
    system_id: str | None
    to_cylinder_id: str | None
    visit_id: str | None
    note: str
    happened_at: datetime


class WeighingOut(BaseModel):
    gross: float
    visit_id: str | None
    weighed_at: datetime


class CylinderOut(BaseModel):
    id: str
    name: str
    refrigerant: str
    kind: CylinderKind
    unit: str
    tare: float
    holds: float
    gross: float
    limit: float | None
    share: float | None
    """Of the fill limit of a recovery cylinder."""
    movements: list[MovementOut]
    weighings: list[WeighingOut]
    loss: MovementOut | None
    condition: str
    takes_flammable: bool
    rated: float | None
    rated_unit: str
    tested_until: date | None


class WeighedOut(BaseModel):
    """The cylinder after a weighing, and what the scale found beyond the book."""

    cylinder: CylinderOut
    found: str
    message: str


class ContentsOut(BaseModel):
    expected: float
    tolerance: float
    unit: str
    contents: str
    message: str


class LeakOut(BaseModel):
    system_id: str
    system: str
    site: str
    added: float
    unit: str
    annualised: float | None
    rolling: float | None
    is_over: bool


class LedgerOut(BaseModel):
    """Every movement that stands, newest first, and the systems that lose refrigerant."""

    movements: list[MovementOut]
    leaks: list[LeakOut]
    threshold: float
    broken: list[str]
    """Entries that are damaged and left out, in words."""


def kg(value: float, units: UnitSystem) -> float:
    """A cylinder's weight in kilograms."""
    return to_si(value, Quantity.CHARGE, units)


def cylinder_out(found: CylinderStanding, units: UnitSystem) -> CylinderOut:
    row = found.cylinder
    limit = found.limit_mg
    return CylinderOut(
        id=row.id,
        name=row.name,
        refrigerant=row.refrigerant,
        kind="recovery" if row.kind == "recovery" else "charging",
        unit=unit_label(Quantity.CHARGE, units),
        tare=_weight(row.tare_mg, units),
        holds=_weight(found.held_mg, units),
        gross=_weight(row.tare_mg + found.held_mg, units),
        limit=None if limit is None else _weight(limit, units),
        share=None if not limit else round(found.held_mg / limit, 3),
        movements=[movement_out(m, units, row.id) for m in reversed(found.movements)],
        weighings=[
            WeighingOut(
                gross=_weight(w.gross_mg, units), visit_id=w.visit_id, weighed_at=w.weighed_at
            )
            for w in reversed(found.weighings)
        ],
        loss=None if found.last_loss is None else movement_out(found.last_loss, units, row.id),
        condition=row.condition,
        takes_flammable=row.takes_flammable,
        rated=None
        if row.rated_kpa is None
        else round(from_si(row.rated_kpa, Quantity.PRESSURE, units)),
        rated_unit=unit_label(Quantity.PRESSURE, units),
        tested_until=row.tested_until,
    )


def movement_out(row: Movement, units: UnitSystem, seen_from: str | None = None) -> MovementOut:
    sign = MOVEMENT_KINDS[row.kind].sign
    if seen_from is not None and row.to_cylinder_id == seen_from:
        sign = -sign
    return MovementOut(
        id=row.id,
        kind=row.kind,
        label=MOVEMENT_KINDS[row.kind].label,
        change=round(sign * from_si(row.mg / 1000, Quantity.SMALL_MASS, units), 1),
        unit=unit_label(Quantity.SMALL_MASS, units),
        system_id=row.system_id,
        to_cylinder_id=row.to_cylinder_id,
        visit_id=row.visit_id,
        note=row.note,
        happened_at=row.happened_at,
    )


def leak_out(found: Leaks, units: UnitSystem, threshold: float) -> LeakOut:
    worst = max((r for r in (found.annualised, found.rolling) if r is not None), default=0.0)
    return LeakOut(
        system_id=found.system.id,
        system=found.system.name,
        site=found.system.site.name,
        added=round(from_si(found.added_mg / 1000, Quantity.SMALL_MASS, units), 1),
        unit=unit_label(Quantity.SMALL_MASS, units),
        annualised=None if found.annualised is None else round(found.annualised, 1),
        rolling=None if found.rolling is None else round(found.rolling, 1),
        is_over=worst > threshold,
    )


def contents_out(found: CylinderCheck, units: UnitSystem) -> ContentsOut:
    return ContentsOut(
        expected=round(from_si(found.expected_kpa, Quantity.PRESSURE, units), 1),
        tolerance=round(from_si(found.tolerance_kpa, Quantity.PRESSURE_DIFFERENCE, units), 1),
        unit=unit_label(Quantity.PRESSURE, units),
        contents=found.contents or "",
        message=found.said.text(units) if found.said else "",
    )


def ledger_csv(rows: Sequence[Movement]) -> str:
    """The ledger as CSV, exact to the milligram."""
    out = io.StringIO()
    file = csv.writer(out, lineterminator="\r\n")
    file.writerow(
        [
            "happened_at",
            "kind",
            "kg",
            "oz",
            "cylinder",
            "to_cylinder",
            "system",
            "visit",
            "note",
            "id",
            "corrects",
        ]
    )
    for row in rows:
        known = MOVEMENT_KINDS.get(row.kind)
        signed = (known.sign if known else 0) * row.mg
        file.writerow(
            [
                row.happened_at.isoformat(),
                safe_cell(row.kind),
                f"{signed / MG_PER_KG:.6f}",
                f"{from_si(signed / 1000, Quantity.SMALL_MASS, 'ip'):.3f}",
                *(
                    safe_cell(text or "")
                    for text in (
                        row.cylinder_id,
                        row.to_cylinder_id,
                        row.system_id,
                        row.visit_id,
                        row.note,
                        row.id,
                        row.corrects,
                    )
                ),
            ]
        )
    return out.getvalue()


def _weight(mg: int, units: UnitSystem) -> float:
    return round(from_si(mg / MG_PER_KG, Quantity.CHARGE, units), 2)


class WaysOut(BaseModel):
    """`connection` is the one said on this visit; "" while nobody said."""

    ways: list[GuideOut]
    connections: list[ConnectionOut]
    connection: str
    other_schools: list[OtherSchoolOut]
