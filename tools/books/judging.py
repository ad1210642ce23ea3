"""Suspects, what they do to the signs, and what tells them apart."""

from collections.abc import Mapping, Sequence

from nudge.core.behaviours.rows import BEHAVIOURS
from nudge.core.checks.check import Check
from nudge.core.checks.looks import Look
from nudge.core.checks.table import CHECKS, CLEANED, LOOKS, SECOND_LOAD
from nudge.core.expectations.heating_signs import HEATING_SIGNS
from nudge.core.expectations.room_signs import ROOM_SIGNS
from nudge.core.expectations.signs import SIGNS, Sign
from nudge.core.expectations.table import expectations_of, scale_of
from nudge.core.judgement.heating_suspects import HEATING_SUSPECTS, JUDGED_IN_HEATING
from nudge.core.judgement.model import Model, model_of
from nudge.core.judgement.over_time import EPISODES
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.room_suspects import JUDGED_IN_ROOM, ROOM_SUSPECTS
from nudge.core.judgement.shared import EARLIER, SHARED
from nudge.core.judgement.suspect_table import SUSPECTS, Suspect
from nudge.core.judgement.trade_marks import TRADE_MARKS
from nudge.core.judgement.walk import STRETCHES
from nudge.core.language.said import worded
from nudge.core.physics.circuit.equipment import FEEDS, Feed
from nudge.core.targets.condensing import DEFAULT_SEER, USUAL_SEER
from tools.books.page import key, page, table
from tools.cousins import FAMILIES

_SHOWN_SIGNS = (
    "subcooling",
    "superheat",
    "condensing_over_ambient",
    "approach",
    "evaporator_difference",
    "temperature_split",
    "airflow",
    "compressor_power",
    "condenser_air_rise",
    "drier_drop",
    "drop_past_drier",
)
"""The signs shown in the book's view of the signatures; the file has them all."""


@page("suspects")
def _suspects_page() -> str:
    return table(
        ("suspect", "name", "prior", "order", "told apart by", "what to do"),
        (
            (
                key(s.key),
                s.label,
                f"{s.prior:g}",
                s.order,
                s.told_apart_by,
                worded(s.act, "ip"),
            )
            for s in SUSPECTS.values()
        ),
    )


@page("heating_suspects")
def _heating_suspects_page() -> str:
    return _suspects_of(HEATING_SUSPECTS)


@page("room_suspects")
def _room_suspects_page() -> str:
    return _suspects_of(ROOM_SUSPECTS)


def _suspects_of(rows: Mapping[str, Suspect]) -> str:
    return table(
        ("suspect", "name", "prior", "order", "told apart by", "what to do"),
        (
            (key(s.key), s.label, f"{s.prior:g}", s.order, s.told_apart_by, worded(s.act, "ip"))
            for s in rows.values()
        ),
    )


@page("heating_checks")
def _heating_checks_page() -> str:
    return _checks_of(JUDGED_IN_HEATING, "why, in heating")


@page("room_checks")
def _room_checks_page() -> str:
    return _checks_of(JUDGED_IN_ROOM, "why, in a cold room")


def _checks_of(rows: Mapping[str, Check], why: str) -> str:
    return table(
        ("check", "minutes", "measures", why),
        (
            (key(c.key), c.minutes, ", ".join(map(key, c.signs)), worded(c.why, "ip"))
            for c in rows.values()
        ),
    )


@page("signs")
def _signs_page() -> str:
    return _signs_of(SIGNS)


@page("heating_signs")
def _heating_signs_page() -> str:
    return _signs_of(HEATING_SIGNS)


@page("room_signs")
def _room_signs_page() -> str:
    return _signs_of(ROOM_SIGNS)


def _signs_of(rows: Mapping[str, Sign]) -> str:
    return table(
        ("sign", "label", "rests on", "counts while this is missing"),
        (
            (
                key(s.key),
                s.label,
                ", ".join(map(key, s.points)),
                key(s.in_place_of) if s.in_place_of else "",
            )
            for s in rows.values()
        ),
    )


@page("heating_expectations")
def _heating_expectations_page() -> str:
    return table(
        (
            "sign",
            "added to its base",
            "per °F outdoors over 35",
            "per °F return over 70",
            "per SEER over 14",
            "±",
        ),
        ((key(sign), *_expected(sign, "valve", "heating")) for sign in HEATING_SIGNS),
    )


@page("room_expectations")
def _room_expectations_page() -> str:
    return table(
        ("box", "sign", "added to its base", "per °F outdoors over 77",
         "per °F of box over -5 or 37", "±"),
        (
            (box, key(sign), *(row[n] for n in (0, 1, 2, 4)))
            for box in ("freezer", "cooler")
            for sign in ROOM_SIGNS
            for row in [list(_expected(sign, "valve", box))]
        ),
    )  # fmt: skip


