"""The forms checks are filled in with: what is entered, and what it means. One row each."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Literal

from nudge.core.language.errors import CoreError, Impossible, UnknownName
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.physics.air.airflow import TOLERANCE, blower_amps_say
from nudge.core.physics.air.static import DuctReading, read_static, starves_the_blower
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.electrical.capacitor import USUAL_TOLERANCE, judge_capacitor
from nudge.core.physics.electrical.strips import RATED_VOLTS, judge_circuit, strip_amps_each

State = Literal["good", "watch", "bad", "noted"]
Entries = Mapping[str, float | str]


@dataclass(frozen=True, slots=True)
class Blank:
    """One thing to enter: a number (low and high in core units) or one of some choices."""

    key: str
    label: str
    quantity: Quantity | None = None
    choices: tuple[tuple[str, str], ...] = ()
    low: float = 0.0
    high: float = 0.0
    is_needed: bool = True


@dataclass(frozen=True, slots=True)
class FormFinding:
    """What a check found: how it stands, in words, and the observations it makes true."""

    state: State
    said: tuple[Said, ...]
    observations: tuple[str, ...] = ()
    readings: Mapping[str, float] = field(default_factory=dict)
    """Readings it gives the visit, in core units."""


@dataclass(frozen=True, slots=True)
class Form:
    """What is filled in for a check: its part of the system, its blanks, what they mean."""

    key: str
    label: str
    subsystem: str
    blanks: tuple[Blank, ...]
    judge: Callable[[Plate, Entries], FormFinding]
    caution: str = ""


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
LOW_AMPS, HIGH_AMPS = 0.45, 1.05
"""A compressor under the first share of its plate is hardly working; over the second, too hard."""


def _number(entries: Entries, key: str) -> float | None:
    value = entries.get(key)
    return float(value) if isinstance(value, int | float) else None


def _filter(plate: Plate, entries: Entries) -> FormFinding:
    faces = [
        str(entries[key]) for key in ("face", "second") if entries.get(key) not in (None, "none")
    ]
    said = []
    if "dirty" in faces or "missing" in faces:
        if "missing" in faces:
            said.append(say("A filter is missing: look at the coil before anything is judged."))
        else:
            which = "The second filter" if entries.get("face") != "dirty" else "The filter"
            said.append(say(f"{which} is dirty. Change it, then read again."))
        return FormFinding("bad", tuple(said), ("filter_dirty",))
    if entries.get("second") is None:
        said.append(say("Is there a second filter in the same air path? Look once more."))
    if "dusty" in faces:
        return FormFinding(
            "watch", (say("Dusty, but it passes air. Due soon."), *said), ("filter_clean",)
        )
    return FormFinding("good" if not said else "watch", (say("Clean."), *said), ("filter_clean",))


def _coils(plate: Plate, entries: Entries) -> FormFinding:
    said, seen, worst = [], [], "good"
    for key, label in (("evaporator", "Indoor coil"), ("condenser", "Outdoor coil")):
        face = entries.get(key)
        if face is None:
            continue
        dirty = face == "dirty"
        seen.append(f"{key}_coil_{'dirty' if dirty else 'clean'}")
        said.append(say(f"{label} {face}." + (" Clean it, then read again." if dirty else "")))
        worst = "bad" if dirty or worst == "bad" else "watch" if face == "dusty" else worst
    state: State = "bad" if worst == "bad" else "watch" if worst == "watch" else "good"
    return FormFinding(state, tuple(said), tuple(seen))


def _statics(plate: Plate, entries: Entries) -> FormFinding:
    read = DuctReading(
        *(_number(entries, key) for key in ("supply", "return", "total", "filter_drop"))
    )
    total = read.external_pa
    if total is None and read.filter_drop_pa is None:
        raise CoreError("statics", "Give supply and return, the total, or the filter’s drop.")
    points = {
        "supply": "supply_static",
        "return": "return_static",
        "total": "total_external_static",
        "filter_drop": "filter_pressure_drop",
    }
    readings = {
        point: value
        for key, point in points.items()
        if (value := _number(entries, key)) is not None
    }
    state: State = "bad" if starves_the_blower(read) else "good"
    said = tuple(read_static(read))
    if state == "good" and len(said) > 1:
        state = "watch"
    return FormFinding(state, said, (), readings)


def _blower(plate: Plate, entries: Entries) -> FormFinding:
    static, tap = _number(entries, "static"), str(entries.get("tap", "") or plate.blower_tap)
    chart = plate.chart("blower_airflow")
    if chart is None:
        raise CoreError(
            "blower",
            "No blower table is kept with this system. Add it to its plate, "
            "or measure the airflow.",
        )
    if static is None:
        raise CoreError("static", "Give the total external static it runs at.")
    flow = chart.value(static, tap or None)
    if plate.nominal_capacity_w is None:
        by_table = say("{flow} by the table.", flow=Measure(flow, Quantity.AIRFLOW))
        return FormFinding("noted", (by_table,), (), {"airflow": flow})
    wanted = plate.rated_flow_per_capacity() * plate.nominal_capacity_w / 1000
    share = flow / wanted
    said = say(
        "{flow} by the table, {wanted} wanted.",
        flow=Measure(flow, Quantity.AIRFLOW),
        wanted=Measure(wanted, Quantity.AIRFLOW),
    )
    right = abs(share - 1) <= TOLERANCE
    seen = ("airflow_ok",) if right else ("airflow_low",) if share < 1 else ()
    return FormFinding(
        "good" if right else "bad" if share < 1 else "watch", (said,), seen, {"airflow": flow}
    )


def _capacitor(plate: Plate, entries: Entries) -> FormFinding:
    rated, measured = _number(entries, "rated"), _number(entries, "measured")
    if rated is None or measured is None:
        raise CoreError("capacitor", "Give what its label says and what the meter shows.")
    tolerance = _number(entries, "tolerance") or USUAL_TOLERANCE
    working, rule = judge_capacitor(rated, measured, tolerance)
    said = say(f"{{off}} off its label. {rule.sentence}", off=working.measure)
    if entries.get("motor", "blower") != "blower":
        seen: tuple[str, ...] = ()
    else:
        seen = ("blower_capacitor_ok",) if rule.state == "good" else ("blower_capacitor_weak",)
    return FormFinding("good" if rule.state == "good" else "bad", (said,), seen)


def _against_plate(point: str, name: str) -> Callable[[Plate, Entries], FormFinding]:
    def judge(plate: Plate, entries: Entries) -> FormFinding:
        rated, measured = _number(entries, "rated"), _number(entries, "measured")
        if measured is None:
            raise CoreError("amps", f"Give what the clamp shows on the {name}.")
        readings = {point: measured}
        if rated is None:
            return FormFinding(
                "noted",
                (say("{now}; its plate was not read.", now=Measure(measured, Quantity.CURRENT)),),
                (),
                readings,
            )
        share = measured / rated
        measures = {
            "now": Measure(measured, Quantity.CURRENT),
            "rated": Measure(rated, Quantity.CURRENT),
        }
        if share > HIGH_AMPS:
            return FormFinding(
                "bad",
                (
                    say(
                        "{now} against {rated} on the plate: over it. Volts, load, "
                        "bearings, capacitor.",
                        **measures,
                    ),
                ),
                (),
                readings,
            )
        if share < LOW_AMPS:
            return FormFinding(
                "watch",
                (
                    say(
                        "{now} against {rated} on the plate: hardly working. With "
                        "high suction and low head it does not pump.",
                        **measures,
                    ),
                ),
                (),
                readings,
            )
        return FormFinding(
            "good", (say("{now} against {rated} on the plate.", **measures),), (), readings
        )

    return judge


def _blower_amps(plate: Plate, entries: Entries) -> FormFinding:
    rated, measured = _number(entries, "rated"), _number(entries, "measured")
    motor = str(entries.get("motor", "psc"))
    if rated is None or measured is None:
        raise CoreError("amps", "Give the plate’s amps and what the clamp shows.")
    says = blower_amps_say(motor, measured, rated)
    state: State = "good" if says.key.endswith("ordinary") else "watch"
    return FormFinding(state, (say(says.sentence),), (), {"blower_amps": measured})


def _strips(plate: Plate, entries: Entries) -> FormFinding:
    kw, count = _number(entries, "strip_kw"), _number(entries, "strips")
    if kw is None or count is None:
        raise CoreError("strips", "Give one strip’s kilowatts and how many are on this circuit.")
    each = strip_amps_each(kw, _number(entries, "volts") or RATED_VOLTS)
    amps = _number(entries, "measured")
    _, said = judge_circuit(each, count, amps)
    if said is None:
        raise CoreError("measured", "Give what the clamp shows on this circuit.")
    good = said.template.startswith("Every strip")
    return FormFinding(
        "good" if good else "bad", (said,), (), {} if amps is None else {"strip_amps": amps}
    )


def _drain(plate: Plate, entries: Entries) -> FormFinding:
    if entries.get("runs") == "no":
        return FormFinding(
            "bad", (say("It does not drain: clear trap and line, and look at the pan."),)
        )
    if entries.get("pan") == "wet":
        return FormFinding("watch", (say("It runs, but water stands in the pan: slope or trap."),))
    return FormFinding("good", (say("It runs."),))


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
    ), _filter, "Blower off while the filter is out."),
    Form("coils", "Coils", "indoor", (
        Blank("evaporator", "Indoor coil’s face", None, _FACES, is_needed=False),
        Blank("condenser", "Outdoor coil’s face", None, _FACES, is_needed=False),
    ), _coils, "Power locked out before a panel comes off; fins cut."),
    Form("statics", "Static pressures", "ducts", (
        _static("supply", "Supply", -50, 750),
        _static("return", "Return, with its minus", -750, 50),
        _static("total", "Total, if read across", 0, 1000),
        _static("filter_drop", "Across the filter", 0, 500),
    ), _statics),
    Form("blower", "Airflow by the blower’s table", "indoor", (
        Blank("static", "Total external static", Quantity.STATIC_PRESSURE, (), 5, 1000),
    ), _blower),
    Form("capacitor", "Run capacitor", "electrical", (
        Blank("motor", "Of which motor", None,
              (("blower", "Blower"), ("condenser_fan", "Outdoor fan"),
               ("compressor", "Compressor"))),
        Blank("rated", "On its label", Quantity.CAPACITANCE, (), 0.5, 200),
        Blank("measured", "Measured", Quantity.CAPACITANCE, (), 0, 250),
        Blank("tolerance", "Label’s tolerance", Quantity.PERCENT, (), 1, 20, is_needed=False),
    ), _capacitor, _DEAD),
    Form("compressor_amps", "Compressor amps", "electrical",
          (_amps("rated", "RLA on the plate", needed=False), _amps("measured", "Measured")),
          _against_plate("compressor_amps", "compressor"), _LIVE),
    Form("fan_amps", "Outdoor fan amps", "electrical",
          (_amps("rated", "FLA on the plate", needed=False), _amps("measured", "Measured")),
          _against_plate("condenser_fan_amps", "outdoor fan"), _LIVE),
    Form("blower_amps", "Blower amps", "electrical", (
        Blank("motor", "Kind of motor", None, (("psc", "PSC, with a capacitor"),
                                               ("ecm", "ECM, constant airflow"))),
        _amps("rated", "FLA on the plate"), _amps("measured", "Measured"),
    ), _blower_amps, _LIVE),
    Form("strips", "Electric strips, by circuit", "electrical", (
        Blank("strip_kw", "One strip", Quantity.HEATER_POWER, (), 0.5, 30),
        Blank("strips", "Strips on this circuit", Quantity.COUNT, (), 1, 12),
        Blank("volts", "Line volts", Quantity.VOLTAGE, (), 90, 600, is_needed=False),
        _amps("measured", "Measured"),
    ), _strips, _LIVE),
    Form("drain", "Drain", "drain", (
        Blank("runs", "Does water run away", None, (("yes", "It runs"), ("no", "It does not"))),
        Blank("pan", "The pan", None, (("dry", "Dry"), ("wet", "Water stands in it")),
              is_needed=False),
    ), _drain),
)  # fmt: skip

FORMS: Mapping[str, Form] = MappingProxyType({row.key: row for row in _ROWS})


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
    blanks = {blank.key: blank for blank in row.blanks}
    for name, value in entries.items():
        blank = blanks.get(name)
        if blank is None:
            raise UnknownName("entry", name, blanks)
        _believable(blank, value)
    missing = [blank.label for blank in row.blanks if blank.is_needed and blank.key not in entries]
    if missing or not entries:
        wanted = ", ".join(missing) or "something"
        raise CoreError("entry", f"{row.label}: still to fill in: {wanted}.")
    return row.judge(plate, entries)


def _believable(blank: Blank, value: float | str) -> None:
    if blank.quantity is None:
        choices = {key: None for key, _ in blank.choices}
        if value not in choices:
            raise UnknownName(blank.label.lower(), str(value), choices)
        return
    if isinstance(value, str) or not blank.low <= value <= blank.high:
        raise Impossible(
            blank.key,
            say(
                f"{blank.label}: give a number from {{low}} to {{high}}.",
                low=Measure(blank.low, blank.quantity),
                high=Measure(blank.high, blank.quantity),
            ),
        )
