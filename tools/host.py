"""How much of this machine's time its host gave to others: times measured then say little."""

from pathlib import Path

STOLEN = 7
"""Its place among a processor's times in /proc/stat."""
STAT = Path("/proc/stat")


class Stolen:
    """Counts from when it is made; a machine that does not say has had nothing stolen."""

    def __init__(self) -> None:
        self._began = _times()

    @property
    def share(self) -> float:
        """Time stolen over all time of its processors since, 0 to 1."""
        spent = [now - then for now, then in zip(_times(), self._began, strict=True)]
        return spent[STOLEN] / sum(spent) if sum(spent) else 0.0


def _times() -> list[int]:
    if not STAT.is_file():
        return [0] * (STOLEN + 1)
    return [int(number) for number in STAT.read_text("utf-8").splitlines()[0].split()[1:9]]
