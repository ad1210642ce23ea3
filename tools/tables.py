"""Judging by other tables than the packaged ones: for the studies, in processes of their own."""

from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from pathlib import Path
from random import Random

from nudge.core.behaviours.rows import BEHAVIOURS
from tools.cousins import FAMILIES
from tools.make_signatures import all_seen, folder_without, tables_without
from tools.sweep import Site, site


def judge_by(folder: Path, way: str = "cooling") -> None:
    """Judge a kind of plant by the tables of a folder from now on, in this process."""
    BEHAVIOURS[way] = replace(BEHAVIOURS[way], tables=folder)


def tables_of(family: str, way: str = "cooling") -> Path:
    """Tables made from all families but one; made now if they never were."""
    folder = folder_without(family, way)
    if not folder.exists():
        seen = all_seen(tuple(FAMILIES), way)
        for name in FAMILIES:
            tables_without(name, seen)
    return folder


LEFT_SITES = 40
"""Systems of each kind that a study meets in a family left out."""
_family = [""]
"""The family this process works on; "" for the plant as it ships."""


def workers(family: str = "", way: str = "cooling") -> ProcessPoolExecutor:
    """Processes that meet systems of one family, judged by tables made without it; of the plant as
    it ships and by the packaged tables where none is said.
    """
    if not family:
        return ProcessPoolExecutor()
    return ProcessPoolExecutor(initializer=_work_on, initargs=(family, tables_of(family, way), way))


def _work_on(family: str, folder: Path, way: str) -> None:
    _family[0] = family
    judge_by(folder, way)


def some_site(rng: Random, numbers: Sequence[int], kind: str) -> Site:
    """A system of a kind, of the family this process works on."""
    if not _family[0]:
        return site(rng.choice(numbers), kind)
    return site(rng.choice(numbers[:LEFT_SITES]), f"{_family[0]}/{kind}")


def families_in(arguments: Sequence[str]) -> list[str]:
    """The families named on a command line: `left` is all of them in turn, none is the plant as
    it ships.
    """
    if "left" in arguments:
        return list(FAMILIES)
    return [name for name in arguments if name in FAMILIES] or [""]
