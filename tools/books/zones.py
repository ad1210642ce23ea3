"""Multi-zone plants: what is read off a log, and what it may show."""

from nudge.core.checks.table import CHECKS
from nudge.core.multizone.lines import FORMULAS
from nudge.core.multizone.patterns import NONE, PATTERNS
from nudge.core.multizone.signs import PLANT_SIGNS, ROOM_SIGNS
from nudge.core.multizone.subcoolers import SUBCOOLERS
from tools.books.page import formulas, key, page, table


@page("zone_signs")
def _signs_page() -> str:
    rows = [
        (whose, key(row.key), row.label, row.formula)
        for whose, signs in (("plant", PLANT_SIGNS), ("room", ROOM_SIGNS))
        for row in signs.values()
    ]
    return table(("of", "sign", "called", "worked out as"), rows)


@page("zone_lines")
def _lines_page() -> str:
    return formulas((*FORMULAS, *SUBCOOLERS))


@page("zone_patterns")
def _patterns_page() -> str:
    rows = (
        (
            key(row.key),
            row.of,
            f"{row.prior:g}",
            row.sentence,
            ", ".join(PATTERNS[one].label.lower() for one in row.look_alikes),
            row.parted_by,
            CHECKS[row.check].label if row.check else "",
        )
        for row in PATTERNS.values()
        if row.key != NONE
    )
    heads = ("pattern", "of", "prior", "is seen", "looks like", "parted by", "settled by")
    return table(heads, rows)
