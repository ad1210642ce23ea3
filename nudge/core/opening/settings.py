"""A machine's own settings, as it was left: what they are against last time and its maker's."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from nudge.core.language.errors import CoreError, UnknownName

SETTING_MODES: Mapping[str, str] = MappingProxyType(
    {"": "In all", "cooling": "Cooling", "heating": "Heating", "charge": "Charge mode"}
)
LONGEST = 80
LONGEST_REASON = 300
MOST = 200
"""Settings of one machine; more is a list pasted from elsewhere."""


@dataclass(frozen=True, slots=True)
class KeptSetting:
    """One setting: its name, the mode it holds in, its maker's value, its own, and why."""

    name: str
    mode: str
    usual: str
    value: str
    reason: str

    @property
    def key(self) -> tuple[str, str]:
        return self.name.casefold(), self.mode

    @property
    def is_usual(self) -> bool:
        return _same(self.value, self.usual)


Became = Literal["new", "changed", "gone", "same"]


@dataclass(frozen=True, slots=True)
class SettingThen:
    """A setting beside what it was last time."""

    now: KeptSetting | None
    before: KeptSetting | None

    @property
    def became(self) -> Became:
        if self.before is None:
            return "new"
        if self.now is None:
            return "gone"
        return "same" if _same(self.now.value, self.before.value) else "changed"

    @property
    def name(self) -> str:
        one = self.now or self.before
        assert one is not None
        return one.name


def check_setting(setting: KeptSetting) -> KeptSetting:
    """The setting with its ends trimmed. Raises: CoreError, UnknownName."""
    if setting.mode not in SETTING_MODES:
        raise UnknownName("mode", setting.mode, SETTING_MODES)
    trimmed = KeptSetting(
        *(
            one.strip()
            for one in (
                setting.name,
                setting.mode,
                setting.usual,
                setting.value,
                setting.reason,
            )
        )
    )
    if not trimmed.name:
        raise CoreError("name", "A setting needs its name: the number or words the board shows.")
    for what, text, most in (
        ("name", trimmed.name, LONGEST),
        ("usual", trimmed.usual, LONGEST),
        ("value", trimmed.value, LONGEST),
        ("reason", trimmed.reason, LONGEST_REASON),
    ):
        if len(text) > most or not text.isprintable():
            raise CoreError(what, f"Keep the {what} to one line of at most {most} letters.")
    if trimmed.value and trimmed.usual and not trimmed.is_usual and not trimmed.reason:
        raise CoreError(
            "reason",
            f"“{trimmed.name}” is {trimmed.value}, not {trimmed.usual} as its maker set it. Say "
            "why: the next one will ask.",
        )
    return trimmed


def standing_settings(rows: Sequence[KeptSetting]) -> dict[tuple[str, str], KeptSetting]:
    """The last of each name and mode that has a value, in the order they were first written."""
    found: dict[tuple[str, str], KeptSetting] = {}
    for row in rows:
        found[row.key] = row
    return {key: row for key, row in found.items() if row.value}


def against_last(
    now: Sequence[KeptSetting], before: Sequence[KeptSetting]
) -> tuple[SettingThen, ...]:
    """Every setting of now and of last time, beside each other; those of now first."""
    here, there = standing_settings(now), standing_settings(before)
    found = [SettingThen(row, there.get(key)) for key, row in here.items()]
    found += [SettingThen(None, row) for key, row in there.items() if key not in here]
    return tuple(found)


def _same(one: str, other: str) -> bool:
    """Whether two values are one: `45`, `45.0` and `45,0` are; case and spaces do not count."""
    plain = [" ".join(text.split()).casefold().replace(",", ".") for text in (one, other)]
    try:
        return float(plain[0]) == float(plain[1])
    except ValueError:
        return plain[0] == plain[1]
