"""The instruments register over the wire. ± in the reader's units."""

from collections.abc import Iterable, Sequence
from datetime import date, datetime, tzinfo
from typing import Annotated

from pydantic import BaseModel, Field

from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict, YesNo
from nudge.core.language.units import UnitSystem, spread_from_si, spread_to_si, unit_label
from nudge.core.language.vocabulary.accuracy import ACCURACY, accuracy_key
from nudge.core.language.vocabulary.register import INSTRUMENT_SORTS, InstrumentSort, sort_named
from nudge.presenters.book import Id, Text
from nudge.services.register import InstrumentNow, Sheet


class SortOut(BaseModel):
    """A kind of instrument, the unit of its ±, and what is usual of it."""

    key: str
    label: str
    unit: str
    usual: str
    zeroes: bool
    has_hoses: bool


class RegisteredOut(BaseModel):
    """One instrument as it stands today."""

    id: str
    name: str
    sort: str
    label: str
    accuracy: str
    """Its own ± or its kind's, in words."""
    is_own: bool
    zeroed_at: datetime | None
    calibrated_until: date | None
    is_lapsed: bool
    hose_years: float | None
    hoses_are_old: bool


class RegisterOut(BaseModel):
    """Everything that is carried, and what can be."""

    instruments: list[RegisteredOut]
    sorts: list[SortOut]


class SheetIn(Strict):
    """An instrument's own sheet: ± in the request's units, and as a percentage of the reading."""

    fixed: Annotated[Number, Field(gt=0)] | None = None
    percent: Annotated[Number, Field(ge=0)] | None = None
    calibrated_until: date | None = None
    hoses_since: date | None = None

    def sheet(self, sort_key: str, units: UnitSystem) -> Sheet:
        """In core units. Raises: UnknownName."""
        sort, fixed = sort_named(sort_key), self.fixed
        if fixed is not None and sort.quantity is not None:
            fixed = spread_to_si(fixed, sort.quantity, units)
        share = None if self.percent is None else self.percent / 100
        return Sheet(fixed, share, self.calibrated_until, self.hoses_since)


class NewInstrument(SheetIn):
    """One more instrument."""

    id: Id
    name: Text
    sort: Name


class InstrumentChange(SheetIn):
    """What its sheet says now; `zeroed` just now, or `retired`."""

    zeroed: YesNo = False
    retired: YesNo = False


def register_out(found: Sequence[InstrumentNow], units: UnitSystem) -> RegisterOut:
    return RegisterOut(
        instruments=[_instrument(one, units) for one in found],
        sorts=[_sort(row, units) for row in INSTRUMENT_SORTS.values()],
    )


def _sort(row: InstrumentSort, units: UnitSystem) -> SortOut:
    return SortOut(
        key=row.key,
        label=row.label,
        unit=_unit(row, units),
        usual=ACCURACY[row.reads[0]].reason if row.reads else "",
        zeroes=row.zeroes,
        has_hoses=row.has_hoses,
    )


def _instrument(one: InstrumentNow, units: UnitSystem) -> RegisteredOut:
    row, sort = one.row, INSTRUMENT_SORTS[one.row.sort]
    is_own = one.sheet.fixed is not None or one.sheet.share is not None
    return RegisteredOut(
        id=row.id,
        name=row.name,
        sort=row.sort,
        label=sort.label,
        accuracy=_accuracy(one, sort, units),
        is_own=is_own,
        zeroed_at=one.sheet.zeroed_at,
        calibrated_until=one.sheet.calibrated_until,
        is_lapsed=one.is_lapsed,
        hose_years=one.hose_years,
        hoses_are_old=one.hoses_are_old,
    )


def carried_lines(
    found: Sequence[InstrumentNow], points: Iterable[str], units: UnitSystem, zone: tzinfo | None
) -> list[str]:
    """The instruments that read any of these points, for a paper: ±, calibration, zero, hoses."""
    read = {accuracy_key(point) for point in points}
    used = [one for one in found if read & set(INSTRUMENT_SORTS[one.row.sort].reads)]
    if any(INSTRUMENT_SORTS[one.row.sort].has_hoses for one in used):
        used += [one for one in found if one.row.sort == "hoses"]
    return [_carried_line(one, units, zone) for one in used]


def _carried_line(one: InstrumentNow, units: UnitSystem, zone: tzinfo | None) -> str:
    sheet = one.sheet
    parts = [one.row.name, _accuracy(one, INSTRUMENT_SORTS[one.row.sort], units)]
    if sheet.calibrated_until is not None:
        word = "out of calibration since" if one.is_lapsed else "calibrated until"
        parts.append(f"{word} {sheet.calibrated_until}")
    if sheet.zeroed_at is not None:
        parts.append(f"zeroed {sheet.zeroed_at.astimezone(zone):%Y-%m-%d %H:%M}")
    if one.hose_years is not None:
        parts.append(f"hoses {one.hose_years:.1f} years")
    return " · ".join(part for part in parts if part)


def _unit(sort: InstrumentSort, units: UnitSystem) -> str:
    """The unit of a ±: of a gauge it is a difference of pressures, psi and never psig."""
    if sort.quantity is None:
        return ""
    label = unit_label(sort.quantity, units)
    return "psi" if label == "psig" else label


def _accuracy(one: InstrumentNow, sort: InstrumentSort, units: UnitSystem) -> str:
    if not sort.reads or sort.quantity is None:
        return ""
    usual, sheet = ACCURACY[sort.reads[0]], one.sheet
    fixed = usual.fixed if sheet.fixed is None else sheet.fixed
    share = usual.share if sheet.share is None else sheet.share
    shown = f"± {spread_from_si(fixed, sort.quantity, units):.2g} {_unit(sort, units)}"
    parts = [shown] if fixed else []
    if share:
        parts.append(f"{100 * share:g} %")
    said = " or ".join(parts)
    return f"{said}, counted twice" if one.is_lapsed else said
