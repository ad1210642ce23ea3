"""Tests with time: every row, and the customs a decay is compared with."""

from nudge.core.language.said import worded
from nudge.core.language.units import PA_PER_MICRON
from nudge.core.tests.schools import SCHOOLS
from nudge.core.tests.table import FACTS, TESTS
from tools.books.page import key, page, table


@page("timed_tests")
def _tests_page() -> str:
    return table(
        ("test", "what it is", "why", "reads", "noted in it", "proves", "cautions"),
        (
            (
                key(row.key),
                row.label,
                worded(row.why, "ip"),
                ", ".join(key(p) for p in row.points),
                "; ".join(f"{key(m.key)} {m.label}" for m in row.marks) or "nothing",
                ", ".join(FACTS[fact] for fact in row.proves) or "nothing",
                worded(" ".join((*row.cautions, *(m.caution for m in row.marks))), "ip"),
            )
            for row in TESTS.values()
        ),
    )


@page("vacuum_schools")
def _schools_page() -> str:
    return table(
        ("custom", "limit after ten minutes", "why"),
        (
            (key(one.key), f"{one.limit_pa / PA_PER_MICRON:,.0f} micron", one.reason)
            for one in SCHOOLS
        ),
    )
