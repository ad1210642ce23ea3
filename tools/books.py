"""Write the rule tables into docs/method.md and docs/nomenclature.md. Run by `make books`.

Everything between `<!-- rules: NAME -->` and `<!-- end -->` is written from the code's own
tables; the prose around them is written by hand.
"""

import re
from collections.abc import Iterable, Sequence
from importlib import import_module
from pathlib import Path
from pkgutil import walk_packages

import nudge.core
from nudge.core.air.airflow import AIRFLOW_METHODS, AMPS_SAYS, CLIMATES, per_ton
from nudge.core.air.coil import CONSTANTS
from nudge.core.air.static import STATIC_RULES
from nudge.core.charging.leak_rate import LEAK_THRESHOLDS
from nudge.core.charging.tubes import HOSES, TUBES
from nudge.core.chart.chart import KINDS
from nudge.core.circuit.derived_table import DERIVED
from nudge.core.electrical.capacitor import capacitor_rules
from nudge.core.judgement.cautions import CAUTIONS
from nudge.core.judgement.hazards import HAZARDS
from nudge.core.judgement.next_checks import CHECKS
from nudge.core.judgement.proof import ADD_PROOF, REMOVE_PROOF
from nudge.core.judgement.suspect_table import OBSERVED, SUSPECTS
from nudge.core.look.decide import LOOK_RULES
from nudge.core.look.estimate import CONDENSER_WAYS, EVAPORATOR_WAYS
from nudge.core.plant.faults import FAULTS
from nudge.core.plant.presets import PRESETS, preset_machine
from nudge.core.plant.running import LAGS
from nudge.core.pocket import air_slips
from nudge.core.pocket.blanks import BLANKS
from nudge.core.pocket.slip import Blank
from nudge.core.refrigerant.catalogue import CATALOGUE
from nudge.core.refrigerant.table import load_table
from nudge.core.said import worded
from nudge.core.settling.gates import GATES
from nudge.core.settling.probes import PROBE_CHECKS
from nudge.core.settling.stability import LOAD, SLOW
from nudge.core.settling.trust import PROBE_LIES, TRUST_CHECKS
from nudge.core.targets.choose import SCHOOLS
from nudge.core.units import UNITS, Quantity, from_si
from nudge.core.vocabulary.accuracy import ACCURACY
from nudge.core.vocabulary.equipment import PLATE_NUMBERS
from nudge.core.vocabulary.observations import OBSERVATIONS
from nudge.core.vocabulary.points import POINTS
from nudge.core.working import Formula
from nudge.instruments.kit import KINDS as KINDS_OF_INSTRUMENT
from nudge.instruments.troubles import TROUBLES

DOCS = Path(__file__).parents[1] / "docs"
_MARKS = ("subcooling", "condensing_over_ambient", "evaporator_difference", "temperature_split",
          "pressure_ratio", "liquid_line_drop", "drier_drop")  # fmt: skip


