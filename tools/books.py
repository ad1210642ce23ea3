"""Write the rule tables into docs/method.md and docs/nomenclature.md. Run by `make books`.

Everything between `<!-- rules: NAME -->` and `<!-- end -->` is written from the code's own
tables; the prose around them is written by hand.
"""

import re
from collections.abc import Iterable, Mapping, Sequence
from importlib import import_module
from pathlib import Path
from pkgutil import walk_packages

import nudge.core
from nudge.core.behaviours.rows import BEHAVIOURS
from nudge.core.calculators import air_slips
from nudge.core.calculators.blanks import BLANKS
from nudge.core.calculators.slip import SlipBlank
from nudge.core.charging.guides import OTHER_SCHOOLS
from nudge.core.charging.guides import STEPS as WAY_STEPS
from nudge.core.charging.leak_rate import LEAK_THRESHOLDS
from nudge.core.charging.ledger import MOVEMENT_KINDS
from nudge.core.charging.ways import CONNECTIONS, KG_PER_OZ, WAYS
from nudge.core.checks.forms import FORMS
from nudge.core.checks.looks import Look
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.checks.table import CHECKS, CLEANED, LOOKS, SECOND_LOAD
from nudge.core.drift.drift import CAUSES, INTENDED
from nudge.core.drift.table import wander
from nudge.core.expectations.signs import SIGNS
from nudge.core.expectations.table import expectations_of, scale_of
from nudge.core.gaugeless.decide import LOOK_RULES
from nudge.core.gaugeless.estimate import CONDENSER_WAYS, EVAPORATOR_WAYS
from nudge.core.judgement.cautions import CAUTIONS
from nudge.core.judgement.covariance import SHARED
from nudge.core.judgement.decision import RULES
from nudge.core.judgement.decision.doses import ANSWERS
from nudge.core.judgement.decision.limits import LIMITS
from nudge.core.judgement.hazards import HAZARDS
from nudge.core.judgement.model import Model, model_of
from nudge.core.judgement.over_time import EPISODES
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.proof import ADD_PROOF, REMOVE_PROOF
from nudge.core.judgement.suspect_table import SUSPECTS
from nudge.core.judgement.trade_marks import TRADE_MARKS
from nudge.core.judgement.walk import STRETCHES
from nudge.core.language.said import worded
from nudge.core.language.units import UNITS, Quantity, from_si
from nudge.core.language.vocabulary.accuracy import ACCURACY
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.language.working import Formula
from nudge.core.physics.air.airflow import AIRFLOW_METHODS, AMPS_SAYS, CLIMATES, per_ton
from nudge.core.physics.air.coil import CONSTANTS
from nudge.core.physics.air.static import STATIC_RULES
from nudge.core.physics.chart.chart import KINDS
from nudge.core.physics.circuit.derived_table import DERIVED, IN_HEATING
from nudge.core.physics.circuit.equipment import FEEDS, PLATE_NUMBERS, Feed
from nudge.core.physics.circuit.tubes import HOSES, TUBES
from nudge.core.physics.electrical.capacitor import capacitor_rules
from nudge.core.physics.refrigerant.catalogue import CATALOGUE
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.gates import GATES
from nudge.core.settling.probes import PROBE_CHECKS
from nudge.core.settling.stability import LOAD, SLOW
from nudge.core.settling.trust import PROBE_LIES, TRUST_CHECKS
from nudge.core.targets.choose import SCHOOLS
from nudge.core.targets.condensing import DEFAULT_SEER, USUAL_SEER
from nudge.core.visit.calls import CALLS
from nudge.core.visit.seasons import SEASONS
from nudge.core.visit.steps import STEPS
from nudge.instruments.kit import KINDS as KINDS_OF_INSTRUMENT
from nudge.instruments.troubles import TROUBLES
from nudge.plant.faults import FAULTS
from nudge.plant.presets import PRESETS, preset_machine
from nudge.plant.running import LAGS
from tools.cousins import FAMILIES

DOCS = Path(__file__).parents[1] / "docs"
_SHOWN_SIGNS = (
    "subcooling", "superheat", "condensing_over_ambient", "approach", "evaporator_difference",
    "temperature_split", "airflow", "compressor_power", "condenser_air_rise", "drier_drop",
    "drop_past_drier",
)  # fmt: skip
"""The signs shown in the book's view of the signatures; the file has them all."""


