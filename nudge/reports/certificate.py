"""The certificate of a test with time: what it proved, its curve, its ± and what it does not."""

from collections.abc import Mapping, Sequence
from datetime import datetime, tzinfo

from fpdf.enums import XPos, YPos

from nudge.presenters.drawing.film_layout import DrawnFilm
from nudge.presenters.drawing.proof_layout import DrawnProof
from nudge.presenters.timed_tests import TestOut
from nudge.presenters.visits import VisitOut
from nudge.reports.film_on_paper import draw_film, draw_proof
from nudge.reports.paper import MARGIN, WIDTH, Paper
from nudge.reports.scaled import Scaled

STATES = {
    "passed": "Passed",
    "failed": "Not passed",
    "cannot_tell": "Cannot tell",
    "running": "Not ended",
    "aborted": "Broken off",
}


def certificate(
    visit: VisitOut,
    test: TestOut,
    film: Sequence[DrawnFilm],
    zone: tzinfo | None,
    version: str,
    card: Mapping[str, str],
) -> bytes:
    """One page: place, finding, numbers with their ±, the curve, the customs, what it says not."""
    place = f"{visit.system.site_name}, {visit.system.name}"
    words = [place, test.headline, *test.says, *card.values(), *(p for p, _ in test.places)]
    pdf = Paper(f"{test.label}, {place}", f"Nudge {version} · {place}", words)
    if card.get("name"):
        pdf.line_of(card["name"], 10, bold=True)
    pdf.line_of(test.label, 18, bold=True)
    pdf.line_of(place, 11)
    ended = _at(test.ended_at, zone) if test.ended_at else "not ended"
    pdf.line_of(f"{_at(test.began_at, zone)} to {ended}", 9.5, soft=True)
    pdf.ln(2)
    pdf.line_of(f"{STATES[test.state]}. {test.headline}", 13, bold=True)
    for line in (*test.hazards, *test.warnings):
        pdf.care(line)
    for line in test.says:
        pdf.line_of(line, 10)
    proves = ", ".join(test.proves) if test.proven else "nothing"
    pdf.pairs(
        [
            ("Proves", proves),
            ("Refrigerant", visit.system.refrigerant),
            *((n.label, f"{n.text} {n.off}{f' ({n.how})' if n.how else ''}") for n in test.numbers),
            *((f"Joint: {name}", note.replace("_", " ")) for name, note in test.places),
        ],
        62,
    )
    _pictures(pdf, test, film)
    if test.schools:
        pdf.head("Customs of the trade")
        pdf.listed(test.schools)
    pdf.head("Readings at the end")
    pdf.pairs(test.readings)
    pdf.ln(8)
    pdf.ink(9, soft=True)
    pdf.cell(WIDTH, 5, "Signature ______________________________", new_x=XPos.LMARGIN,
             new_y=YPos.NEXT)  # fmt: skip
    return bytes(pdf.output())


def _pictures(pdf: Paper, test: TestOut, film: Sequence[DrawnFilm]) -> None:
    sheet = film[-1] if film else None  # the tallest of the wide ones
    if sheet and any(one.run_id == test.id for one in sheet.frames):
        pdf.head("The tightness film: all pressures of this visit’s tests, one log scale", 90)
        scale = WIDTH / sheet.width
        draw_film(Scaled(pdf, MARGIN, pdf.get_y(), scale), sheet)
        pdf.set_y(pdf.get_y() + sheet.height * scale + 2)
    strip: DrawnProof | None = next((one for one in test.proof if one.frame == "desk"), None)
    if strip:
        pdf.head("The proof strip", 80)
        scale = WIDTH / strip.width
        draw_proof(Scaled(pdf, MARGIN, pdf.get_y(), scale), strip)
        pdf.set_y(pdf.get_y() + strip.height * scale + 2)


def _at(moment: datetime | None, zone: tzinfo | None) -> str:
    if moment is None:
        return ""
    local = moment.astimezone(zone)
    return f"{local:%Y-%m-%d %H:%M} {local.tzname() or ''}".strip()
