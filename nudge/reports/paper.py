"""A page of paper: its fonts, headings, paragraphs, tables and cautions. Millimetres, A4."""

from collections.abc import Sequence

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from nudge.reports.letters import add_fonts

MARGIN, WIDTH, BOTTOM = 16.0, 178.0, 279.0
INK, SOFT, RULE = (28, 27, 24), (92, 88, 78), (190, 183, 168)
LOW_HUE, HIGH_HUE, ACCENT = (13, 90, 94), (138, 43, 74), (190, 128, 12)


class Paper(FPDF):
    """A report being written, top to bottom."""

    def __init__(self, title: str, foot: str, everything: Sequence[str]) -> None:
        """`everything` holds every letter to come: it chooses the fonts."""
        super().__init__(format="A4")
        self.foot = foot
        self.set_margins(MARGIN, 14, MARGIN)
        self.set_auto_page_break(True, 18)
        self.set_title(title)
        self.set_creator("Nudge")
        add_fonts(self, everything)
        self.add_page()
        self.ink()

    def footer(self) -> None:
        self.set_y(-13)
        self.set_font("text", "", 7.5)
        self.set_text_color(*SOFT)
        self.cell(WIDTH - 20, 4, self.foot)
        self.cell(20, 4, f"{self.page_no()}", align="R")
        self.ink()

    def ink(self, size: float = 9.5, bold: bool = False, soft: bool = False) -> None:
        self.set_font("text", "B" if bold else "", size)
        self.set_text_color(*(SOFT if soft else INK))

    def line_of(self, text: str, size: float = 9.5, bold: bool = False, soft: bool = False) -> None:
        """A paragraph over the whole width."""
        self.ink(size, bold, soft)
        self.multi_cell(WIDTH, size * 0.47, text, new_x=XPos.LMARGIN, new_y=YPos.NEXT, align="L")
        self.ink()

    def head(self, text: str, room: float = 24) -> None:
        """A section's heading with a rule, never alone at the foot of a page."""
        self.keep(room)
        self.ln(3)
        self.ink(11, bold=True)
        self.cell(WIDTH, 6, text, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.set_draw_color(*RULE)
        self.set_line_width(0.3)
        self.line(MARGIN, self.get_y(), MARGIN + WIDTH, self.get_y())
        self.ln(1.5)
        self.ink()

    def keep(self, height: float) -> None:
        """Start a new page unless this much room is left on this one."""
        if self.get_y() + height > BOTTOM:
            self.add_page()

    def pairs(self, rows: Sequence[tuple[str, str]], name_width: float = 46) -> None:
        """Names and what they are, one to a line."""
        for name, value in rows:
            if not value:
                continue
            self.keep(6)
            top = self.get_y()
            self.ink(9, soft=True)
            self.multi_cell(name_width, 4.4, name, new_x=XPos.RIGHT, new_y=YPos.TOP, align="L")
            self.ink(9)
            self.set_xy(MARGIN + name_width, top)
            self.multi_cell(
                WIDTH - name_width, 4.4, value, new_x=XPos.LMARGIN, new_y=YPos.NEXT, align="L"
            )

    def listed(self, rows: Sequence[str], mark: str = "–") -> None:
        for row in rows:
            self.keep(6)
            top = self.get_y()
            self.ink(9)
            self.cell(4, 4.4, mark)
            self.set_xy(MARGIN + 4, top)
            self.multi_cell(WIDTH - 4, 4.4, row, new_x=XPos.LMARGIN, new_y=YPos.NEXT, align="L")

    def care(self, text: str) -> None:
        """A caution: a bar at its side, never colour alone."""
        self.keep(8)
        top = self.get_y() + 0.5
        self.set_xy(MARGIN + 3, top)
        self.ink(9)
        self.multi_cell(WIDTH - 3, 4.4, text, new_x=XPos.LMARGIN, new_y=YPos.NEXT, align="L")
        self.set_fill_color(*INK)
        self.rect(MARGIN, top, 1, self.get_y() - top, style="F")
        self.ln(1)

    def rows(
        self, heads: Sequence[str], rows: Sequence[Sequence[str]], widths: Sequence[float]
    ) -> None:
        """A table; its heads are said again on every page."""
        self.ink(8.5)
        self.set_draw_color(*RULE)
        self.set_fill_color(255, 255, 255)
        with self.table(
            col_widths=tuple(widths),
            width=WIDTH,
            line_height=4.3,
            padding=0.6,
            text_align="L",
            borders_layout="HORIZONTAL_LINES",
            cell_fill_mode="NONE",
        ) as table:
            head = table.row()
            for name in heads:
                head.cell(name)
            for row in rows:
                line = table.row()
                for value in row:
                    line.cell(value)
        self.ink()
