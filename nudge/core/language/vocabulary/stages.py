"""The stages a visit goes through, whatever its kind of call."""

from typing import Literal

Stage = Literal[
    "arrive",
    "air",
    "look",
    "recover",
    "repair",
    "prove",
    "fill",
    "connect",
    "settle",
    "read",
    "judge",
    "act",
    "close",
]