def _table(heads: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    lines = [heads, ["---"] * len(heads), *rows]
    return "\n".join("| " + " | ".join(str(cell) for cell in line) + " |" for line in lines)


def _key(name: str) -> str:
    return f"`{name}`"


def _f(celsius: float) -> str:
    return f"{from_si(celsius, Quantity.TEMPERATURE, 'ip'):.1f}"


def tables() -> dict[str, str]:
    """Every generated table by its name in the documents."""
    chapters = (
        _of_names,
        _of_physics,
        _of_targets,
        _of_judging_a,
        _of_judging_b,
        _of_deciding,
        _of_visits,
        _of_plant,
    )
    return {name: table for chapter in chapters for name, table in chapter().items()}


def _of_names() -> dict[str, str]:
    """Names: points, observations, actions, refrigerants, plates."""
    return {
        "points": _table(
            ("point", "label", "said as", "field", "SI", "believed from … to (field)"),
            (
                (
                    _key(p.key),
                    p.label,
                    ", ".join(p.short),
                    UNITS[p.quantity].ip,
                    UNITS[p.quantity].si,
                    f"{p.low:g} … {p.high:g}",
                )
                for p in POINTS.values()
            ),
        ),
        "observations": _table(
            ("observation", "label"), ((_key(o.key), o.label) for o in OBSERVATIONS.values())
        ),
        "actions": _table(
            ("work", "label", "makes true"),
            ((_key(a.key), a.label, ", ".join(map(_key, a.settles))) for a in ACTIONS.values()),
        ),
        "refrigerants": _table(
            ("fluid", "by mass", "class", "critical, °F", "oil", "GWP AR4", "GWP AR5"),
            (
                (
                    r.name,
                    ", ".join(f"{c} {share:.1%}" for c, share in r.mass_fractions.items()),
                    r.safety_class,
                    _f(load_table(r.name).critical_c),
                    ", ".join(r.lubricants),
                    round(r.gwp_ar4),
                    round(r.gwp_ar5),
                )
                for r in CATALOGUE.values()
            ),
        ),
        "plate": _table(
            ("plate number", "label", "field", "SI", "believed from … to (field)"),
            (
                (
                    _key(p.key),
                    p.label,
                    UNITS[p.quantity].ip,
                    UNITS[p.quantity].si,
                    f"{p.low:g} … {p.high:g}",
                )
                for p in PLATE_NUMBERS
            ),
        ),
        "blanks": _table(
            ("blank", "label", "field", "SI", "from … to (field), or one of"),
            ((_key(b.key), b.label, *_units(b), _reach(b)) for b in BLANKS.values()),
        ),
        "accuracy": _table(
            ("kind", "± in core units", "or a share", "what instrument"),
            (
                (_key(a.key), f"{a.fixed:.3g}", f"{a.share:.1%}", a.reason)
                for a in ACCURACY.values()
            ),
        ),
    }


def _of_physics() -> dict[str, str]:
    """What is computed, and what stands behind it."""
    return {
        "derived": _formulas((*DERIVED.values(), *IN_HEATING.values())),
        "looks": _formulas(way.formula for way in (*EVAPORATOR_WAYS, *CONDENSER_WAYS)),
        "pocket": _formulas(_pocket_formulas()),
        "look_rules": _table(
            ("rule", "asks for gauges when"), ((_key(r.key), r.reason) for r in LOOK_RULES)
        ),
        "coil": _table(("part", "value", "why"), ((c.key, c.shown, c.reason) for c in CONSTANTS)),
        "climates": _table(
            ("climate", "CFM per ton", "why"),
            (
                (_key(c.key), f"{c.lps_per_kw / per_ton(1):.0f}", c.reason)
                for c in CLIMATES.values()
            ),
        ),
        "airflow_methods": _table(
            ("way", "its own ±", "what it rests on"),
            (
                (_key(m.key), f"{m.own_error:.0%}" if m.own_error else "indicator only", m.reason)
                for m in AIRFLOW_METHODS.values()
            ),
        ),
        "amps": _table(
            ("row", "motor", "share of plate amps", "says"),
            ((_key(a.key), a.motor, f"{a.low:g} to {a.high:g}", a.sentence) for a in AMPS_SAYS),
        ),
        "static": _table(("rule", "why"), ((_key(r.key), r.reason) for r in STATIC_RULES)),
        "tubes": _table(
            ("tube, in.", "outside, in.", "wall, in."),
            ((t.name, f"{t.outside_in:g}", f"{t.wall_in:.3f}") for t in TUBES),
        ),
        "hoses": _table(("hose, in.", "bore, in."), ((h.name, h.inside_in) for h in HOSES)),
        "capacitor": _table(
            ("state", "off its label, %", "says", "why"),
            (
                (
                    _key(r.state),
                    f"{max(r.low, -100):.0f} to {min(r.high, 100):.0f}",
                    r.sentence,
                    r.reason,
                )
                for r in capacitor_rules()
            ),
        ),
        "leaks": _table(
            ("plant", "% a year", "why"),
            ((_key(t.key), f"{t.percent:g}", t.reason) for t in LEAK_THRESHOLDS),
        ),
    }


def _of_targets() -> dict[str, str]:
    """Targets, gates, trust and settling."""
    return {
        "behaviours": _table(
            (
                "kind",
                "plate",
                "mode",
                "charge",
                "superheat on",
                "cold air",
                "warm air",
                "judged by",
                "why",
            ),
            (
                (
                    _key(b.key),
                    _key(b.application),
                    b.mode,
                    b.charge.replace("_", " "),
                    " else ".join(map(_key, b.roles.superheat_line)),
                    " else ".join(map(_key, b.roles.cold_air)),
                    " else ".join(map(_key, b.roles.warm_air)),
                    "tables"
                    if b.is_judged
                    else f"windows: {b.not_judged.text('ip')}"
                    if b.not_judged
                    else "windows",
                    b.reason,
                )
                for b in BEHAVIOURS.values()
            ),
        ),
        "schools": _table(
            ("school", "judges", "decides charge", "why"),
            (
                (_key(s.key), s.judges, "yes" if s.decides_charge else "no", worded(s.reason, "ip"))
                for s in SCHOOLS
            ),
        ),
        "charts": _table(
            ("chart", "rows", "columns", "cells"),
            (
                (
                    _key(k.key),
                    k.row.label,
                    k.column.label if k.column else f"by {k.column_name}",
                    k.cell.label,
                )
                for k in KINDS.values()
            ),
        ),
        "gates": _table(
            ("gate", "effect", "why", "source"),
            ((_key(g.key), g.effect, g.reason, g.source) for g in GATES),
        ),
        "trust": _table(
            ("check", "points", "why"),
            (
                (_key(c.key), ", ".join(map(_key, c.points)) or "the probe's own", c.reason)
                for c in (*TRUST_CHECKS, PROBE_LIES)
            ),
        ),
        "slow": _table(
            ("quantity", "within", "why"),
            (
                (
                    _key(s.key),
                    f"{from_si(s.within, _moved(s.quantity), 'ip'):g} "
                    f"{UNITS[_moved(s.quantity)].ip}",
                    s.reason,
                )
                for s in SLOW
            ),
        ),
        "load": _table(
            ("quantity", "°F a minute", "why"),
            ((_key(r.key), f"{r.per_minute * 1.8:g}", r.reason) for r in LOAD),
        ),
        "probes": _table(("check", "why"), ((_key(c.key), c.reason) for c in PROBE_CHECKS)),
        "hazards": _table(
            ("hazard", "effect", "why"), ((_key(h.key), h.effect, h.reason) for h in HAZARDS)
        ),
    }


def _of_judging_a() -> dict[str, str]:
    """Suspects, what they do to the signs, and what tells them apart."""
    return {
        "suspects": _table(
            ("suspect", "name", "prior", "order", "told apart by", "what to do"),
            (
                (
                    _key(s.key),
                    s.label,
                    f"{s.prior:g}",
                    s.order,
                    s.told_apart_by,
                    worded(s.act, "ip"),
                )
                for s in SUSPECTS.values()
            ),
        ),
        "signs": _table(
            ("sign", "label", "rests on", "counts while this is missing"),
            (
                (
                    _key(s.key),
                    s.label,
                    ", ".join(map(_key, s.points)),
                    _key(s.in_place_of) if s.in_place_of else "",
                )
                for s in SIGNS.values()
            ),
        ),
        "expectations": _table(
            (
                "device",
                "sign",
                "added to its base",
                "per °F outdoors over 95",
                "per °F wet bulb over 67",
                "per SEER over 14",
                "±",
            ),
            ((device, _key(sign), *_expected(sign, device)) for device in FEEDS for sign in SIGNS),
        ),
        "shared": _table(
            ("off together", "by, °F (1 σ)", "drags along, per kelvin", "why"),
            (
                (
                    _key(s.key),
                    f"{s.sigma * 1.8:g}",
                    ", ".join(f"{_key(k)} {v:g}" for k, v in s.drags.items()),
                    s.reason,
                )
                for s in SHARED
            ),
        ),
        "families": _table(
            ("family", "what differs", "why a real machine might"),
            ((_key(f.key), f.differs, f.reason) for f in FAMILIES.values()),
        ),
        "usual_seer": _table(
            ("refrigerant", "SEER where nobody says"),
            [
                *((_key(name), f"{seer:g}") for name, seer in USUAL_SEER.items()),
                ("any other", f"{DEFAULT_SEER:g}"),
            ],
        ),
        "signatures": _table(
            (
                "device",
                "suspect",
                "fault",
                "severity",
                *(k.replace("_", " ") for k in _SHOWN_SIGNS),
            ),
            (
                (
                    device,
                    " + ".join(row.suspects),
                    _key(row.variant),
                    row.severity,
                    *(_move(row.moves, sign) for sign in _SHOWN_SIGNS),
                )
                for device in FEEDS
                for row in model(device).signatures
            ),
        ),
        "trade_marks": _table(
            ("device", "fault", "severity", "sign", "departure", "why"),
            (
                (
                    m.device,
                    _key(m.fault),
                    m.severity or "all",
                    _key(m.sign),
                    f"{m.middle_f:g} ± {m.spread_f:g}",
                    m.reason,
                )
                for m in TRADE_MARKS
            ),
        ),
        "pairs": _table(
            ("faults", "prior", "order, because"),
            ((" + ".join(map(_key, p.faults)), f"{p.prior:g}", p.reason) for p in PAIRS),
        ),
    }


def _of_judging_b() -> dict[str, str]:
    """Suspects, what they do to the signs, and what tells them apart."""
    return {
        "seen_looks": _table(
            ("seen", "or", "of a hundred without a fault it explains", "with", "why"),
            (
                (
                    _key(k.yes),
                    _key(k.no) if k.no else "only counts when seen",
                    f"{100 * k.usually:g}",
                    _with(k),
                    k.reason,
                )
                for k in (*LOOKS, SECOND_LOAD, CLEANED)
            ),
        ),
        "episodes": _table(
            ("episode", "what is found", "makes likelier (×) or less likely", "why"),
            (
                (
                    _key(e.key),
                    e.label,
                    ", ".join(f"{_key(k)} × {v:g}" for k, v in e.factors.items()),
                    e.reason,
                )
                for e in EPISODES
            ),
        ),
        "walk": _table(
            ("stretch", "watch from, °F", "restricted from, °F", "why"),
            (
                (
                    _key(w.key),
                    f"{w.watch_k * 1.8:g}",
                    f"{w.restricted_k * 1.8:g}",
                    worded(w.reason, "ip"),
                )
                for w in STRETCHES
            ),
        ),
        "checks": _table(
            ("check", "what", "minutes", "risk, min", "answers", "why"),
            (
                (
                    _key(c.key),
                    c.label,
                    f"{c.minutes:g}",
                    f"{c.risk:g}",
                    _answers(c.signs, c.look),
                    c.why,
                )
                for c in CHECKS.values()
            ),
        ),
    }


def _of_deciding() -> dict[str, str]:
    """The decision, its proofs and limits, and the ways in."""
    return {
        "decision": _table(
            ("rule", "speaks of", "says", "advice", "why"),
            (
                (_key(r.key), r.order, r.headline or "what opens it", r.advice, r.reason)
                for r in RULES
            ),
        ),
        "limits": _table(
            ("limit", "at least", "why"),
            ((_key(r.key), f"{r.least:.2f}", r.reason) for r in LIMITS.values()),
        ),
        "answers": _table(
            ("quantity", "moved by at least", "and by each percent of the charge", "why"),
            (
                (_key(a.key), _k(a.least_k), _k(a.per_percent_k), worded(a.reason, "ip"))
                for a in ANSWERS
            ),
        ),
        "add": _table(
            ("look-alike", "told apart by", "required"),
            (
                (_key(p.look_alike), worded(p.told_apart_by, "ip"), "yes" if p.required else "")
                for p in ADD_PROOF
            ),
        ),
        "remove": _table(
            ("look-alike", "told apart by", "required"),
            (
                (_key(p.look_alike), worded(p.told_apart_by, "ip"), "yes" if p.required else "")
                for p in REMOVE_PROOF
            ),
        ),
        "cautions": _table(
            ("caution", "said with", "text"),
            ((_key(c.key), ", ".join(map(_key, c.advice)), c.text.text("ip")) for c in CAUTIONS),
        ),
        "ways": _table(
            ("way", "near is", "room past it", "wait, min", "why"),
            (
                (_key(w.key), _k(w.near_k), _k(w.room_k), f"{w.wait_minutes:g}", w.reason)
                for w in WAYS.values()
            ),
        ),
        "connections": _table(
            ("connection", "good for", "most a burst, oz"),
            (
                (_key(c.key), c.good_for, f"{c.burst_kg / KG_PER_OZ:g}" if c.can_charge else "none")
                for c in CONNECTIONS.values()
            ),
        ),
        "movements": _table(
            ("movement", "cylinder", "why"),
            ((_key(m.key), "+" if m.sign > 0 else "−", m.reason) for m in MOVEMENT_KINDS.values()),
        ),
        "other_schools": _table(
            ("key", "school", "how", "why it is not first"),
            ((_key(s.key), s.label, s.how, s.reason) for s in OTHER_SCHOOLS),
        ),
        "way_steps": _table(
            ("way", "steps"),
            (
                (_key(key), worded(" ".join(step.text for step in steps), "ip"))
                for key, steps in WAY_STEPS.items()
            ),
        ),
    }


def _of_visits() -> dict[str, str]:
    """The visit: calls, steps, forms, seasons, drift."""
    return {
        "calls": _table(
            ("kind of call", "what it is", "why this route"),
            ((_key(c.key), c.label, c.reason) for c in CALLS.values()),
        ),
        "steps": _table(
            ("step", "stage", "what", "stands before", "caution"),
            (
                (
                    _key(s.key),
                    s.stage,
                    worded(s.label, "ip"),
                    s.blocks or "nothing",
                    worded(s.caution, "ip"),
                )
                for s in STEPS
            ),
        ),
        "visit_checks": _table(
            ("check", "part", "what is filled in", "caution"),
            (
                (_key(c.key), c.subsystem, "; ".join(b.label for b in c.blanks), c.caution)
                for c in FORMS.values()
            ),
        ),
        "seasons": _table(
            ("season", "in words", "months"),
            (
                (_key(s.key), worded(s.label, "ip"), ", ".join(map(str, s.months)) or "any")
                for s in SEASONS.values()
            ),
        ),
        "drift_causes": _table(
            (
                "cause",
                "in words",
                "what to look at",
                "moves on a valve system (K of subcooling, of condensing over ambient)",
            ),
            (
                (
                    _key(c.key),
                    c.label,
                    c.look,
                    f"{wander(FEEDS[0]).moves(c.key).get('subcooling', 0):.1f}, "
                    f"{wander(FEEDS[0]).moves(c.key).get('condensing_over_ambient', 0):.1f}",
                )
                for c in CAUSES.values()
            ),
        ),
        "intended": _table(
            ("change", "in words", "signs taken out of the count"),
            ((_key(i.key), i.label, ", ".join(i.moves)) for i in INTENDED.values()),
        ),
    }


def _of_plant() -> dict[str, str]:
    """The simulated system and its instruments."""
    return {
        "presets": _table(
            ("system", "what it is", "rated kW", "charge, lb"),
            (
                (
                    _key(p.key),
                    p.title,
                    f"{p.rating.nominal_kw:.1f}",
                    f"{preset_machine(p.key).charge_kg * 2.20462:.1f}",
                )
                for p in PRESETS.values()
            ),
        ),
        "faults": _table(
            ("fault", "known as", "at severity 1"),
            (
                (_key(f.key), _key(f.suspect) if f.suspect else "—", f.means)
                for f in FAULTS.values()
            ),
        ),
        "lags": _table(
            ("point", "quick share", "quick, s", "slow, s"),
            (
                (_key(k), f"{lag.quick_share:g}", f"{lag.quick_s:g}", f"{lag.slow_s:g}")
                for k, lag in LAGS.items()
            ),
        ),
        "kit": _table(
            ("kind", "noise", "calibration error (1 sd)", "resolution", "lag, s"),
            (
                (_key(k.key), f"{k.noise:g}", f"{k.error:g}", f"{k.resolution:g}", f"{k.lag_s:g}")
                for k in KINDS_OF_INSTRUMENT.values()
            ),
        ),
        "troubles": _table(
            ("trouble", "of", "what it does"),
            ((_key(t.key), ", ".join(map(_key, t.kinds)), t.means) for t in TROUBLES.values()),
        ),
    }


def _k(kelvin: float) -> str:
    return f"{kelvin * 1.8:g} °F"


def _moved(quantity: Quantity) -> Quantity:
    """The quantity a change of this one is."""
    if quantity is Quantity.PRESSURE:
        return Quantity.PRESSURE_DIFFERENCE
    return Quantity.TEMPERATURE_DIFFERENCE


def _units(blank: SlipBlank) -> tuple[str, str]:
    return (UNITS[blank.quantity].ip, UNITS[blank.quantity].si) if blank.quantity else ("", "")


def _reach(blank: SlipBlank) -> str:
    if blank.quantity is None:
        return ", ".join(key for key, _ in blank.choices)
    return f"{blank.low:g} … {blank.high:g}"


def _formulas(rows: Iterable[Formula]) -> str:
    return _table(
        ("quantity", "what it is", "formula", "source"),
        ((_key(f.key), worded(f.meaning, "ip"), worded(f.formula, "ip"), worded(f.reference, "ip"))
         for f in rows),
    )  # fmt: skip


def _pocket_formulas() -> list[Formula]:
    """Every formula that stands in a module by its own name, once."""
    found: dict[str, Formula] = {}
    for module in walk_packages(nudge.core.__path__, "nudge.core."):
        for value in vars(import_module(module.name)).values():
            if isinstance(value, Formula):
                found[f"{value.key} {value.formula}"] = value
    found |= {f.key: f for f, _ in air_slips.PROPERTIES}
    return list(found.values())


def model(feed: Feed) -> Model:
    """The model of cooling plant."""
    found = model_of(BEHAVIOURS["cooling"], feed)
    if found is None:
        raise LookupError("cooling plant has no tables")
    return found


def _expected(sign: str, feed: Feed) -> tuple[str, ...]:
    row, unit = expectations_of(BEHAVIOURS["cooling"])[feed][sign], scale_of(sign)
    slopes = (row.per_outdoor / unit / 1.8, row.per_wet_bulb / unit / 1.8)
    by_class, spread = f"{row.per_seer / unit:.2f}", f"{row.sigma / unit:.1f}"
    return (f"{row.base / unit:.1f}", *(f"{slope:.2f}" for slope in slopes), by_class, spread)


def _move(moves: Mapping[str, tuple[float, float]], sign: str) -> str:
    if sign not in moves:
        return ""
    middle, spread = (value / scale_of(sign) for value in moves[sign])
    return f"{middle:.1f} ± {spread:.1f}"


def _with(look: Look) -> str:
    return ", ".join(f"{_key(k)} {100 * v:g}" for k, v in look.with_fault.items())


def _answers(signs: Sequence[str], look: Look | None) -> str:
    return ", ".join(map(_key, signs)) if look is None else _key(look.yes)


def main() -> None:
    ready = tables()
    for name in ("method.md", "nomenclature.md"):
        path = DOCS / name
        written = re.sub(
            r"(<!-- rules: (\w+) -->\n).*?(<!-- end -->)",
            lambda found: f"{found[1]}{ready[found[2]]}\n{found[3]}",
            path.read_text("utf-8"),
            flags=re.DOTALL,
        )
        path.write_text(written)


if __name__ == "__main__":
    main()