def _table(heads: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    lines = [heads, ["---"] * len(heads), *rows]
    return "\n".join("| " + " | ".join(str(cell) for cell in line) + " |" for line in lines)


def _key(name: str) -> str:
    return f"`{name}`"


def _f(celsius: float) -> str:
    return f"{from_si(celsius, Quantity.TEMPERATURE, 'ip'):.1f}"


def tables() -> dict[str, str]:
    """Every generated table by its name in the documents."""
    return {
        "derived": _formulas(DERIVED.values()),
        "looks": _formulas(way.formula for way in (*EVAPORATOR_WAYS, *CONDENSER_WAYS)),
        "pocket": _formulas(_pocket_formulas()),
        "look_rules": _table(("rule", "asks for gauges when"),
                             ((_key(r.key), r.reason) for r in LOOK_RULES)),
        "coil": _table(("part", "value", "why"), ((c.key, c.shown, c.reason) for c in CONSTANTS)),
        "climates": _table(
            ("climate", "CFM per ton", "why"),
            ((_key(c.key), f"{c.lps_per_kw / per_ton(1):.0f}", c.reason)
             for c in CLIMATES.values()),
        ),
        "airflow_methods": _table(
            ("way", "its own ±", "what it rests on"),
            ((_key(m.key), f"{m.own_error:.0%}" if m.own_error else "indicator only", m.reason)
             for m in AIRFLOW_METHODS.values()),
        ),
        "amps": _table(
            ("row", "motor", "share of plate amps", "says"),
            ((_key(a.key), a.motor, f"{a.low:g} to {a.high:g}", a.sentence) for a in AMPS_SAYS),
        ),
        "static": _table(("rule", "why"), ((_key(r.key), r.reason) for r in STATIC_RULES)),
        "accuracy": _table(
            ("kind", "± in core units", "or a share", "what instrument"),
            ((_key(a.key), f"{a.fixed:.3g}", f"{a.share:.1%}", a.reason)
             for a in ACCURACY.values()),
        ),
        "tubes": _table(
            ("tube, in.", "outside, in.", "wall, in."),
            ((t.name, f"{t.outside_in:g}", f"{t.wall_in:.3f}") for t in TUBES),
        ),
        "hoses": _table(("hose, in.", "bore, in."), ((h.name, h.inside_in) for h in HOSES)),
        "capacitor": _table(
            ("state", "off its label, %", "says", "why"),
            ((_key(r.state), f"{max(r.low, -100):.0f} to {min(r.high, 100):.0f}", r.sentence,
              r.reason) for r in capacitor_rules()),
        ),
        "leaks": _table(
            ("plant", "% a year", "why"),
            ((_key(t.key), f"{t.percent:g}", t.reason) for t in LEAK_THRESHOLDS),
        ),
        "charts": _table(
            ("chart", "rows", "columns", "cells"),
            ((_key(k.key), k.row.label, k.column.label if k.column else f"by {k.column_name}",
              k.cell.label) for k in KINDS.values()),
        ),
        "schools": _table(
            ("school", "judges", "decides charge", "why"),
            ((_key(s.key), s.judges, "yes" if s.decides_charge else "no", worded(s.reason, "ip"))
             for s in SCHOOLS),
        ),
        "gates": _table(
            ("gate", "effect", "why", "source"),
            ((_key(g.key), g.effect, g.reason, g.source) for g in GATES),
        ),
        "trust": _table(
            ("check", "points", "why"),
            ((_key(c.key), ", ".join(map(_key, c.points)) or "the probe's own", c.reason)
             for c in (*TRUST_CHECKS, PROBE_LIES)),
        ),
        "slow": _table(
            ("quantity", "within", "why"),
            ((_key(s.key), f"{from_si(s.within, _moved(s.quantity), 'ip'):g} "
              f"{UNITS[_moved(s.quantity)].ip}", s.reason) for s in SLOW),
        ),
        "load": _table(
            ("quantity", "°F a minute", "why"),
            ((_key(r.key), f"{r.per_minute * 1.8:g}", r.reason) for r in LOAD),
        ),
        "probes": _table(("check", "why"), ((_key(c.key), c.reason) for c in PROBE_CHECKS)),
        "presets": _table(
            ("system", "what it is", "rated kW", "charge, lb"),
            ((_key(p.key), p.title, f"{p.rating.nominal_kw:.1f}",
              f"{preset_machine(p.key).charge_kg * 2.20462:.1f}") for p in PRESETS.values()),
        ),
        "faults": _table(
            ("fault", "known as", "at severity 1"),
            ((_key(f.key), _key(f.suspect) if f.suspect else "—", f.means)
             for f in FAULTS.values()),
        ),
        "lags": _table(
            ("point", "quick share", "quick, s", "slow, s"),
            ((_key(k), f"{lag.quick_share:g}", f"{lag.quick_s:g}", f"{lag.slow_s:g}")
             for k, lag in LAGS.items()),
        ),
        "kit": _table(
            ("kind", "noise", "calibration error (1 sd)", "resolution", "lag, s"),
            ((_key(k.key), f"{k.noise:g}", f"{k.error:g}", f"{k.resolution:g}", f"{k.lag_s:g}")
             for k in KINDS_OF_INSTRUMENT.values()),
        ),
        "troubles": _table(
            ("trouble", "of", "what it does"),
            ((_key(t.key), ", ".join(map(_key, t.kinds)), t.means) for t in TROUBLES.values()),
        ),
        "hazards": _table(("hazard", "why"), ((_key(h.key), h.reason) for h in HAZARDS)),
        "add": _table(
            ("look-alike", "told apart by"),
            ((_key(p.look_alike), p.told_apart_by) for p in ADD_PROOF),
        ),
        "remove": _table(
            ("look-alike", "told apart by"),
            ((_key(p.look_alike), p.told_apart_by) for p in REMOVE_PROOF),
        ),
        "suspects": _table(
            ("suspect", "name", "prior", "superheat, valve", "superheat, orifice",
             *(m.replace("_", " ") for m in _MARKS)),
            ((_key(s.key), s.label, s.prior, _odds(s.valve_superheat), _odds(s.orifice_superheat),
              *(_odds(s.odds(m, True)) for m in _MARKS)) for s in SUSPECTS.values()),
        ),
        "observed": _table(
            ("seen", "makes likelier (×) or less likely"),
            ((_key(k), ", ".join(f"{_key(s)} × {w:g}" for s, w in v.items()))
             for k, v in OBSERVED.items()),
        ),
        "checks": _table(
            ("check", "minutes", "separates", "why"),
            ((_key(c.key), f"{c.minutes:g}", ", ".join(map(_key, c.separates)), c.why)
             for c in CHECKS),
        ),
        "cautions": _table(
            ("caution", "said with", "text"),
            ((_key(c.key), ", ".join(map(_key, c.advice)), c.text.text("ip")) for c in CAUTIONS),
        ),
        "refrigerants": _table(
            ("fluid", "by mass", "class", "critical, °F", "oil", "GWP AR4", "GWP AR5"),
            ((r.name, ", ".join(f"{c} {share:.1%}" for c, share in r.mass_fractions.items()),
              r.safety_class, _f(load_table(r.name).critical_c), ", ".join(r.lubricants),
              round(r.gwp_ar4), round(r.gwp_ar5)) for r in CATALOGUE.values()),
        ),
        "points": _table(
            ("point", "label", "said as", "field", "SI", "believed from … to (field)"),
            ((_key(p.key), p.label, ", ".join(p.short), UNITS[p.quantity].ip, UNITS[p.quantity].si,
              f"{p.low:g} … {p.high:g}") for p in POINTS.values()),
        ),
        "blanks": _table(
            ("blank", "label", "field", "SI", "from … to (field), or one of"),
            ((_key(b.key), b.label, *_units(b), _reach(b)) for b in BLANKS.values()),
        ),
        "observations": _table(
            ("observation", "label"), ((_key(o.key), o.label) for o in OBSERVATIONS.values())
        ),
        "plate": _table(
            ("plate number", "label", "field", "SI", "believed from … to (field)"),
            ((_key(p.key), p.label, UNITS[p.quantity].ip, UNITS[p.quantity].si,
              f"{p.low:g} … {p.high:g}") for p in PLATE_NUMBERS),
        ),
    }  # fmt: skip


def _moved(quantity: Quantity) -> Quantity:
    """The quantity a change of this one is."""
    if quantity is Quantity.PRESSURE:
        return Quantity.PRESSURE_DIFFERENCE
    return Quantity.TEMPERATURE_DIFFERENCE


def _units(blank: Blank) -> tuple[str, str]:
    return (UNITS[blank.quantity].ip, UNITS[blank.quantity].si) if blank.quantity else ("", "")


def _reach(blank: Blank) -> str:
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


def _odds(odds: tuple[float, float, float]) -> str:
    return " / ".join(f"{share:g}" for share in odds)


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
