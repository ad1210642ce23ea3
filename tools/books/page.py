"""A page of the book: one generated table and how its cells are written."""

from collections.abc import Callable, Iterable, Sequence

from nudge.core.language.said import worded
from nudge.core.language.units import Quantity, from_si
from nudge.core.language.working import Formula

PAGES: dict[str, Callable[[], str]] = {}
"""Every generated table by its name in the documents."""


def page(name: str) -> Callable[[Callable[[], str]], Callable[[], str]]:
    """Keep a function as the writer of the table `name`."""

    def kept(write: Callable[[], str]) -> Callable[[], str]:
        PAGES[name] = write
        return write

    return kept


def table(heads: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    lines = [heads, ["---"] * len(heads), *rows]
    return "\n".join("| " + " | ".join(str(cell) for cell in line) + " |" for line in lines)


def key(name: str) -> str:
    return f"`{name}`"


def fahrenheit_text(celsius: float) -> str:
    return f"{from_si(celsius, Quantity.TEMPERATURE, 'ip'):.1f}"


def kelvin(kelvin: float) -> str:
    return f"{kelvin * 1.8:g} °F"


def formulas(rows: Iterable[Formula]) -> str:
    return table(
        ("quantity", "what it is", "formula", "source"),
        (
            (
                key(f.key),
                worded(f.meaning, "ip"),
                worded(f.formula, "ip"),
                worded(f.reference, "ip"),
            )
            for f in rows
        ),
    )
