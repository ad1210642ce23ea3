"""What the core raises. Errors carry fields; `api/errors.py` alone turns them into answers."""

from collections.abc import Iterable
from difflib import get_close_matches

from nudge.core.language.said import Measure, Said
from nudge.core.language.units import Quantity, UnitSystem, unit_label


class CoreError(ValueError):
    """Base of every error a caller can cause and fix. `what` names the offending input."""

    def __init__(self, what: str, message: str) -> None:
        super().__init__(message)
        self.what = what
        self.message = message

    def text(self, units: UnitSystem) -> str:  # noqa: ARG002 - errors with numbers use it
        """The message as read in `units`: it names the value and the fix."""
        return self.message


class Impossible(CoreError):
    """Numbers that cannot be true together. The sentence names them and the fix."""

    def __init__(self, what: str, said: Said) -> None:
        self.said = said
        super().__init__(what, said.text("si"))

    def text(self, units: UnitSystem) -> str:
        return self.said.text(units)


class OutOfRange(CoreError):
    """A number outside what its table or formula covers. Never clamped: it is evidence."""

    advice = "Check the number and its unit."

    def __init__(
        self, what: str, value: float, low: float, high: float, unit: Quantity | str
    ) -> None:
        self.value, self.low, self.high, self.unit = value, low, high, unit
        self.what = what
        super().__init__(what, self.text("si"))

    def text(self, units: UnitSystem) -> str:
        value, low, high = (self._shown(n, units) for n in (self.value, self.low, self.high))
        unit = unit_label(self.unit, units) if isinstance(self.unit, Quantity) else self.unit
        return f"{self.subject} {value} {unit} is outside {low} to {high} {unit}. {self.advice}"

    @property
    def subject(self) -> str:
        return self.what[:1].upper() + self.what[1:]

    def _shown(self, number: float, units: UnitSystem) -> str:
        if not isinstance(self.unit, Quantity):
            return f"{number:g}"
        return Measure(number, self.unit, bare=True).number(units)


class UnlikelyReading(OutOfRange):
    """A reading no working system and no working instrument gives: asked about, not taken."""

    advice = "That cannot be right: check the number, its unit, and which line it belongs to."

    def __init__(
        self, point: str, label: str, value: float, low: float, high: float, quantity: Quantity
    ) -> None:
        self._label = label
        super().__init__(point, value, low, high, quantity)

    @property
    def subject(self) -> str:
        return self._label


class UnknownName(CoreError):
    """A word outside the vocabulary. `nearest` lists the closest known ones, best first."""

    def __init__(self, what: str, name: str, known: Iterable[str]) -> None:
        self.name = name[:80]
        self.nearest = nearest_names(self.name, known)
        hint = f" Nearest known: {', '.join(self.nearest)}." if self.nearest else ""
        super().__init__(what, f"Unknown {what} “{self.name}”.{hint}")


def nearest_names(name: str, known: Iterable[str], limit: int = 3) -> list[str]:
    """The known names closest to `name`, ignoring case and separators, best first."""
    plain = {_plain(k): k for k in known}
    return [plain[m] for m in get_close_matches(_plain(name[:80]), plain, n=limit, cutoff=0.5)]


def _plain(name: str) -> str:
    return name.lower().replace("-", "").replace("_", "").replace(" ", "")
