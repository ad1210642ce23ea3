"""The table of drift: how signs wander where nothing happened, and what each cause moves."""

import csv
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from nudge.core.physics.circuit.equipment import Feed

TABLES = files("nudge.core.drift").joinpath("tables")


@dataclass(frozen=True, slots=True)
class Wander:
    """One kind of device: covariances of what signs move from visit to visit, and signatures."""

    together: Mapping[tuple[str, str], float]
    causes: Sequence[tuple[str, Mapping[str, float]]]
    """A cause and what it moves; a cause that moves other signs far gone has a row for each."""

    def moves(self, cause: str) -> Mapping[str, float]:
        """What a cause moves first, before it has gone far [core unit]."""
        return next(values for key, values in self.causes if key == cause)

    def sigma(self, sign: str) -> float | None:
        """One standard deviation of what a sign moves where nothing happened [core unit]."""
        variance = self.together.get((sign, sign))
        return None if variance is None else variance**0.5


@cache
def wander(kind: str, feed: Feed) -> Wander:
    """Of a kind of plant, by its key: `tables/KIND.csv`, made by `tools/make_drift.py`.

    Empty for a kind or a device that no table was made of: nothing of it is compared.
    """
    together: dict[tuple[str, str], float] = {}
    causes: list[tuple[str, dict[str, float]]] = []
    table = TABLES.joinpath(f"{kind}.csv")
    text = table.read_text("utf-8") if table.is_file() else ""
    lines = [line for line in text.splitlines() if not line.startswith("#")]
    for row in csv.DictReader(lines):
        if row["device"] != feed:
            continue
        values = {
            key: float(text)
            for key, text in row.items()
            if key not in ("device", "cause", "sign") and text
        }
        if row["cause"]:
            causes.append((row["cause"], values))
        else:
            together |= {(row["sign"], key): value for key, value in values.items()}
    return Wander(together, causes)
