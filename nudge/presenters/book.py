"""Sites and systems over the wire."""

from typing import Annotated, Any

from pydantic import BaseModel, Field

from nudge.contract.request import Name, PlateNumbersIn
from nudge.contract.strict import Strict, YesNo
from nudge.core.behaviours.rows import application_said
from nudge.core.language.units import UnitSystem, decimals, from_si, to_si
from nudge.core.physics.circuit.equipment import DEVICE_LABELS, application_named, device_named
from nudge.core.physics.circuit.plate_fields import PLATE_CHOICES, PLATE_NUMBERS
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.services.rows import Site, System
from nudge.services.sound import each

Id = Annotated[str, Field(strict=True, min_length=1, max_length=64, pattern=r"^[A-Za-z0-9:_-]+$")]


Text = Annotated[str, Field(strict=True, max_length=20_000)]


class PlateChanges(PlateNumbersIn):
    """Any of a system's fields, in the caller's units. A field left out is left alone."""

    name: Text | None = None
    note: Text | None = None
    refrigerant: Name | None = None
    metering_device: Name | None = None
    application: Name | None = None
    indoor_unit: Text | None = None
    blower_tap: Text | None = None
    reversing_valve: Name | None = None
    method: Name | None = None
    wrong_until_now: YesNo | None = None
    """With another refrigerant or device while a visit is under way: whether the plate was wrong
    until now (its readings are judged again), or the system itself was changed."""
    was: dict[str, float | str | None] | None = None
    """What each field was when it was last seen: refused where somebody changed it since."""

    def to_core(self, units: UnitSystem) -> dict[str, Any]:
        """The fields that were sent, in core units under their stored names."""
        sent = self.model_dump(exclude_unset=True)
        sent.pop("was", None)
        sent.pop("wrong_until_now", None)
        numbers = {row.key for row in PLATE_NUMBERS}
        sent = {key: given for key, given in sent.items() if given is not None or key in numbers}
        for row in PLATE_NUMBERS:
            if row.key in sent:
                given = sent.pop(row.key)
                sent[row.field] = None if given is None else to_si(given, row.quantity, units)
        return sent


def clashes(seen: PlateChanges, now: "SystemOut") -> list[str]:
    """The fields that somebody else changed since they were seen, and not to what is sent now."""
    sent = seen.model_dump(exclude_unset=True)
    found = []
    for key, was in (seen.was or {}).items():
        told: dict[str, float | str | None] = {**now.numbers, **now.choices}
        stands = told.get(key) if key in told else getattr(now, key, None)
        if key in sent and not _same(stands, was) and not _same(stands, sent[key]):
            found.append(f"{key.replace('_', ' ')} is {_said(stands)} now, not {_said(was)}")
    return found


def _same(one: object, other: object) -> bool:
    if isinstance(one, float | int) and isinstance(other, float | int):
        return abs(one - other) < 0.051
    return one == other or (one in (None, "") and other in (None, ""))


def _said(value: object) -> str:
    return "empty" if value in (None, "") else f"“{str(value)[:40]}”"


class NewSystem(PlateChanges):
    id: Id
    site_id: Id
    name: Text
    refrigerant: Name
    metering_device: Name

    def to_core(self, units: UnitSystem) -> dict[str, Any]:
        fields = super().to_core(units)
        return {key: value for key, value in fields.items() if key not in ("id", "site_id")}


class SiteChanges(Strict):
    name: Text | None = None
    note: Text | None = None


class NewSite(Strict):
    id: Id
    name: Text


class SystemOut(BaseModel):
    """A system as the book shows it. `summary` is its plain description."""

    id: str
    site_id: str
    site_name: str
    name: str
    note: str
    summary: str
    refrigerant: str
    metering_device: str
    application: str
    safety_class: str
    leaves_cylinder_as: str
    indoor_unit: str
    blower_tap: str
    reversing_valve: str
    method: str
    numbers: dict[str, float | None]
    choices: dict[str, str]
    """What its plate says by a word, by the key of the choice; "" is not said."""


class SiteOut(BaseModel):
    id: str
    name: str
    note: str
    systems: list[SystemOut]
    broken: list[str]
    """Systems that are damaged and left out, in words."""


def site_out(row: Site, units: UnitSystem) -> SiteOut:
    broken: list[str] = []

    def named(system: System) -> str:
        return f"{row.name}, {system.name}"

    return SiteOut(
        id=row.id,
        name=row.name,
        note=row.note,
        systems=each(row.systems, lambda system: system_out(system, row, units), named, broken),
        broken=broken,
    )


def system_out(row: System, site: Site, units: UnitSystem) -> SystemOut:
    fluid = refrigerant(row.refrigerant)
    return SystemOut(
        id=row.id,
        site_id=row.site_id,
        site_name=site.name,
        name=row.name,
        note=row.note,
        summary=_summary(row, units),
        refrigerant=row.refrigerant,
        metering_device=row.metering_device,
        application=row.application,
        safety_class=fluid.safety_class,
        leaves_cylinder_as=fluid.leaves_cylinder_as,
        indoor_unit=row.indoor_unit,
        blower_tap=row.blower_tap,
        reversing_valve=row.reversing_valve,
        method=row.method,
        numbers={
            number.key: _shown(getattr(row, number.field), number.quantity, units)
            for number in PLATE_NUMBERS
        },
        choices={choice.key: getattr(row, choice.key) for choice in PLATE_CHOICES},
    )


def _shown(value: float | None, quantity: Any, units: UnitSystem) -> float | None:
    if value is None:
        return None
    return round(from_si(value, quantity, units), max(decimals(quantity, units), 1))


def _summary(row: System, units: UnitSystem) -> str:
    """`3-ton, R-410A, expansion valve`: how people name a system to each other."""
    parts = [row.refrigerant, DEVICE_LABELS[device_named(row.metering_device)].lower()]
    if row.nominal_capacity_w:
        size = row.nominal_capacity_w
        parts.insert(0, f"{size / 3516.85:.3g}-ton" if units == "ip" else f"{size / 1000:.3g} kW")
    said = application_said(application_named(row.application))
    if said:
        parts.append(said.lower())
    return ", ".join(parts)
