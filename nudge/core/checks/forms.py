"""The forms checks are filled in with: what is entered, and what it means. One row each."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.core.checks.blanks import Blank, check_filled
from nudge.core.checks.form import Form
from nudge.core.checks.form_findings import (
    Entries,
    FormFinding,
    against_plate,
    blower_amps_finding,
    blower_finding,
    capacitor_finding,
    coils_finding,
    drain_finding,
    filter_finding,
    statics_finding,
    strips_finding,
)
from nudge.core.checks.heating_forms import HEATING_FORMS
from nudge.core.checks.opening_forms import OPENING_FORMS
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.units import Quantity
from nudge.core.physics.circuit.equipment import Plate

SUBSYSTEMS: Mapping[str, str] = MappingProxyType(
    {
        "site": "The place",
        "filter": "Filter and grille",
        "indoor": "Indoor unit",
        "ducts": "Ducts",
        "outdoor": "Outdoor unit",
        "refrigerant": "Refrigerant circuit",
        "electrical": "Electrical",
        "drain": "Drain",
        "controls": "Controls",
    }
)

_FACES = (("clean", "Clean"), ("dusty", "Dusty"), ("dirty", "Dirty"))
_AMPS = {"quantity": Quantity.CURRENT, "low": 0.05, "high": 200.0}


def _amps(key: str, label: str, needed: bool = True) -> Blank:
    return Blank(key, label, Quantity.CURRENT, (), 0.05, 200.0, needed)


def _static(key: str, label: str, low: float, high: float) -> Blank:
    return Blank(key, label, Quantity.STATIC_PRESSURE, (), low, high, is_needed=False)


_LIVE = "Live work: rated gloves, one hand, licensed persons only."
_DEAD = "Power locked out and proven dead; discharge the capacitor before touching it."

_ROWS = (
    Form("filter", "Filter", "filter", (
        Blank("face", "Filter in your hand", None, (*_FACES, ("missing", "Missing"))),
        Blank("second", "A second one in the same air path", None,
              (("none", "There is none"), *_FACES), is_needed=False),
    ), filter_finding, "Blower off while the filter is out."),
    Form("coils", "Coils", "indoor", (
        Blank("evaporator", "Indoor coil’s face", None, _FACES, is_needed=False),
        Blank("condenser", "Outdoor coil’s face", None, _FACES, is_needed=False),
    ), coils_finding, "Power locked out before a panel comes off; fins cut."),
    Form("statics", "Static pressures", "ducts", (
        _static("supply", "Supply", -50, 750),
        _static("return", "Return, with its minus", -750, 50),
        _static("total", "Total, if read across", 0, 1000),
        _static("filter_drop", "Across the filter", 0, 500),
    ), statics_finding),
    Form("blower", "Airflow by the blower’s table", "indoor", (
        Blank("static", "Total external static", Quantity.STATIC_PRESSURE, (), 5, 1000),
    ), blower_finding),
    Form("capacitor", "Run capacitor", "electrical", (
        Blank("motor", "Of which motor", None,
              (("blower", "Blower"), ("condenser_fan", "Outdoor fan"),
               ("compressor", "Compressor"))),
        Blank("rated", "On its label", Quantity.CAPACITANCE, (), 0.5, 200),
        Blank("measured", "Measured", Quantity.CAPACITANCE, (), 0, 250),
        Blank("tolerance", "Label’s tolerance", Quantity.PERCENT, (), 1, 20, is_needed=False),
    ), capacitor_finding, _DEAD),
    Form("compressor_amps", "Compressor amps", "electrical",
          (_amps("rated", "RLA on the plate", needed=False), _amps("measured", "Measured")),
          against_plate("compressor_amps", "compressor"), _LIVE),
    Form("fan_amps", "Outdoor fan amps", "electrical",
          (_amps("rated", "FLA on the plate", needed=False), _amps("measured", "Measured")),
          against_plate("condenser_fan_amps", "outdoor fan"), _LIVE),
    Form("blower_amps", "Blower amps", "electrical", (
        Blank("motor", "Kind of motor", None, (("psc", "PSC, with a capacitor"),
                                               ("ecm", "ECM, constant airflow"))),
        _amps("rated", "FLA on the plate"), _amps("measured", "Measured"),
    ), blower_amps_finding, _LIVE),
    Form("strips", "Electric strips, by circuit", "electrical", (
        Blank("strip_kw", "One strip", Quantity.HEATER_POWER, (), 0.5, 30),
        Blank("strips", "Strips on this circuit", Quantity.COUNT, (), 1, 12),
        Blank("volts", "Line volts", Quantity.VOLTAGE, (), 90, 600, is_needed=False),
        _amps("measured", "Measured"),
    ), strips_finding, _LIVE),
    Form("drain", "Drain", "drain", (
        Blank("runs", "Does water run away", None, (("yes", "It runs"), ("no", "It does not"))),
        Blank("pan", "The pan", None, (("dry", "Dry"), ("wet", "Water stands in it")),
              is_needed=False),
    ), drain_finding),
)  # fmt: skip

FORMS: Mapping[str, Form] = MappingProxyType(
    {row.key: row for row in (*_ROWS, *HEATING_FORMS, *OPENING_FORMS)}
)


def form_named(key: str) -> Form:
    """The row of a check. Raises: UnknownName, with the nearest."""
    row = FORMS.get(key)
    if row is None:
        raise UnknownName("check", key, FORMS)
    return row


def judge_form(key: str, plate: Plate, entries: Entries) -> FormFinding:
    """What a filled form means, in core units.

    Raises: UnknownName, for a check, a blank or a choice; CoreError, for what is missing or what
    no working instrument shows.
    """
    row = form_named(key)
    check_filled("entry", row.blanks, entries)
    missing = [blank.label for blank in row.blanks if blank.is_needed and blank.key not in entries]
    if missing or not entries:
        wanted = ", ".join(missing) or "something"
        raise CoreError("entry", f"{row.label}: still to fill in: {wanted}.")
    return row.judge(plate, entries)
