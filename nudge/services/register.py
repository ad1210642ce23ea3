"""The instruments register: what is carried, zeroed when, calibrated until, how far it errs."""

from dataclasses import asdict, astuple, dataclass
from datetime import date, datetime

from sqlalchemy.orm import Session

from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.accuracy import Accuracy
from nudge.core.language.vocabulary.register import (
    HOSE_YEARS,
    INSTRUMENT_SORTS,
    Carried,
    check_fixed,
    own_accuracies,
    sort_named,
)
from nudge.services.clock import Clock
from nudge.services.errors import NotFound
from nudge.store.database import Database
from nudge.store.register_tables import InstrumentSheet, RegisteredInstrument
from nudge.store.repositories import register as repository

LONGEST_NAME, MOST_CARRIED = 60, 100
MOST_SHARE = 0.25
DAYS_A_YEAR = 365.25


@dataclass(frozen=True, slots=True)
class Sheet:
    """What an instrument's own sheet says; None where it says nothing. `fixed` in core units."""

    fixed: float | None = None
    share: float | None = None
    calibrated_until: date | None = None
    hoses_since: date | None = None


@dataclass(frozen=True, slots=True)
class InstrumentNow:
    """An instrument as it stands, or stood at a moment."""

    row: RegisteredInstrument
    sheet: InstrumentSheet
    is_lapsed: bool
    hose_years: float | None

    @property
    def hoses_are_old(self) -> bool:
        return self.hose_years is not None and self.hose_years > HOSE_YEARS


class Register:
    """The use cases of the register."""

    def __init__(self, database: Database, clock: Clock) -> None:
        self._database, self._clock = database, clock

    def all(self) -> list[InstrumentNow]:
        """Everything that is carried."""
        return self.at(self._clock())

    def at(self, moment: datetime) -> list[InstrumentNow]:
        """Everything that was carried then, by the sheets that held then."""
        with self._database.reading() as session:
            found = repository.carried(session, moment)
        return [_standing(row, sheet, moment.date()) for row, sheet in found]

    def add(self, instrument_id: str, name: str, sort: str, sheet: Sheet) -> None:
        """One more. The same id again is the same instrument.

        Raises: UnknownName; CoreError, without a name or with too many; OutOfRange.
        """
        kept, now = " ".join(name.split()), self._clock()
        if not kept or len(kept) > LONGEST_NAME:
            raise CoreError("name", f"Give it a name of 1 to {LONGEST_NAME} letters.")
        _check(sort, sheet, now.date())
        with self._database.writing() as session:
            if repository.instrument(session, instrument_id) is not None:
                return
            if len(repository.carried(session, now)) >= MOST_CARRIED:
                raise CoreError("instruments", f"{MOST_CARRIED} are carried: retire one first.")
            session.add(
                RegisteredInstrument(
                    id=instrument_id,
                    name=kept,
                    sort=sort,
                    created_at=now,
                    retired_at=None,
                )
            )
            session.flush()
            _write(session, instrument_id, now, sheet)

    def sort_of(self, instrument_id: str) -> str:
        """The kind of an instrument. Raises: NotFound."""
        with self._database.reading() as session:
            return _row(session, instrument_id).sort

    def change(self, instrument_id: str, sheet: Sheet) -> None:
        """What its sheet says now; what is None stays. Raises: NotFound; as `add`."""
        with self._database.writing() as session:
            row, now = _row(session, instrument_id), self._clock()
            _check(row.sort, sheet, now.date())
            _write(session, instrument_id, now, sheet)

    def zeroed(self, instrument_id: str) -> None:
        """It was zeroed just now. Raises: NotFound; CoreError, where it has no zero."""
        with self._database.writing() as session:
            row = _row(session, instrument_id)
            if not sort_named(row.sort).zeroes:
                label = INSTRUMENT_SORTS[row.sort].label.lower()
                raise CoreError("zeroed", f"{label.capitalize()} are not zeroed by hand.")
            now = self._clock()
            _write(session, instrument_id, now, Sheet(), zeroed_at=now)

    def retire(self, instrument_id: str) -> None:
        """It is carried no longer. Raises: NotFound."""
        with self._database.writing() as session:
            _row(session, instrument_id).retired_at = self._clock()


def own_of(session: Session, moment: datetime) -> dict[str, Accuracy]:
    """What the instruments that were carried at a moment err, by the key of an accuracy."""
    return own_accuracies(
        [
            Carried(row.sort, sheet.fixed, sheet.share, _is_lapsed(sheet, moment.date()))
            for row, sheet in repository.carried(session, moment)
        ]
    )


def _write(
    session: Session,
    instrument_id: str,
    now: datetime,
    said: Sheet,
    zeroed_at: datetime | None = None,
) -> None:
    """One more sheet, if it says anything new: what is said now over what held before."""
    last = repository.newest_sheet(session, instrument_id)
    held = Sheet() if last is None else _said(last)
    was_zeroed = None if last is None else last.zeroed_at
    sheet = Sheet(
        *(
            old if new is None else new
            for new, old in zip(astuple(said), astuple(held), strict=True)
        )
    )
    if last is not None and sheet == held and zeroed_at is None:
        return
    session.add(
        InstrumentSheet(
            instrument_id=instrument_id,
            since=now,
            zeroed_at=zeroed_at or was_zeroed,
            **asdict(sheet),
        )
    )
    session.flush()


def _said(row: InstrumentSheet) -> Sheet:
    return Sheet(row.fixed, row.share, row.calibrated_until, row.hoses_since)


def _standing(row: RegisteredInstrument, sheet: InstrumentSheet, today: date) -> InstrumentNow:
    years = None
    if sheet.hoses_since is not None:
        years = (today - sheet.hoses_since).days / DAYS_A_YEAR
    return InstrumentNow(row, sheet, _is_lapsed(sheet, today), years)


def _is_lapsed(sheet: InstrumentSheet, today: date) -> bool:
    return sheet.calibrated_until is not None and sheet.calibrated_until < today


def _row(session: Session, instrument_id: str) -> RegisteredInstrument:
    row = repository.instrument(session, instrument_id)
    if row is None or row.retired_at is not None:
        raise NotFound("instrument", instrument_id)
    return row


def _check(sort_key: str, sheet: Sheet, today: date) -> None:
    sort = sort_named(sort_key)
    if sheet.fixed is not None:
        check_fixed(sort, sheet.fixed)
    if sheet.share is not None and not 0 <= sheet.share <= MOST_SHARE:
        said = say(
            "{share} of the reading is no instrument's ±: 0 to {most}.",
            share=Measure(100 * sheet.share, Quantity.PERCENT),
            most=Measure(100 * MOST_SHARE, Quantity.PERCENT),
        )
        raise Impossible("share", said)
    if sheet.hoses_since is not None:
        if not sort.has_hoses:
            raise CoreError("hoses_since", f"{sort.label} have no hoses.")
        if sheet.hoses_since > today:
            raise CoreError("hoses_since", f"{sheet.hoses_since} is still to come.")
