"""Write the rule tables into docs/method.md and docs/nomenclature.md. Run by `make books`.

Everything between `<!-- rules: NAME -->` and `<!-- end -->` is written from the code's own
tables; the prose around them is written by hand.
"""

import re
from collections.abc import Iterable, Sequence
from pathlib import Path

from nudge.core.circuit.derived_table import DERIVED
from nudge.core.judgement.cautions import CAUTIONS
from nudge.core.judgement.hazards import HAZARDS
from nudge.core.judgement.next_checks import CHECKS
from nudge.core.judgement.proof import ADD_PROOF, REMOVE_PROOF
from nudge.core.judgement.suspect_table import OBSERVED, SUSPECTS
from nudge.core.refrigerant.catalogue import CATALOGUE
from nudge.core.refrigerant.table import load_table
from nudge.core.settling.gates import GATES
from nudge.core.settling.trust import TRUST_CHECKS
from nudge.core.targets.choose import SCHOOLS
from nudge.core.units import UNITS, Quantity, from_si
from nudge.core.vocabulary.equipment import PLATE_NUMBERS
from nudge.core.vocabulary.observations import OBSERVATIONS
from nudge.core.vocabulary.points import POINTS

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
        "derived": _table(
            ("quantity", "formula"), ((_key(d.key), d.formula) for d in DERIVED.values())
        ),
        "schools": _table(
            ("school", "judges", "decides charge", "why"),
            ((_key(s.key), s.judges, "yes" if s.decides_charge else "no", s.reason)
             for s in SCHOOLS),
        ),
        "gates": _table(
            ("gate", "effect", "why", "source"),
            ((_key(g.key), g.effect, g.reason, g.source) for g in GATES),
        ),
        "trust": _table(
            ("check", "points", "why"),
            ((_key(c.key), ", ".join(map(_key, c.points)), c.reason) for c in TRUST_CHECKS),
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
        "observations": _table(
            ("observation", "label"), ((_key(o.key), o.label) for o in OBSERVATIONS.values())
        ),
        "plate": _table(
            ("plate number", "label", "field", "SI", "believed from … to (field)"),
            ((_key(p.key), p.label, UNITS[p.quantity].ip, UNITS[p.quantity].si,
              f"{p.low:g} … {p.high:g}") for p in PLATE_NUMBERS),
        ),
    }  # fmt: skip


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
