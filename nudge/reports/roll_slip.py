"""The roll slip: a narrow paper with large figures, for a printer at the belt.

As wide as its roll (58 or 80 mm) and as long as what is on it. Printed again it is the same, byte
for byte: nothing on it hangs on when it is printed.
"""

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from nudge.core.language.errors import CoreError
from nudge.presenters.roll_slip import RollFigure, RollSlipOut, roll_moment
from nudge.presenters.visits import VisitOut
from nudge.reports.attached import Subject
from nudge.reports.letters import add_fonts
from nudge.reports.paper import INK, RULE, SOFT

WIDTHS = (58, 80)
EDGE = 3.0
LONGEST_MM = 3_000.0
FIGURE_PT, WORD_PT, SMALL_PT = 17.0, 8.5, 7.0


def write_roll(about: Subject, slip: RollSlipOut, width: int) -> bytes:
    """A visit's slip as PDF. Raises: CoreError, for a roll there is no printer for."""
    if width not in WIDTHS:
        raise CoreError("width", f"A roll is {' or '.join(map(str, WIDTHS))} mm wide, not {width}.")
    roll = _Roll(width, about, slip)
    roll.written(slip)
    roll.cut()
    return bytes(roll.output())


class _Roll(FPDF):
    """One slip being written, top to bottom."""

    def __init__(
        self,
        width: int,
        about: Subject,
        slip: RollSlipOut,
    ) -> None:
        super().__init__(format=(width, LONGEST_MM))
        self.about, self.inner = about, width - 2 * EDGE
        self.set_margins(EDGE, EDGE, EDGE)
        self.set_auto_page_break(False)
        self.set_title(f"Slip: {about.place}")
        self.set_creator("Nudge")
        self.set_creation_date(roll_moment(about.visit))
        add_fonts(self, [*about.written, repr(slip)])
        self.add_page()

    def cut(self) -> None:
        """The roll ends where the writing does: its heights count from the foot of the page."""
        page, length = self.pages[self.page], self.get_y() + 2 * EDGE
        down = (LONGEST_MM - length) * self.k
        assert isinstance(page.contents, bytearray)  # until it is put out
        page.contents[:0] = f"1 0 0 1 0 {-down:.2f} cm\n".encode()
        page.set_dimensions(self.w_pt, length * self.k)

    def written(self, slip: RollSlipOut) -> None:
        about, visit = self.about, self.about.visit
        card = about.card.get("name", "")
        if card:
            self._words(card, WORD_PT, bold=True)
        self._words(about.place, WORD_PT + 1, bold=True)
        self._words(visit.system.summary, SMALL_PT, soft=True)
        self._words(slip.when, SMALL_PT, soft=True)
        self._rule()
        for figure in slip.figures:
            self._figure(figure)
        self._rule()
        self._words(_headline(visit), WORD_PT + 2, bold=True)
        self._words(_reason(visit), SMALL_PT)
        for gate, reason, _ in about.passed:
            self._words(f"Judged all the same ({gate.replace('_', ' ')}): {reason}", SMALL_PT)
        for danger in about.order.dangers:
            self._words(f"Open: {danger}", SMALL_PT, bold=True)
        if slip.instruments:
            self._rule()
            self._words("Read with", SMALL_PT, soft=True)
            for line in slip.instruments:
                self._words(line, SMALL_PT)
        self._signature()

    def _words(self, text: str, size: float, bold: bool = False, soft: bool = False) -> None:
        if not text:
            return
        self.set_font("text", "B" if bold else "", size)
        self.set_text_color(*(SOFT if soft else INK))
        self.multi_cell(
            self.inner, size * 0.45, text, new_x=XPos.LMARGIN, new_y=YPos.NEXT, align="L"
        )

    def _rule(self) -> None:
        self.ln(1)
        self.set_draw_color(*RULE)
        self.set_line_width(0.3)
        self.line(EDGE, self.get_y(), EDGE + self.inner, self.get_y())
        self.ln(1)

    def _figure(self, figure: RollFigure) -> None:
        """The name over its number; the spread beside the number, its window under it."""
        self._words(figure.label, SMALL_PT, soft=True)
        self.set_font("text", "B", FIGURE_PT)
        self.set_text_color(*INK)
        self.cell(self.get_string_width(figure.value) + 1.5, FIGURE_PT * 0.4, figure.value)
        self.set_font("text", "", WORD_PT)
        self.cell(0, FIGURE_PT * 0.4, figure.unit, new_x=XPos.LMARGIN, new_y=YPos.NEXT, align="L")
        self._words(figure.under, SMALL_PT, soft=True)
        self.ln(0.8)

    def _signature(self) -> None:
        self.ln(11)
        self.set_draw_color(*INK)
        self.line(EDGE, self.get_y(), EDGE + self.inner, self.get_y())
        self.ln(0.5)
        self._words("Signed", SMALL_PT, soft=True)
        self._words(f"Nudge {self.about.version}", SMALL_PT - 1, soft=True)


def _headline(visit: VisitOut) -> str:
    if visit.look is not None:
        return visit.look.headline
    if visit.assessment is None:
        return "Nothing was read, so nothing is judged."
    return visit.assessment.decision.headline


def _reason(visit: VisitOut) -> str:
    return "" if visit.assessment is None or visit.look else visit.assessment.decision.reason
