"""What a filled form says: one finding a form, from what was entered and the plate."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Literal

from nudge.core.language.errors import CoreError
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.physics.air.airflow import TOLERANCE, blower_amps_say
from nudge.core.physics.air.static import (
    DuctReading,
    read_static,
    starves_the_blower,
    static_trouble,
)
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.electrical.capacitor import USUAL_TOLERANCE, judge_capacitor
from nudge.core.physics.electrical.strips import RATED_VOLTS, judge_circuit, strip_amps_each

State = Literal["good", "watch", "bad", "noted"]
Entries = Mapping[str, float | str]
LOW_AMPS, HIGH_AMPS = 0.45, 1.05
"""A compressor under the first share of its plate is hardly working; over the second, too hard."""


@dataclass(frozen=True, slots=True)
class FormFinding:
    """What a check found: how it stands, in words, and the observations it makes true."""

    state: State
    said: tuple[Said, ...]
    observations: tuple[str, ...] = ()
    readings: Mapping[str, float] = field(default_factory=dict)
    """Readings it gives the visit, in core units."""
    events: tuple[str, ...] = ()
    """What it says was done: actions, each once on a visit."""


def number(entries: Entries, key: str) -> float | None:
    value = entries.get(key)
    return float(value) if isinstance(value, int | float) else None


def filter_finding(plate: Plate, entries: Entries) -> FormFinding:
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


def coils_finding(plate: Plate, entries: Entries) -> FormFinding:
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


def statics_finding(plate: Plate, entries: Entries) -> FormFinding:
    read = DuctReading(
        *(number(entries, key) for key in ("supply", "return", "total", "filter_drop"))
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
        point: value for key, point in points.items() if (value := number(entries, key)) is not None
    }
    minded: State = "good" if static_trouble(read) is None else "watch"
    state: State = "bad" if starves_the_blower(read) else minded
    return FormFinding(state, tuple(read_static(read)), (), readings)


def blower_finding(plate: Plate, entries: Entries) -> FormFinding:
    static, tap = number(entries, "static"), str(entries.get("tap", "") or plate.blower_tap)
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


def capacitor_finding(plate: Plate, entries: Entries) -> FormFinding:
    rated, measured = number(entries, "rated"), number(entries, "measured")
    if rated is None or measured is None:
        raise CoreError("capacitor", "Give what its label says and what the meter shows.")
    tolerance = number(entries, "tolerance") or USUAL_TOLERANCE
    working, rule = judge_capacitor(rated, measured, tolerance)
    said = say(f"{{off}} off its label. {rule.sentence}", off=working.measure)
    if entries.get("motor", "blower") != "blower":
        seen: tuple[str, ...] = ()
    else:
        seen = ("blower_capacitor_ok",) if rule.state == "good" else ("blower_capacitor_weak",)
    return FormFinding("good" if rule.state == "good" else "bad", (said,), seen)


def against_plate(point: str, name: str) -> Callable[[Plate, Entries], FormFinding]:
    def judge(plate: Plate, entries: Entries) -> FormFinding:
        rated, measured = number(entries, "rated"), number(entries, "measured")
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


def blower_amps_finding(plate: Plate, entries: Entries) -> FormFinding:
    rated, measured = number(entries, "rated"), number(entries, "measured")
    motor = str(entries.get("motor", "psc"))
    if rated is None or measured is None:
        raise CoreError("amps", "Give the plate’s amps and what the clamp shows.")
    says = blower_amps_say(motor, measured, rated)
    state: State = "good" if says.key.endswith("ordinary") else "watch"
    return FormFinding(state, (say(says.sentence),), (), {"blower_amps": measured})


def strips_finding(plate: Plate, entries: Entries) -> FormFinding:
    kw, count = number(entries, "strip_kw"), number(entries, "strips")
    if kw is None or count is None:
        raise CoreError("strips", "Give one strip’s kilowatts and how many are on this circuit.")
    each = strip_amps_each(kw, number(entries, "volts") or RATED_VOLTS)
    amps = number(entries, "measured")
    _, said = judge_circuit(each, count, amps)
    if said is None:
        raise CoreError("measured", "Give what the clamp shows on this circuit.")
    good = said.template.startswith("Every strip")
    return FormFinding(
        "good" if good else "bad", (said,), (), {} if amps is None else {"strip_amps": amps}
    )


def drain_finding(plate: Plate, entries: Entries) -> FormFinding:
    if entries.get("runs") == "no":
        return FormFinding(
            "bad", (say("It does not drain: clear trap and line, and look at the pan."),)
        )
    if entries.get("pan") == "wet":
        return FormFinding("watch", (say("It runs, but water stands in the pan: slope or trap."),))
    return FormFinding("good", (say("It runs."),))
