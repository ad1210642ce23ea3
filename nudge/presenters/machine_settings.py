"""A machine's settings over the wire: as left now, beside last time."""

from typing import Literal

from pydantic import BaseModel

from nudge.contract.request import Name
from nudge.contract.strict import Strict
from nudge.core.opening.settings import SETTING_MODES, KeptSetting, SettingThen
from nudge.presenters.book import Id
from nudge.presenters.choices import ChoiceOut
from nudge.presenters.notes import Short
from nudge.services.machine_settings import SettingsRecord

Mode = Literal["", "cooling", "heating", "charge"]


class NewSetting(Strict):
    """A setting as it is left. Without a value it comes off the record."""

    id: Id
    name: Name
    mode: Mode = ""
    usual: Name = ""
    value: Name = ""
    reason: Short = ""

    def to_core(self) -> KeptSetting:
        return KeptSetting(self.name, self.mode, self.usual, self.value, self.reason)


class SettingsCarried(Strict):
    """The settings a sister machine was last left with."""

    id: Id
    from_system: Id


class SettingOut(BaseModel):
    name: str
    mode: Mode
    mode_label: str
    usual: str
    value: str
    reason: str
    before: str
    became: Literal["new", "changed", "gone", "same"]
    is_usual: bool


class SettingsOut(BaseModel):
    """A visit's settings record."""

    settings: list[SettingOut]
    has_before: bool
    """There is a visit before this one to compare with."""
    changes: int
    sisters: list[ChoiceOut]
    modes: list[ChoiceOut]


_MODES: dict[str, Mode] = {"": "", "cooling": "cooling", "heating": "heating", "charge": "charge"}


def settings_out(record: SettingsRecord) -> SettingsOut:
    return SettingsOut(
        settings=[_setting(one) for one in record.settings],
        has_before=bool(record.before),
        changes=record.changes,
        sisters=[ChoiceOut(key=key, label=label) for key, label in record.sisters],
        modes=[ChoiceOut(key=key, label=label) for key, label in SETTING_MODES.items()],
    )


def _setting(one: SettingThen) -> SettingOut:
    row = one.now or one.before
    assert row is not None
    return SettingOut(
        name=row.name,
        mode=_MODES[row.mode],
        mode_label=SETTING_MODES[row.mode],
        usual=row.usual,
        value=one.now.value if one.now else "",
        reason=one.now.reason if one.now else "",
        before=one.before.value if one.before else "",
        became=one.became,
        is_usual=row.is_usual,
    )
