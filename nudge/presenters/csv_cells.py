"""Cells of a CSV file that no spreadsheet takes for a formula."""

import re

_STARTS = ("=", "+", "-", "@")
_NUMBER = re.compile(r"-?\d[\d.,]*([ \u00a0]\S*)?$")
_BREAKS = re.compile(r"[\t\r\n\x00-\x1f]+")


def safe_cell(text: str) -> str:
    """A text as it may stand in a cell: one line, and nothing that begins like a formula.

    A number with its unit, such as -3.5 °F, is none.
    """
    flat = _BREAKS.sub(" ", text).strip()
    return f"'{flat}" if flat.startswith(_STARTS) and not _NUMBER.match(flat) else flat
