"""ReadingsTaken of a visit: said, corrected, taken back, kept from instruments or from a slip."""

from datetime import datetime
from typing import Any

from nudge.core.language.callout.parser import Spoken
from nudge.core.language.errors import CoreError
from nudge.core.language.units import UnitSystem
from nudge.core.visit.record.standing import current, standing
from nudge.services.errors import NotFound, NotUnderstood, Unsettled
from nudge.services.heard import (
    hear_for_system,
    nothing_said,
)
from nudge.services.open_visit import OpenVisits
from nudge.services.pocket_slips import readings_of
from nudge.services.snapshot import (
    Snapshot,
    live_rows,
)
from nudge.store.live_tables import Override
from nudge.store.repositories import visits as repository
from nudge.store.tables import (
    Callout,
    Reading,
    SlipRow,
    Visit,
)


class ReadingsTaken(OpenVisits):
    """The use cases of readings on a visit."""

    def hear(
        self, visit_id: str, callout_id: str, text: str, units: UnitSystem, heard_at: datetime
    ) -> Snapshot:
        """Take a call-out: every word understood and stored, or nothing stored.

        `fix …` corrects the reading that stands at each point instead of adding a newer one.
        Raises: NotUnderstood, with each word that is not a reading and why.
        """
        with self._on_open_visit(visit_id, callout_id) as (session, row):
            if session.get(Callout, callout_id) is None:
                heard = hear_for_system(text, units, row.system)
                if heard.misheard or not heard.spoken:
                    raise NotUnderstood(heard.misheard or (nothing_said(text),))
                taken_at = self._on_its_clock(session, row, heard_at)
                session.add(Callout(id=callout_id, visit_id=visit_id, text=text, heard_at=taken_at))
                session.flush()
                before = current(row.readings) if heard.corrects else {}
                typed = [
                    self._typed(row, f"{callout_id}:{number}", spoken, old, taken_at, callout_id)
                    for number, spoken in enumerate(heard.spoken)
                    for old in (before.get(spoken.point.key),)
                ]
                repository.add_readings(session, typed)
        return self._judged(visit_id)

    def correct(
        self, visit_id: str, reading_id: str, correction_id: str, text: str, units: UnitSystem
    ) -> Snapshot:
        """Replace one reading by what should have been typed: `119`, or `250kpa`.

        Raises: NotFound; NotUnderstood, when the text is not a value for that point.
        """
        with self._on_open_visit(visit_id, correction_id) as (session, row):
            old = _reading(row, reading_id)
            if not any(r.id == correction_id for r in row.readings):
                heard = hear_for_system(f"{old.point} {text}", units, row.system)
                if heard.misheard or len(heard.spoken) != 1:
                    raise NotUnderstood(heard.misheard or (nothing_said(text),))
                typed = self._typed(row, correction_id, heard.spoken[0], old, old.taken_at)
                session.add(Reading(**typed))
        return self._judged(visit_id)

    def withdraw(self, visit_id: str, reading_id: str, withdrawal_id: str) -> Snapshot:
        """Take one reading back. What stood at its point before stands again."""
        with self._on_open_visit(visit_id, withdrawal_id) as (_, row):
            self._withdraw(row, [_reading(row, reading_id)], withdrawal_id)
        return self._judged(visit_id)

    def undo(self, visit_id: str, withdrawal_id: str) -> Snapshot:
        """Take back the last line or correction that still stands."""
        with self._on_open_visit(visit_id, withdrawal_id) as (_, row):
            rows = standing(row.readings)
            if rows and not any(r.id.startswith(f"{withdrawal_id}:") for r in row.readings):
                last = max(rows, key=lambda r: r.sequence)
                together = [
                    r
                    for r in rows
                    if r is last or (r.callout_id and r.callout_id == last.callout_id)
                ]
                self._withdraw(row, together, withdrawal_id)
        return self._judged(visit_id)

    def keep(self, visit_id: str, entry_id: str, reason: str) -> Snapshot:
        """Keep what the instruments say now as readings, and judge them.

        While it has not settled, `reason` says why it is judged early, and is kept.
        Raises: CoreError, without live values, or unsettled without a reason.
        """
        now, state = self._clock(), self._live_now(visit_id)
        with self._on_open_visit(visit_id, entry_id) as (session, row):
            if not any(r.id.startswith(f"{entry_id}:") for r in row.readings):
                if state is None or not live_rows(state):
                    raise CoreError("readings", "No instrument sends anything. Type the readings.")
                if state.unsettled is not None:
                    if not reason.strip():
                        raise Unsettled(state.unsettled)
                    session.add(
                        Override(
                            id=entry_id,
                            visit_id=visit_id,
                            gate="not_settled",
                            reason=reason.strip(),
                            given_at=now,
                        )
                    )
                self._keep_live(row, entry_id, state, now)
        return self._judged(visit_id)

    def keep_slip(
        self, visit_id: str, slip_id: str, slip: str, entries: dict[str, Any], units: UnitSystem
    ) -> Snapshot:
        """Send a slip of the Pocket into a visit: its entries, and the readings among them.

        A blank that is a reading becomes one, typed; a number the slip came to that is a
        reading (airflow by strips) becomes one, estimated. Raises: UnknownName; CoreError, when
        a blank of the slip is refused or the slip comes to nothing.
        """
        with self._on_open_visit(visit_id, slip_id) as (_, row):
            if not any(kept.id == slip_id for kept in row.slips):
                now = self._clock()
                row.readings += [
                    Reading(
                        id=f"{slip_id}:{number}",
                        point=sent.point,
                        given_value=sent.value,
                        given_unit=sent.unit,
                        source=sent.source,
                        quality="as_given",
                        taken_at=now,
                        recorded_at=now,
                    )
                    for number, sent in enumerate(readings_of(slip, entries, units))
                ]
                row.slips.append(
                    SlipRow(id=slip_id, slip=slip, entries=entries, units=units, sent_at=now)
                )
        return self._judged(visit_id)

    def _typed(
        self,
        visit: Visit,
        reading_id: str,
        spoken: Spoken,
        old: Reading | None,
        taken_at: datetime,
        callout_id: str | None = None,
    ) -> dict[str, Any]:
        """A typed number as a row's values; with `old` in its place and at its moment."""
        return {
            "id": reading_id,
            "visit_id": visit.id,
            "callout_id": callout_id,
            "point": spoken.point.key,
            "given_value": spoken.given_value,
            "given_unit": spoken.unit.label,
            "source": "typed",
            "quality": "as_given",
            "taken_at": old.taken_at if old else taken_at,
            "recorded_at": self._clock(),
            "corrects": old.id if old else None,
            "part": old.part if old else None,
        }

    def _withdraw(self, row: Visit, readings: list[Reading], withdrawal_id: str) -> None:
        already = {r.withdraws for r in row.readings}
        for number, old in enumerate(readings):
            if old.id not in already:
                row.readings.append(
                    Reading(
                        id=f"{withdrawal_id}:{number}",
                        point=old.point,
                        given_value=old.given_value,
                        given_unit=old.given_unit,
                        source=old.source,
                        quality=old.quality,
                        taken_at=old.taken_at,
                        recorded_at=self._clock(),
                        withdraws=old.id,
                        part=old.part,
                    )
                )


def _reading(row: Visit, reading_id: str) -> Reading:
    for reading in row.readings:
        if reading.id == reading_id:
            return reading
    raise NotFound("reading", reading_id)