@page("expectations")
def _expectations_page() -> str:
    return table(
        (
            "device",
            "sign",
            "added to its base",
            "per °F outdoors over 95",
            "per °F wet bulb over 67",
            "per SEER over 14",
            "±",
        ),
        ((device, key(sign), *_expected(sign, device)) for device in FEEDS for sign in SIGNS),
    )


@page("shared")
def _shared_page() -> str:
    return table(
        ("off together", "in cooling, °F (1 σ)", "elsewhere", "drags along, per kelvin", "why"),
        (
            (
                key(s.key),
                f"{s.sigma * 1.8:.3g}",
                f"{EARLIER[s.key] * 1.8:.3g}" if s.key in EARLIER else "none",
                ", ".join(f"{key(k)} {v:g}" for k, v in s.drags.items()),
                s.reason,
            )
            for s in SHARED
        ),
    )


@page("families")
def _families_page() -> str:
    return table(
        ("family", "what differs", "why a real machine might"),
        ((key(f.key), f.differs, f.reason) for f in FAMILIES.values()),
    )


@page("usual_seer")
def _usual_seer_page() -> str:
    return table(
        ("refrigerant", "SEER where nobody says"),
        [
            *((key(name), f"{seer:g}") for name, seer in USUAL_SEER.items()),
            ("any other", f"{DEFAULT_SEER:g}"),
        ],
    )


@page("signatures")
def _signatures_page() -> str:
    return table(
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
                key(row.variant),
                row.severity,
                *(_move(row.moves, sign) for sign in _SHOWN_SIGNS),
            )
            for device in FEEDS
            for row in model(device).signatures
        ),
    )


@page("trade_marks")
def _trade_marks_page() -> str:
    return table(
        ("device", "fault", "severity", "sign", "departure", "why"),
        (
            (
                m.device,
                key(m.fault),
                m.severity or "all",
                key(m.sign),
                f"{m.middle_f:g} ± {m.spread_f:g}",
                m.reason,
            )
            for m in TRADE_MARKS
        ),
    )


@page("pairs")
def _pairs_page() -> str:
    return table(
        ("faults", "prior", "order, because"),
        ((" + ".join(map(key, p.faults)), f"{p.prior:g}", p.reason) for p in PAIRS),
    )


@page("seen_looks")
def _seen_looks_page() -> str:
    return table(
        ("seen", "or", "of a hundred without a fault it explains", "with", "why"),
        (
            (
                key(k.yes),
                key(k.no) if k.no else "only counts when seen",
                f"{100 * k.usually:g}",
                _with(k),
                k.reason,
            )
            for k in (*LOOKS, SECOND_LOAD, CLEANED)
        ),
    )


@page("episodes")
def _episodes_page() -> str:
    return table(
        ("episode", "what is found", "makes likelier (×) or less likely", "why"),
        (
            (
                key(e.key),
                e.label,
                ", ".join(f"{key(k)} × {v:g}" for k, v in e.factors.items()),
                e.reason,
            )
            for e in EPISODES
        ),
    )


@page("walk")
def _walk_page() -> str:
    return table(
        ("stretch", "watch from, °F", "restricted from, °F", "why"),
        (
            (
                key(w.key),
                f"{w.watch_k * 1.8:g}",
                f"{w.restricted_k * 1.8:g}",
                worded(w.reason, "ip"),
            )
            for w in STRETCHES
        ),
    )


@page("checks")
def _checks_page() -> str:
    return table(
        ("check", "what", "minutes", "risk, min", "answers", "why"),
        (
            (
                key(c.key),
                c.label,
                f"{c.minutes:g}",
                f"{c.risk:g}",
                _answers(c.signs, c.look),
                c.why,
            )
            for c in CHECKS.values()
        ),
    )


def model(feed: Feed) -> Model:
    """The model of cooling plant."""
    found = model_of(BEHAVIOURS["cooling"], feed)
    if found is None:
        raise LookupError("cooling plant has no tables")
    return found


def _expected(sign: str, feed: Feed, kind: str = "cooling") -> tuple[str, ...]:
    row, unit = expectations_of(BEHAVIOURS[kind])[feed][sign], scale_of(sign)
    slopes = (row.per_outdoor / unit / 1.8, row.per_house / unit / 1.8)
    by_class, spread = f"{row.per_seer / unit:.2f}", f"{row.sigma / unit:.1f}"
    return (f"{row.base / unit:.1f}", *(f"{slope:.2f}" for slope in slopes), by_class, spread)


def _move(moves: Mapping[str, tuple[float, float]], sign: str) -> str:
    if sign not in moves:
        return ""
    middle, spread = (value / scale_of(sign) for value in moves[sign])
    return f"{middle:.1f} ± {spread:.1f}"


def _with(look: Look) -> str:
    return ", ".join(f"{key(k)} {100 * v:g}" for k, v in look.with_fault.items())


def _answers(signs: Sequence[str], look: Look | None) -> str:
    return ", ".join(map(key, signs)) if look is None else key(look.yes)
