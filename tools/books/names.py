"""Names: points, observations, actions, refrigerants, plates."""

from nudge.core.calculators.blanks import BLANKS
from nudge.core.calculators.slip import SlipBlank
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.language.units import UNITS
from nudge.core.language.vocabulary.accuracy import ACCURACY
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.language.vocabulary.register import INSTRUMENT_SORTS
from nudge.core.physics.circuit.plate_fields import PLATE_NUMBERS
from nudge.core.physics.refrigerant.catalogue import CATALOGUE
from nudge.core.physics.refrigerant.table import load_table
from tools.books.page import fahrenheit_text, key, page, table


@page("points")
def _points_page() -> str:
    return table(
        ("point", "label", "said as", "field", "SI", "believed from … to (field)"),
        (
            (
                key(p.key),
                p.label,
                ", ".join(p.short),
                UNITS[p.quantity].ip,
                UNITS[p.quantity].si,
                f"{p.low:g} … {p.high:g}",
            )
            for p in POINTS.values()
        ),
    )


@page("observations")
def _observations_page() -> str:
    return table(("observation", "label"), ((key(o.key), o.label) for o in OBSERVATIONS.values()))


@page("actions")
def _actions_page() -> str:
    return table(
        ("work", "label", "makes true"),
        ((key(a.key), a.label, ", ".join(map(key, a.settles))) for a in ACTIONS.values()),
    )


@page("refrigerants")
def _refrigerants_page() -> str:
    return table(
        ("fluid", "by mass", "class", "critical, °F", "oil", "GWP AR4", "GWP AR5"),
        (
            (
                r.name,
                ", ".join(f"{c} {share:.1%}" for c, share in r.mass_fractions.items()),
                r.safety_class,
                fahrenheit_text(load_table(r.name).critical_c),
                ", ".join(r.lubricants),
                round(r.gwp_ar4),
                round(r.gwp_ar5),
            )
            for r in CATALOGUE.values()
        ),
    )


@page("plate")
def _plate_page() -> str:
    return table(
        ("plate number", "label", "field", "SI", "believed from … to (field)"),
        (
            (
                key(p.key),
                p.label,
                UNITS[p.quantity].ip,
                UNITS[p.quantity].si,
                f"{p.low:g} … {p.high:g}",
            )
            for p in PLATE_NUMBERS
        ),
    )


@page("blanks")
def _blanks_page() -> str:
    return table(
        ("blank", "label", "field", "SI", "from … to (field), or one of"),
        ((key(b.key), b.label, *_units(b), _reach(b)) for b in BLANKS.values()),
    )


@page("accuracy")
def _accuracy_page() -> str:
    return table(
        ("kind", "± in core units", "or a share", "what instrument"),
        ((key(a.key), f"{a.fixed:.3g}", f"{a.share:.1%}", a.reason) for a in ACCURACY.values()),
    )


def _units(blank: SlipBlank) -> tuple[str, str]:
    return (UNITS[blank.quantity].ip, UNITS[blank.quantity].si) if blank.quantity else ("", "")


def _reach(blank: SlipBlank) -> str:
    if blank.quantity is None:
        return ", ".join(key for key, _ in blank.choices)
    return f"{blank.low:g} … {blank.high:g}"


@page("instruments_register")
def _register_page() -> str:
    return table(
        ("kind", "in words", "reads", "zeroed by hand", "hoses"),
        (
            (
                key(s.key),
                s.label,
                ", ".join(map(key, s.reads)),
                "yes" if s.zeroes else "",
                "yes" if s.has_hoses else "",
            )
            for s in INSTRUMENT_SORTS.values()
        ),
    )
